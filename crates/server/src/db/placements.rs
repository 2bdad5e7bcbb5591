//! Which block stands in which place of a bank, now and on a day.

use super::banks::{ALWAYS, place_of};
use super::{BankRow, DbError};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rusqlite::{Connection, OptionalExtension};
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

    /// The day on which the block of each place that had another before came there.
    pub(crate) fn came_on(db: &Connection, bank: &str) -> Result<HashMap<BatteryAddress, Date>, DbError> {
        db.prepare_cached(
            "SELECT battery, from_day FROM placement WHERE bank_id = ?1 AND to_day IS NULL AND from_day <> ?2",
        )?
        .query_map((bank, ALWAYS), |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?
        .map(|row| {
            let (battery, day) = row?;
            let bad_day = |e: jiff::Error| DbError::BadRow { what: "placement", why: e.to_string() };
            Ok((place_of(&battery)?, day.parse().map_err(bad_day)?))
        })
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

    /// Which block stood in a place on a day, for what comes from a file: on the day of a change, the one
    /// that left where it was taken before the change was written down.
    pub(crate) fn block_when(
        db: &Connection,
        bank: &str,
        battery: BatteryAddress,
        (day, taken_at): (Date, Timestamp),
    ) -> Result<Option<String>, DbError> {
        let block = db
            .prepare_cached(
                "SELECT block_id FROM placement p WHERE bank_id = ?1 AND battery = ?2 AND from_day <= ?3 \
                 AND (to_day IS NULL OR to_day > ?3 OR (to_day = ?3 AND EXISTS ( \
                 SELECT 1 FROM block_change c WHERE c.bank_id = ?1 AND c.day = ?3 AND c.undone_by IS NULL \
                 AND julianday(c.at) > julianday(?4) AND p.block_id IN (c.out_block, c.in_block)))) \
                 ORDER BY coalesce(to_day, '9999') LIMIT 1",
            )?
            .query_row((bank, battery.to_string(), day.to_string(), taken_at.to_string()), |row| row.get(0))
            .optional()?;
        Ok(block)
    }
}

/// Batteries that came in on a day: those that were replaced then, all of them where the bank was changed to another
/// model.
pub(crate) fn came_in(db: &Connection, bank: &BankRow, day: Date) -> Result<Vec<BatteryAddress>, DbError> {
    let anew: bool = db
        .prepare_cached(
            "SELECT EXISTS (SELECT 1 FROM bank_model_before WHERE bank_id = ? AND until_day = ?)",
        )?
        .query_row((&bank.id, day.to_string()), |row| row.get(0))?;
    if anew {
        return Ok(bank.shape.batteries().collect());
    }
    let mut all: Vec<BatteryAddress> = db
        .prepare_cached(
            "SELECT DISTINCT battery FROM block_change WHERE bank_id = ? AND day = ? AND undone_by IS NULL AND other IS NULL",
        )?
        .query_map((&bank.id, day.to_string()), |row| row.get::<_, String>(0))?
        .map(|row| place_of(&row?))
        .collect::<Result<_, DbError>>()?;
    all.sort_unstable();
    Ok(all)
}
