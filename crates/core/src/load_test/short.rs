//! LT-2: ten or fifteen seconds under a heavy load, battery by battery.

use crate::bank::BatteryAddress;
use crate::interpolate::line;
use crate::quantity::{OutOfRange, Temperature, bounds};
use crate::round::median;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Volts that 12 V hold at least after 15 s of half the cranking rating, by °C (source key `bci`, from memory).
const LEAST: [[f64; 2]; 8] =
    [[-18.0, 8.5], [-12.0, 8.7], [-7.0, 8.9], [-1.0, 9.1], [4.0, 9.3], [10.0, 9.4], [16.0, 9.5], [21.0, 9.6]];
/// Volts of 12 V that are sound after ten seconds of a light tester (common practice, no source).
const LIGHT_TESTER: f64 = 10.0;
/// A battery so far under its mates, V on 12 V, is the suspect one (common practice, no source).
pub const UNDER_MATES: f64 = 0.3;
/// Charge that the test asks for, per cent (common practice, no source).
const CHARGED: f64 = 75.0;
/// Batteries from which the median of the mates is one; fewer are held against the best of them.
const FOR_A_MEDIAN: usize = 4;
/// Share of C20 where there is no cranking rating, and the most of it, A (common practice, no source).
const OF_C20: f64 = 0.5;
const MOST_AMPERES: f64 = 500.0;

/// What loads the battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TesterLoad {
    /// Half of the cranking rating, A.
    HalfCranking {
        /// Cold cranking amperes of one battery.
        rating: f64,
    },
    /// Half of the capacity, as amperes.
    HalfCapacity {
        /// Capacity at 20 hours of one battery, Ah.
        c20: f64,
    },
    /// The fixed load of a light tester.
    Fixed,
}

/// One battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShortLoadReading {
    /// Which.
    pub battery: BatteryAddress,
    /// Volts before the load.
    pub before: f64,
    /// Volts at the end of it.
    pub at_end: f64,
    /// Volts thirty seconds after it; none: not read.
    #[serde(default)]
    pub after: Option<f64>,
    /// Volts at the end of the same test when it was first made; none: not on record.
    #[serde(default)]
    pub first: Option<f64>,
}

/// A test of some batteries of a bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShortLoad {
    /// Cells of one battery, 1 to 6.
    pub cells: u8,
    /// What loads it.
    pub load: TesterLoad,
    /// Seconds of the load, 10 or 15.
    pub seconds: f64,
    /// Temperature of the batteries, °C; none: not taken.
    #[serde(default)]
    pub temperature: Option<Temperature>,
    /// Charge they stand at, per cent; none: not known.
    #[serde(default)]
    pub charged: Option<f64>,
    /// Battery by battery.
    pub batteries: Vec<ShortLoadReading>,
}

/// Why a test cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ShortLoadError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Nothing was read.
    #[error("no battery is read")]
    NoBattery,
    /// One battery twice.
    #[error("{0} is read twice; one reading a battery is taken")]
    Twice(BatteryAddress),
    /// More volts under the load than before it.
    #[error(
        "{battery} shows {at_end:.2} V under the load and {before:.2} V before it; a load never raises volts"
    )]
    Raised {
        /// Which.
        battery: BatteryAddress,
        /// V before.
        before: f64,
        /// V at the end.
        at_end: f64,
    },
}

/// One battery as judged.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShortLoadJudged {
    /// Which.
    pub battery: BatteryAddress,
    /// Volts at the end, as of 12 V.
    pub per_twelve: f64,
    /// Volts that it should have held at least, as of 12 V; none: this load has no such figure.
    pub least: Option<f64>,
    /// V on 12 V under its mates; 0 where it is not, none: it has none.
    pub under_mates: Option<f64>,
    /// V on 12 V under its own first test; none: not on record.
    pub under_first: Option<f64>,
    /// V on 12 V that it came back within thirty seconds; none: not read.
    pub came_back: Option<f64>,
    /// Its condition; no reading where the charge was too low, or nothing is there to hold it against.
    pub condition: Severity,
}

