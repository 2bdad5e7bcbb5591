//! What is written down of a bank: while anything is, it is archived and never deleted.

use super::error::WrittenDown;
use super::{BankRow, DbError};
use rusqlite::Connection;

/// How many there are of a bank.
const COUNTS: [(WrittenDown, &str); 7] = [
    (
        WrittenDown::Round,
        "SELECT count(*) FROM round WHERE bank_id = ?1 \
         AND EXISTS (SELECT 1 FROM reading WHERE round_id = round.id)",
    ),
    // One that is closed has a report, whatever stands in it.
    (
        WrittenDown::Visit,
        "SELECT count(*) FROM visit WHERE bank_id = ?1 AND ((whole = 1 AND ended_at IS NOT NULL) \
         OR EXISTS (SELECT 1 FROM visit_entry WHERE visit_id = visit.id AND kind <> 'only') \
         OR EXISTS (SELECT 1 FROM photo WHERE visit_id = visit.id))",
    ),
    (WrittenDown::Run, "SELECT count(*) FROM run WHERE bank_id = ?1"),
    (WrittenDown::Change, "SELECT count(*) FROM block_change WHERE bank_id = ?1"),
    (
        WrittenDown::Record,
        "SELECT count(*) FROM record_import WHERE bank_id = ?1 AND finished_at IS NOT NULL",
    ),
    (WrittenDown::Plan, "SELECT count(*) FROM plan WHERE bank_id = ?1 AND withdrawn_at IS NULL"),
    (WrittenDown::Reminder, "SELECT count(*) FROM reminder WHERE bank_id = ?1"),
];

impl BankRow {
    /// How much of what; empty: there is its description and nothing else.
    pub(crate) fn written_down(db: &Connection, id: &str) -> Result<Vec<(WrittenDown, u32)>, DbError> {
        let mut all = Vec::new();
        for (kind, sql) in COUNTS {
            let count: u32 = db.prepare_cached(sql)?.query_row([id], |row| row.get(0))?;
            if count > 0 {
                all.push((kind, count));
            }
        }
        Ok(all)
    }
}
