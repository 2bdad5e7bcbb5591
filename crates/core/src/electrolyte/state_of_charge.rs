//! SG-2: state of charge from corrected gravity.

use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// One row of a battery model's table: state of charge, gravity and, where printed, rest volts.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SocPoint {
    /// State of charge, per cent, 0 to 100.
    pub percent: f64,
    /// Gravity at the model's reference temperature.
    pub gravity: SpecificGravity,
    /// Settled volts of one cell, where the table prints them.
    pub cell_volts: Option<f64>,
}

/// Rows `(per cent, gravity, cell volts)` as published; volts 0 where the source prints none.
pub type SocTable = [(f64, f64, f64)];

/// General table: 1.265 to 1.120 in quarters (source key `bci`, from memory).
pub const GENERAL_TABLE: &SocTable =
    &[(100.0, 1.265, 0.0), (75.0, 1.225, 0.0), (50.0, 1.190, 0.0), (25.0, 1.155, 0.0), (0.0, 1.120, 0.0)];

/// A published deep-cycle table in tenths with rest volts per cell (source key `deep-cycle-table`,
/// from memory).
pub const DEEP_CYCLE_TABLE: &SocTable = &[
    (100.0, 1.277, 2.122),
    (90.0, 1.258, 2.103),
    (80.0, 1.238, 2.083),
    (70.0, 1.217, 2.062),
    (60.0, 1.195, 2.040),
    (50.0, 1.172, 2.017),
    (40.0, 1.148, 1.993),
    (30.0, 1.124, 1.969),
    (20.0, 1.098, 1.943),
    (10.0, 1.073, 1.918),
];

/// Which numbers turned gravity into charge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StateOfChargeBasis {
    /// The model's own table.
    ModelTable,
    /// Scaled between the model's full and discharged gravity.
    FullAndDischarged,
}

/// State of charge with what lies above full.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StateOfCharge {
    /// Per cent, 0 to 100: never more.
    pub percent: f64,
    /// Gravity above the full value: a finding, not 105 %.
    pub above_full: Points,
    /// Which numbers were used.
    pub basis: StateOfChargeBasis,
}

impl StateOfCharge {
    /// From a table of at least two rows, highest charge first; else scaled between full and
    /// discharged gravity. Gravity below the lowest row follows the last stretch down to 0 %.
    pub fn from_gravity(
        sg: SpecificGravity,
        table: &[SocPoint],
        full: SpecificGravity,
        discharged: SpecificGravity,
    ) -> Self {
        let (percent, top, basis) = if table.len() >= 2 {
            let below = table.iter().skip(1).position(|row| sg >= row.gravity);
            let i = below.unwrap_or(table.len() - 2);
            let (high, low) = (table[i], table[i + 1]);
            let share = (sg - low.gravity).value() / (high.gravity - low.gravity).value();
            (
                low.percent + share * (high.percent - low.percent),
                table[0].gravity,
                StateOfChargeBasis::ModelTable,
            )
        } else {
            let share = (sg - discharged).value() / (full - discharged).value();
            (100.0 * share, full, StateOfChargeBasis::FullAndDischarged)
        };
        Self { percent: percent.clamp(0.0, 100.0), above_full: (sg - top).max(Points::ZERO), basis }
    }
}
