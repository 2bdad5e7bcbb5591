//! An array where nobody told its plates.

use super::money::ON_CHARGE;

/// Watts for each kWh of a bank: a watt for each Ah of 12 V (our choice, no source).
const WATTS_PER_KWH: f64 = 1000.0 / 12.0;

/// Watts that the solar controller of a bank passes by its amperes; without one, as many as a bank of so many Ah and nominal
/// volts wants.
pub fn usual_array_watts(ampere_hours: f64, volts: f64, controller: Option<f64>) -> f64 {
    controller.map_or(WATTS_PER_KWH * ampere_hours * volts / 1000.0, |amperes| amperes * volts * ON_CHARGE)
}
