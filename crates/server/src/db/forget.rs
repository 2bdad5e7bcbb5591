//! Judgements that something new makes void: those of later rounds too, whose past it is.

use super::DbError;
use rusqlite::Transaction;

/// Forgets the judgement of every round of a bank from an instant on.
pub(crate) fn forget_since(tx: &Transaction<'_>, bank: &str, since: jiff::Timestamp) -> Result<(), DbError> {
    tx.prepare_cached(
        "DELETE FROM assessment WHERE bank_id = ?1 AND round_id IN \
         (SELECT id FROM round WHERE bank_id = ?1 AND started_at >= ?2)",
    )?
    .execute((bank, since.to_string()))?;
    Ok(())
}
