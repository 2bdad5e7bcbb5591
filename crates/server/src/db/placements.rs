//! Which block stands in which place of a bank, now and on a day.

use super::banks::place_of;
use super::{BankRow, DbError};
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rusqlite::Connection;
use std::collections::HashMap;

fn placed((battery, block): (String, String)) -> Result<(BatteryAddress, String), DbError> {
    Ok((place_of(&battery)?, block))
}

impl BankRow {
    /// Which block stands in which place now.
    pub(crate) fn placements(db: &Connection, bank: &str) -> Result<Vec<(BatteryAddress, String)>, DbError> {
        db.prepare_cached("SELECT battery, block_id FROM placement WHERE bank_id = ? AND to_day IS NULL")?
            .query_map([bank], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?
            .map(|row| placed(row?))
            .collect()
    }

    /// Which block stood in which place on a day; on the day of a swap, the new one.
    pub(crate) fn placements_on(
        db: &Connection,
        bank: &str,
        day: Date,
    ) -> Result<Vec<(BatteryAddress, String)>, DbError> {
        db.prepare_cached(
            "SELECT battery, block_id FROM placement WHERE bank_id = ?1 AND from_day <= ?2 \
             AND (to_day IS NULL OR to_day > ?2)",
        )?
        .query_map([bank, &day.to_string()], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?
        .map(|row| placed(row?))
        .collect()
    }

    /// Where every block stood on a day; on the day of a swap both the old and the new one are told.
    pub(crate) fn blocks_on(
        db: &Connection,
        bank: &str,
        day: Date,
    ) -> Result<HashMap<String, BatteryAddress>, DbError> {
        // A block moved on this very day was read where it stood before: the earlier row comes last.
        db.prepare_cached(
            "SELECT battery, block_id FROM placement WHERE bank_id = ?1 AND from_day <= ?2 \
             AND (to_day IS NULL OR to_day >= ?2) ORDER BY from_day DESC",
        )?
        .query_map([bank, &day.to_string()], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?
        .map(|row| placed(row?).map(|(battery, block)| (block, battery)))
        .collect()
    }
}
