//! What is written down of a timed discharge.

use crate::bank::BatteryAddress;
use crate::quantity::{OutOfRange, Temperature, bounds};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Most volts a cell ends at: a rested full one shows little more, so nothing would be drawn (our choice, no source).
pub const HIGHEST_END: f64 = 1.95;
/// Volts per cell that a discharge usually ends at (common practice, no source).
pub const USUAL_END: f64 = 1.75;

/// Currents of the minutes tests of carts, A (common practice, no source).
pub const MINUTES_TESTS: [f64; 3] = [25.0, 56.0, 75.0];

/// How a discharge is meant to run.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargePlan {
    /// Current of the place under test, A; none: the system's own load, whose current is read from time to time.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// Volts per cell it ends at, 1.0 to 1.95.
    pub end_per_cell: f64,
    /// Mean electrolyte or case temperature at the start; none: not taken.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<f64>))]
    pub temperature: Option<Temperature>,
    /// True when the charge before was proven full: only then the result is not a lower bound.
    #[serde(default)]
    pub proven_full: bool,
    /// Minutes between readings, 0.5 to 120.
    pub every_minutes: f64,
}

/// A figure of a plan that cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum DischargePlanError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// The end lies above what a full cell shows.
    #[error(
        "a discharge that ends at {0:.2} V a cell ends before it begins; accepted is 1.00 to 1.95 V a cell"
    )]
    EndTooHigh(f64),
}

impl DischargePlan {
    /// The plan itself when it can be.
    ///
    /// # Errors
    /// [`DischargePlanError`] with what is accepted.
    pub fn checked(self) -> Result<Self, DischargePlanError> {
        self.amperes.map(|a| bounds::TEST_CURRENT.check(a)).transpose()?;
        bounds::READING_MINUTES.check(self.every_minutes)?;
        if self.end_per_cell > HIGHEST_END {
            return Err(DischargePlanError::EndTooHigh(self.end_per_cell));
        }
        bounds::END_CELL_VOLTS.check(self.end_per_cell)?;
        Ok(self)
    }
}

/// Volts of one battery during a discharge.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargedBattery {
    /// Which.
    pub battery: BatteryAddress,
    /// V.
    pub volts: f64,
}

/// A reading, whatever of it was taken.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargeReading {
    /// Current, A.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// Volts of the place under test.
    #[serde(default)]
    pub volts: Option<f64>,
    /// Volts battery by battery.
    #[serde(default)]
    pub batteries: Vec<DischargedBattery>,
    /// Hottest electrolyte or case, °C.
    #[serde(default)]
    pub celsius: Option<f64>,
    /// True when asked about and kept.
    #[serde(default)]
    pub stands: bool,
}

impl DischargeReading {
    /// True when nothing of it was taken.
    pub fn is_empty(&self) -> bool {
        self.amperes.is_none() && self.volts.is_none() && self.batteries.is_empty() && self.celsius.is_none()
    }

    /// The reading itself when every figure in it can be; `cells` are those in series at the place, `of_battery`
    /// those of one battery.
    ///
    /// # Errors
    /// [`OutOfRange`] with the figure and what is accepted.
    pub fn checked(self, cells: u16, of_battery: u8) -> Result<Self, OutOfRange> {
        let per_cell =
            |volts: f64, cells: u16| bounds::LOADED_CELL_VOLTS.check(volts / f64::from(cells.max(1)));
        self.amperes.map(|a| bounds::TEST_CURRENT.check(a)).transpose()?;
        self.volts.map(|v| per_cell(v, cells)).transpose()?;
        for own in &self.batteries {
            per_cell(own.volts, u16::from(of_battery))?;
        }
        self.celsius.map(|c| bounds::ELECTROLYTE_TEMPERATURE.check(c)).transpose()?;
        Ok(self)
    }
}

/// One thing written down of a discharge.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "event", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DischargeEvent {
    /// The load was switched on.
    Begun {
        /// How it is meant to run.
        plan: DischargePlan,
    },
    /// A reading.
    Read {
        /// What was read.
        reading: DischargeReading,
    },
    /// The load was switched off, to be switched on again.
    Paused,
    /// It was switched on again.
    Resumed,
    /// The load was switched off for good.
    Ended,
    /// The clock of the machine was set, by so many hours that nobody waited.
    ClockSet {
        /// Hours; negative: back.
        hours: f64,
    },
    /// A discharge that was timed elsewhere, by a watch and a notebook.
    Noted {
        /// How it ran.
        plan: DischargePlan,
        /// Hours from full to the end, or until it was stopped.
        hours: f64,
        /// True when the end voltage was reached.
        reached_end: bool,
        /// Volts of batteries near its end, where they were read.
        #[serde(default)]
        batteries: Vec<DischargedBattery>,
    },
}

impl DischargeEvent {
    /// True for what the machine times by its own clock: phones go wrong.
    pub const fn is_timed_by_machine(&self) -> bool {
        !matches!(self, Self::Noted { .. })
    }
}

/// An event with when it was.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoggedEvent {
    /// Its entry.
    pub id: String,
    /// By the machine's clock, hours since the load was switched on.
    pub at: f64,
    /// What.
    pub event: DischargeEvent,
}
