//! Batteries that came into a bank after its last readings.

use super::{DbError, RoundRow, VisitRow};
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rusqlite::Connection;

/// Places whose battery came after the readings, with the day it came.
pub type Came = Vec<(BatteryAddress, Date)>;

const READ_ON_ROUND: &str = "SELECT 1 FROM reading r WHERE r.round_id = ?3 AND r.block_id = p.block_id";

/// True when a battery left its place on the day of the round or later.
pub(crate) fn changed_since(db: &Connection, round: &RoundRow) -> Result<bool, DbError> {
    Ok(db
        .prepare_cached("SELECT 1 FROM placement WHERE bank_id = ? AND to_day >= ?")?
        .exists((&round.bank_id, round.day().to_string()))?)
}

/// Batteries that came into a bank on a day or later and are not among those read, as asked for by
/// the id of a round or visit.
fn came(db: &Connection, (bank, since): (&str, Date), (read, id): (&str, &str)) -> Result<Came, DbError> {
    let mut query = db.prepare_cached(&format!(
        "SELECT battery, from_day FROM placement p WHERE bank_id = ?1 AND to_day IS NULL AND from_day >= ?2 \
         AND NOT EXISTS ({read}) ORDER BY from_day, battery"
    ))?;
    let mut found = query.query((bank, since.to_string(), id))?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let battery = super::banks::place_of(row.get_ref(0)?.as_str().unwrap_or_default())?;
        all.push((battery, super::error::day(&row.get::<_, String>(1)?)?));
    }
    Ok(all)
}

/// Batteries of a sealed bank that came after its last volts, with the day they came.
pub(crate) fn came_after_volts(db: &Connection, bank: &str) -> Result<Came, DbError> {
    let read = "SELECT 1 FROM visit_entry e WHERE e.visit_id = ?3 AND e.block_id = p.block_id AND e.kind = 'battery_volts'";
    let with_volts = VisitRow::of_bank(db, bank)?.into_iter().rev().filter(|v| v.whole);
    for visit in with_volts {
        let volts = db
            .prepare_cached("SELECT 1 FROM visit_entry WHERE visit_id = ? AND kind = 'battery_volts'")?
            .exists([&visit.id])?;
        if volts {
            return came(db, (bank, visit.day()), (read, &visit.id));
        }
    }
    Ok(Vec::new())
}

/// Batteries that came after a round and were not read on it.
pub(crate) fn came_after_round(db: &Connection, round: &RoundRow) -> Result<Came, DbError> {
    came(db, (&round.bank_id, round.day()), (READ_ON_ROUND, &round.id))
}
