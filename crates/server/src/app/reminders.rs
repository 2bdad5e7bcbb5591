//! Reminders of one's own, and what is put off.

use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{self, NewPostponement, NewReminder, Written};
use rainshadow_core::actor::Actor;

/// Days that something is put off by at most.
const LONGEST: i32 = 366;

/// Adds a reminder of one's own.
///
/// # Errors
/// Whatever the database says no to.
pub async fn set_reminder(app: &App, id: String, reminder: NewReminder) -> AppResult<Written> {
    Ok(app.write(move |tx| reminder.store(tx, &id)).await?)
}

/// Says that a reminder is done.
///
/// # Errors
/// No such reminder, and whatever the database says no to.
pub async fn reminder_done(app: &App, id: String, by: Actor) -> AppResult<()> {
    Ok(app.write(move |tx| db::reminder_done(tx, &id, &by.initials)).await?)
}

/// Puts something off, with a reason.
///
/// # Errors
/// A day that cannot be, and whatever the database says no to.
pub async fn postpone(app: &App, id: String, put_off: NewPostponement) -> AppResult<Written> {
    let today = app.clock.today();
    if put_off.until <= today || put_off.until <= put_off.from {
        return Err(AppError::field("until", "Put off to a day after today and after the day it is due."));
    }
    if today.until(put_off.until).map_or(0, |s| s.get_days()) > LONGEST {
        let said = "Put off by a year at most; longer than that is a change of the house rules.";
        return Err(AppError::field("until", said));
    }
    Ok(app.write(move |tx| put_off.store(tx, &id)).await?)
}
