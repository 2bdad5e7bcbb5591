//! Everything a visit is told from: read once, for its page, its report, and a sealed bank's state.

use super::due_told::VisitDue;
use super::rules::rules_of;
use super::source_changes::SourcesOfVisit;
use super::water_ahead::WaterAhead;
use crate::db::Connection;
use crate::db::visit_entries::past_visits;
use crate::db::{
    BankRow, DbError, EquipmentRow, PhotoRow, RoundRow, Site, VisitRow, assessments, came_in, due,
    visit_entries,
};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equipment::Equipment;
use rainshadow_core::finding::{self, Finding, FindingKind};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::ohmic::OhmicJudged;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{RestAssessment, RestSheet};
use rainshadow_core::round::{Assessment, RoundEntry};
use rainshadow_core::schedule::{Duty, usually_left};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    FoundAndDone, Gravities, JobLine, JobSeen, Judged, PastVisit, VisitEntry, VisitSheet,
    electrical_findings, gravities, job_lines, joint_findings, ohmic, ohmic_baselines, rest_sheet,
    test_findings, uneven, unproven_findings,
};
use rainshadow_core::water::{Uneven, WaterForecast};
use rainshadow_core::wording::DueReader;
use std::collections::BTreeMap;

/// Everything a page of a visit, or its report, is made from.
pub struct VisitContext {
    /// The visit.
    pub visit: VisitRow,
    /// Its bank.
    pub bank: BankRow,
    /// Its site.
    pub site: Site,
    /// Its batteries.
    pub model: BatteryModel,
    /// The rules that judge.
    pub rules: HouseRules,
    /// What is written down.
    pub sheet: VisitSheet,
    /// What its next fill is worked out with.
    pub water: WaterAhead,
    /// What stands there.
    pub equipment: Equipment,
    /// What charges it, and what was set anew.
    pub sources: SourcesOfVisit,
    /// Visits before this one, oldest first.
    pub past: Vec<PastVisit>,
    /// Rounds of this visit with their judgement, oldest first.
    pub rounds: Vec<(RoundRow, Option<Assessment>, usize)>,
    /// What stands beside its sheet for its job; empty where it is for none.
    pub job_seen: JobSeen,
    /// Today.
    pub today: Date,
    /// Units of the reader.
    pub units: ReaderUnits,
}

impl VisitContext {
    /// Reads everything.
    pub fn read(db: &Connection, id: &str, today: Date, units: ReaderUnits) -> Result<Self, DbError> {
        let visit = VisitRow::by_id(db, id)?;
        let bank = BankRow::by_id(db, &visit.bank_id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = bank.model_on(db, visit.day())?;
        let rules = rules_of(db, &bank)?;
        let mut sheet = visit_entries::sheet(db, &visit)?;
        sheet.usually_left = usually_left(Duty::of(&bank.duty), bank.season(), visit.day());
        let all = VisitRow::of_bank(db, &bank.id)?;
        let before = all.iter().position(|v| v.id == visit.id).unwrap_or(0);
        let mut past = past_visits(db, &bank)?;
        past.truncate(before);
        let mut rounds: Vec<(RoundRow, Option<Assessment>, usize)> = Vec::new();
        let mut read_at = Vec::new();
        for round in RoundRow::of_visit(db, &visit.id)? {
            let judged = assessments::derived(db, &round.id)?;
            let entries = crate::db::readings::of_round(db, &round)?;
            // By the clock that the other entries of the visit have, which need not be that of the server.
            let last = entries.iter().map(|own| own.taken_at).max();
            read_at.extend(round.finished_at.map(|finished| last.unwrap_or(finished)));
            rounds.push((round, judged, RoundEntry::records(&entries).len()));
        }
        let job_seen = match sheet.job() {
            None => JobSeen::default(),
            Some(_) => JobSeen {
                rounds: read_at,
                photographs: PhotoRow::of_visit(db, &visit)?.len(),
                came_in: came_in(db, &bank, visit.day())?,
            },
        };
        let water = WaterAhead::read(db, &bank, &site)?;
        let equipment = EquipmentRow::of_bank(db, &bank.id)?.fitted.equipment;
        let sources = SourcesOfVisit::read(db, &visit)?;
        Ok(Self {
            visit,
            bank,
            site,
            model,
            rules,
            sheet,
            water,
            equipment,
            sources,
            past,
            rounds,
            job_seen,
            today,
            units,
        })
    }

    /// The lines of its job as they stand; empty where it is for none.
    pub fn job_lines(&self) -> Vec<JobLine<'_>> {
        let job = self.sheet.job();
        let lines = |job| job_lines(job, self.model.construction, &self.sheet, &self.job_seen);
        job.map(lines).unwrap_or_default()
    }

