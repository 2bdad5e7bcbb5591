//! What is written down of a bank: while anything is, it is archived and never deleted.

use super::{BankRow, DbError};
use rusqlite::Connection;

/// One of a kind and several of it as they are called, and how many there are of a bank.
const KINDS: [(&str, &str, &str); 7] = [
    (
        "round",
        "rounds",
        "SELECT count(*) FROM round WHERE bank_id = ?1 \
         AND EXISTS (SELECT 1 FROM reading WHERE round_id = round.id)",
    ),
    // One that is closed has a report, whatever stands in it.
    (
        "visit",
        "visits",
        "SELECT count(*) FROM visit WHERE bank_id = ?1 AND ((whole = 1 AND ended_at IS NOT NULL) \
         OR EXISTS (SELECT 1 FROM visit_entry WHERE visit_id = visit.id AND kind <> 'only') \
         OR EXISTS (SELECT 1 FROM photo WHERE visit_id = visit.id))",
    ),
    ("run of an equalize", "runs of an equalize", "SELECT count(*) FROM run WHERE bank_id = ?1"),
    ("change of a battery", "changes of batteries", "SELECT count(*) FROM block_change WHERE bank_id = ?1"),
    (
        "file of a monitor",
        "files of a monitor",
        "SELECT count(*) FROM record_import WHERE bank_id = ?1 AND finished_at IS NOT NULL",
    ),
    ("kept plan", "kept plans", "SELECT count(*) FROM plan WHERE bank_id = ?1 AND withdrawn_at IS NULL"),
    ("reminder", "reminders", "SELECT count(*) FROM reminder WHERE bank_id = ?1"),
];

impl BankRow {
    /// How much of what, in words; empty: there is its description and nothing else.
    pub(crate) fn written_down(db: &Connection, id: &str) -> Result<Vec<String>, DbError> {
        let mut all = Vec::new();
        for (one, several, sql) in KINDS {
            let count: u32 = db.prepare_cached(sql)?.query_row([id], |row| row.get(0))?;
            match count {
                0 => {}
                1 => all.push(format!("1 {one}")),
                _ => all.push(format!("{count} {several}")),
            }
        }
        Ok(all)
    }
}
