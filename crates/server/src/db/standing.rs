//! The last round as it stands today: where batteries were replaced or moved since, their readings
//! went along, and the places of new ones are unread. The round itself stays as it was judged.

use super::assessments::{conditions_of, derived, round_context};
use super::{BankRow, DbError, RoundRow, StoredReading, VisitRow};
use jiff::civil::Date;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::round::{Assessment, RoundToJudge, judge};
use rainshadow_core::severity::Severity;
use rusqlite::Connection;
use std::collections::HashMap;

/// A round for the batteries that stand in the bank now.
#[derive(Debug, Clone, PartialEq)]
pub struct Standing {
    /// Its judgement.
    pub assessment: Assessment,
    /// What it was judged from, where that differs from the round's own.
    input: Option<RoundToJudge>,
    /// Places whose battery came after the round and was not read on it, with the day it came.
    pub came: Vec<(BatteryAddress, Date)>,
}

impl Standing {
    /// What it was judged from.
    pub(crate) fn input(&self, db: &Connection, round: &RoundRow) -> Result<RoundToJudge, DbError> {
        if let Some(input) = &self.input {
            return Ok(input.clone());
        }
        let mut input = round_context(db, round)?;
        input.readings = StoredReading::records(&StoredReading::of_round(db, round)?);
        Ok(input)
    }
}

const READ_ON_ROUND: &str = "SELECT 1 FROM reading r WHERE r.round_id = ?3 AND r.block_id = p.block_id";

/// True when a battery left its place on the day of the round or later.
fn changed_since(db: &Connection, round: &RoundRow) -> Result<bool, DbError> {
    Ok(db
        .prepare_cached("SELECT 1 FROM placement WHERE bank_id = ? AND to_day >= ?")?
        .exists((&round.bank_id, round.day().to_string()))?)
}

/// Batteries that came into a bank on a day or later and are not among those read, as asked for by
/// the id of a round or visit.
fn came(
    db: &Connection,
    (bank, since): (&str, Date),
    (read, id): (&str, &str),
) -> Result<Vec<(BatteryAddress, Date)>, DbError> {
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
pub(crate) fn came_after_volts(db: &Connection, bank: &str) -> Result<Vec<(BatteryAddress, Date)>, DbError> {
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

/// The round for the batteries that stand there now; none while it is not judged.
pub(crate) fn standing(db: &Connection, round: &RoundRow) -> Result<Option<Standing>, DbError> {
    let Some(derived) = derived(db, &round.id)? else { return Ok(None) };
    if !changed_since(db, round)? {
        return Ok(Some(Standing { assessment: derived.assessment, input: None, came: Vec::new() }));
    }
    let mut input = round_context(db, round)?;
    let places: HashMap<String, BatteryAddress> =
        BankRow::placements(db, &round.bank_id)?.into_iter().map(|(place, block)| (block, place)).collect();
    input.readings = StoredReading::records(&StoredReading::at(db, round, &places)?);
    Ok(Some(Standing {
        assessment: judge(&input),
        input: Some(input),
        came: came(db, (&round.bank_id, round.day()), (READ_ON_ROUND, &round.id))?,
    }))
}

/// The condition of every cell on a round, for the batteries that stand there now.
pub(crate) fn conditions(db: &Connection, round: &RoundRow) -> Result<Vec<(CellAddress, Severity)>, DbError> {
    if !changed_since(db, round)? {
        return conditions_of(db, &round.id);
    }
    let cells = standing(db, round)?.map(|s| s.assessment.cells).unwrap_or_default();
    Ok(cells.into_iter().map(|c| (c.cell, c.condition)).collect())
}