    /// How every battery with volts stands, by them and by its resistance together.
    pub fn battery_conditions(&self, rest: &RestAssessment) -> BTreeMap<BatteryAddress, Severity> {
        let mut all: BTreeMap<_, _> = rest.batteries.iter().map(|b| (b.battery, b.condition)).collect();
        for found in self.electrical_findings() {
            let own = found.subject.battery().filter(|_| matches!(found.kind, FindingKind::Ohmic(_)));
            if let Some(stands) = own.and_then(|battery| all.get_mut(&battery)) {
                *stands = found.severity.max(*stands);
            }
        }
        all
    }

    /// The technician's own numbers of its batteries: "A1 is 7".
    pub fn own_numbers(&self) -> Vec<String> {
        let numbered = self.bank.shape.batteries().zip(&self.equipment.own_numbers);
        numbered.filter(|(_, n)| !n.is_empty()).map(|(battery, n)| format!("{battery} is {n}")).collect()
    }

    /// The judged round of this visit that was finished last.
    pub fn judged(&self) -> Option<&Assessment> {
        self.rounds
            .iter()
            .rev()
            .find_map(|(round, judged, _)| judged.as_ref().filter(|_| round.finished_at.is_some()))
    }

    /// Who wrote an entry down, and when: "MO on phone, 9:40".
    pub fn signed(&self, entry: &VisitEntry) -> String {
        let at = words::local_minute(entry.taken_at, &self.visit.zone).strftime("%-H:%M");
        format!("{}, {at}", entry.by.said())
    }

    /// The day the visit was written down, where that is a later one than its own.
    pub fn entered_later(&self) -> Option<Date> {
        let first = self.sheet.all().first()?;
        let written = words::local_day(first.taken_at, &self.visit.zone);
        (written > self.visit.day()).then_some(written)
    }

    /// What is measured, and what judges it.
    pub fn judged_by(&self) -> Judged<'_> {
        Judged { shape: &self.bank.shape, model: &self.model, rules: &self.rules }
    }

    /// Gravities of this visit by battery, for the cross-check of its volts.
    pub fn gravities(&self) -> Gravities {
        self.judged().map(gravities).unwrap_or_default()
    }

    /// Visits up to and with this one.
    pub fn all_visits(&self) -> Vec<PastVisit> {
        let mut all = self.past.clone();
        let temperature = self
            .sheet
            .rested()
            .and_then(|r| r.temperature)
            .map(rainshadow_core::quantity::Temperature::celsius);
        all.push(PastVisit { day: self.visit.day(), sheet: self.sheet.clone(), temperature });
        all
    }

    /// The next fill, as seen from this visit.
    pub fn forecast(&self) -> Option<WaterForecast> {
        let visits = self.all_visits();
        self.water.forecast(&visits, &self.bank, &self.model, self.visit.day())
    }

    /// Cells that drink unlike their mates over the last two fills.
    pub fn uneven(&self) -> Vec<Uneven> {
        uneven(&self.all_visits(), &self.bank.shape)
    }

    /// The rest check as the core judges it.
    pub fn rest_sheet(&self) -> RestSheet {
        rest_sheet(&self.sheet, &self.past, self.judged_by(), &self.gravities())
    }

    /// Resistances of this visit against the first on record.
    pub fn ohmic(&self) -> Vec<OhmicJudged> {
        ohmic(&self.sheet, &self.bank.shape, &ohmic_baselines(&self.past))
    }

    /// What volts and resistances found.
    pub fn electrical_findings(&self) -> Vec<Finding> {
        electrical_findings(&self.sheet, &self.past, self.judged_by(), &self.gravities())
    }

    /// What its load and capacity tests found.
    pub fn test_findings(&self) -> Vec<Finding> {
        test_findings(&self.sheet, &self.past, self.judged_by(), Duty::of(&self.bank.duty))
    }

    /// What it found at joints and strings.
    pub fn joint_findings(&self) -> Vec<Finding> {
        joint_findings(&self.all_visits(), self.judged_by())
    }

    /// Everything found on this visit, what leads first.
    pub fn findings(&self) -> Vec<Finding> {
        let mut all: Vec<Finding> = self.judged().map(|judged| judged.findings.clone()).unwrap_or_default();
        all.extend(self.sheet.found_and_done().iter().filter_map(FoundAndDone::open));
        all.extend(self.electrical_findings());
        all.extend(self.test_findings());
        all.extend(self.joint_findings());
        all.extend(unproven_findings(&self.all_visits(), self.judged_by()));
        all.extend(self.uneven().iter().map(finding::water::uneven));
        finding::merged(all)
    }

    /// What is due on the bank, in words.
    pub fn due(&self, db: &Connection) -> Result<Vec<VisitDue>, DbError> {
        let reader = DueReader {
            construction: self.model.construction,
            cells: self.bank.shape.cell_count(),
            today: self.today,
            units: self.units,
        };
        Ok(due::of_bank(db, &self.bank.id, self.today)?
            .into_iter()
            .map(|row| VisitDue::of(&row, &reader))
            .collect())
    }
}
