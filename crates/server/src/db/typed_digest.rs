//! Whether anything was typed into a folder since a moment: a digest of every row that is not derived.

use super::DbError;
use rainshadow_core::actor::Actor;
use rusqlite::types::ValueRef;
use rusqlite::{Connection, OptionalExtension, Transaction};
use sha2::{Digest, Sha256};

/// What the machine works out or collects by itself, and where the demo says that it made the folder.
const NOT_TYPED: [&str; 8] = [
    "assessment",
    "judged_cell",
    "due_item",
    "due_state",
    "feed_sample",
    "feed_minute",
    "event_log",
    "sqlite_sequence",
];

/// What the demo writes down of a folder that it made empty itself.
const MADE: &str = "demo folder made";

/// Names of the tables of a database.
pub(crate) fn tables(db: &Connection) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name",
    )?;
    let rows = query.query_map([], |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Hexadecimal digest of everything that people typed.
pub(crate) fn typed_digest(db: &Connection) -> Result<String, DbError> {
    let mut digest = Sha256::new();
    for table in tables(db)?.iter().filter(|t| !NOT_TYPED.contains(&t.as_str())) {
        digest.update(table);
        let mut query = db.prepare(&format!("SELECT * FROM \"{table}\""))?;
        let columns = query.column_count();
        let mut rows = query.query([])?;
        while let Some(row) = rows.next()? {
            for column in 0..columns {
                match row.get_ref(column)? {
                    ValueRef::Null => digest.update(b"0"),
                    ValueRef::Integer(number) => digest.update(number.to_le_bytes()),
                    ValueRef::Real(number) => digest.update(number.to_le_bytes()),
                    ValueRef::Text(bytes) | ValueRef::Blob(bytes) => {
                        digest.update(bytes.len().to_le_bytes());
                        digest.update(bytes);
                    }
                }
            }
        }
    }
    Ok(crate::photos::hex(&digest.finalize()))
}

/// Writes down that the demo made this folder.
pub(crate) fn demo_made(tx: &Transaction<'_>, id: &str, now: jiff::Timestamp) -> Result<(), DbError> {
    super::event(tx, now, &Actor::default(), MADE, id)
}

/// True when the demo made this folder under that id.
pub(crate) fn is_demo(db: &Connection, id: &str) -> Result<bool, DbError> {
    let found: Option<i64> = db
        .query_row("SELECT seq FROM event_log WHERE what = ? AND subject = ?", (MADE, id), |row| row.get(0))
        .optional()?;
    Ok(found.is_some())
}
