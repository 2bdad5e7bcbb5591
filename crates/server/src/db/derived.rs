//! Rows that are derived of others and kept: one that cannot be read is no loss, since all that is derived of
//! its bank can be forgotten and derived anew.

use super::DbError;
use rusqlite::{Connection, Transaction};

/// A kept text of a bank into what it was made of.
///
/// # Errors
/// [`DbError::BadDerived`] with the bank.
pub(super) fn from_kept<T: serde::de::DeserializeOwned>(
    what: &'static str,
    bank: &str,
    text: &str,
) -> Result<T, DbError> {
    serde_json::from_str(text).map_err(|e| bad(what, bank, &e))
}

/// A derived row of a bank that cannot be read.
pub(super) fn bad(what: &'static str, bank: &str, why: &dyn std::fmt::Display) -> DbError {
    DbError::BadDerived { what, bank: bank.to_owned(), why: why.to_string() }
}

/// Tables of derived rows; cells that were judged go with their judgement.
const TABLES: [&str; 4] = ["due_item", "due_state", "assessment", "record_judged"];

/// Forgets all that is derived of a bank.
pub(crate) fn forget(tx: &Transaction<'_>, bank: &str) -> Result<(), DbError> {
    for table in TABLES {
        tx.execute(&format!("DELETE FROM {table} WHERE bank_id = ?"), [bank])?;
    }
    Ok(())
}

/// Forgets all that is derived of every bank.
pub(crate) fn forget_all(tx: &Connection) -> Result<(), DbError> {
    for table in TABLES {
        tx.execute(&format!("DELETE FROM {table}"), [])?;
    }
    Ok(())
}

/// Everything that is derived, as text, by what it is derived of.
pub(crate) fn texts(db: &Connection) -> Result<std::collections::BTreeMap<String, String>, DbError> {
    let sql = "SELECT 'the judgement of round ' || round_id, condition || verdict || body FROM assessment \
               UNION ALL SELECT 'the judged cells of round ' || round_id, group_concat(of, ' ') FROM \
               (SELECT round_id, block_id || cell || ' ' || corrected || ' ' || deviation || condition AS of \
               FROM judged_cell ORDER BY round_id, block_id, cell) GROUP BY round_id \
               UNION ALL SELECT 'what is due on bank ' || bank_id || ', ' || place, consequence || day || task || body FROM due_item \
               UNION ALL SELECT 'the state of bank ' || bank_id, state || kwh || coalesce(forecast, '') FROM due_state \
               UNION ALL SELECT 'the judged record of bank ' || bank_id, judged FROM record_judged";
    let mut query = db.prepare(sql)?;
    let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}
