//! LT-3: minutes under the load of the system itself: what the volts do, and what the load and the inverter do.

use crate::quantity::{OutOfRange, bounds};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// V on 12 V beyond the expected drop: sound up to the first, watched above the second, weak above the third
/// (common practice, no source).
const BEYOND: [f64; 3] = [0.15, 0.4, 0.8];
/// A load so many times its plate is worn or blocked (common practice, no source).
const OVER_PLATE: f64 = 1.25;
/// Shares of the inverter's continuous limit that are watched and acted on (common practice, no source).
const OF_INVERTER: [f64; 2] = [0.8, 1.0];
/// What the inverter's output may be off: a share of its volts, and hertz (common practice, no source).
const OUTPUT_VOLTS: f64 = 0.10;
const OUTPUT_HERTZ: f64 = 1.0;

/// A load with what its plate says, A at the bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoadOnPlate {
    /// What it is: "pump".
    pub name: String,
    /// Current it draws, A.
    pub amperes: f64,
    /// Current on its plate, A; none: not known.
    #[serde(default)]
    pub plate: Option<f64>,
}

/// What an inverter gives, beside what it should.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct InverterOutput {
    /// Volts it gives.
    pub volts: f64,
    /// Volts it should give.
    pub nominal_volts: f64,
    /// Hertz it gives.
    pub hertz: f64,
    /// Hertz it should give.
    pub nominal_hertz: f64,
}

/// A real load.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RealLoad {
    /// Cells in series, 1 to 240.
    pub cells: u16,
    /// Capacity of the whole bank at 20 hours, Ah.
    pub c20: f64,
    /// Volts before the load, settled.
    pub before: f64,
    /// Volts at ten seconds; none: not read.
    #[serde(default)]
    pub at_ten_seconds: Option<f64>,
    /// Volts at five minutes.
    pub at_five_minutes: f64,
    /// Current of the whole bank, A.
    pub amperes: f64,
    /// The loads with their plates; may be empty.
    #[serde(default)]
    pub loads: Vec<LoadOnPlate>,
    /// Continuous limit of the inverter, A at the bank; none: not known.
    #[serde(default)]
    pub inverter_limit: Option<f64>,
    /// Output of the inverter on the bank; none: not read.
    #[serde(default)]
    pub output: Option<InverterOutput>,
    /// Output of the inverter while mains or a generator feed it; none: not read.
    #[serde(default)]
    pub output_on_mains: Option<InverterOutput>,
}

/// Why a test cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum RealLoadError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// More volts under the load than before it.
    #[error("{under:.2} V under the load and {before:.2} V before it; a load never raises volts")]
    Raised {
        /// V before.
        before: f64,
        /// V under the load.
        under: f64,
    },
}

/// What the volts say of the bank.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RealLoadSays {
    /// It holds as a sound one.
    Sound,
    /// Between sound and watch: told without a verdict.
    Between,
    /// It falls further than a sound one.
    Watch,
    /// It is weak.
    Weak,
}

/// A load against the limit of the inverter.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoadOverInverter {
    /// Share of the limit.
    pub share: f64,
    /// How that stands.
    pub condition: Severity,
}

/// A real load as judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RealLoadJudged {
    /// V on 12 V it fell.
    pub drop: f64,
    /// V on 12 V that a sound one falls.
    pub expected: f64,
    /// Volts of the whole bank down to which it is sound, from which it is watched, and weak.
    pub limits: [f64; 3],
    /// What the volts say.
    pub says: RealLoadSays,
    /// Condition of the bank by that.
    pub condition: Severity,
    /// Loads that draw more than their plates, by their place in the list: worn or blocked, no fault of the bank.
    pub over_plate: Vec<usize>,
    /// All of it against the inverter's limit; none: not known.
    pub inverter: Option<LoadOverInverter>,
    /// True where the inverter's output on the bank is off; none: not read.
    pub output_off: Option<bool>,
    /// True where its output on mains is off; none: not read.
    #[serde(default)]
    pub mains_off: Option<bool>,
}

/// V on 12 V that a sound bank falls under a load, by the share of C20 that it draws.
pub fn expected_drop(share_of_c20: f64) -> f64 {
    6.0 * (0.12 * share_of_c20 + 0.012 * (100.0 * share_of_c20).asinh())
}

fn possible(test: &RealLoad) -> Result<(), RealLoadError> {
    bounds::BANK_CELLS.check(f64::from(test.cells))?;
    bounds::BANK_CAPACITY.check(test.c20)?;
    bounds::TEST_CURRENT.check(test.amperes)?;
    let per_cell = |volts: f64| bounds::LOADED_CELL_VOLTS.check(volts / f64::from(test.cells));
    for volts in [Some(test.before), test.at_ten_seconds, Some(test.at_five_minutes)].into_iter().flatten() {
        per_cell(volts)?;
        if volts > test.before {
            return Err(RealLoadError::Raised { before: test.before, under: volts });
        }
    }
    for load in &test.loads {
        bounds::TEST_CURRENT.check(load.amperes)?;
        load.plate.map(|plate| bounds::TEST_CURRENT.check(plate)).transpose()?;
    }
    test.inverter_limit.map(|limit| bounds::TEST_CURRENT.check(limit)).transpose()?;
    for own in test.output.iter().chain(&test.output_on_mains) {
        bounds::MAINS_VOLTS.check(own.volts)?;
        bounds::MAINS_VOLTS.check(own.nominal_volts)?;
        bounds::HERTZ.check(own.hertz)?;
        bounds::HERTZ.check(own.nominal_hertz)?;
    }
    Ok(())
}

/// Judges a real load (LT-3).
///
/// # Errors
/// [`RealLoadError`] for what cannot have been.
pub fn judge_real_load(test: &RealLoad) -> Result<RealLoadJudged, RealLoadError> {
    possible(test)?;
    let twelves = f64::from(test.cells) / 6.0;
    let drop = (test.before - test.at_five_minutes) / twelves;
    let expected = expected_drop(test.amperes / test.c20);
    let beyond = drop - expected;
    let (says, condition) = match beyond {
        by if by <= BEYOND[0] + 1e-9 => (RealLoadSays::Sound, Severity::Steady),
        by if by <= BEYOND[1] + 1e-9 => (RealLoadSays::Between, Severity::NoReading),
        by if by <= BEYOND[2] + 1e-9 => (RealLoadSays::Watch, Severity::Watch),
        _ => (RealLoadSays::Weak, Severity::Act),
    };
    let over_plate = test
        .loads
        .iter()
        .enumerate()
        .filter(|(_, load)| load.plate.is_some_and(|plate| load.amperes > OVER_PLATE * plate));
    let inverter = test.inverter_limit.map(|limit| {
        let share = test.amperes / limit;
        let condition = match share {
            share if share > OF_INVERTER[1] => Severity::Act,
            share if share > OF_INVERTER[0] => Severity::Watch,
            _ => Severity::Steady,
        };
        LoadOverInverter { share, condition }
    });
    let off = |own: InverterOutput| {
        let volts = (own.volts / own.nominal_volts - 1.0).abs() > OUTPUT_VOLTS + 1e-9;
        volts || (own.hertz - own.nominal_hertz).abs() > OUTPUT_HERTZ + 1e-9
    };
    Ok(RealLoadJudged {
        drop,
        expected,
        limits: BEYOND.map(|by| test.before - (expected + by) * twelves),
        says,
        condition,
        over_plate: over_plate.map(|(at, _)| at).collect(),
        inverter,
        output_off: test.output.map(off),
        mains_off: test.output_on_mains.map(off),
    })
}
