//! RD-5: who is different on a round.

use crate::bank::{BatteryAddress, CellAddress};
use serde::{Deserialize, Serialize};

/// A battery or a string low as a whole lies this far under the others, points (RD-5).
pub(super) const WHOLE_POINTS: f64 = 10.0;

/// Shape of a round: who is different.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "shape", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Shape {
    /// All cells alike.
    Even,
    /// One cell alone below an even bank.
    LoneCell {
        /// That cell.
        cell: CellAddress,
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
    /// Cells fall along a row from one end to the other: a warm or a cold end.
    Gradient {
        /// Low end of the row.
        low_end: CellAddress,
        /// High end of the row.
        high_end: CellAddress,
    },
    /// Too few cells to compare.
    TooFew,
}
