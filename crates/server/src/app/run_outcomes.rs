//! EQ-5 on stored rounds: what each run did, and cells that twice did not answer.

use super::rules::rules_of;
use crate::db::assessments::{Deviations, derived, deviations};
use crate::db::{BankRow, Connection, DbError, RoundRow, RunRow};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::equalize::{
    NonRespondingCell, Outcome, REST_HOURS, RunAfter, judge_after, non_responding_cells,
};
use rainshadow_core::finding::Finding;
use rainshadow_core::finding::equalize::run_outcome;
use rainshadow_core::quantity::Points;
use rainshadow_core::severity::Severity;
use std::collections::HashMap;

/// A round is opened before its first cell is read: a minute early is in time, h.
const OPENED_BEFORE: f64 = 1.0 / 60.0;

/// A run with the rounds around it and what they say of it.
#[derive(Debug, Clone, PartialEq)]
pub struct RunOutcome {
    /// The last round before it.
    pub before: Option<RoundRow>,
    /// The first finished round an hour or more after it.
    pub after: Option<RoundRow>,
    /// What it did; none until both are there and every watched cell was read on both.
    pub judged: Option<RunAfter>,
    /// What it did, as a finding; none while it is not judged.
    pub finding: Option<Finding>,
    /// Watched cells without a reading that stands on one of the two.
    pub unread: Vec<CellAddress>,
}

impl RunOutcome {
    /// How the bank stands by it.
    pub fn severity(&self) -> Severity {
        self.finding.as_ref().map_or(Severity::NoReading, |f| f.severity)
    }

    /// What the rounds of a bank, newest first, say of a run. `places` tells where blocks stand.
    pub(crate) fn of(
        db: &Connection,
        run: &RunRow,
        bank: &BankRow,
        rounds: &[RoundRow],
        places: &HashMap<String, BatteryAddress>,
    ) -> Result<Self, DbError> {
        let finished = || rounds.iter().filter(|r| r.finished_at.is_some());
        let before = finished().find(|r| r.started_at < run.opened_at).cloned();
        let rested = |end: Timestamp, r: &&RoundRow| {
            r.started_at.duration_since(end).as_secs_f64() / 3600.0 >= REST_HOURS - OPENED_BEFORE
        };
        let after = run.ended_at.and_then(|end| finished().rev().find(|r| rested(end, r)).cloned());
        let (mut unread, mut house) = (Vec::new(), String::new());
        let judged = match (&before, &after) {
            (Some(before), Some(after)) => {
                let model = bank.model_on(db, after.day())?;
                let rules = rules_of(db, bank)?;
                let limits = rules.balance_limits(&model);
                house = rules.name;
                let was = deviations(db, &before.id)?;
                let is = deviations(db, &after.id)?;
                let noise =
                    derived(db, &after.id)?.map_or(Points::ZERO, |judged| judged.uncertainty.deviation);
                let by_cell = |blocks: Deviations| -> Vec<(CellAddress, Points)> {
                    let mut all: Vec<_> = blocks
                        .into_iter()
                        .filter_map(|((block, cell), d)| {
                            Some((CellAddress { battery: *places.get(&block)?, cell }, d))
                        })
                        .collect();
                    all.sort_by_key(|(cell, _)| *cell);
                    all
                };
                let (was, is) = (by_cell(was), by_cell(is));
                let read = |all: &[(CellAddress, Points)], cell| all.iter().any(|(own, _)| *own == cell);
                unread = run.watched_at(places).filter(|c| !read(&was, *c) || !read(&is, *c)).collect();
                if unread.is_empty() { judge_after(&was, &is, limits.watch, noise) } else { None }
            }
            _ => None,
        };
        let finding = judged.as_ref().map(|after| run_outcome(&run.id, after, &house));
        Ok(Self { before, after, judged, finding, unread })
    }

    /// Every run of a bank that is over, oldest first, with its answer.
    pub(crate) fn of_bank(db: &Connection, bank: &BankRow) -> Result<Vec<(RunRow, Self)>, DbError> {
        let runs = RunRow::of_bank(db, &bank.id)?;
        if runs.is_empty() {
            return Ok(Vec::new());
        }
        let rounds = RoundRow::of_bank(db, &bank.id)?;
        let places: HashMap<String, BatteryAddress> =
            BankRow::placements(db, &bank.id)?.into_iter().map(|(place, block)| (block, place)).collect();
        runs.into_iter()
            .filter(|run| run.ended_at.is_some())
            .map(|run| {
                let answer = Self::of(db, &run, bank, &rounds, &places)?;
                Ok((run, answer))
            })
            .collect()
    }
}

/// Cells that did not answer the last run that was judged (EQ-5).
pub(crate) fn non_responding_of(db: &Connection, bank: &BankRow) -> Result<Vec<NonRespondingCell>, DbError> {
    Ok(non_responding_in(&RunOutcome::of_bank(db, bank)?))
}

/// Cells that did not answer, of runs that are read already, oldest first. One that was stopped by hand, or never was on
/// equalize, tells nothing of a cell.
pub(crate) fn non_responding_in(runs: &[(RunRow, RunOutcome)]) -> Vec<NonRespondingCell> {
    let counted = runs.iter().filter(|(run, _)| run.equalized());
    let judged: Vec<(Date, &Outcome)> =
        counted.filter_map(|(run, a)| Some((run.day(), &a.judged.as_ref()?.outcome))).collect();
    non_responding_cells(&judged)
}
