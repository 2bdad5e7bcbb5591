//! One entry of a round, from the key that typed it to its row and back.

use super::{CellReading, CellRecord};
use crate::actor::Actor;
use crate::bank::CellAddress;
use crate::log::{LogEntry, standing};
use crate::quantity::units::TemperatureUnit;
use crate::quantity::{SpecificGravity, Temperature};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};
use strum::VariantArray;

/// What an entry records.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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
    /// As written in a row.
    pub fn key(self) -> &'static str {
        match self {
            Self::Gravity => "gravity",
            Self::BelowScale => "below_scale",
            Self::AboveScale => "above_scale",
            Self::NotRead => "not_read",
            Self::Withdrawn => "withdrawn",
        }
    }

    /// The kind of a key; none for a key that is none.
    pub fn of_key(key: &str) -> Option<Self> {
        Self::VARIANTS.iter().copied().find(|kind| kind.key() == key)
    }
}

/// One entry of a round.
#[derive(Debug, Clone, PartialEq)]
pub struct RoundEntry {
    /// Its id, made by the device.
    pub id: String,
    /// The cell by its address.
    pub cell: CellAddress,
    /// What it records.
    pub kind: ReadingKind,
    /// Gravity as read, for a gravity.
    pub gravity: Option<SpecificGravity>,
    /// The gravity as typed.
    pub typed: Option<String>,
    /// Temperature taken at this cell.
    pub temperature: Option<Temperature>,
    /// That temperature as typed, with its unit.
    pub temperature_typed: Option<(String, TemperatureUnit)>,
    /// Why it was not read.
    pub reason: Option<String>,
    /// True when the technician was asked and says that it stands.
    pub stands: bool,
    /// The entry it takes the place of, or takes back.
    pub supersedes: Option<String>,
    /// Who, on which device.
    pub by: Actor,
    /// When, by the device.
    pub taken_at: Timestamp,
    /// True as long as nothing took its place; told by [`RoundEntry::mark_standing`].
    pub standing: bool,
}

impl RoundEntry {
    /// A gravity, as far as it is new and stands.
    pub fn of_gravity(id: &str, cell: CellAddress, read: SpecificGravity, taken_at: Timestamp) -> Self {
        Self {
            id: id.to_owned(),
            cell,
            kind: ReadingKind::Gravity,
            gravity: Some(read),
            typed: None,
            temperature: None,
            temperature_typed: None,
            reason: None,
            stands: false,
            supersedes: None,
            by: Actor::default(),
            taken_at,
            standing: true,
        }
    }

    /// As it is judged; none for a withdrawal.
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

    /// Tells every entry of a round, in the order received, whether it stands.
    pub fn mark_standing(entries: &mut [Self]) {
        let log: Vec<LogEntry> = entries
            .iter()
            .map(|e| LogEntry {
                supersedes: e.supersedes.clone(),
                withdraws: e.kind == ReadingKind::Withdrawn,
                ..LogEntry::records(&e.id)
            })
            .collect();
        let stand: HashSet<String> = standing(&log).into_iter().collect();
        for entry in entries {
            entry.standing = stand.contains(&entry.id);
        }
    }

    /// What stands at each cell, in the order of the cells; where two people read one cell, the later.
    pub fn records(entries: &[Self]) -> Vec<CellRecord> {
        let mut by_cell: HashMap<CellAddress, CellRecord> = HashMap::new();
        for record in entries.iter().filter(|e| e.standing).filter_map(Self::record) {
            by_cell.insert(record.cell, record);
        }
        let mut records: Vec<CellRecord> = by_cell.into_values().collect();
        records.sort_by_key(|r| r.cell);
        records
    }
}
