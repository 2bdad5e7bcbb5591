//! HD-1 against SD-1: what a disconnected battery lost a day, where the meter can tell at all.

use super::charge::AGM_TWELVE_VOLT;
use crate::battery_model::{BatteryModel, Construction};
use crate::quantity::Temperature;
use serde::{Deserialize, Serialize};

/// Days held from which a loss is held against what such batteries lose (common practice, no source).
pub const COMPARED_FROM_DAYS: f64 = 3.0;
/// Days of a month.
const MONTH: f64 = 30.4;
/// A battery that is older loses more: times the rate of a new one at most (common practice, no source).
const AGED: f64 = 2.0;
/// What dirty, wet tops may add a month, per cent (common practice, no source).
const DIRTY: f64 = 10.0;

/// Per cent a month that such a battery loses at a temperature, from least to most: it doubles with every 10 °C (SD-1;
/// common practice, no source).
pub fn usual_loss(construction: Construction, at: Temperature) -> [f64; 2] {
    let [low, high] = match construction {
        Construction::Flooded => [4.0, 8.0],
        Construction::FloodedTubular => [3.0, 5.0],
        Construction::Agm | Construction::Gel => [2.0, 3.0],
    };
    let warmer = 2f64.powf((at.celsius() - 25.0) / 10.0);
    [low * warmer, high * AGED * warmer]
}

/// Two readings of a disconnected battery.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Held {
    /// Volts at first, and later.
    pub volts: [f64; 2],
    /// Days between.
    pub days: f64,
    /// Cells between the posts.
    pub cells: f64,
    /// Standard uncertainty of the meter, V.
    pub meter: f64,
    /// Mean temperature meanwhile; none: not taken, 25 °C is taken.
    pub temperature: Option<Temperature>,
}

/// What a battery lost.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HeldLoss {
    /// Per cent a day; none: less than two readings of this meter tell.
    pub per_day: Option<f64>,
    /// Least per cent a day that they tell.
    pub least_told: f64,
    /// Per cent a day that such a battery loses, from least to most.
    pub usual: [f64; 2],
    /// True where it loses more than that and dirty tops together explain, or none where it was held too short to say.
    pub more_than_usual: Option<bool>,
}

/// Volts per cell between empty and full at rest.
fn span(model: &BatteryModel) -> f64 {
    if model.construction.has_caps() {
        (model.full_gravity.value() - model.discharged_gravity.value()).max(0.05)
    } else {
        (AGM_TWELVE_VOLT[0].0 - AGM_TWELVE_VOLT[4].0) / 6.0
    }
}

/// What a disconnected battery lost a day (HD-1): told only above 2√2 times what the meter may be off.
pub fn held_loss(held: &Held, model: &BatteryModel) -> HeldLoss {
    let percent = |volts: f64| 100.0 * volts / (held.cells * span(model));
    let fell = held.volts[0] - held.volts[1];
    let told = 2.0 * std::f64::consts::SQRT_2 * held.meter;
    let at = held.temperature.unwrap_or_else(|| BatteryModel::generic()[0].1.reference_temperature);
    let usual = usual_loss(model.construction, at).map(|month| month / MONTH);
    let per_day = (fell > told).then(|| percent(fell) / held.days);
    // What the meter may be off is taken from the loss before anything is called too much.
    let least = percent((fell - told).max(0.0)) / held.days;
    let more = (held.days >= COMPARED_FROM_DAYS).then(|| least > usual[1] + DIRTY / MONTH);
    HeldLoss { per_day, least_told: percent(told) / held.days, usual, more_than_usual: more }
}
