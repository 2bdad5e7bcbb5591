//! The tables of the append-only log: rounds, visits and runs write their entries through here alike.

use super::{DbError, Written};
use rainshadow_core::actor::Actor;
use rusqlite::{OptionalExtension, ToSql, Transaction, params_from_iter};

/// An entry as it is appended to its table.
pub(super) struct LogRow<'a> {
    /// Its table.
    pub table: &'static str,
    /// What it is called when it is refused.
    pub what: &'static str,
    /// The column that names what it is an entry of, and its id there.
    pub owner: (&'static str, &'a str),
    /// Its id, made by who sent it.
    pub id: &'a str,
    /// Who, on which device.
    pub by: &'a Actor,
    /// The same text for the same entry, whichever road it came by.
    pub sent: &'a str,
    /// Columns of its own.
    pub own: &'a [(&'static str, &'a dyn ToSql)],
}

impl LogRow<'_> {
    /// Whether it is there already: the same again is, another body under its id is refused.
    fn before(&self, tx: &Transaction<'_>) -> Result<Option<Written>, DbError> {
        let (column, owner) = self.owner;
        let there: Option<(String, String)> = tx
            .prepare_cached(&format!("SELECT sent, {column} FROM {} WHERE id = ?", self.table))?
            .query_row([self.id], |row| Ok((row.get(0)?, row.get(1)?)))
            .optional()?;
        let Some((sent, of)) = there else { return Ok(None) };
        if of == owner && sent == self.sent {
            return Ok(Some(Written::AlreadyThere));
        }
        Err(DbError::OtherBody { what: self.what, id: self.id.to_owned() })
    }

    /// Appends it; the same again is already there.
    pub(super) fn append(&self, tx: &Transaction<'_>) -> Result<Written, DbError> {
        match self.before(tx)? {
            Some(there) => Ok(there),
            None => self.insert(tx),
        }
    }

    /// Appends it where its id is known to be new.
    pub(super) fn insert(&self, tx: &Transaction<'_>) -> Result<Written, DbError> {
        let (column, owner) = self.owner;
        let shared: [&dyn ToSql; 6] =
            [&self.id, &owner, &self.by.id, &self.by.initials, &self.by.device, &self.sent];
        let values = shared.into_iter().chain(self.own.iter().map(|(_, value)| *value));
        // Long enough for the longest of the tables, in one piece.
        let mut sql = String::with_capacity(512);
        sql.extend(["INSERT INTO ", self.table, " (id, ", column, ", person_id, person, device, sent"]);
        sql.extend(self.own.iter().flat_map(|(name, _)| [", ", name]));
        sql.push_str(") VALUES (?, ?, ?, ?, ?, ?");
        sql.extend(self.own.iter().map(|_| ", ?"));
        sql.push(')');
        tx.prepare_cached(&sql)?.execute(params_from_iter(values))?;
        Ok(Written::Created)
    }
}

/// Who wrote a row: the id of the person, initials and device in three columns from `at` on.
pub(super) fn actor(row: &rusqlite::Row<'_>, at: usize) -> rusqlite::Result<Actor> {
    Ok(Actor { id: row.get(at)?, initials: row.get(at + 1)?, device: row.get(at + 2)? })
}
