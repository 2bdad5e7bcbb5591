//! A sealed bank by its volts and resistances: what a round is to a flooded one.

use super::visit_case::VisitCase;
use crate::db::{BankRow, DbError, StoredEntry, VisitRow};
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::judge_rest;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{self, SpokenFinding};
use rusqlite::Connection;
use std::collections::HashMap;

/// What the last volts of a sealed bank say.
pub struct SealedState {
    /// Condition of the bank.
    pub condition: Severity,
    /// The one sentence.
    pub verdict: String,
    /// What was found.
    pub findings: Vec<SpokenFinding>,
    /// Condition of every battery.
    pub batteries: HashMap<String, Severity>,
    /// Day the volts were taken.
    pub day: Date,
}

/// The state of a sealed bank; none before its first volts.
pub fn sealed_state(
    db: &Connection,
    bank: &BankRow,
    today: Date,
    units: ReaderUnits,
) -> Result<Option<SealedState>, DbError> {
    for visit in VisitRow::of_bank(db, &bank.id)?.into_iter().rev().filter(|v| v.whole) {
        let mut case = VisitCase::read(db, &visit.id, today, units)?;
        // For the batteries that stand there now: what one that left showed says nothing of the bank.
        case.sheet = StoredEntry::sheet_now(db, &visit)?;
        if case.sheet.battery_volts().is_empty() {
            continue;
        }
        let rest = judge_rest(&case.rest_sheet());
        let mut findings = case.rest_findings();
        findings.sort_by_key(|f| std::cmp::Reverse(f.condition));
        let mut batteries: HashMap<String, Severity> =
            rest.batteries.iter().map(|b| (b.battery.to_string(), b.condition)).collect();
        for judged in case.ohmic() {
            let own = batteries.entry(judged.battery.to_string()).or_insert(judged.condition);
            *own = (*own).max(judged.condition);
        }
        let worst = findings.iter().map(|f| f.condition).max();
        return Ok(Some(SealedState {
            condition: worst.map_or(rest.condition, |w| w.max(rest.condition)),
            verdict: match findings.first() {
                Some(first) => format!("{}. {}", first.headline, first.advice),
                None => wording::rest_verdict(&rest),
            },
            findings,
            batteries,
            day: visit.day(),
        }));
    }
    Ok(None)
}
