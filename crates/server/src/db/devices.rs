//! Devices let in beyond this machine, and calendar programs.

use super::DbError;
use super::error::{found, instant};
use jiff::{SignedDuration, Timestamp};
use rainshadow_core::actor::Actor;
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde::{Deserialize, Serialize};

/// A token ends when its device was not seen for so long.
const UNSEEN: SignedDuration = SignedDuration::from_hours(24 * 90);
/// When a device was seen is noted to this: a write a request would be too many.
const NOTED: SignedDuration = SignedDuration::from_hours(1);

/// What a device may do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Scope {
    /// Everything but what is done on the desk.
    #[default]
    All,
    /// Visits, rounds and runs: no files in or out, no archiving, no rules.
    Visits,
}

impl Scope {
    fn key(self) -> &'static str {
        match self {
            Self::All => "all",
            Self::Visits => "visits",
        }
    }

    fn from_key(key: &str) -> Self {
        // What is not known is the less.
        if key == "all" { Self::All } else { Self::Visits }
    }
}

/// A paired device.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Device {
    /// Id.
    pub id: String,
    /// Name, as its user gave it.
    pub name: String,
    /// When it was paired.
    pub paired_at: String,
    /// When it was last seen, to the hour.
    pub seen_at: String,
    /// When it was shut out; none: it is let in.
    pub revoked_at: Option<String>,
    /// What it may do.
    pub scope: Scope,
    /// True when it was not seen for 90 days: it must be paired anew.
    pub lapsed: bool,
}

/// A device that asks.
pub(crate) struct Asking {
    /// Its id.
    pub id: String,
    /// What it may do.
    pub scope: Scope,
    /// True when it is time to note that it was seen.
    pub seen_long_ago: bool,
}

fn lapsed(seen: Timestamp, now: Timestamp) -> bool {
    now.duration_since(seen) > UNSEEN
}

impl Device {
    /// Lets a device in.
    pub(crate) fn pair(
        tx: &Transaction<'_>,
        id: &str,
        (name, scope): (&str, Scope),
        token_hash: &str,
        now: Timestamp,
    ) -> Result<(), DbError> {
        let at = now.to_string();
        tx.execute(
            "INSERT INTO device (id, name, token_hash, paired_at, seen_at, scope) VALUES (?1, ?2, ?3, ?4, ?4, ?5)",
            (id, name, token_hash, &at, scope.key()),
        )?;
        super::event(tx, now, &Actor::named(name, ""), "device paired", id)
    }

    /// The device whose token has this hash, if it is let in.
    pub(crate) fn by_token(
        db: &Connection,
        token_hash: &str,
        now: Timestamp,
    ) -> Result<Option<Asking>, DbError> {
        let row: Option<(String, String, String)> = db
            .prepare_cached(
                "SELECT id, scope, seen_at FROM device WHERE token_hash = ? AND revoked_at IS NULL",
            )?
            .query_row([token_hash], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?)))
            .optional()?;
        let Some((id, scope, seen)) = row else { return Ok(None) };
        let seen = instant(&seen)?;
        let asking =
            Asking { id, scope: Scope::from_key(&scope), seen_long_ago: now.duration_since(seen) > NOTED };
        Ok(Some(asking).filter(|_| !lapsed(seen, now)))
    }

    /// Notes that a device was seen.
    pub(crate) fn seen(tx: &Transaction<'_>, id: &str, now: Timestamp) -> Result<(), DbError> {
        tx.execute("UPDATE device SET seen_at = ? WHERE id = ?", (now.to_string(), id))?;
        Ok(())
    }

    /// All devices, newest first.
    pub(crate) fn all(db: &Connection, now: Timestamp) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT id, name, paired_at, seen_at, revoked_at, scope FROM device ORDER BY paired_at DESC",
        )?;
        let rows = query.query_map([], |row| {
            Ok(Self {
                id: row.get(0)?,
                name: row.get(1)?,
                paired_at: row.get(2)?,
                seen_at: row.get(3)?,
                revoked_at: row.get(4)?,
                scope: Scope::from_key(&row.get::<_, String>(5)?),
                lapsed: false,
            })
        })?;
        rows.map(|row| {
            let row = row?;
            Ok(Self { lapsed: lapsed(instant(&row.seen_at)?, now), ..row })
        })
        .collect()
    }

    /// Shuts a device out.
    pub(crate) fn revoke(tx: &Transaction<'_>, id: &str, now: Timestamp) -> Result<(), DbError> {
        let changed = tx.execute(
            "UPDATE device SET revoked_at = coalesce(revoked_at, ?) WHERE id = ?",
            (now.to_string(), id),
        )?;
        found((changed > 0).then_some(()), "device", id)?;
        super::event(tx, now, &Actor::default(), "device shut out", id)
    }
}

/// Gives a person a new calendar feed; one that he had before ends.
pub(crate) fn open_calendar(
    tx: &Transaction<'_>,
    person: &str,
    token_hash: &str,
    now: Timestamp,
) -> Result<(), DbError> {
    super::Person::by_id(tx, person)?;
    close_calendar(tx, person, now)?;
    tx.execute(
        "INSERT INTO calendar_feed (id, person_id, token_hash, made_at) VALUES (?, ?, ?, ?)",
        (uuid::Uuid::now_v7().to_string(), person, token_hash, now.to_string()),
    )?;
    super::event(tx, now, &Actor::named(person, ""), "calendar feed opened", person)
}

/// Ends the calendar feed of a person.
pub(crate) fn close_calendar(tx: &Transaction<'_>, person: &str, now: Timestamp) -> Result<(), DbError> {
    tx.execute(
        "UPDATE calendar_feed SET revoked_at = ? WHERE person_id = ? AND revoked_at IS NULL",
        (now.to_string(), person),
    )?;
    Ok(())
}

/// Since when a person has a calendar feed.
pub(crate) fn calendar_since(db: &Connection, person: &str) -> Result<Option<String>, DbError> {
    Ok(db
        .prepare_cached("SELECT made_at FROM calendar_feed WHERE person_id = ? AND revoked_at IS NULL")?
        .query_row([person], |row| row.get(0))
        .optional()?)
}

/// Whose calendar feed a token opens.
pub(crate) fn calendar_person(db: &Connection, token_hash: &str) -> Result<Option<String>, DbError> {
    Ok(db
        .prepare_cached("SELECT person_id FROM calendar_feed WHERE token_hash = ? AND revoked_at IS NULL")?
        .query_row([token_hash], |row| row.get(0))
        .optional()?)
}
