//! OH-1: internal resistance of sealed batteries, against their own baseline or their mates. Never
//! turned into a capacity figure.

use crate::bank::BatteryAddress;
use crate::quantity::{Bounds, OutOfRange, Temperature, bounds};
use crate::round::median;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Rise of resistance that is watched, investigated and acted on (source key `ieee-1188`, from
/// memory).
pub const RISE: [f64; 3] = [0.20, 0.30, 0.50];
/// A block hotter than its mates by more than this is a finding, °C (source key `ieee-1188`, from
/// memory).
pub const HOTTER: f64 = 3.0;

/// What a tester shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OhmicUnit {
    /// Milliohms.
    #[default]
    Milliohm,
    /// Ohms.
    Ohm,
    /// Siemens.
    Siemens,
    /// Mho: another word for siemens.
    Mho,
}

impl OhmicUnit {
    /// What is accepted in it.
    pub fn range(self) -> Bounds {
        let (own, unit) = match self {
            Self::Milliohm => return bounds::RESISTANCE,
            Self::Siemens => return bounds::CONDUCTANCE,
            Self::Mho => (bounds::CONDUCTANCE, "mho"),
            Self::Ohm => (bounds::RESISTANCE, "\u{3a9}"),
        };
        let size = if self == Self::Ohm { 1000.0 } else { 1.0 };
        let decimals = if self == Self::Ohm { 5 } else { own.decimals };
        Bounds { low: own.low / size, high: own.high / size, unit, decimals, ..own }
    }
}

/// Resistance in mΩ from what the tester shows: conductance is turned first, R = 1/G.
///
/// # Errors
/// [`OutOfRange`] in the unit it was typed in.
pub fn resistance(shown: f64, unit: OhmicUnit) -> Result<f64, OutOfRange> {
    let shown = unit.range().check(shown)?;
    Ok(match unit {
        OhmicUnit::Milliohm => shown,
        OhmicUnit::Ohm => 1000.0 * shown,
        OhmicUnit::Siemens | OhmicUnit::Mho => 1000.0 / shown,
    })
}

/// Milliohms times ampere-hours of one cell, about: it holds within some times for all lead-acid batteries (common
/// practice, no source).
const CELL_MILLIOHM_HOURS: f64 = 70.0;
/// So many times off it is asked about: conductance read as resistance is off by far more (our choice, no source).
const ODD_TIMES: f64 = 8.0;

/// Resistance, mΩ, that a battery of so many cells and Ah shows, about.
pub fn usual_resistance(cells: u8, ampere_hours: f64) -> f64 {
    CELL_MILLIOHM_HOURS * f64::from(cells) / ampere_hours
}

/// True for a resistance that no battery shows which usually has so much: the unit of the tester is another one.
pub fn is_odd_resistance(milliohms: f64, usual: f64) -> bool {
    !(usual / ODD_TIMES..=usual * ODD_TIMES).contains(&milliohms)
}

/// One battery as it was measured.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OhmicReading {
    /// The battery.
    pub battery: BatteryAddress,
    /// Resistance, mΩ.
    pub milliohms: f64,
    /// Its own first value, mΩ, where one is on record.
    #[serde(default)]
    pub baseline: Option<f64>,
    /// Temperature of its case then, where it was taken.
    #[serde(default)]
    pub baseline_temperature: Option<Temperature>,
    /// Temperature of its case.
    #[serde(default)]
    pub case_temperature: Option<Temperature>,
}

/// What a resistance is held against.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Against {
    /// Its own first value.
    OwnFirst,
    /// The median of its mates, from four on.
    MedianOfMates,
    /// The lowest of two or three.
    LowestOfMates,
}

/// One battery, judged.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OhmicJudged {
    /// The battery.
    pub battery: BatteryAddress,
    /// Resistance, mΩ.
    pub milliohms: f64,
    /// What it is compared with, mΩ, at the temperature it was read at where both are known.
    pub reference: Option<f64>,
    /// What that is; none: there is nothing to compare with.
    pub against: Option<Against>,
    /// Rise over it: 0.3 is 30 % more.
    pub rise: Option<f64>,
    /// Condition.
    pub condition: Severity,
    /// °C hotter than the median case, where it is by more than 3.
    pub hotter: Option<f64>,
}