/// Volts that 12 V hold at least after 15 s of half the cranking rating; none outside −18 to 50 °C. Above 21 °C it is
/// that of 21 °C.
pub fn least_at_half_cranking(at: Temperature) -> Option<f64> {
    let celsius = at.celsius();
    (LEAST[0][0]..=50.0).contains(&celsius).then(|| line(&LEAST, 1, celsius.min(LEAST[7][0])))
}

/// The current to set, A; none for a tester whose load is fixed.
///
/// # Errors
/// [`OutOfRange`] for a rating or capacity that no battery has.
pub fn load_current(load: TesterLoad) -> Result<Option<f64>, OutOfRange> {
    Ok(match load {
        TesterLoad::HalfCranking { rating } => Some(bounds::CRANKING_CURRENT.check(rating)? / 2.0),
        TesterLoad::HalfCapacity { c20 } => Some((OF_C20 * bounds::CAPACITY.check(c20)?).min(MOST_AMPERES)),
        TesterLoad::Fixed => None,
    })
}

fn possible(test: &ShortLoad) -> Result<(), ShortLoadError> {
    load_current(test.load)?;
    bounds::CELLS.check(f64::from(test.cells))?;
    bounds::LOAD_SECONDS.check(test.seconds)?;
    test.charged.map(|percent| bounds::STATE_OF_CHARGE.check(percent)).transpose()?;
    if test.batteries.is_empty() {
        return Err(ShortLoadError::NoBattery);
    }
    let mut seen = std::collections::BTreeSet::new();
    for own in &test.batteries {
        if !seen.insert(own.battery) {
            return Err(ShortLoadError::Twice(own.battery));
        }
        for volts in [Some(own.before), Some(own.at_end), own.after, own.first].into_iter().flatten() {
            bounds::LOADED_CELL_VOLTS.check(volts / f64::from(test.cells))?;
        }
        if own.at_end > own.before {
            let ShortLoadReading { battery, before, at_end, .. } = *own;
            return Err(ShortLoadError::Raised { battery, before, at_end });
        }
    }
    Ok(())
}

/// Judges a short load (LT-2): against the table of the load, its mates and its own first test. In the order given.
///
/// # Errors
/// [`ShortLoadError`] for what cannot have been.
pub fn judge_short_load(test: &ShortLoad) -> Result<Vec<ShortLoadJudged>, ShortLoadError> {
    possible(test)?;
    let twelve = |volts: f64| 6.0 * volts / f64::from(test.cells);
    let least = match test.load {
        TesterLoad::HalfCranking { .. } => test.temperature.and_then(least_at_half_cranking),
        TesterLoad::Fixed => Some(LIGHT_TESTER),
        TesterLoad::HalfCapacity { .. } => None,
    };
    let charged = test.charged.is_none_or(|percent| percent >= CHARGED);
    let all: Vec<f64> = test.batteries.iter().map(|own| twelve(own.at_end)).collect();
    let mates = match all.len() {
        0 | 1 => None,
        n if n < FOR_A_MEDIAN => all.iter().copied().max_by(f64::total_cmp),
        _ => median(&mut all.clone()),
    };
    let judged = test.batteries.iter().map(|own| {
        let per_twelve = twelve(own.at_end);
        let under_mates = mates.map(|mates| (mates - per_twelve).max(0.0));
        let under_first = own.first.map(|first| twelve(first) - per_twelve);
        let under = |by: Option<f64>| by.is_some_and(|by| by > UNDER_MATES + 1e-9);
        let known = least.is_some() || mates.is_some() || under_first.is_some();
        let condition = if !charged || !known {
            Severity::NoReading
        } else if least.is_some_and(|least| per_twelve < least - 1e-9) {
            Severity::Act
        } else if under(under_mates) || under(under_first) {
            Severity::Watch
        } else {
            Severity::Steady
        };
        ShortLoadJudged {
            battery: own.battery,
            per_twelve,
            least,
            under_mates,
            under_first,
            came_back: own.after.map(|after| twelve(after) - per_twelve),
            condition,
        }
    });
    Ok(judged.collect())
}
