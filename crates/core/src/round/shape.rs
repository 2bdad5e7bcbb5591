//! RD-5: who is different on a round.

use crate::bank::{BatteryAddress, CellAddress};
use serde::{Deserialize, Serialize};

/// A battery or a string low as a whole lies this far under the others, points (RD-5).
pub(crate) const WHOLE_POINTS: f64 = 10.0;

/// On which side of its mates a cell stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Side {
    /// Below them.
    Low,
    /// Above them.
    High,
}

/// Shape of a round: who is different.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "shape", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Shape {
    /// All cells alike.
    Even,
    /// One cell alone beside an even bank.
    LoneCell {
        /// That cell.
        cell: CellAddress,
        /// Below or above it.
        side: Side,
    },
    /// Two or three cells of one side, each by itself.
    Cells {
        /// The cells.
        cells: Vec<CellAddress>,
        /// Below or above the bank.
        side: Side,
    },
    /// Two neighbours in one case: a leak through the partition.
    Pair {
        /// The two cells.
        cells: [CellAddress; 2],
    },
    /// One battery low as a whole.
    Battery {
        /// That battery.
        battery: BatteryAddress,
    },
    /// One string low as a whole.
    String {
        /// Its letter.
        letter: char,
    },
    /// None of these.
    Drift,
    /// Cells fall along the strings from one end to the other: a warm or a cold end.
    Gradient {
        /// Low end.
        low_end: CellAddress,
        /// High end.
        high_end: CellAddress,
    },
    /// Too few cells to compare.
    TooFew,
}