/// Share that resistance rises for every degree colder (common practice, no source).
const PER_DEGREE: f64 = 0.012;
/// Temperature that resistances are compared at, °C.
const COMPARED_AT: f64 = 25.0;
/// Batteries from which the middle of them is one.
const FOR_A_MEDIAN: usize = 4;

/// Brings a resistance to 25 °C, mΩ.
fn at_reference(milliohms: f64, at: Temperature) -> f64 {
    milliohms * (PER_DEGREE * (at.celsius() - COMPARED_AT)).exp()
}

/// Rise over a first value, at one temperature where both are known: 0.3 is 30 % more; none: there is none.
pub fn over_first(own: &OhmicReading) -> Option<f64> {
    let first = own.baseline?;
    let (now, first) = match own.case_temperature.zip(own.baseline_temperature) {
        Some((now, then)) => (at_reference(own.milliohms, now), at_reference(first, then)),
        None => (own.milliohms, first),
    };
    Some(now / first - 1.0)
}

/// What each is held against among its mates, and the rise over that; none where it stands alone. At one temperature
/// where every case was measured.
fn over_mates(readings: &[OhmicReading]) -> Vec<Option<(Against, f64)>> {
    let known = readings.iter().all(|own| own.case_temperature.is_some());
    let compared: Vec<f64> = readings
        .iter()
        .map(|own| match own.case_temperature.filter(|_| known) {
            Some(at) => at_reference(own.milliohms, at),
            None => own.milliohms,
        })
        .collect();
    let mates = match compared.len() {
        0 | 1 => None,
        n if n < FOR_A_MEDIAN => {
            compared.iter().copied().min_by(f64::total_cmp).map(|lowest| (Against::LowestOfMates, lowest))
        }
        _ => median(&mut compared.clone()).map(|middle| (Against::MedianOfMates, middle)),
    };
    compared.iter().map(|own| mates.map(|(against, value)| (against, own / value - 1.0))).collect()
}

/// OH-1 for the batteries of a bank, in the order given; the worse of its own first value and its mates counts.
pub fn judge_ohmic(readings: &[OhmicReading]) -> Vec<OhmicJudged> {
    let mates = over_mates(readings);
    let mut cases: Vec<f64> =
        readings.iter().filter_map(|r| r.case_temperature).map(Temperature::celsius).collect();
    let warm = (cases.len() > 2).then(|| median(&mut cases)).flatten();
    readings
        .iter()
        .zip(mates)
        .map(|(r, mates)| {
            let first = over_first(r).map(|rise| (Against::OwnFirst, rise));
            let worse = match (first, mates) {
                (Some(first), Some(mates)) => Some(if mates.1 > first.1 { mates } else { first }),
                (first, mates) => first.or(mates),
            };
            let rise = worse.map(|(_, rise)| rise);
            let hotter = r.case_temperature.zip(warm).map(|(t, w)| t.celsius() - w).filter(|h| *h > HOTTER);
            let by_rise = rise.map_or(Severity::NoReading, severity_of_rise);
            OhmicJudged {
                battery: r.battery,
                milliohms: r.milliohms,
                reference: rise.map(|rise| r.milliohms / (1.0 + rise)),
                against: worse.map(|(against, _)| against),
                rise,
                condition: if hotter.is_some() { by_rise.max(Severity::Watch) } else { by_rise },
                hotter,
            }
        })
        .collect()
}

/// How bad a rise is.
pub fn severity_of_rise(rise: f64) -> Severity {
    match rise {
        r if r >= RISE[2] => Severity::Act,
        r if r >= RISE[0] => Severity::Watch,
        _ => Severity::Steady,
    }
}

/// The word for a rise: "watch", "investigate", "act".
pub fn rise_word(rise: f64) -> &'static str {
    match rise {
        r if r >= RISE[2] => "act",
        r if r >= RISE[1] => "investigate",
        r if r >= RISE[0] => "watch",
        _ => "steady",
    }
}
