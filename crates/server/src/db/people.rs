//! People: initials, units, theme.

use super::DbError;
use super::error::{found, from_json, to_json};
use rainshadow_core::quantity::units::ReaderUnits;
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
}

fn person(row: &rusqlite::Row<'_>) -> rusqlite::Result<(String, String, String, String, bool)> {
    Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?))
}

fn built(row: (String, String, String, String, bool)) -> Result<Person, DbError> {
    let (id, initials, units, theme, single_keys) = row;
    Ok(Person {
        id,
        initials,
        units: from_json("person", &units)?,
        theme: from_json("person", &theme)?,
        single_keys,
    })
}

impl Person {
    /// Stores a person, new or changed.
    pub(crate) fn save(&self, tx: &Transaction<'_>, now: jiff::Timestamp) -> Result<(), DbError> {
        tx.execute(
            "INSERT INTO person (id, initials, units, theme, single_keys, created_at) VALUES (?1, ?2, ?3, ?4, ?5, ?6) \
             ON CONFLICT (id) DO UPDATE SET initials = ?2, units = ?3, theme = ?4, single_keys = ?5",
            (
                &self.id,
                &self.initials,
                to_json("person", &self.units)?,
                to_json("person", &self.theme)?,
                self.single_keys,
                now.to_string(),
            ),
        )?;
        Ok(())
    }

    /// Everybody, by initials.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        db.prepare_cached("SELECT id, initials, units, theme, single_keys FROM person ORDER BY initials")?
            .query_map([], person)?
            .map(|row| built(row?))
            .collect()
    }

    /// One person.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db
            .prepare_cached("SELECT id, initials, units, theme, single_keys FROM person WHERE id = ?")?
            .query_row([id], person)
            .optional()?;
        built(found(row, "person", id)?)
    }
}
