//! A judged round in a few figures, as far as a sentence about it needs them.

use super::assessment::Assessment;
use crate::quantity::Points;
use serde::{Deserialize, Serialize};

/// Charge under which a round that nobody proved full is far from it, per cent (CH-5; the figure is
/// common practice, no source).
pub const FAR_FROM_FULL: f64 = 85.0;

/// A judged round in a few figures.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoundSummary {
    /// Cells with a usable gravity; zero where the round was not judged.
    pub cells_judged: usize,
    /// Cells of the bank.
    pub cells_in_bank: usize,
    /// Highest less lowest.
    pub spread: Option<Points>,
    /// Charge at the median, per cent.
    pub charge: Option<f64>,
    /// True when a proven full charge tells how full it gets.
    pub proven_full: bool,
}

impl RoundSummary {
    /// Charge, per cent, where it is far from full and nothing proves that it gets there.
    pub fn far_from_full(&self) -> Option<f64> {
        self.charge.filter(|percent| *percent < FAR_FROM_FULL && !self.proven_full)
    }
}

impl Assessment {
    /// Its few figures.
    pub fn summary(&self) -> RoundSummary {
        RoundSummary {
            cells_judged: if self.centre.is_some() { self.cells_judged } else { 0 },
            cells_in_bank: self.cells_in_bank,
            spread: self.spread.map(|s| s.points),
            charge: self.state_of_charge.map(|s| s.percent),
            proven_full: self.level.is_some(),
        }
    }
}
