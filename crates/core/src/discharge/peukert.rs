//! CT-2: how long a battery lasts at a current, by Peukert's equation.

use crate::battery_model::Construction;
use crate::quantity::{OutOfRange, bounds};
use thiserror::Error;

/// Hours of the rate that capacity is stated at.
pub const RATED_HOURS: f64 = 20.0;

/// Why two discharges tell no exponent.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum PeukertError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// The two are one rate.
    #[error("both discharges have the same current; an exponent needs two rates")]
    OneRate,
    /// The higher current lasts as long or longer.
    #[error(
        "{fast} A lasted {fast_hours} h and {slow} A only {slow_hours} h: a higher current never lasts longer"
    )]
    FasterLastsLonger {
        /// The higher current, A.
        fast: f64,
        /// How long it lasted, h.
        fast_hours: f64,
        /// The lower current, A.
        slow: f64,
        /// How long it lasted, h.
        slow_hours: f64,
    },
}

/// Exponents that are usual for a construction: the lowest, the middle, the highest (common practice, no source).
pub const fn usual_exponents(construction: Construction) -> [f64; 3] {
    match construction {
        Construction::Flooded | Construction::FloodedTubular => [1.10, 1.18, 1.25],
        Construction::Agm | Construction::Gel => [1.05, 1.10, 1.15],
    }
}

/// Hours that a capacity at the 20-hour rate, Ah, lasts at a current, A. Slower than rated nothing is credited
/// beyond the rated capacity.
pub fn peukert_hours(c20: f64, amperes: f64, exponent: f64) -> f64 {
    let own = RATED_HOURS * (c20 / (amperes * RATED_HOURS)).powf(exponent);
    own.min(c20 / amperes)
}

/// The exponent of two discharges of one model, each as current, A, and hours.
///
/// # Errors
/// [`PeukertError`] where they tell none.
pub fn exponent(one: (f64, f64), other: (f64, f64)) -> Result<f64, PeukertError> {
    for (amperes, hours) in [one, other] {
        bounds::TEST_CURRENT.check(amperes)?;
        bounds::RATE_HOURS.check(hours)?;
    }
    let (fast, slow) = if one.0 > other.0 { (one, other) } else { (other, one) };
    let apart = (fast.0 / slow.0).ln();
    if apart < 1e-6 {
        return Err(PeukertError::OneRate);
    }
    if fast.1 >= slow.1 {
        return Err(PeukertError::FasterLastsLonger {
            fast: fast.0,
            fast_hours: fast.1,
            slow: slow.0,
            slow_hours: slow.1,
        });
    }
    Ok((slow.1 / fast.1).ln() / apart)
}
