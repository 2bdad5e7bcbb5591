//! Readings: appended, never overwritten.

use super::error::instant;
use super::{BankRow, DbError, RoundRow, Written};
use jiff::Timestamp;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::log::{LogEntry, standing};
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::{CellReading, CellRecord};
use rusqlite::{Connection, Transaction};
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};

/// Kind of entry.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ReadingKind {
    /// A gravity.
    Gravity,
    /// Float below the scale.
    BelowScale,
    /// Float above the scale.
    AboveScale,
    /// Not read.
    NotRead,
    /// Takes an entry back.
    Withdrawn,
}

impl ReadingKind {
    fn key(self) -> &'static str {
        match self {
            Self::Gravity => "gravity",
            Self::BelowScale => "below_scale",
            Self::AboveScale => "above_scale",
            Self::NotRead => "not_read",
            Self::Withdrawn => "withdrawn",
        }
    }

    fn from_key(key: &str) -> Result<Self, DbError> {
        [Self::Gravity, Self::BelowScale, Self::AboveScale, Self::NotRead, Self::Withdrawn]
            .into_iter()
            .find(|k| k.key() == key)
            .ok_or_else(|| DbError::BadRow { what: "reading", why: format!("unknown kind {key}") })
    }
}

/// An entry to append.
#[derive(Debug, Clone, PartialEq)]
pub struct NewReading {
    /// Its id, made by the device.
    pub id: String,
    /// The cell by its address.
    pub cell: CellAddress,
    /// Kind.
    pub kind: ReadingKind,
    /// Gravity as read.
    pub gravity: Option<SpecificGravity>,
    /// As typed.
    pub typed: Option<String>,
    /// Temperature taken at this cell.
    pub temperature: Option<Temperature>,
    /// As typed, with its unit.
    pub temperature_typed: Option<(String, TemperatureUnit)>,
    /// Why it was not read.
    pub reason: Option<String>,
    /// True when the technician says it stands.
    pub stands: bool,
    /// The entry it takes the place of, or takes back.
    pub supersedes: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When, by the device.
    pub taken_at: Timestamp,
    /// The request as sent.
    pub sent: String,
}

/// A stored entry.
#[derive(Debug, Clone, PartialEq)]
pub struct StoredReading {
    /// Its id.
    pub id: String,
    /// The cell by its address now.
    pub cell: CellAddress,
    /// Kind.
    pub kind: ReadingKind,
    /// Gravity as read.
    pub gravity: Option<SpecificGravity>,
    /// As typed.
    pub typed: Option<String>,
    /// Temperature taken at this cell.
    pub temperature: Option<Temperature>,
    /// As typed, with its unit ("C" or "F").
    pub temperature_typed: Option<(String, String)>,
    /// Why it was not read.
    pub reason: Option<String>,
    /// True when the technician says it stands.
    pub stands: bool,
    /// The entry it takes the place of.
    pub supersedes: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When, by the device.
    pub taken_at: Timestamp,
    /// True when nothing took its place.
    pub standing: bool,
}

impl From<NewReading> for StoredReading {
    fn from(new: NewReading) -> Self {
        Self {
            id: new.id,
            cell: new.cell,
            kind: new.kind,
            gravity: new.gravity,
            typed: new.typed,
            temperature: new.temperature,
            temperature_typed: new.temperature_typed.map(|(text, unit)| (text, unit_key(unit).to_owned())),
            reason: new.reason,
            stands: new.stands,
            supersedes: new.supersedes,
            person: new.person,
            device: new.device,
            taken_at: new.taken_at,
            standing: true,
        }
    }
}

impl StoredReading {
    /// As the core judges it; none for a withdrawal.
    pub fn record(&self) -> Option<CellRecord> {
        let reading = match self.kind {
            ReadingKind::Gravity => CellReading::Gravity { read: self.gravity? },
            ReadingKind::BelowScale => CellReading::BelowScale,
            ReadingKind::AboveScale => CellReading::AboveScale,
            ReadingKind::NotRead => CellReading::NotRead { reason: self.reason.clone().unwrap_or_default() },
            ReadingKind::Withdrawn => return None,
        };
        Some(CellRecord { cell: self.cell, reading, temperature: self.temperature, stands: self.stands })
    }

    /// Appends an entry; the same body again is already there.
    pub(crate) fn append(
        tx: &Transaction<'_>,
        round: &RoundRow,
        new: &NewReading,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        if let Some(before) = super::sent_before(tx, "reading", &new.id)? {
            return super::same_or_conflict("reading", &new.id, &before, &new.sent);
        }
        let bank = BankRow::by_id(tx, &round.bank_id)?;
        let no_place = || DbError::NoSuchPlace { bank: bank.name.clone(), address: new.cell.to_string() };
        let block: String = tx
            .prepare_cached(
                "SELECT block_id FROM placement WHERE bank_id = ?1 AND battery = ?2 AND from_day <= ?3 \
                 AND (to_day IS NULL OR to_day > ?3)",
            )?
            .query_row((&round.bank_id, new.cell.battery.to_string(), round.day().to_string()), |row| {
                row.get(0)
            })
            .map_err(|e| if e == rusqlite::Error::QueryReturnedNoRows { no_place() } else { e.into() })?;
        if !bank.shape.contains(new.cell) {
            return Err(no_place());
        }
        Self::insert(tx, round, &block, new, now)
    }

