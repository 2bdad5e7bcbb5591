//! The judgement of finished rounds, derived and kept.

use super::rules::rules_of;
use crate::db::{
    BankRow, Connection, DbError, RoundRow, Transaction, VisitRow, assessments, house_rules, readings,
    visit_entries,
};
use indicatif::ProgressBar;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::{RoundToJudge, judge};
use rainshadow_core::wording;

/// Everything a round is judged by but its own readings.
pub fn round_context(db: &Connection, round: &RoundRow) -> Result<RoundToJudge, DbError> {
    let bank = BankRow::by_id(db, &round.bank_id)?;
    let model = bank.model_on(db, round.day())?;
    let sheet = visit_entries::sheet(db, &VisitRow::by_id(db, &round.visit_id)?)?;
    Ok(RoundToJudge {
        low_levels: sheet.low_levels(&bank.shape, &model),
        model,
        rules: rules_of(db, &bank)?,
        other_rules: house_rules::latest(db)?,
        instrument: round.instrument,
        conditions: round.conditions.clone(),
        readings: Vec::new(),
        past: assessments::past(db, &bank, round)?,
        shape: bank.shape,
    })
}

fn input(db: &Connection, round: &RoundRow) -> Result<RoundToJudge, DbError> {
    let mut input = round_context(db, round)?;
    input.readings = readings::records_of(db, round)?;
    Ok(input)
}

/// Derives one finished round; its earlier rounds must be derived before.
pub fn derive_round(tx: &Transaction<'_>, round: &RoundRow) -> Result<(), DbError> {
    let judged = judge(&input(tx, round)?);
    assessments::keep(tx, round, &judged, &wording::verdict(&judged, ReaderUnits::default()))
}

/// Derives every finished round of a bank that has no judgement, oldest first.
pub(crate) fn derive_missing(tx: &Transaction<'_>, bank: &str) -> Result<usize, DbError> {
    let missing = assessments::missing(tx, bank)?;
    for id in &missing {
        derive_round(tx, &RoundRow::by_id(tx, id)?)?;
    }
    Ok(missing.len())
}

/// Throws all derived rounds away and derives them anew; how many. `told` counts the banks.
pub fn rederive(tx: &Transaction<'_>, told: &ProgressBar) -> Result<usize, DbError> {
    assessments::forget_all(tx)?;
    let banks = BankRow::ids(tx)?;
    told.set_length(banks.len() as u64);
    banks.iter().try_fold(0, |count, bank| {
        let derived = derive_missing(tx, bank)?;
        told.inc(1);
        Ok(count + derived)
    })
}
