//! CT-1: what share of its rated time a battery or a bank lasted.

use super::rated_time::{RatedTime, rated_current, rated_time};
use super::temperature_factor::{TESTABLE, sizing_factor, test_factor};
use crate::battery_model::BatteryModel;
use crate::quantity::{OutOfRange, Temperature, bounds};
use crate::schedule::Duty;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Under so many rated hours the current is adjusted, from it on the time (source key `ieee-450`, from memory).
const RATE_ADJUSTED_UNDER: f64 = 1.0;
/// Share of the rated time that a test must have run to tell anything before its end (our choice, no source).
const TOO_SHORT: f64 = 0.05;
/// What the factors may be off, as they are remembered.
const FACTOR_OFF: f64 = 0.005;
/// What the temperature of the electrolyte may be off, °C (our choice, no source).
const TEMPERATURE_OFF: f64 = 1.0;

/// What was drawn.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Drawn {
    /// One current.
    Constant {
        /// Current of the bank, A.
        amperes: f64,
        /// Hours it was drawn.
        hours: f64,
    },
    /// A current that was read from time to time.
    Changing {
        /// Hours since the start and the bank's current, A, in order.
        readings: Vec<[f64; 2]>,
    },
}

/// A timed discharge.
#[derive(Debug, Clone, PartialEq)]
pub struct CapacityTest<'a> {
    /// The battery model.
    pub model: &'a BatteryModel,
    /// Strings that share the current, 1 to 12.
    pub strings: u8,
    /// What was drawn.
    pub drawn: &'a Drawn,
    /// Mean electrolyte temperature at the start; none: nobody took it.
    pub temperature: Option<Temperature>,
    /// True when the end voltage was reached; false when it was stopped before.
    pub reached_end: bool,
}

/// Why a test cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum CapacityTestError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Nothing to reckon with.
    #[error("two readings of the current are needed at least; {0} is given")]
    TooFewReadings(usize),
    /// The clock went back.
    #[error("reading {row} comes before the one above it; the hours since the start rise")]
    ClockWentBack {
        /// Row, counted from one.
        row: usize,
    },
}

/// How the result was reckoned.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CapacityMethod {
    /// The time against the rated one, for tests of an hour and more.
    TimeAdjusted,
    /// The current against the one published for the time reached, for shorter ones.
    RateAdjusted,
    /// The share used up in each stretch of a changing current.
    ByStretches,
}

/// Why no percentage is told.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NotTold {
    /// Nobody took the temperature.
    TemperatureUnknown,
    /// Too cold or too hot for the factors.
    TemperatureOutside,
    /// Stopped before it could tell anything.
    TooShort,
}

/// What a test came to.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CapacityResult {
    /// Per cent of the rated capacity; none: not told.
    pub percent: Option<f64>,
    /// The range it lies in, per cent; for a test that was stopped the upper end is open.
    pub range: Option<[f64; 2]>,
    /// True when it was stopped before the end: it has that much at least.
    pub at_least: bool,
    /// How it was reckoned.
    pub method: CapacityMethod,
    /// Rated time at the mean current.
    pub rated: RatedTime,
    /// Hours it ran.
    pub hours: f64,
    /// Ampere-hours that were drawn.
    pub ampere_hours: f64,
    /// Temperature factor that was used; none: not told.
    pub factor: Option<f64>,
    /// Why no percentage is told.
    pub not_told: Option<NotTold>,
}

/// Stretches as mean current, A, and hours.
fn stretches(drawn: &Drawn) -> Result<Vec<(f64, f64)>, CapacityTestError> {
    match drawn {
        Drawn::Constant { amperes, hours } => {
            Ok(vec![(bounds::TEST_CURRENT.check(*amperes)?, bounds::TEST_HOURS.check(*hours)?)])
        }
        Drawn::Changing { readings } => {
            if readings.len() < 2 {
                return Err(CapacityTestError::TooFewReadings(readings.len()));
            }
            for [hours, amperes] in readings {
                bounds::TEST_HOURS_SINCE.check(*hours)?;
                bounds::TEST_CURRENT.check(*amperes)?;
            }
            let back = readings.windows(2).position(|pair| pair[1][0] <= pair[0][0]);
            if let Some(row) = back {
                return Err(CapacityTestError::ClockWentBack { row: row + 2 });
            }
            let of = |pair: &[[f64; 2]]| (pair[0][1].midpoint(pair[1][1]), pair[1][0] - pair[0][0]);
            Ok(readings.windows(2).map(of).collect())
        }
    }
}

