//! Whom a finding is about.

use crate::bank::{BatteryAddress, CellAddress};
use crate::equipment::SourceRef;
use crate::visit::Place;
use serde::{Deserialize, Serialize};
use std::fmt;

/// What hangs on a bank.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Equipment {
    /// What charges it.
    Charger,
    /// One of several that charge it.
    Source(SourceRef),
    /// The air around it.
    Air,
    /// What it feeds: loads and inverter.
    Load,
}

/// Whom a finding is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "subject", content = "which", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Subject {
    /// The whole bank.
    Bank,
    /// One string, by its letter.
    String(char),
    /// One battery.
    Battery(BatteryAddress),
    /// One cell.
    Cell(CellAddress),
    /// Something that hangs on it.
    Equipment(Equipment),
}

impl Subject {
    /// Whom a finding about these cells is about: the cell, their battery, or the bank.
    pub fn of_cells(cells: &[CellAddress]) -> Self {
        match cells {
            [one] => Self::Cell(*one),
            [first, ..] if cells.iter().all(|c| c.battery == first.battery) => Self::Battery(first.battery),
            _ => Self::Bank,
        }
    }

    /// Its place on the plan; none for equipment.
    pub fn battery(self) -> Option<BatteryAddress> {
        match self {
            Self::Battery(own) => Some(own),
            Self::Cell(own) => Some(own.battery),
            Self::Bank | Self::String(_) | Self::Equipment(_) => None,
        }
    }
}

impl From<Place> for Subject {
    fn from(place: Place) -> Self {
        match place {
            Place::Bank => Self::Bank,
            Place::String(string) => Self::String(crate::bank::string_letter(string)),
            Place::Battery(battery) => Self::Battery(battery),
            Place::Cell(cell) => Self::Cell(cell),
        }
    }
}

impl fmt::Display for Subject {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Bank => Ok(()),
            Self::String(letter) => write!(f, "{letter}"),
            Self::Battery(battery) => battery.fmt(f),
            Self::Cell(cell) => cell.fmt(f),
            Self::Equipment(Equipment::Charger) => f.write_str("charger"),
            Self::Equipment(Equipment::Source(source)) => write!(f, "charger {}", source.number),
            Self::Equipment(Equipment::Load) => f.write_str("load"),
            Self::Equipment(Equipment::Air) => f.write_str("air"),
        }
    }
}
