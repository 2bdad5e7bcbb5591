//! A bank with all an equalize is decided and planned by: its last round, its runs, its equipment.

use super::charger::warmest_of;
use super::rules::rules_of;
use super::run_outcomes::{RunOutcome, non_responding_in};
use super::standing::standing;
use crate::db::Connection;
use crate::db::visit_entries::past_visits;
use crate::db::{BankRow, DbError, EquipmentRow, ModelRow, RoundRow, RunRow, Site};
use jiff::civil::Date;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::ChargerTemperature;
use rainshadow_core::equalize::{
    BankToEqualize, EndWhy, LastRound, PlanError, RunKind, RunPlan, RunToPlan, Wanted, plan_run, wanted,
};
use rainshadow_core::finding::{BarredBy, RoundFinding, equalize_bar};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::spread_of_noise;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::Assessment;
use rainshadow_core::schedule::Duty;

/// A bank with all an equalize is decided and planned by.
pub struct EqualizeContext {
    /// The bank.
    pub bank: BankRow,
    /// Its site.
    pub site: Site,
    /// Its batteries.
    pub model: BatteryModel,
    /// The rules that judge.
    pub rules: HouseRules,
    /// Whether it is wanted.
    pub wanted: Wanted,
    /// Corrected gravities of the last round.
    pub gravities: Vec<(CellAddress, SpecificGravity)>,
    /// Day of the last round.
    pub round: Option<Date>,
    /// Electrolyte then.
    pub round_temperature: Option<Temperature>,
    /// What charges it and hangs on it.
    pub equipment: EquipmentRow,
    /// Cells that did not answer the last of them.
    pub non_responding: Vec<rainshadow_core::equalize::NonRespondingCell>,
    /// Runs that are over, oldest first, with what they did.
    pub runs: Vec<(RunRow, RunOutcome)>,
    /// Hours on equalize of each of those.
    pub hours: Vec<f64>,
    /// The run that is not.
    pub open: Option<RunRow>,
    /// Today.
    pub today: Date,
}

fn last_round(round: &RoundRow, judged: &Assessment) -> LastRound {
    let pick = |kinds: &dyn Fn(&RoundFinding) -> Option<LastRound>| {
        judged.findings.iter().find_map(|f| kinds(f.of_round()?))
    };
    let base = LastRound {
        day: round.day(),
        spread: judged.balance.map(|b| b.without_high),
        noise: spread_of_noise(judged.cells_judged, judged.uncertainty.deviation),
        proven_full: round.conditions.is_proven_full(),
        barred: equalize_bar(&judged.findings),
        short: None,
        layered: None,
    };
    let short = pick(&|k| match k {
        RoundFinding::ShortOfFull { short, .. } => Some(LastRound { short: Some(*short), ..base }),
        _ => None,
    });
    let layered = pick(&|k| match k {
        RoundFinding::Stratified { measured, expected } => {
            Some(LastRound { layered: Some((*measured, *expected)), ..base })
        }
        _ => None,
    });
    LastRound { short: short.and_then(|r| r.short), layered: layered.and_then(|r| r.layered), ..base }
}

impl EqualizeContext {
    /// Reads everything.
    pub fn read(db: &Connection, bank: &str, today: Date) -> Result<Self, DbError> {
        let bank = BankRow::by_id(db, bank)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        let rules = rules_of(db, &bank)?;
        let round = RoundRow::of_bank(db, &bank.id)?.into_iter().find(|r| r.finished_at.is_some());
        let stands = round.as_ref().map(|r| standing(db, r)).transpose()?.flatten();
        let judged = stands.map(|s| s.assessment);
        let answered = match &round {
            Some(round) => RunRow::equalized_since(db, &bank.id, round.started_at)?,
            None => false,
        };
        let visits = past_visits(db, &bank)?;
        let asked = BankToEqualize {
            model: model.clone(),
            duty: Duty::of(&bank.duty),
            today,
            known_since: BankRow::known_since(db, &bank.id)?,
            last_equalize: super::bank_facts::last_equalize(db, &visits, &bank.id)?,
            round: round.as_ref().zip(judged.as_ref()).filter(|_| !answered).map(|(r, a)| last_round(r, a)),
            barred: super::bank_state::bank_state(db, &bank)?.equalize_barred,
        };
        let (runs, hours) = runs_with_hours(db, &bank)?;
        Ok(Self {
            wanted: wanted(&asked, &rules),
            gravities: judged
                .iter()
                .flat_map(|a| a.cells.iter())
                .filter_map(|c| Some((c.cell, c.corrected?)))
                .collect(),
            round_temperature: round.as_ref().and_then(warmest_of),
            round: round.as_ref().map(RoundRow::day),
            equipment: EquipmentRow::of_bank(db, &bank.id)?,
            open: RunRow::open_of(db, &bank.id)?,
            non_responding: non_responding_in(&runs),
            hours,
            runs,
            bank,
            site,
            model,
            rules,
            today,
        })
    }

    /// How the charger compensates; one that does not adds nothing.
    pub fn compensates(&self) -> ChargerTemperature {
        let told = self.equipment.fitted.equipment.charger.compensates;
        if self.equipment.version > 0 {
            told.unwrap_or(ChargerTemperature { per_degree: 0.0, ..ChargerTemperature::default() })
        } else {
            ChargerTemperature::default()
        }
    }

    /// The plan of a run at a temperature.
    ///
    /// # Errors
    /// [`PlanError`] where the bank may not be equalized, now or ever.
    pub fn planned(
        &self,
        kind: RunKind,
        temperature: Temperature,
    ) -> Result<(RunToPlan, RunPlan), PlanError> {
        match self.wanted.barred {
            Some(BarredBy::DeadCell) => return Err(PlanError::DeadCell),
            Some(BarredBy::DamagedCase) => return Err(PlanError::DamagedCase),
            _ => {}
        }
        let equipment = &self.equipment.fitted.equipment;
        let earlier = self
            .runs
            .iter()
            .zip(&self.hours)
            .filter(|((run, _), _)| run.kind == kind && run.ended_why == Some(EndWhy::Rule))
            .map(|(_, hours)| *hours);
        let asked = RunToPlan {
            kind,
            model: self.model.clone(),
            cells: self.bank.shape.cells_in_series(),
            strings: u16::from(self.bank.shape.parallel),
            temperature,
            charger: self.compensates(),
            source_amperes: equipment.amperes,
            loads: equipment.loads.clone(),
            earlier_hours: earlier.collect(),
            enclosure: equipment.enclosure,
        };
        let plan = plan_run(&asked)?;
        Ok((asked, plan))
    }
}

/// Runs that are over, oldest first, and the hours each was on.
pub type Runs = (Vec<(RunRow, RunOutcome)>, Vec<f64>);

/// Reads the runs of a bank that are over, and how long each was on.
pub fn runs_with_hours(db: &Connection, bank: &BankRow) -> Result<Runs, DbError> {
    let runs = RunOutcome::of_bank(db, bank)?;
    let hours = runs
        .iter()
        .map(|(run, _)| {
            let end = run.ended_at.unwrap_or(run.opened_at);
            Ok(super::run_context::RunContext::of(db, run.clone(), end)?.now.elapsed)
        })
        .collect::<Result<_, DbError>>()?;
    Ok((runs, hours))
}