    /// Appends an entry whose block is known and whose id is new.
    pub(crate) fn insert(
        tx: &Transaction<'_>,
        round: &RoundRow,
        block: &str,
        new: &NewReading,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        tx.prepare_cached(
            "INSERT INTO reading (id, round_id, block_id, cell, kind, gravity, typed, temperature, temperature_typed, \
             temperature_unit, reason, stands, supersedes, person, device, taken_at, received_at, sent) \
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, \
             (SELECT id FROM reading WHERE id = ?13 AND round_id = ?2), ?14, ?15, ?16, ?17, ?18)",
        )?
        .execute(rusqlite::params![
            new.id,
            round.id,
            block,
            new.cell.cell,
            new.kind.key(),
            new.gravity.map(SpecificGravity::value),
            new.typed,
            new.temperature.map(Temperature::celsius),
            new.temperature_typed.as_ref().map(|(text, _)| text),
            new.temperature_typed.as_ref().map(|(_, unit)| unit_key(*unit)),
            new.reason,
            new.stands,
            new.supersedes,
            new.person,
            new.device,
            new.taken_at.to_string(),
            now.to_string(),
            new.sent,
        ])?;
        if round.finished_at.is_some() {
            super::forget::forget_since(tx, &round.bank_id, round.started_at)?;
        }
        Ok(Written::Created)
    }

    /// Every entry of a round in the order received, each knowing whether it stands.
    pub(crate) fn of_round(db: &Connection, round: &RoundRow) -> Result<Vec<Self>, DbError> {
        // The places of that day: a block that left since still tells this round.
        Self::at(db, round, &BankRow::blocks_on(db, &round.bank_id, round.day())?)
    }

    /// The same, told of the places that the blocks have here; what stands in none of them is left out.
    pub(crate) fn at(
        db: &Connection,
        round: &RoundRow,
        places: &HashMap<String, BatteryAddress>,
    ) -> Result<Vec<Self>, DbError> {
        let mut rows = Vec::new();
        let mut query = db.prepare_cached(
            "SELECT id, block_id, cell, kind, gravity, typed, temperature, temperature_typed, temperature_unit, \
             reason, stands, supersedes, person, device, taken_at FROM reading WHERE round_id = ? ORDER BY seq",
        )?;
        let mut found = query.query([&round.id])?;
        while let Some(row) = found.next()? {
            let block: String = row.get(1)?;
            let Some(battery) = places.get(&block) else { continue };
            let bad = |why: String| DbError::BadRow { what: "reading", why };
            let gravity: Option<f64> = row.get(4)?;
            let temperature: Option<f64> = row.get(6)?;
            let typed: Option<String> = row.get(7)?;
            let unit: Option<String> = row.get(8)?;
            rows.push(Self {
                id: row.get(0)?,
                cell: CellAddress { battery: *battery, cell: row.get(2)? },
                kind: ReadingKind::from_key(&row.get::<_, String>(3)?)?,
                gravity: gravity.map(SpecificGravity::new).transpose().map_err(|e| bad(e.to_string()))?,
                typed: row.get(5)?,
                temperature: temperature
                    .map(Temperature::from_celsius)
                    .transpose()
                    .map_err(|e| bad(e.to_string()))?,
                temperature_typed: typed.zip(unit),
                reason: row.get(9)?,
                stands: row.get(10)?,
                supersedes: row.get(11)?,
                person: row.get(12)?,
                device: row.get(13)?,
                taken_at: instant(&row.get::<_, String>(14)?)?,
                standing: false,
            });
        }
        Self::mark_standing(&mut rows);
        Ok(rows)
    }

    /// Tells every entry of a round, in the order received, whether it stands.
    pub(crate) fn mark_standing(rows: &mut [Self]) {
        let entries: Vec<LogEntry> = rows
            .iter()
            .map(|r| LogEntry {
                supersedes: r.supersedes.clone(),
                withdraws: r.kind == ReadingKind::Withdrawn,
                ..LogEntry::records(&r.id)
            })
            .collect();
        let stand: HashSet<String> = standing(&entries).into_iter().collect();
        for row in rows {
            row.standing = stand.contains(&row.id);
        }
    }

    /// What stands at each cell, as the core judges it; where two people read one cell, the later.
    pub(crate) fn records(rows: &[Self]) -> Vec<CellRecord> {
        let mut by_cell: HashMap<CellAddress, CellRecord> = HashMap::new();
        for record in rows.iter().filter(|r| r.standing).filter_map(Self::record) {
            by_cell.insert(record.cell, record);
        }
        let mut records: Vec<CellRecord> = by_cell.into_values().collect();
        records.sort_by_key(|r| r.cell);
        records
    }
}

/// How a temperature unit is written in a row and in files.
pub(crate) fn unit_key(unit: TemperatureUnit) -> &'static str {
    match unit {
        TemperatureUnit::Celsius => "C",
        TemperatureUnit::Fahrenheit => "F",
    }
}
