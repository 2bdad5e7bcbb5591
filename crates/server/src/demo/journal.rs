//! What the simulator found when it lived through the years of a demo bank: the journal of its bank, as
//! the true state on the days that somebody came by. Journals are made by `rainshadow simulate years` and
//! ship with the program; readings are taken from them with the scatter of an instrument.

use crate::db::DbError;
use rainshadow_core::bank::BankShape;
use serde::{Deserialize, Serialize};

/// The state on a morning, and what went before.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct DayFound {
    /// Days before the day of the demo.
    pub days_ago: i64,
    /// Electrolyte, mean of all cells, °C.
    pub celsius: f64,
    /// True when the charger came to its end before the rest.
    pub full: bool,
    /// Cells in electrical order.
    pub cells: Vec<CellFound>,
    /// Internal resistance of each battery, mΩ.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub milliohms: Vec<f64>,
}

impl DayFound {
    /// What a thermometer in the electrolyte shows, °C.
    pub fn thermometer(&self) -> f64 {
        (self.celsius * 2.0).round() / 2.0
    }

    /// Volts of the bank at rest, to a hundredth: its strings settle to one.
    pub fn bank_volts(&self, shape: &BankShape) -> f64 {
        let all: f64 = self.cells.iter().map(|cell| cell.volts()).sum();
        (all / f64::from(shape.parallel.max(1)) * 100.0).round() / 100.0
    }
}

/// One cell on that morning: gravity on top at the reference temperature, volts at rest, and mL lost
/// since the fill before.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct CellFound(pub f64, pub f64, pub f64);

impl CellFound {
    /// Gravity as a hydrometer draws it, at the reference temperature.
    pub const fn gravity(self) -> f64 {
        self.0
    }
    /// Volts at rest.
    pub const fn volts(self) -> f64 {
        self.1
    }
    /// Water lost since the fill before, mL.
    pub const fn lost(self) -> f64 {
        self.2
    }
}

/// A reading of a run, as its instruments show it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct RunFound {
    /// Minutes from the beginning.
    pub minute: i64,
    /// Gravity of the watched cells.
    pub gravities: Vec<f64>,
    /// Hottest cell, °C.
    pub celsius: f64,
    /// Volts of the bank.
    pub volts: f64,
    /// Amperes of the bank.
    pub amperes: f64,
}

/// One line of a journal.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Line {
    /// A morning on which somebody came by.
    Day(DayFound),
    /// A reading of an equalize that was logged, in order.
    Run(RunFound),
    /// Every cell an hour after that run.
    AfterRun(DayFound),
    /// A discharge at constant current to its cut-off.
    Discharge {
        /// Days before the day of the demo.
        days_ago: i64,
        /// Minutes until the cut-off.
        minutes: f64,
    },
}

/// The journal of a bank.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Journal(pub Vec<Line>);

impl Journal {
    /// Reads a journal, a line each.
    ///
    /// # Errors
    /// [`DbError::BadRow`] with the line that cannot be read.
    pub fn parse(text: &str) -> Result<Self, DbError> {
        let line = |(number, text): (usize, &str)| {
            serde_json::from_str(text).map_err(|e| DbError::BadRow {
                what: "journal of the demo",
                why: format!("line {}: {e}", number + 1),
            })
        };
        text.lines().enumerate().map(line).collect::<Result<_, _>>().map(Self)
    }

    /// The journal as text, a line each.
    ///
    /// # Errors
    /// [`DbError::BadRow`] for a figure that cannot be written.
    pub fn print(&self) -> Result<String, DbError> {
        let mut text = String::new();
        for line in &self.0 {
            text += &serde_json::to_string(line)
                .map_err(|e| DbError::BadRow { what: "journal of the demo", why: e.to_string() })?;
            text.push('\n');
        }
        Ok(text)
    }

    /// What was found on a day.
    pub fn day(&self, days_ago: i64) -> Option<&DayFound> {
        self.0.iter().find_map(|line| match line {
            Line::Day(day) if day.days_ago == days_ago => Some(day),
            _ => None,
        })
    }

    /// Readings of the run, in order.
    pub fn run(&self) -> impl Iterator<Item = &RunFound> {
        self.0.iter().filter_map(|line| if let Line::Run(run) = line { Some(run) } else { None })
    }

    /// Every cell an hour after the run.
    pub fn after_run(&self) -> Option<&DayFound> {
        self.0.iter().find_map(|line| if let Line::AfterRun(day) = line { Some(day) } else { None })
    }

    /// Minutes of the discharge of a day.
    pub fn minutes(&self, days_ago: i64) -> Option<f64> {
        self.0.iter().find_map(|line| match line {
            Line::Discharge { days_ago: own, minutes } if *own == days_ago => Some(*minutes),
            _ => None,
        })
    }
}
