//! What of a bank is changed later by several people: each says which version he saw.

use super::error::{found, to_json};
use super::{AccessNotes, BankRow, DbError, RunRow};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::house_rules::Overrides;
use rusqlite::Transaction;

impl BankRow {
    /// The bank, when it still has the version that somebody saw.
    ///
    /// # Errors
    /// [`DbError::ChangedSince`] with the bank as it stands.
    pub(crate) fn as_seen(tx: &Transaction<'_>, id: &str, version: i64) -> Result<Self, DbError> {
        let bank = Self::by_id(tx, id)?;
        if bank.version == version {
            return Ok(bank);
        }
        Err(DbError::ChangedSince {
            what: "bank",
            theirs: serde_json::to_value(&bank).unwrap_or_default().into(),
        })
    }

    /// Counts a change of the bank.
    pub(super) fn counted(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
        let changed = tx.execute("UPDATE bank SET version = version + 1 WHERE id = ?", [id])?;
        found((changed > 0).then_some(()), "bank", id)
    }

    /// Writes down what a visitor must know.
    pub(crate) fn set_access(
        tx: &Transaction<'_>,
        id: &str,
        notes: &AccessNotes,
        by: &str,
    ) -> Result<(), DbError> {
        tx.execute(
            "UPDATE bank SET access = ?, access_by = ? WHERE id = ?",
            (to_json("access notes", notes)?, by, id),
        )?;
        Self::counted(tx, id)
    }

    /// Lets a bank take single choices otherwise; every verdict of it is derived anew.
    pub(crate) fn set_overrides(
        tx: &Transaction<'_>,
        id: &str,
        overrides: &Overrides,
    ) -> Result<(), DbError> {
        tx.execute("UPDATE bank SET overrides = ? WHERE id = ?", (to_json("overrides", overrides)?, id))?;
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [id])?;
        Self::counted(tx, id)
    }

    /// Gives a bank another house rule set; every verdict of it is derived anew.
    pub(crate) fn set_rules(tx: &Transaction<'_>, id: &str, rules: &str) -> Result<(), DbError> {
        let version = super::house_rules::latest_version(tx, rules)?;
        tx.execute("UPDATE bank SET rules_key = ?, rules_version = ? WHERE id = ?", (rules, version, id))?;
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [id])?;
        Self::counted(tx, id)
    }

    /// Archives a bank, or restores it. A bank on charge is not put away.
    pub(crate) fn set_archived(
        tx: &Transaction<'_>,
        id: &str,
        at: Option<Timestamp>,
        (now, by): (Timestamp, &Actor),
    ) -> Result<(), DbError> {
        if let Some(run) = RunRow::open_of(tx, id)?.filter(|_| at.is_some()) {
            return Err(run.under_way());
        }
        super::event(tx, now, by, if at.is_some() { "bank archived" } else { "bank restored" }, id)?;
        tx.execute("UPDATE bank SET archived_at = ? WHERE id = ?", (at.map(|t| t.to_string()), id))?;
        Self::counted(tx, id)
    }
}
