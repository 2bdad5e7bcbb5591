//! When the outage outlasts the bank: other batteries in its place, what fits and for how long.

use super::asked::RuntimeAsked;
use super::error::RuntimeError;
use crate::discharge::{capacity_share, peukert_hours};
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// How deep a starting battery is drawn as a stand-in, per cent: deeper it takes harm at once (common practice, no source).
pub const STAND_IN_DEPTH: f64 = 50.0;
/// Health that a borrowed battery is taken to have, per cent (our choice, no source).
const HEALTH: f64 = 80.0;
/// Peukert's exponent of a starting battery (common practice, no source).
const EXPONENT: f64 = 1.15;

/// Batteries at hand.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StandIn {
    /// Nominal volts of one.
    pub volts: u16,
    /// Capacity at the 20-hour rate of one, Ah.
    pub ampere_hours: f64,
}

/// Why they do not fit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("batteries of {volts} V make no {bank} V in series")]
pub struct StandInRefused {
    /// Of one.
    pub volts: u16,
    /// Of the bank.
    pub bank: u16,
}

/// What they buy.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StandInHours {
    /// How many in series.
    pub series: u16,
    /// For how long, h.
    pub hours: f64,
}

/// What batteries in the place of the bank buy, at its mean load and temperature, half drawn.
///
/// # Errors
/// [`RuntimeError`] for what cannot be; inside, [`StandInRefused`] where they do not make its volts.
pub fn stand_in(
    asked: &RuntimeAsked,
    own: StandIn,
) -> Result<Result<StandInHours, StandInRefused>, RuntimeError> {
    asked.check()?;
    bounds::CAPACITY.check(own.ampere_hours)?;
    let bank = asked.shape.system_voltage;
    if own.volts == 0 || !bank.is_multiple_of(own.volts) {
        return Ok(Err(StandInRefused { volts: own.volts, bank }));
    }
    let stretches = asked.load.stretches(asked.inverter, f64::from(bank));
    let count = stretches.iter().map(|_| 1.0).sum::<f64>();
    let amperes = stretches.iter().map(|own| own.amperes).sum::<f64>() / count;
    let share = capacity_share(asked.temperature).min(1.0);
    let hours =
        peukert_hours(own.ampere_hours, amperes, EXPONENT) * HEALTH / 100.0 * share * STAND_IN_DEPTH / 100.0;
    Ok(Ok(StandInHours { series: bank / own.volts, hours }))
}
