//! What is written down of a run, and what its feed tells.

use super::{Advice, BeforeCheck};
use crate::quantity::{OutOfRange, SpecificGravity, bounds};
use serde::{Deserialize, Serialize};

/// Why a run was paused.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PauseWhy {
    /// For a reading: five minutes, nobody leans over gassing cells.
    Reading,
    /// It has to cool.
    Heat,
    /// Something else.
    Other,
}

/// Why a run ended.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EndWhy {
    /// The rule said so: the gravity had stopped rising, or a stir's time was over.
    Rule,
    /// At the cap: stopped, not finished.
    Cap,
    /// Too hot.
    Heat,
    /// By the technician, before any of that.
    Hand,
}

impl EndWhy {
    /// Why a run that is stopped now ends.
    pub const fn by(advice: Advice) -> Self {
        match advice {
            Advice::Done | Advice::TimeOver => Self::Rule,
            Advice::Cap => Self::Cap,
            Advice::Abort => Self::Heat,
            Advice::GoOn | Advice::NotAnswering | Advice::Falling | Advice::Pause => Self::Hand,
        }
    }
}

/// One thing written down of a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "what", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RunEntry {
    /// Something was seen to before it began.
    Confirmed {
        /// What.
        check: BeforeCheck,
    },
    /// It was left out.
    Skipped {
        /// What.
        check: BeforeCheck,
        /// Why.
        reason: String,
    },
    /// The charger was switched to equalize.
    Began,
    /// A reading, whatever of it was taken.
    Read {
        /// Corrected gravity of each watched cell, pilot first; none: not read.
        gravities: Vec<Option<SpecificGravity>>,
        /// Hottest electrolyte, °C.
        celsius: Option<f64>,
        /// Volts of the bank.
        volts: Option<f64>,
        /// Current of the bank, A.
        amperes: Option<f64>,
    },
    /// The charger was paused.
    Paused {
        /// Why.
        why: PauseWhy,
    },
    /// It was switched on again.
    Resumed,
    /// The charger was stopped.
    Ended {
        /// Why.
        why: EndWhy,
    },
    /// A stop was taken back.
    TakenBack,
    /// The clock of the machine was set: it jumped by so many hours, which nobody waited.
    ClockSet {
        /// Hours; negative: back.
        hours: f64,
    },
    /// A note.
    Note {
        /// The text.
        text: String,
    },
    /// An earlier entry is taken back.
    Withdrawn {
        /// Its id.
        entry: String,
    },
}

impl RunEntry {
    /// The entry itself when every figure in it can be.
    ///
    /// # Errors
    /// [`OutOfRange`] with the figure and what is accepted.
    pub fn checked(self) -> Result<Self, OutOfRange> {
        match &self {
            Self::Read { celsius, volts, amperes, .. } => {
                celsius.map(|t| bounds::ELECTROLYTE_TEMPERATURE.check(t)).transpose()?;
                volts.map(|v| bounds::VOLTAGE.check(v)).transpose()?;
                amperes.map(|a| bounds::BANK_CURRENT.check(a)).transpose()?;
            }
            Self::ClockSet { hours } => {
                bounds::CLOCK_SET.check(*hours)?;
            }
            _ => {}
        }
        Ok(self)
    }
}

/// An entry and when it was made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoggedEntry {
    /// Its id.
    pub id: String,
    /// By the machine's clock, hours from the opening of the run.
    pub at: f64,
    /// What.
    pub entry: RunEntry,
}

/// A minute of a feed, as far as a run counts by it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FeedMinute {
    /// Hours from the opening of the run, by the machine's clock.
    pub at: f64,
    /// Hours it stands for.
    pub hours: f64,
    /// Mean current, A.
    pub amperes: f64,
    /// Mean volts.
    pub volts: f64,
    /// Mean temperature, °C.
    pub celsius: Option<f64>,
}

/// How far a run is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Phase {
    /// Before the charger was switched to equalize.
    Before,
    /// On.
    Running,
    /// Paused.
    Paused {
        /// Why.
        why: PauseWhy,
    },
    /// Over.
    Ended {
        /// Why.
        why: EndWhy,
    },
}

/// One reading with where it stands in the run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakenReading {
    /// Its entry.
    pub id: String,
    /// By the machine's clock, hours from the opening of the run.
    pub at: f64,
    /// Hours on equalize until then.
    pub hours: f64,
    /// Gravity of each watched cell, pilot first.
    pub gravities: Vec<Option<SpecificGravity>>,
    /// Their mean, when all were read.
    pub mean: Option<SpecificGravity>,
    /// Hottest electrolyte, °C.
    pub celsius: Option<f64>,
    /// Volts of the bank.
    pub volts: Option<f64>,
    /// Current of the bank, A.
    pub amperes: Option<f64>,
}
