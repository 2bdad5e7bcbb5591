//! Everything a run is told from: read once, for its page, its entries, the list of runs and the
//! report.

use super::charger::equipment_judged;
use super::rules::rules_of;
use super::run_outcomes::RunOutcome;
use crate::db::Connection;
use crate::db::{BankRow, DbError, FeedSample, ModelRow, RoundRow, RunEntryRow, RunRow, Site, feeds};
use crate::words;
use jiff::Timestamp;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equalize::{
    BeforeCheck, FeedMinute, LoggedEntry, RunEntry, RunFrame, RunNow, RunUnderWay, feed_at, run_now,
};
use rainshadow_core::equipment::AirJudged;
use rainshadow_core::feed::Sample;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::TemperatureKnowledge;
use rainshadow_core::quantity::{Points, SpecificGravity, Temperature};
use std::collections::HashMap;

/// A run with all it is judged by.
pub struct RunContext {
    /// The run.
    pub run: RunRow,
    /// Its bank.
    pub bank: BankRow,
    /// Its site.
    pub site: Site,
    /// The air that is there; none: nothing was told of it.
    pub air: Option<AirJudged>,
    /// Its batteries.
    pub model: BatteryModel,
    /// The rules that judge.
    pub rules: HouseRules,
    /// What is written down.
    pub entries: Vec<RunEntryRow>,
    /// Its entries as the core counts by them.
    pub log: Vec<LoggedEntry>,
    /// Cells it is watched by, pilot first.
    pub watched: Vec<CellAddress>,
    /// The last sample of the feed that counts, and when it came.
    pub last: Option<(Timestamp, Sample)>,
    /// What the feed told, minute by minute.
    pub minutes: Vec<FeedMinute>,
    /// Samples of the feed that were marked during the run.
    pub marked: i64,
    /// Where it stands.
    pub now: RunNow,
    /// Now.
    pub at: Timestamp,
}

impl RunContext {
    /// What the rounds around the run say of it.
    pub fn outcome(&self, db: &Connection) -> Result<RunOutcome, DbError> {
        let rounds = RoundRow::of_bank(db, &self.bank.id)?;
        let places: HashMap<_, _> = BankRow::placements(db, &self.bank.id)?
            .into_iter()
            .map(|(place, block)| (block, place))
            .collect();
        RunOutcome::of(db, &self.run, &self.bank, &rounds, &places)
    }

    /// Reads everything.
    pub fn read(db: &Connection, id: &str, at: Timestamp) -> Result<Self, DbError> {
        Self::of(db, RunRow::by_id(db, id)?, at)
    }

    /// Reads everything else of a run that is read already.
    pub fn of(db: &Connection, run: RunRow, at: Timestamp) -> Result<Self, DbError> {
        let bank = BankRow::by_id(db, &run.bank_id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        let rules = rules_of(db, &bank)?;
        let entries = run.entries(db)?;
        let log = run.log(&entries);
        let watched = run.cells(db)?;
        let (minutes, marked) = feeds::minutes(db, &bank.id, run.opened_at, run.ended_at.unwrap_or(at))?;
        let stands = Stands { run: &run, bank: &bank, model: &model, rules: &rules, watched: watched.len() };
        let now = stands.now(&log, &minutes, run.hours_at(at));
        let last = FeedSample::last_good(db, &bank.id, run.ended_at.unwrap_or(at))?;
        let air = equipment_judged(db, &bank, &model)?.and_then(|own| own.air);
        Ok(Self { run, bank, site, air, model, rules, entries, log, watched, last, minutes, marked, now, at })
    }

    /// Initials of who said that he stays with it; empty: nobody did.
    pub fn stays(&self) -> String {
        let about = self.entries.iter().rev().find_map(|e| match &e.entry {
            RunEntry::Confirmed { check: BeforeCheck::SomebodyStays } => Some(e.by.initials.clone()),
            RunEntry::Skipped { check: BeforeCheck::SomebodyStays, .. } => Some(String::new()),
            _ => None,
        });
        about.unwrap_or_default()
    }

    /// Where it would stand with one more entry.
    pub fn with(&self, entry: &RunEntry, id: &str) -> RunNow {
        let mut log = self.log.clone();
        log.push(LoggedEntry { id: id.to_owned(), at: self.run.hours_at(self.at), entry: entry.clone() });
        let Self { run, bank, model, rules, .. } = self;
        Stands { run, bank, model, rules, watched: self.watched.len() }.now(
            &log,
            &[],
            self.run.hours_at(self.at),
        )
    }

    /// Standard uncertainty of one cell against itself, points.
    pub fn noise(&self) -> Points {
        noise(&self.run, &self.rules)
    }

    /// Capacity of the whole bank, Ah.
    pub fn capacity(&self) -> f64 {
        self.model.c20.ampere_hours() * f64::from(self.bank.shape.parallel)
    }

    /// A reading as read, corrected to the reference of the model (SG-1).
    pub fn corrected(&self, read: SpecificGravity, at: Temperature) -> SpecificGravity {
        if self.run.instrument.corrects_for_temperature {
            return read;
        }
        self.rules.correction.apply(read, at, self.model.reference_temperature)
    }

    /// What the feed told at a moment; none: it was away.
    pub fn fed_at(&self, at: Timestamp) -> Option<&FeedMinute> {
        feed_at(&self.minutes, self.run.hours_at(at))
    }

    /// The last temperature of this run, °C.
    pub fn last_celsius(&self) -> Option<f64> {
        self.now.readings.iter().rev().find_map(|r| r.celsius)
    }

    /// The run as it is asked about the next entry; `pace` is how many seconds of the clock pass in one.
    pub fn under_way(&self, pace: f64) -> RunUnderWay<'_> {
        RunUnderWay {
            now: &self.now,
            watched: &self.watched,
            noise: self.noise(),
            capacity: self.capacity(),
            log: &self.log,
            over_for: self.run.ended_at.map(|end| self.at.duration_since(end).as_secs_f64()),
            pace,
        }
    }

    /// "13:30" of an instant at the site.
    pub fn time(&self, at: Timestamp) -> String {
        words::local_minute(at, &self.run.zone).strftime("%-H:%M").to_string()
    }

    /// Time of day at which the next reading is due.
    pub fn reading_at(&self) -> String {
        let due = self.now.reading_in.unwrap_or_default();
        let span = jiff::SignedDuration::try_from_secs_f64(due * 3600.0).unwrap_or_default();
        self.time(self.at.checked_add(span).unwrap_or(self.at))
    }
}

/// What a log is read against.
struct Stands<'a> {
    run: &'a RunRow,
    bank: &'a BankRow,
    model: &'a BatteryModel,
    rules: &'a HouseRules,
    watched: usize,
}

impl Stands<'_> {
    fn now(&self, log: &[LoggedEntry], minutes: &[FeedMinute], hours: f64) -> RunNow {
        let frame = RunFrame {
            kind: self.run.kind,
            cells: self.bank.shape.cells_in_series(),
            watched: self.watched,
            checks: &BeforeCheck::of(self.model.construction),
            noise: noise(self.run, self.rules).value(),
            full: self.model.full_gravity,
            // Until a current is read the most that was planned counts: what boils off is a bound.
            meant_amperes: self.run.plan.plan.current.high,
            meant: Some(self.run.plan.plan.meant(&self.run.plan.asked)),
        };
        run_now(&frame, log, minutes, hours)
    }
}

fn noise(run: &RunRow, rules: &HouseRules) -> Points {
    run.instrument.uncertainty(TemperatureKnowledge::OneForAll, rules.correction).deviation
}