/// Judges a timed discharge (CT-1).
///
/// # Errors
/// [`CapacityTestError`] for what cannot have been.
pub fn capacity_test(test: &CapacityTest<'_>) -> Result<CapacityResult, CapacityTestError> {
    let strings = f64::from(test.strings.max(1));
    let all = stretches(test.drawn)?;
    let hours: f64 = all.iter().map(|(_, h)| h).sum();
    let ampere_hours: f64 = all.iter().map(|(a, h)| a * h).sum();
    let rated = rated_time(test.model, ampere_hours / hours / strings);
    let method = match test.drawn {
        Drawn::Changing { .. } => CapacityMethod::ByStretches,
        Drawn::Constant { .. } if rated.hours < RATE_ADJUSTED_UNDER => CapacityMethod::RateAdjusted,
        Drawn::Constant { .. } => CapacityMethod::TimeAdjusted,
    };
    let factor_at = |at: Temperature| match method {
        CapacityMethod::RateAdjusted if TESTABLE.contains(&at.celsius()) => sizing_factor(at),
        CapacityMethod::RateAdjusted => None,
        _ => test_factor(at),
    };
    let factor = test.temperature.and_then(factor_at);
    let not_told = match (test.temperature, factor) {
        _ if !test.reached_end && hours < TOO_SHORT * rated.hours => Some(NotTold::TooShort),
        (None, _) => Some(NotTold::TemperatureUnknown),
        (Some(_), None) => Some(NotTold::TemperatureOutside),
        _ => None,
    };
    let percent = factor.filter(|_| not_told.is_none()).map(|factor| match method {
        CapacityMethod::TimeAdjusted => 100.0 * hours / (rated.hours * factor),
        CapacityMethod::ByStretches => {
            let used: f64 = all.iter().map(|(a, h)| h / rated_time(test.model, a / strings).hours).sum();
            100.0 * used / factor
        }
        CapacityMethod::RateAdjusted => {
            let amperes = ampere_hours / hours / strings;
            100.0 * amperes * factor / rated_current(test.model, hours)
        }
    });
    let range = percent.zip(test.temperature).map(|(percent, at)| {
        let near = |by: f64| Temperature::from_celsius(at.celsius() + by).ok().and_then(factor_at);
        let one = factor.unwrap_or(1.0);
        let by_temperature = [near(-TEMPERATURE_OFF), near(TEMPERATURE_OFF)]
            .into_iter()
            .flatten()
            .map(|other| (other / one - 1.0).abs())
            .fold(0.0, f64::max);
        // Rated longer, it has less; by a share, independent of one another.
        let off =
            |rated_off: f64| (rated_off.powi(2) + by_temperature.powi(2) + (FACTOR_OFF / one).powi(2)).sqrt();
        let low = percent / (1.0 + off(rated.high / rated.hours - 1.0));
        let high = percent * (1.0 + off(rated.hours / rated.low - 1.0));
        [low, high]
    });
    Ok(CapacityResult {
        percent,
        range,
        at_least: !test.reached_end,
        method,
        rated,
        hours,
        ampere_hours,
        factor,
        not_told,
    })
}

/// Per cent at which a bank is watched, and at which it has to go: standby is replaced at 80 % (source key
/// `ieee-450`, from memory), cyclic duty ends at 60 to 50 % (common practice, no source).
pub const fn capacity_limits(duty: Duty) -> (f64, f64) {
    match duty {
        Duty::Standby => (90.0, 80.0),
        Duty::Cycled => (80.0, 60.0),
    }
}

/// How a bank of this duty stands by a result: never better than its evidence, and worse only where the whole
/// range is worse.
pub fn capacity_condition(result: &CapacityResult, duty: Duty) -> Severity {
    let (watch, act) = capacity_limits(duty);
    match (result.percent, result.range) {
        (Some(percent), Some(_)) if result.at_least => {
            if percent >= watch {
                Severity::Steady
            } else {
                Severity::NoReading
            }
        }
        (Some(percent), Some([_, high])) => {
            if high < act {
                Severity::Act
            } else if percent < watch {
                Severity::Watch
            } else {
                Severity::Steady
            }
        }
        _ => Severity::NoReading,
    }
}
