//! Batteries that are replaced, or change places.

use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{self, BankRow, ChangeKind, NewChange, Site, TakenOut, Written};
use crate::words;
use rainshadow_core::actor::Actor;

/// Replaces a battery, or lets two change places.
///
/// # Errors
/// A change that cannot be, by its field, and whatever the database says no to.
pub async fn change_battery(app: &App, change: NewChange) -> AppResult<Written> {
    match (change.kind, change.other) {
        (ChangeKind::Swapped, None) => {
            return Err(AppError::field("other", "Two change places: name the other one."));
        }
        (ChangeKind::Swapped, Some(other)) if other == change.battery => {
            return Err(AppError::field("other", "A battery does not change places with itself."));
        }
        _ => {}
    }
    if change.reason.trim().is_empty() {
        return Err(AppError::field("reason", "Say why, for whoever reads the trend that breaks here."));
    }
    let now = app.clock.now();
    app.write_or_refuse(move |tx| {
        let zone = Site::by_id(tx, &BankRow::by_id(tx, &change.bank)?.site_id)?.zone;
        if change.day > words::local_day(now, &zone) {
            let said = format!("{} lies in the future.", words::day(change.day));
            return Err(AppError::field("day", said));
        }
        Ok(change.make(tx, now)?)
    })
    .await
}

/// Batteries that were taken out, here or elsewhere, and would fit into a bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn taken_out(app: &App, bank: String) -> AppResult<Vec<TakenOut>> {
    let read = app.db.read(move |db| db::taken_out(db, &BankRow::by_id(db, &bank)?.model_id));
    Ok(read.await?)
}

/// Undoes the last change of a bank.
///
/// # Errors
/// A change that is not the last, and whatever the database says no to.
pub async fn undo_change(app: &App, id: String, by: Actor) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| db::undo_change(tx, &id, &by, now)).await?)
}
