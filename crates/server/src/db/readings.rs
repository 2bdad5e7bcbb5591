//! Entries of a round: appended, never overwritten.

use super::error::{instant, to_json};
use super::log::{LogRow, actor};
use super::{BankRow, DbError, RoundRow, Written};
use jiff::Timestamp;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::{CellRecord, ReadingKind, RoundEntry};
use rusqlite::{Connection, Transaction};
use std::collections::HashMap;

/// The same text for the same entry, whichever road it came by.
fn fingerprint(entry: &RoundEntry) -> Result<String, DbError> {
    let unit = entry.temperature_typed.as_ref().map(|(text, unit)| (text, unit_key(*unit)));
    to_json(
        "reading",
        &(
            (entry.cell.to_string(), entry.kind, entry.gravity, &entry.typed, entry.temperature, unit),
            (
                &entry.reason,
                entry.stands,
                &entry.supersedes,
                &entry.by.initials,
                &entry.by.device,
                entry.taken_at.to_string(),
            ),
        ),
    )
}

/// Appends an entry; the same again is already there.
pub(crate) fn append(
    tx: &Transaction<'_>,
    round: &RoundRow,
    entry: &RoundEntry,
    now: Timestamp,
) -> Result<Written, DbError> {
    let bank = BankRow::by_id(tx, &round.bank_id)?;
    let no_place = || DbError::NoSuchPlace { bank: bank.name.clone(), address: entry.cell.to_string() };
    let block: String = tx
        .prepare_cached(
            "SELECT block_id FROM placement WHERE bank_id = ?1 AND battery = ?2 AND from_day <= ?3 \
             AND (to_day IS NULL OR to_day > ?3)",
        )?
        .query_row((&round.bank_id, entry.cell.battery.to_string(), round.day().to_string()), |row| {
            row.get(0)
        })
        .map_err(|e| if e == rusqlite::Error::QueryReturnedNoRows { no_place() } else { e.into() })?;
    if !bank.shape.contains(entry.cell) {
        return Err(no_place());
    }
    write(tx, round, &block, entry, now, false)
}

/// Appends an entry of a file, at the block that stood there when it was taken; the same again is already
/// there.
pub(crate) fn append_from_file(
    tx: &Transaction<'_>,
    round: &RoundRow,
    entry: &RoundEntry,
    now: Timestamp,
) -> Result<Written, DbError> {
    let when = (round.day(), entry.taken_at);
    match BankRow::block_when(tx, &round.bank_id, entry.cell.battery, when)? {
        Some(block) if BankRow::by_id(tx, &round.bank_id)?.shape.contains(entry.cell) => {
            write(tx, round, &block, entry, now, false)
        }
        _ => append(tx, round, entry, now),
    }
}

/// Appends an entry whose block is known and whose id is new.
pub(crate) fn insert(
    tx: &Transaction<'_>,
    round: &RoundRow,
    block: &str,
    entry: &RoundEntry,
    now: Timestamp,
) -> Result<Written, DbError> {
    write(tx, round, block, entry, now, true)
}

fn write(
    tx: &Transaction<'_>,
    round: &RoundRow,
    block: &str,
    entry: &RoundEntry,
    now: Timestamp,
    new: bool,
) -> Result<Written, DbError> {
    // What takes the place of something of another round takes the place of nothing.
    let mut supersedes = entry.supersedes.as_ref();
    if let Some(id) = supersedes
        && !tx
            .prepare_cached("SELECT 1 FROM reading WHERE id = ? AND round_id = ?")?
            .exists((id, &round.id))?
    {
        supersedes = None;
    }
    let typed = entry.temperature_typed.as_ref();
    let row = LogRow {
        table: "reading",
        what: "reading",
        owner: ("round_id", &round.id),
        id: &entry.id,
        by: &entry.by,
        sent: &fingerprint(entry)?,
        own: &[
            ("block_id", &block),
            ("cell", &entry.cell.cell),
            ("kind", &entry.kind.key()),
            ("gravity", &entry.gravity.map(SpecificGravity::value)),
            ("typed", &entry.typed),
            ("temperature", &entry.temperature.map(Temperature::celsius)),
            ("temperature_typed", &typed.map(|(text, _)| text)),
            ("temperature_unit", &typed.map(|(_, unit)| unit_key(*unit))),
            ("reason", &entry.reason),
            ("stands", &entry.stands),
            ("supersedes", &supersedes),
            ("taken_at", &entry.taken_at.to_string()),
            ("received_at", &now.to_string()),
        ],
    };
    let written = if new { row.insert(tx) } else { row.append(tx) }?;
    if written == Written::Created && round.finished_at.is_some() {
        super::forget::forget_since(tx, &round.bank_id, round.started_at)?;
    }
    Ok(written)
}

