//! Devices let in beyond this machine.

use super::DbError;
use super::error::found;
use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde::Serialize;

/// A paired device.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Device {
    /// Id.
    pub id: String,
    /// Name, as its user gave it.
    pub name: String,
    /// When it was paired.
    pub paired_at: String,
    /// When it was last seen.
    pub seen_at: String,
    /// When it was shut out; none: it is let in.
    pub revoked_at: Option<String>,
}

impl Device {
    /// Lets a device in.
    pub(crate) fn pair(
        tx: &Transaction<'_>,
        id: &str,
        name: &str,
        token_hash: &str,
        now: Timestamp,
    ) -> Result<(), DbError> {
        let at = now.to_string();
        tx.execute(
            "INSERT INTO device (id, name, token_hash, paired_at, seen_at) VALUES (?1, ?2, ?3, ?4, ?4)",
            (id, name, token_hash, &at),
        )?;
        super::log(tx, now, name, "device paired", id)
    }

    /// The device whose token has this hash, if it is let in.
    pub(crate) fn by_token(db: &Connection, token_hash: &str) -> Result<Option<String>, DbError> {
        Ok(db
            .prepare_cached("SELECT id FROM device WHERE token_hash = ? AND revoked_at IS NULL")?
            .query_row([token_hash], |row| row.get(0))
            .optional()?)
    }

    /// All devices, newest first.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT id, name, paired_at, seen_at, revoked_at FROM device ORDER BY paired_at DESC",
        )?;
        let rows = query.query_map([], |row| {
            Ok(Self {
                id: row.get(0)?,
                name: row.get(1)?,
                paired_at: row.get(2)?,
                seen_at: row.get(3)?,
                revoked_at: row.get(4)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Shuts a device out.
    pub(crate) fn revoke(tx: &Transaction<'_>, id: &str, now: Timestamp) -> Result<(), DbError> {
        let changed = tx.execute(
            "UPDATE device SET revoked_at = coalesce(revoked_at, ?) WHERE id = ?",
            (now.to_string(), id),
        )?;
        found((changed > 0).then_some(()), "device", id)?;
        super::log(tx, now, "", "device shut out", id)
    }
}
