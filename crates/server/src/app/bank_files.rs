//! Banks that leave as a file or come as one.

use super::App;
use super::bank_state::bank_state;
use super::fresh::{self, Wanted};
use super::judge_rounds::derive_missing;
use super::refused::{AppError, AppResult};
use crate::db::{BankBundle, BankRow, DbError, NewRound, RoundRow, Transaction, Written, house_rules};
use rainshadow_core::bank::BankShape;
use rainshadow_core::bank_state::BankState;
use rainshadow_core::house_rules::overridden;
use rainshadow_core::round::RoundEntry;

/// A round with everything in it: who finished it, and its entries in the order received.
pub type WholeRound = (NewRound, Option<String>, Vec<RoundEntry>);

/// A bank with everything it has.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn whole_bank(app: &App, id: String) -> AppResult<BankBundle> {
    Ok(app.db.read(move |db| BankBundle::of(db, &id)).await?)
}

/// A bank with everything it has, and its state.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn bank_with_state(app: &App, id: String) -> AppResult<(BankBundle, BankState)> {
    let read = fresh::read(app, Wanted::Bank(id.clone()), move |db| {
        let bundle = BankBundle::of(db, &id)?;
        Ok((bundle, bank_state(db, &BankRow::by_id(db, &id)?)?))
    });
    Ok(read.await?)
}

/// One round with every entry.
///
/// # Errors
/// No such round, and whatever the reading fails with.
pub async fn whole_round(app: &App, id: String) -> AppResult<(WholeRound, String)> {
    let read = app.db.read(move |db| {
        let bank = RoundRow::by_id(db, &id)?.bank_id;
        let round = BankBundle::of(db, &bank)?.rounds.into_iter().find(|(r, _, _)| r.id == id);
        round.map(|round| (round, bank)).ok_or(DbError::NotFound { what: "round", id })
    });
    Ok(read.await?)
}

/// What two banks, or one bank twice, cannot both have is said and not an internal error.
fn taken(error: AppError) -> AppError {
    let why = if let AppError::Db(error) = &error { error.contradiction() } else { None };
    match why {
        Some(why) => {
            let said =
                format!("The file contradicts itself or what is here already ({why}); nothing was taken in.");
            AppError::field("file", said)
        }
        None => error,
    }
}

/// Own choices are choices of a set that is here.
fn known_rules(tx: &Transaction<'_>, bundle: &BankBundle) -> AppResult<()> {
    let key = &bundle.bank.1.rules;
    let set = house_rules::latest_version(tx, key)
        .and_then(|version| house_rules::by_version(tx, key, version))
        .map_err(|_unknown| {
            let said = format!("There is no house rule set “{key}” here; make it first, or change the file.");
            AppError::field("bank.rules", said)
        })?;
    overridden(&set, &bundle.notes.overrides).map(drop).map_err(|e| AppError::refused("notes.overrides", &e))
}

/// Takes a bank in, in one transaction, on this thread.
///
/// # Errors
/// House rules that are not here, what contradicts what is here, and whatever the database says no to.
pub fn take_bank(app: &App, bundle: &BankBundle) -> AppResult<Written> {
    let now = app.clock.now();
    let written = app.db.write_or_refuse_now(|tx| {
        known_rules(tx, bundle)?;
        let written = bundle.take_in(tx, now)?;
        derive_missing(tx, &bundle.bank.0)?;
        // Before the next write, which judges by what is in memory.
        app.changed();
        Ok(written)
    });
    written.map_err(taken)
}

/// Takes a round of a bank in that is here, in one transaction, on this thread; `round` is what the file
/// comes to on a bank of this shape.
///
/// # Errors
/// What `round` refuses, what contradicts what is here, and whatever the database says no to.
pub fn take_round(
    app: &App,
    bank: &str,
    round: impl FnOnce(&BankShape) -> AppResult<WholeRound>,
) -> AppResult<Written> {
    let now = app.clock.now();
    let written = app.db.write_or_refuse_now(|tx| {
        let round = round(&BankRow::by_id(tx, bank)?.shape)?;
        let written = BankBundle { rounds: vec![round], ..BankBundle::of(tx, bank)? }.take_in(tx, now)?;
        derive_missing(tx, bank)?;
        app.changed();
        Ok(written)
    });
    written.map_err(taken)
}