/// Every entry of a round in the order received, each knowing whether it stands.
pub(crate) fn of_round(db: &Connection, round: &RoundRow) -> Result<Vec<RoundEntry>, DbError> {
    // The places of that day: a block that left since still tells this round.
    at(db, round, &BankRow::blocks_on(db, &round.bank_id, round.day())?)
}

/// What stands at each cell of a round.
pub(crate) fn records_of(db: &Connection, round: &RoundRow) -> Result<Vec<CellRecord>, DbError> {
    Ok(RoundEntry::records(&of_round(db, round)?))
}

/// Entries of a round told of the places that the blocks have here; what stands in none of them is left
/// out.
pub(crate) fn at(
    db: &Connection,
    round: &RoundRow,
    places: &HashMap<String, BatteryAddress>,
) -> Result<Vec<RoundEntry>, DbError> {
    let mut entries = Vec::new();
    let mut query = db.prepare_cached(
        "SELECT id, block_id, cell, kind, gravity, typed, temperature, temperature_typed, temperature_unit, \
         reason, stands, supersedes, taken_at, person_id, person, device FROM reading WHERE round_id = ? \
         ORDER BY seq",
    )?;
    let mut found = query.query([&round.id])?;
    while let Some(row) = found.next()? {
        let block: String = row.get(1)?;
        let Some(battery) = places.get(&block) else { continue };
        let bad = |why: String| DbError::BadRow { what: "reading", why };
        let kind: String = row.get(3)?;
        let gravity: Option<f64> = row.get(4)?;
        let temperature: Option<f64> = row.get(6)?;
        let typed: Option<String> = row.get(7)?;
        let unit: Option<String> = row.get(8)?;
        entries.push(RoundEntry {
            id: row.get(0)?,
            cell: CellAddress { battery: *battery, cell: row.get(2)? },
            kind: ReadingKind::of_key(&kind).ok_or_else(|| bad(format!("unknown kind {kind}")))?,
            gravity: gravity.map(SpecificGravity::new).transpose().map_err(|e| bad(e.to_string()))?,
            typed: row.get(5)?,
            temperature: temperature
                .map(Temperature::from_celsius)
                .transpose()
                .map_err(|e| bad(e.to_string()))?,
            temperature_typed: typed.zip(unit.as_deref().map(unit_of).transpose()?),
            reason: row.get(9)?,
            stands: row.get(10)?,
            supersedes: row.get(11)?,
            taken_at: instant(&row.get::<_, String>(12)?)?,
            by: actor(row, 13)?,
            standing: false,
        });
    }
    RoundEntry::mark_standing(&mut entries);
    Ok(entries)
}

/// How a temperature unit is written in a row and in files.
fn unit_key(unit: TemperatureUnit) -> &'static str {
    match unit {
        TemperatureUnit::Celsius => "C",
        TemperatureUnit::Fahrenheit => "F",
    }
}

pub(super) fn unit_of(key: &str) -> Result<TemperatureUnit, DbError> {
    match key {
        "C" => Ok(TemperatureUnit::Celsius),
        "F" => Ok(TemperatureUnit::Fahrenheit),
        other => {
            Err(DbError::BadRow { what: "reading", why: format!("“{other}” is no unit of temperature") })
        }
    }
}
