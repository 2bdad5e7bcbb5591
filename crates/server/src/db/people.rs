//! People: initials, units, theme.

use super::DbError;
use super::error::{found, from_json, to_json};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::Tool;
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde::{Deserialize, Serialize};

/// Light, or the dim battery room.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Theme {
    /// Daylight.
    #[default]
    Light,
    /// Dim room.
    Shed,
}

/// One person who works here.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Person {
    /// Id.
    pub id: String,
    /// Initials, one to four letters.
    pub initials: String,
    /// Units the person reads and types.
    #[serde(default)]
    pub units: ReaderUnits,
    /// Theme.
    #[serde(default)]
    pub theme: Theme,
    /// False when single-key shortcuts are switched off.
    pub single_keys: bool,
    /// Instruments the person has not: nothing is asked that only they tell.
    #[serde(default)]
    pub without: Vec<Tool>,
    /// Counts changes, for If-Match.
    #[serde(default)]
    pub version: i64,
}

type Raw = (String, String, String, String, bool, i64, String);

fn person(row: &rusqlite::Row<'_>) -> rusqlite::Result<Raw> {
    Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?, row.get(5)?, row.get(6)?))
}

fn built(row: Raw) -> Result<Person, DbError> {
    let (id, initials, units, theme, single_keys, version, without) = row;
    Ok(Person {
        id,
        initials,
        units: from_json("person", &units)?,
        theme: from_json("person", &theme)?,
        single_keys,
        without: from_json("person", &without)?,
        version,
    })
}

impl Person {
    /// Stores a person, new or changed by whoever saw the version that stands; the version from now on.
    pub(crate) fn save(
        &self,
        tx: &Transaction<'_>,
        seen: Option<i64>,
        now: jiff::Timestamp,
    ) -> Result<i64, DbError> {
        let stands = match Self::by_id(tx, &self.id) {
            Ok(stands) => Some(stands),
            Err(DbError::NotFound { .. }) => None,
            Err(other) => return Err(other),
        };
        let version = stands.as_ref().map_or(0, |s| s.version);
        if let Some(stands) = &stands {
            if (Self { version, ..self.clone() }) == *stands {
                return Ok(version);
            }
            super::seen("person", seen, version, stands)?;
        }
        tx.execute(
            "INSERT INTO person (id, initials, units, theme, single_keys, created_at, version, without) \
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8) \
             ON CONFLICT (id) DO UPDATE SET initials = ?2, units = ?3, theme = ?4, single_keys = ?5, version = ?7, \
             without = ?8",
            (
                &self.id,
                &self.initials,
                to_json("person", &self.units)?,
                to_json("person", &self.theme)?,
                self.single_keys,
                now.to_string(),
                version + 1,
                to_json("person", &self.without)?,
            ),
        )?;
        Ok(version + 1)
    }

    /// Everybody, by initials.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(
            "SELECT id, initials, units, theme, single_keys, version, without FROM person ORDER BY initials",
        )?
        .query_map([], person)?
        .map(|row| built(row?))
        .collect()
    }

    /// One person.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db
            .prepare_cached(
                "SELECT id, initials, units, theme, single_keys, version, without FROM person WHERE id = ?",
            )?
            .query_row([id], person)
            .optional()?;
        built(found(row, "person", id)?)
    }
}
