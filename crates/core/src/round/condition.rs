//! RD-8: the condition of a cell and of a bank.

use crate::instrument::{Limit, noise_of_a_cell};
use crate::quantity::Points;
use crate::severity::Severity;

/// Deviation within which a cell is steady, points (RD-8).
pub const STEADY_POINTS: f64 = 10.0;
/// A sinking cell acts at half the suspect limit, but never under this, points (RD-8).
const SINKING_FLOOR: f64 = 25.0;

/// Limits that give one cell its condition.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct CellLimits {
    /// Steady within this of the median.
    pub steady: Limit,
    /// Act this far below.
    pub suspect: Limit,
    /// Act this far below when the cell is sinking.
    pub sinking: Limit,
}

impl CellLimits {
    /// From the suspect limit of the house rules and the uncertainty of a deviation, for one cell among
    /// `cells` that were judged.
    pub(crate) fn new(suspect: Points, uncertainty: Points, cells: usize) -> Self {
        let noise = noise_of_a_cell(cells, uncertainty);
        let half = Points::new((suspect.value() / 2.0).max(SINKING_FLOOR));
        Self {
            steady: Limit::widened(Points::new(STEADY_POINTS), noise),
            suspect: Limit::widened(suspect, noise),
            sinking: Limit::widened(half, noise),
        }
    }

    /// The limit that makes this cell act.
    pub(crate) fn act(&self, sinking: bool) -> Limit {
        if sinking { self.sinking } else { self.suspect }
    }

    /// Condition of a cell that was read.
    pub(crate) fn judge(&self, deviation: Points, sinking: bool) -> Severity {
        if deviation.abs() <= self.steady.used {
            Severity::Steady
        } else if -deviation >= self.act(sinking).used {
            Severity::Act
        } else {
            Severity::Watch
        }
    }
}
