//! RC-1: what brings a battery back that ran dry, as far as it comes back.

use crate::battery_model::BatteryModel;
use serde::{Deserialize, Serialize};

/// Current of the slow charge, as a share of C20: least and most (common practice, no source).
pub const CURRENT: [f64; 2] = [0.03, 0.05];
/// Volts of a cell that it never passes (common practice, no source).
pub const MOST_CELL_VOLTS: f64 = 2.70;
/// Hours that it takes, least and most (common practice, no source).
pub const HOURS: [f64; 2] = [24.0, 48.0];
/// Per cent of its capacity that one came back to which had dried out (common practice, no source): no promise.
pub const CAME_BACK: f64 = 60.0;

/// What is next with one that was found dry.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RecoveryStage {
    /// Its plates are to be covered, with water only.
    Cover,
    /// It is to be charged slowly.
    Charge,
    /// It is to rest, and to be loaded for some seconds.
    Load,
    /// A timed discharge is to tell what it holds.
    Prove,
}

/// The slow charge of a battery that ran dry.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SlowCharge {
    /// A, least and most.
    pub amperes: [f64; 2],
    /// V of the place that is charged, never passed.
    pub volts: f64,
    /// Hours, least and most.
    pub hours: [f64; 2],
}

/// The slow charge of so many cells in series of a model, one string of them.
pub fn slow_charge(model: &BatteryModel, cells: u16) -> SlowCharge {
    SlowCharge {
        amperes: CURRENT.map(|share| share * model.c20.ampere_hours()),
        volts: MOST_CELL_VOLTS * f64::from(cells),
        hours: HOURS,
    }
}
