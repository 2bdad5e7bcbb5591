//! WA-4: in which order to fill, so that plates never show and nothing boils over.

use super::{Level, LevelStep};
use crate::bank::CellAddress;
use crate::battery_model::BatteryModel;
use serde::{Deserialize, Serialize};

/// What to do with the water on this visit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "order", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FillOrder {
    /// No level is noted yet.
    LookFirst,
    /// Plates show: cover them now, charge fully, then fill to the mark.
    CoverFirst {
        /// The cells whose plates show or are about to.
        cells: Vec<CellAddress>,
    },
    /// Before an equalize the low cells are covered with margin, and filled to the mark after it.
    CoverForEqualize {
        /// The low cells.
        cells: Vec<CellAddress>,
    },
    /// Plates are covered and the bank is not full: charge, then fill.
    ChargeFirst {
        /// The cells under the mark.
        cells: Vec<CellAddress>,
    },
    /// Full and covered: fill to the mark now.
    FillNow {
        /// The cells under the mark.
        cells: Vec<CellAddress>,
    },
    /// Every cell is at the mark.
    NothingToFill,
}

/// The order for these levels. `full` says whether the bank was just charged full, `equalizing`
/// whether an equalize follows on this visit.
pub fn fill_order(
    levels: &[(CellAddress, Level)],
    model: &BatteryModel,
    full: bool,
    equalizing: bool,
) -> FillOrder {
    if levels.is_empty() {
        return FillOrder::LookFirst;
    }
    let those = |pick: fn(LevelStep) -> bool| -> Vec<CellAddress> {
        levels.iter().filter(|(_, level)| pick(level.step(model))).map(|(cell, _)| *cell).collect()
    };
    let showing = those(|step| step <= LevelStep::AtPlates);
    if !showing.is_empty() {
        return FillOrder::CoverFirst { cells: showing };
    }
    let under = those(|step| step <= LevelStep::Low);
    match (under.is_empty(), equalizing, full) {
        (true, _, _) => FillOrder::NothingToFill,
        (false, true, _) => FillOrder::CoverForEqualize { cells: under },
        (false, false, true) => FillOrder::FillNow { cells: under },
        (false, false, false) => FillOrder::ChargeFirst { cells: under },
    }
}
