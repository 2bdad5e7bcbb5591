//! RD-7: an isolated string that reads a fraction of its voltage, and which link to look at.

use crate::bank::BatteryAddress;
use serde::{Deserialize, Serialize};

/// Volts of one cell that is shorted.
pub(super) const CELL: f64 = 2.1;
/// How near a missing voltage must come to a whole number of cells or batteries, as a share of a
/// cell (common practice, no source).
const NEAR: f64 = 0.35;
/// A string that lacks this much reads too little, volts.
pub const STRING_SHORT_VOLTS: f64 = CELL * (1.0 - NEAR);

/// What a string that reads too little has.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "fault", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Fault {
    /// About two volts a cell are missing.
    ShortedCells {
        /// How many cells.
        cells: u16,
    },
    /// One battery's volts are missing: bypassed or broken out.
    BatteryOut,
    /// Twice one battery's volts are missing: one stands reversed.
    BatteryReversed,
    /// The batteries add up, the string does not: an open or corroded link.
    OpenLink {
        /// The link is between this battery and the next, where volts were taken along the string.
        after: Option<BatteryAddress>,
    },
    /// Less than it should be, by none of these.
    Low,
}

/// What is wrong with a string that reads `volts` where `expected` is right. `batteries` are the
/// volts of its own batteries where all were read, `along` the volts from its positive post to the
/// negative post of each battery, in order.
pub fn string_fault(
    volts: f64,
    expected: f64,
    battery_volts: f64,
    batteries: Option<f64>,
    along: &[(BatteryAddress, f64)],
) -> Option<Fault> {
    let missing = expected - volts;
    if missing < STRING_SHORT_VOLTS {
        return None;
    }
    // Read one by one the batteries are all there: what is missing is lost between them.
    if batteries.is_some_and(|sum| sum - volts >= STRING_SHORT_VOLTS) {
        let after = along.windows(2).find_map(|pair| {
            let gained = pair[1].1 - pair[0].1;
            (gained < battery_volts / 2.0).then_some(pair[0].0)
        });
        return Some(Fault::OpenLink { after });
    }
    let near = |target: f64| (missing - target).abs() <= CELL * NEAR;
    if near(battery_volts) {
        return Some(Fault::BatteryOut);
    }
    if near(2.0 * battery_volts) {
        return Some(Fault::BatteryReversed);
    }
    let cells = (missing / CELL).round();
    if (missing - cells * CELL).abs() <= CELL * NEAR && cells <= 3.0 {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "one to three")]
        return Some(Fault::ShortedCells { cells: cells as u16 });
    }
    if volts < expected / 2.0 {
        return Some(Fault::OpenLink { after: None });
    }
    Some(Fault::Low)
}
