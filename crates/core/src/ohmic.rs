//! OH-1: internal resistance of sealed batteries, against their own baseline or their mates. Never
//! turned into a capacity figure.

use crate::bank::BatteryAddress;
use crate::quantity::{OutOfRange, Temperature, bounds};
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
    /// Siemens.
    Siemens,
}

/// Resistance in mΩ from what the tester shows: conductance is turned first, R = 1/G.
///
/// # Errors
/// [`OutOfRange`] in the unit it was typed in.
pub fn resistance(shown: f64, unit: OhmicUnit) -> Result<f64, OutOfRange> {
    match unit {
        OhmicUnit::Milliohm => bounds::RESISTANCE.check(shown),
        OhmicUnit::Siemens => bounds::CONDUCTANCE.check(shown).map(|siemens| 1000.0 / siemens),
    }
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
    /// Temperature of its case.
    #[serde(default)]
    pub case_temperature: Option<Temperature>,
}

/// One battery, judged.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OhmicJudged {
    /// The battery.
    pub battery: BatteryAddress,
    /// Resistance, mΩ.
    pub milliohms: f64,
    /// What it is compared with, mΩ.
    pub reference: Option<f64>,
    /// True when that is its own baseline, false for the median of its mates.
    pub own_baseline: bool,
    /// Rise over it: 0.3 is 30 % more.
    pub rise: Option<f64>,
    /// Condition.
    pub condition: Severity,
    /// °C hotter than the median case, where it is by more than 3.
    pub hotter: Option<f64>,
}

/// OH-1 for the batteries of a bank, in the order given.
pub fn judge_ohmic(readings: &[OhmicReading]) -> Vec<OhmicJudged> {
    let mates = (readings.len() > 2)
        .then(|| median(&mut readings.iter().map(|r| r.milliohms).collect::<Vec<_>>()))
        .flatten();
    let mut cases: Vec<f64> =
        readings.iter().filter_map(|r| r.case_temperature).map(Temperature::celsius).collect();
    let warm = (cases.len() > 2).then(|| median(&mut cases)).flatten();
    readings
        .iter()
        .map(|r| {
            let reference = r.baseline.or(mates);
            let rise = reference.map(|base| r.milliohms / base - 1.0);
            let hotter = r.case_temperature.zip(warm).map(|(t, w)| t.celsius() - w).filter(|h| *h > HOTTER);
            let by_rise = match rise {
                Some(rise) if rise >= RISE[2] => Severity::Act,
                Some(rise) if rise >= RISE[0] => Severity::Watch,
                Some(_) => Severity::Steady,
                None => Severity::NoReading,
            };
            OhmicJudged {
                battery: r.battery,
                milliohms: r.milliohms,
                reference,
                own_baseline: r.baseline.is_some(),
                rise,
                condition: if hotter.is_some() { by_rise.max(Severity::Watch) } else { by_rise },
                hotter,
            }
        })
        .collect()
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
