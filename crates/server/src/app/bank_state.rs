//! The state of a bank: merged by the core, kept until something it rests on changes.

use super::bank_facts::{Known, known};
use super::judge_rounds::derive_missing;
use super::records::judged::JudgedYear;
use crate::db::{BankRow, Connection, DbError, Transaction, assessments, derived, due, scratch_copy};
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::rest::judge_rest;
use rainshadow_core::visit::{Judged, last_electrical, rest_sheet, uneven};

fn merged(bank: &BankRow, known: &Known) -> BankState {
    let facts = &known.facts;
    let judged_by = Judged { shape: &facts.shape, model: &facts.model, rules: &facts.rules };
    let rest = last_electrical(&known.visits).map(|at| {
        let (before, visit) = (&known.visits[..at], &known.visits[at]);
        (visit.day, judge_rest(&rest_sheet(&visit.sheet, before, judged_by, &known.gravities)))
    });
    let uneven =
        if facts.model.construction.has_caps() { uneven(&known.visits, &facts.shape) } else { Vec::new() };
    let state = BankState::of(&BankKnown {
        facts,
        round: known.standing.as_ref().map(|s| &s.assessment),
        rest: rest.as_ref().map(|(day, judged)| (*day, judged)),
        uneven: &uneven,
    });
    // Nobody looks after an archived bank.
    let due = if bank.archived_at.is_some() { Vec::new() } else { state.due };
    BankState { due, ..state }
}

/// The state of a bank; worked out where it is not kept.
pub(crate) fn bank_state(db: &Connection, bank: &BankRow) -> Result<BankState, DbError> {
    match due::state_of(db, &bank.id)? {
        Some(kept) => Ok(kept),
        None => Ok(merged(bank, &known(db, bank)?)),
    }
}

/// Works the state of a bank out, unless somebody did so meanwhile.
pub(crate) fn refresh(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
    if due::is_fresh(tx, id)? && assessments::missing(tx, id)?.is_empty() {
        return Ok(());
    }
    derive_missing(tx, id)?;
    let bank = BankRow::by_id(tx, id)?;
    if let Some(year) = JudgedYear::missing(tx, &bank)? {
        year.keep(tx)?;
    }
    let known = known(tx, &bank)?;
    let state = merged(&bank, &known);
    due::keep(tx, id, &state, (known.facts.kilowatt_hours(), known.ahead.as_ref()))
}

/// Derives everything anew, as on a copy that is thrown away.
pub(crate) fn recompute(tx: &Transaction<'_>) -> Result<(), DbError> {
    derived::forget_all(tx)?;
    due::stale(tx)?.iter().try_for_each(|bank| refresh(tx, bank))
}

/// What is kept and would be derived otherwise, worked out on a copy that is thrown away.
pub(crate) fn stale_caches(live: &Connection) -> Result<Vec<String>, DbError> {
    let mut copy = scratch_copy(live)?;
    let kept = derived::texts(&copy)?;
    let tx = copy.transaction()?;
    recompute(&tx)?;
    let anew = derived::texts(&tx)?;
    Ok(kept.into_iter().filter(|(of, text)| anew.get(of) != Some(text)).map(|(of, _)| of).collect())
}
