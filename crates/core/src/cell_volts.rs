//! CV-1: volts of single cells, where they can be reached.

use crate::bank::CellAddress;
use crate::battery_model::BatteryModel;
use crate::quantity::{OutOfRange, bounds};
use crate::rest::full_rest_volts;
use crate::round::median;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// V under the model's full after a proven full charge that ask for an equalize (common practice, no source).
pub const UNDER_FULL: f64 = 0.05;
/// V under the mates near the end of a discharge: the weak one (common practice, no source).
pub const UNDER_MATES: f64 = 0.10;
/// V of a vented cell on float under which it is acted on, and at once (source key `ieee-450`, from memory).
pub const ON_FLOAT: [f64; 2] = [2.13, 2.07];

/// What the bank did when the cells were read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CellVoltsWhen {
    /// It rested after a charge that was proven full.
    AtRestFull,
    /// On float.
    OnFloat,
    /// On charge, above float.
    OnCharge,
    /// Near the end of a discharge.
    NearEnd,
}

/// One cell as read.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellVolts {
    /// Which.
    pub cell: CellAddress,
    /// V.
    pub volts: f64,
}

/// What a cell is held against.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CellVoltsLimit {
    /// Volts that it should show at least.
    AtLeast,
    /// So far under its mates at most.
    UnderMates,
}

/// One cell as judged.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellVoltsJudged {
    /// Which.
    pub cell: CellAddress,
    /// V.
    pub volts: f64,
    /// V against the median of its mates: negative is under; none: fewer than three were read.
    pub against_mates: Option<f64>,
    /// Volts that it should show at least; none: this state has no such figure.
    pub least: Option<f64>,
    /// What it failed; none: nothing.
    pub fails: Option<CellVoltsLimit>,
    /// Its condition; no reading where nothing is there to hold it against.
    pub condition: Severity,
}

/// Cells from which the median is one.
const FOR_A_MEDIAN: usize = 3;

/// Volts that a cell shows at least in a state; none where only its mates tell.
pub fn least_volts(when: CellVoltsWhen, model: &BatteryModel) -> Option<f64> {
    match when {
        CellVoltsWhen::AtRestFull => Some(full_rest_volts(model) - UNDER_FULL),
        // The table is that of vented cells; sealed ones are held against their mates.
        CellVoltsWhen::OnFloat => model.construction.has_caps().then_some(ON_FLOAT[0]),
        CellVoltsWhen::OnCharge | CellVoltsWhen::NearEnd => None,
    }
}

/// Judges cells that were read in one state (CV-1), in the order given.
///
/// # Errors
/// [`OutOfRange`] for volts that no cell shows.
pub fn judge_cell_volts(
    when: CellVoltsWhen,
    model: &BatteryModel,
    read: &[CellVolts],
) -> Result<Vec<CellVoltsJudged>, OutOfRange> {
    for own in read {
        bounds::CELL_VOLTS.check(own.volts)?;
    }
    let mut all: Vec<f64> = read.iter().map(|own| own.volts).collect();
    let middle = (all.len() >= FOR_A_MEDIAN).then(|| median(&mut all)).flatten();
    let least = least_volts(when, model);
    let judged = read.iter().map(|own| {
        let against_mates = middle.map(|middle| own.volts - middle);
        let low = least.is_some_and(|least| own.volts < least - 1e-9);
        let under = against_mates.is_some_and(|by| by <= -UNDER_MATES + 1e-9);
        let (fails, condition) = match (low, under) {
            (true, _) if when == CellVoltsWhen::OnFloat => (Some(CellVoltsLimit::AtLeast), Severity::Act),
            (true, _) => (Some(CellVoltsLimit::AtLeast), Severity::Watch),
            (false, true) if when == CellVoltsWhen::NearEnd => {
                (Some(CellVoltsLimit::UnderMates), Severity::Act)
            }
            (false, true) => (Some(CellVoltsLimit::UnderMates), Severity::Watch),
            (false, false) if least.is_none() && middle.is_none() => (None, Severity::NoReading),
            (false, false) => (None, Severity::Steady),
        };
        CellVoltsJudged { cell: own.cell, volts: own.volts, against_mates, least, fails, condition }
    });
    Ok(judged.collect())
}
