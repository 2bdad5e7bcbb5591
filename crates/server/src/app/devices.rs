//! Devices that were let in, and the calendar feeds of people.

use super::App;
use super::refused::AppResult;
use crate::db::{self, Device, Scope};
use jiff::Timestamp;

/// Paired devices, newest first.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn all_devices(app: &App) -> AppResult<Vec<Device>> {
    let now = app.clock.now();
    Ok(app.db.read(move |db| Device::all(db, now)).await?)
}

/// Lets a device in under a name; its token is kept as its hash.
///
/// # Errors
/// Whatever the database says no to.
pub async fn pair_device(app: &App, (name, scope): (String, Scope), token: String) -> AppResult<()> {
    let (now, id) = (app.clock.now(), uuid::Uuid::now_v7().to_string());
    Ok(app.write(move |tx| Device::pair(tx, &id, (&name, scope), &token, now)).await?)
}

/// Shuts a device out.
///
/// # Errors
/// Whatever the database says no to.
pub async fn revoke_device(app: &App, id: String) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| Device::revoke(tx, &id, now)).await?)
}

/// What the device with this token may do; none where nobody has it, or where it cannot be read.
pub async fn scope_of_device(app: &App, token: String) -> Option<Scope> {
    let now = app.clock.now();
    let device = app.db.read(move |db| Device::by_token(db, &token, now)).await.ok().flatten()?;
    if device.seen_long_ago {
        // Nobody waits for it, and a disk that is full shuts nobody out.
        let db = app.db.clone();
        tokio::spawn(async move {
            if let Err(error) = db.write(move |tx| Device::seen(tx, &device.id, now)).await {
                tracing::warn!(%error, "not noted that a device was seen");
            }
        });
    }
    Some(device.scope)
}

/// True when a calendar feed has this token.
pub async fn is_calendar_token(app: &App, token: String) -> bool {
    app.db.read(move |db| db::calendar_person(db, &token)).await.ok().flatten().is_some()
}

/// Since when a person has a calendar feed.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn calendar_since(app: &App, person: String) -> AppResult<Option<String>> {
    Ok(app.db.read(move |db| db::calendar_since(db, &person)).await?)
}

/// Makes the calendar feed of a person; an address made before ends. When it was made.
///
/// # Errors
/// Whatever the database says no to.
pub async fn open_calendar(app: &App, person: String, token: String) -> AppResult<Timestamp> {
    let now = app.clock.now();
    app.write(move |tx| db::open_calendar(tx, &person, &token, now)).await?;
    Ok(now)
}

/// Ends the calendar feed of a person.
///
/// # Errors
/// Whatever the database says no to.
pub async fn close_calendar(app: &App, person: String) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| db::close_calendar(tx, &person, now)).await?)
}
