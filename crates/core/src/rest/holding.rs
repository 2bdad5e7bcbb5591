//! HD-1: whether a battery keeps what it was charged with.

use super::RestConditions;
use super::charge::AGM_TWELVE_VOLT;
use crate::battery_model::BatteryModel;
use serde::{Deserialize, Serialize};

/// Hours after a full charge from which volts tell whether it holds (HD-1).
pub const HOLDING_HOURS: f64 = 24.0;
/// As far under full it holds, volts per 12 V (HD-1).
pub const HOLDS_UNDER: f64 = 0.06;
/// Further than this under full it fails, volts per 12 V (HD-1).
pub const FAILS_UNDER: f64 = 0.21;
/// Gravity to rest volts of a cell, V (SG-3).
const REST_OVER_GRAVITY: f64 = 0.845;

/// Whether a battery holds its charge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Holds {
    /// It stands as a full one does.
    Holds,
    /// It stands lower, as one does that loses or was not quite full.
    Watch,
    /// It lost its charge.
    Fails,
}

/// Volts per cell at which the model rests when it is full: its own, by its full gravity, or those of its type.
pub fn full_rest_volts(model: &BatteryModel) -> f64 {
    let own = model.soc_table.iter().filter(|row| row.percent >= 100.0).find_map(|row| row.cell_volts);
    own.unwrap_or(if model.construction.has_caps() {
        model.full_gravity.value() + REST_OVER_GRAVITY
    } else {
        AGM_TWELVE_VOLT[0].0 / 6.0
    })
}

/// Hours since a full charge, where the volts of these conditions tell whether the bank holds it: fully charged,
/// disconnected since, and at least a day ago.
pub fn holding_hours(conditions: &RestConditions) -> Option<f64> {
    let told =
        conditions.charged_full && conditions.disconnected && !conditions.charging && !conditions.loaded;
    conditions.hours_since_charge.filter(|hours| told && *hours >= HOLDING_HOURS)
}

/// Volts against full, per 12 V.
pub fn against_full(volts: f64, cells: f64, model: &BatteryModel) -> f64 {
    6.0 * (volts / cells - full_rest_volts(model))
}

/// HD-1 for volts against full, per 12 V.
pub fn holds(against_full: f64) -> Holds {
    // A reading on the limit is within it, whatever the last bit says.
    if against_full >= -HOLDS_UNDER - 1e-9 {
        Holds::Holds
    } else if against_full >= -FAILS_UNDER - 1e-9 {
        Holds::Watch
    } else {
        Holds::Fails
    }
}
