//! HD-1 against SD-1: what a disconnected battery lost a day, where the meter can tell at all.

use super::charge::AGM_TWELVE_VOLT;
use super::{RestFinding, RestSheet};
use crate::bank::BatteryAddress;
use crate::battery_model::{BatteryModel, Construction};
use crate::quantity::Temperature;
use serde::{Deserialize, Serialize};

/// Days held from which a loss is held against what such batteries lose (common practice, no source).
pub const COMPARED_FROM_DAYS: f64 = 3.0;
/// Days of a month.
const MONTH: f64 = 30.4;
/// A battery that is older loses more: times the rate of a new one at most (common practice, no source).
const AGED: f64 = 2.0;
/// What a voltmeter may be off on the posts of a battery, V (HD-1).
pub const METER_ON_POSTS: f64 = 0.01;
/// Where this share of the batteries loses too much, it is the bank that does (our choice, no source).
const ALL_OF_THEM: f64 = 0.75;
/// What dirty, wet tops may add, per cent a day (10 a month; common practice, no source).
pub const DIRTY_PER_DAY: f64 = 10.0 / MONTH;

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
    let more = (held.days >= COMPARED_FROM_DAYS).then(|| least > usual[1] + DIRTY_PER_DAY);
    HeldLoss { per_day, least_told: percent(told) / held.days, usual, more_than_usual: more }
}

/// What one battery lost while it stood disconnected.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatteryLoss {
    /// The battery.
    pub battery: BatteryAddress,
    /// What it lost.
    pub loss: HeldLoss,
}

/// What a bank lost while it stood disconnected.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HeldOver {
    /// Days between the two readings.
    pub days: f64,
    /// Battery by battery, those that were read twice.
    pub losses: Vec<BatteryLoss>,
}

/// What the batteries of a rest check lost since the reading before it (HD-1); none where there was none.
pub(super) fn held_over(sheet: &RestSheet) -> Option<HeldOver> {
    let held = sheet.held.as_ref().filter(|held| held.days > 0.0)?;
    let loss = |battery, volts: f64| {
        let (_, before) = held.volts.iter().find(|(own, _)| *own == battery)?;
        let read = Held {
            volts: [*before, volts],
            days: held.days,
            cells: f64::from(sheet.shape.cells_per_battery),
            meter: METER_ON_POSTS,
            temperature: sheet.conditions.temperature,
        };
        Some(BatteryLoss { battery, loss: held_loss(&read, &sheet.model) })
    };
    let losses: Vec<_> = sheet.batteries.iter().filter_map(|own| loss(own.battery, own.volts)).collect();
    (!losses.is_empty()).then_some(HeldOver { days: held.days, losses })
}

/// Who loses more than such batteries do: each by itself, or the bank where nearly all do.
pub(super) fn losing(held: &HeldOver) -> Vec<RestFinding> {
    let more = held.losses.iter().filter(|own| own.loss.more_than_usual == Some(true));
    let found = |battery, own: &HeldLoss| {
        Some(RestFinding::LosesCharge {
            battery,
            per_day: own.per_day?,
            usual: own.usual[1],
            days: held.days,
        })
    };
    let each: Vec<RestFinding> = more.clone().filter_map(|own| found(Some(own.battery), &own.loss)).collect();
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    if each.len() > 1 && count(each.len()) >= ALL_OF_THEM * count(held.losses.len()) {
        let rate = |own: &&BatteryLoss| own.loss.per_day.unwrap_or(0.0);
        let most = more.max_by(|a, b| rate(a).total_cmp(&rate(b)));
        return most.and_then(|own| found(None, &own.loss)).into_iter().collect();
    }
    each
}
