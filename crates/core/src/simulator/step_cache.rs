//! What hardly changes from step to step, kept instead of worked out anew.

use crate::discharge::capacity_share;

/// Gassing by temperature around 25 °C.
const GASSING_HEAT: f64 = 0.06;

/// `exp(−x)` for `x` not below zero; short steps make it small, where three terms are exact enough.
pub(super) fn decay(x: f64) -> f64 {
    if x < 2e-3 { 1.0 - x * (1.0 - x * (0.5 - x / 6.0)) } else { (-x).exp() }
}

/// What depends on the length of a step alone.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Pace {
    pub(super) hours: f64,
    /// Surface charge while charging, and at rest.
    pub(super) charging: f64,
    pub(super) resting: f64,
    /// Of the lagged discharge rate.
    pub(super) lagged: f64,
}

impl Pace {
    pub(super) fn of(hours: f64) -> Self {
        Self { hours, charging: decay(hours / 0.25), resting: decay(hours / 2.5), lagged: decay(hours / 0.3) }
    }
}

/// What a discharge rate does, kept while it hardly moves.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Knee {
    /// The lagged rate, and the share of capacity that it leaves.
    pub(super) lagged: f64,
    pub(super) share: f64,
    /// The rate, and the volts that the plates are polarized by.
    pub(super) rate: f64,
    pub(super) polarized: f64,
}

pub(super) fn polarized(rate: f64) -> f64 {
    0.012 * (rate / 0.01).asinh()
}

/// What depends on the temperature alone, kept while it hardly moves.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Heat {
    pub(super) at: f64,
    /// 2^((T − 25)/10).
    pub(super) doubling: f64,
    /// Of resistance on charge.
    pub(super) charging: f64,
    /// Of resistance on discharge.
    pub(super) discharging: f64,
    /// Of gassing.
    pub(super) gassing: f64,
    /// Share of capacity.
    pub(super) share: f64,
}

impl Heat {
    pub(super) fn of(celsius: f64) -> Self {
        let off = celsius - 25.0;
        Self {
            at: celsius,
            doubling: (off / 10.0).exp2(),
            charging: (-0.03 * (celsius.min(45.0) - 25.0)).exp(),
            discharging: (-0.012 * off).exp(),
            gassing: (GASSING_HEAT * off).exp(),
            share: capacity_share(celsius),
        }
    }
}
