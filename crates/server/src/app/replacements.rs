//! Batteries that are replaced, or change places.

use super::App;
use super::refused::{AppError, AppResult};
use super::rules::rules_of;
use crate::db::{
    self, BankRow, ChangeKind, ChangeView, Connection, DbError, NewChange, Site, TakenOut, Written,
};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::replacing::{OneNew, one_new, used_match};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

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
    if let Some(used) = change.more.used.clone() {
        used.checked().map_err(|e| AppError::refused("used", &e))?;
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
        let limit = one_new_on(tx, &change.bank, change.day)?;
        let new = change.kind == ChangeKind::Replaced && change.used.is_none() && change.more.used.is_none();
        if new && limit.0.condition == Severity::Act && !change.more.all_the_same {
            return Err(AppError::field("all_the_same", wording::one_new(&limit.0, &limit.1)));
        }
        Ok(change.make(tx, now)?)
    })
    .await
}

/// Whether one new battery may join a bank on a day, with the name of the house that says so.
fn one_new_on(db: &Connection, bank: &str, day: Date) -> Result<(OneNew, String), DbError> {
    let row = BankRow::by_id(db, bank)?;
    let rules = rules_of(db, &row)?;
    Ok((one_new(row.months_in_service(day), &rules), rules.name))
}

/// What is to be known where a battery is replaced.
pub struct Replacing {
    /// Batteries that were taken out, here or elsewhere, and would fit.
    pub taken_out: Vec<TakenOut>,
    /// The house's limit for a new one, applied.
    pub one_new: OneNew,
    /// The house.
    pub house: String,
}

/// Changes of a bank, newest first, with what came in and where the old one went.
pub(crate) fn changes_told(db: &Connection, bank: &BankRow) -> Result<Vec<ChangeView>, DbError> {
    let told = |change: ChangeView| {
        let day: Option<Date> = change.date.parse().ok();
        let bank_months = day.and_then(|day| bank.months_in_service(day));
        let used = change.more.used.as_ref().map(|used| {
            let matched = wording::used_match(&used_match(used, bank_months));
            format!(" What came in: {}. {matched}", wording::used_battery(used))
        });
        let gone = change.more.gone.map(|gone| format!(" The old one went {}.", wording::gone(gone)));
        let head =
            if used.is_some() || gone.is_some() { wording::stopped(&change.said) } else { change.said };
        let said = format!("{head}{}{}", used.unwrap_or_default(), gone.unwrap_or_default());
        ChangeView { said, ..change }
    };
    Ok(db::replacements::changes(db, &bank.id)?.into_iter().map(told).collect())
}

/// Batteries that were taken out and would fit into a bank, and the house's limit for a new one.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn replacing(app: &App, bank: String) -> AppResult<Replacing> {
    let today = app.clock.today();
    let read = app.db.read(move |db| {
        let taken_out = db::taken_out(db, &BankRow::by_id(db, &bank)?.model_id)?;
        let (one_new, house) = one_new_on(db, &bank, today)?;
        Ok(Replacing { taken_out, one_new, house })
    });
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
