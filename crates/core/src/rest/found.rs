//! RD-7 and SG-3: what volts at rest can show.

use super::Fault;
use crate::bank::BatteryAddress;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// What a rest check found.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, strum::IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RestFinding {
    /// A battery far below its mates: about two volts a cell are missing.
    CellsMissing {
        /// The battery.
        battery: BatteryAddress,
        /// Volts below the median battery.
        below: f64,
        /// Cells' worth.
        cells: u8,
    },
    /// A battery far under its mates by no whole number of cells.
    BatteryLow {
        /// The battery.
        battery: BatteryAddress,
        /// Volts below the median battery.
        below: f64,
        /// The limit, volts.
        limit: f64,
    },
    /// Batteries of a string rest too far apart.
    Apart {
        /// The string's letter.
        letter: char,
        /// Volts between highest and lowest.
        spread: f64,
        /// The limit, volts.
        limit: f64,
        /// Lowest battery.
        lowest: BatteryAddress,
        /// Highest battery.
        highest: BatteryAddress,
        /// True when the meter, not the rule, set the limit.
        by_meter: bool,
        /// True for batteries nobody can look into.
        #[serde(default)]
        sealed: bool,
    },
    /// A string reads too little.
    StringShort {
        /// Its letter.
        letter: char,
        /// Volts across it.
        volts: f64,
        /// Volts it should show.
        expected: f64,
        /// What fits.
        fault: Fault,
    },
    /// Strings rest too far apart.
    StringsApart {
        /// Letter of the lowest.
        lowest: char,
        /// Letter of the highest.
        highest: char,
        /// Volts between them.
        apart: f64,
        /// The limit, volts.
        limit: f64,
    },
    /// Batteries side by side rest too far apart.
    ParallelApart {
        /// Lowest battery.
        lowest: BatteryAddress,
        /// Highest battery.
        highest: BatteryAddress,
        /// Volts between them.
        apart: f64,
        /// The limit, volts.
        limit: f64,
    },
    /// A battery does not keep what it was charged with (HD-1).
    NotHolding {
        /// The battery.
        battery: BatteryAddress,
        /// Volts under full, per 12 V.
        under: f64,
        /// Hours since the full charge.
        hours: f64,
        /// True when it fails, false when it is watched.
        fails: bool,
    },
    /// Standing disconnected it loses more a day than such batteries and dirty tops together explain (HD-1, SD-1).
    LosesCharge {
        /// The battery; none: nearly all of them.
        battery: Option<BatteryAddress>,
        /// Per cent a day, the most of any.
        per_day: f64,
        /// Per cent a day that such a battery loses at most.
        usual: f64,
        /// Days between the two readings.
        days: f64,
    },
    /// No cell at rest stands so high: it is still charging, or the meter is off.
    NotAtRest {
        /// Volts per cell, the median battery.
        cell_volts: f64,
    },
    /// Volts and gravity of a battery tell different stories (SG-3).
    Disagrees {
        /// The battery.
        battery: BatteryAddress,
        /// Volts per cell as measured.
        measured: f64,
        /// Volts per cell its gravity leads to.
        expected: f64,
    },
    /// The whole bank rests low.
    LowCharge {
        /// Highest state of charge that fits.
        at_most: f64,
        /// Planned depth of discharge of the house rules, per cent.
        planned_depth: u8,
    },
}

impl RestFinding {
    /// How bad.
    pub fn severity(&self) -> Severity {
        match self {
            Self::CellsMissing { .. }
            | Self::BatteryLow { .. }
            | Self::StringShort { .. }
            | Self::NotHolding { fails: true, .. } => Severity::Act,
            _ => Severity::Watch,
        }
    }
}
