//! Sites: where banks stand.

use super::error::{found, to_json};
use super::{DbError, Written};
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};

/// A site as sent by its maker.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewSite {
    /// Name.
    pub name: String,
    /// What it is, in the shop's words: "ridge-top observatory, off-grid solar".
    #[serde(default)]
    pub kind: String,
    /// IANA time zone.
    pub zone: String,
}

/// A site.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Site {
    /// Id.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is.
    pub kind: String,
    /// IANA time zone.
    pub zone: String,
}

fn site(row: &Row<'_>) -> rusqlite::Result<Site> {
    Ok(Site { id: row.get(0)?, name: row.get(1)?, kind: row.get(2)?, zone: row.get(3)? })
}

impl Site {
    /// Stores a new site.
    pub(crate) fn create(
        tx: &Transaction<'_>,
        id: &str,
        new: &NewSite,
        now: jiff::Timestamp,
    ) -> Result<Written, DbError> {
        let sent = to_json("site", new)?;
        if let Some(before) = super::sent_before(tx, "site", id)? {
            return super::same_or_conflict("site", id, &before, &sent);
        }
        tx.execute(
            "INSERT INTO site (id, name, kind, zone, sent, created_at) VALUES (?, ?, ?, ?, ?, ?)",
            (id, &new.name, &new.kind, &new.zone, &sent, now.to_string()),
        )?;
        Ok(Written::Created)
    }

    /// Puts a site right.
    pub(super) fn edit(
        tx: &Transaction<'_>,
        id: &str,
        name: &str,
        kind: &str,
        zone: &str,
    ) -> Result<(), DbError> {
        tx.execute(
            "UPDATE site SET name = ?2, kind = ?3, zone = ?4, version = version + 1 \
             WHERE id = ?1 AND (name, kind, zone) <> (?2, ?3, ?4)",
            (id, name, kind, zone),
        )?;
        Ok(())
    }

    /// All sites by name.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached("SELECT id, name, kind, zone FROM site ORDER BY name")?;
        let rows = query.query_map([], site)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// One site.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db
            .prepare_cached("SELECT id, name, kind, zone FROM site WHERE id = ?")?
            .query_row([id], site)
            .optional()?;
        found(row, "site", id)
    }
}
