//! RD-3 in a run: figures of a reading that are asked about before they count.

use super::plan::MOST_CURRENT;
use crate::charge::VOLTS_ON_CHARGE;
use crate::quantity::{Bounds, OutOfRange, Points, SpecificGravity, bounds};
use serde::{Deserialize, Serialize};

/// Change of one cell between two readings of a run that is asked about, points: no cell gains or
/// loses as much in half an hour (RD-3's limit against its own history).
const CHANGE: Points = Points::new(15.0);
/// Rise of temperature between two readings that is asked about, °C (common practice, no source).
const WARMED: f64 = 10.0;

/// What is asked.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "question", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RunQuestion {
    /// A cell moved more than cells do between two readings.
    Moved {
        /// Points; negative: it fell.
        by: Points,
        /// What it was compared with.
        before: SpecificGravity,
        /// What would not be asked about.
        within: Points,
    },
    /// The electrolyte warmed or cooled more than it does between two readings.
    Warmed {
        /// °C since the last reading.
        by: f64,
        /// °C then.
        before: f64,
    },
    /// More current than a run has.
    MuchCurrent {
        /// A.
        amperes: f64,
        /// A at most.
        most: f64,
    },
}

/// Volts of another bank, or of one battery of it.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error(
    "{volts:.1} V over {cells} cells in series is {per_cell:.2} V a cell; accepted is {low:.1} to {high:.1} V. Read over the whole string"
)]
pub struct NotThisBank {
    /// As read.
    pub volts: f64,
    /// Cells in series.
    pub cells: u16,
    /// What that is a cell.
    pub per_cell: f64,
    /// Lowest accepted.
    pub low: f64,
    /// Highest accepted.
    pub high: f64,
}

/// A cell against its last reading in this run; `noise` is the standard uncertainty of one, points.
pub fn moved(before: Option<SpecificGravity>, now: SpecificGravity, noise: Points) -> Option<RunQuestion> {
    let before = before?;
    let within = CHANGE.max(Points::new(3.0 * std::f64::consts::SQRT_2 * noise.value()));
    let by = now - before;
    (by.abs() > within).then_some(RunQuestion::Moved { by, before, within })
}

/// A temperature against the last one of this run, °C.
pub fn warmed(before: Option<f64>, now: f64) -> Option<RunQuestion> {
    let before = before?;
    let by = now - before;
    (by.abs() > WARMED).then_some(RunQuestion::Warmed { by, before })
}

/// A current of the bank against what a run has; `capacity` is that of the bank, Ah.
///
/// # Errors
/// [`OutOfRange`] for a current that cannot be.
pub fn much_current(amperes: f64, capacity: f64) -> Result<Option<RunQuestion>, OutOfRange> {
    const CURRENT: Bounds = bounds::BANK_CURRENT;
    let amperes = CURRENT.check(amperes)?;
    let most = MOST_CURRENT * capacity;
    Ok((amperes > most).then_some(RunQuestion::MuchCurrent { amperes, most }))
}

/// Volts of a bank on charge.
///
/// # Errors
/// [`NotThisBank`] for volts that so many cells cannot show.
pub fn volts_on_charge(volts: f64, cells: u16) -> Result<f64, NotThisBank> {
    let n = f64::from(cells.max(1));
    let (low, high) = (VOLTS_ON_CHARGE.start() * n, VOLTS_ON_CHARGE.end() * n);
    if (low..=high).contains(&volts) {
        return Ok(volts);
    }
    Err(NotThisBank { volts, cells, per_cell: volts / n, low, high })
}
