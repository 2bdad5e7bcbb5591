//! Twelve monthly mean temperatures of a site, which water use is brought to (WA-2).

use super::year::{WARMEST, YEAR};
use crate::quantity::Temperature;
use crate::quantity::bounds::{MEAN_TEMPERATURE, OutOfRange};
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;
use thiserror::Error;

/// Names of the months, January first.
pub const MONTHS: [&str; 12] = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
];

/// A mean temperature that no month has.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub struct MeanRefused {
    /// What it lies outside of.
    pub refused: OutOfRange,
}

impl std::fmt::Display for MeanRefused {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let found = self.refused.found;
        let other = (found - 32.0) / 1.8;
        write!(f, "{}", self.refused)?;
        if found > 0.0 && MEAN_TEMPERATURE.check(other).is_ok() {
            write!(f, ". Is it {found} °F, which is {other:.0} °C?")?;
        }
        Ok(())
    }
}

/// Refuses a mean over days, weeks or a month that lies outside the table; one that only a reader of °F can have
/// typed is asked about.
///
/// # Errors
/// [`MeanRefused`].
pub fn mean_temperature(celsius: f64) -> Result<f64, MeanRefused> {
    MEAN_TEMPERATURE.check(celsius).map_err(|refused| MeanRefused { refused })
}

/// A month whose mean cannot be.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
#[error("{}: {why}", MONTHS[*.month])]
pub struct ClimateRefused {
    /// Which, 0 is January.
    pub month: usize,
    /// Why.
    pub why: MeanRefused,
}

/// Mean temperatures of the twelve months at a site, January first, °C, each within the table.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "[f64; 12]", into = "[f64; 12]")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
pub struct MonthlyMeans([f64; 12]);

impl TryFrom<[f64; 12]> for MonthlyMeans {
    type Error = ClimateRefused;

    fn try_from(means: [f64; 12]) -> Result<Self, ClimateRefused> {
        for (month, celsius) in means.iter().enumerate() {
            mean_temperature(*celsius).map_err(|why| ClimateRefused { month, why })?;
        }
        Ok(Self(means))
    }
}

impl From<MonthlyMeans> for [f64; 12] {
    fn from(means: MonthlyMeans) -> Self {
        means.0
    }
}

impl MonthlyMeans {
    /// January to December, °C.
    pub const fn celsius(&self) -> [f64; 12] {
        self.0
    }

    /// January to December.
    pub fn temperatures(&self) -> Vec<Temperature> {
        self.0.iter().filter_map(|celsius| Temperature::from_celsius(*celsius).ok()).collect()
    }

    /// Mean of the year, °C.
    pub fn of_year(&self) -> f64 {
        self.0.iter().sum::<f64>() / 12.0
    }

    /// On a day of the year, counted from New Year, °C: straight lines between the middles of the months.
    pub fn on_day(&self, day: f64) -> f64 {
        Self::between(&self.0, day)
    }

    /// Any figure by month on a day of the year, counted from New Year: straight lines between the middles of the months.
    pub fn between(by_month: &[f64; 12], day: f64) -> f64 {
        let month = (day / YEAR * 12.0 - 0.5).rem_euclid(12.0);
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 11")]
        let before = (month.floor() as usize) % 12;
        let share = month - month.floor();
        by_month[before] + (by_month[(before + 1) % 12] - by_month[before]) * share
    }
}

/// An invented climate to begin with until a site's own means are known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InventedClimate {
    /// Stable key.
    pub key: &'static str,
    /// Name.
    pub name: &'static str,
    /// Mean of the year, °C.
    pub mean: f64,
    /// Half of what the warmest month lies above the coldest, °C.
    pub swing: f64,
}

/// Climates that ship. Invented in round figures and of no place: a wave about its mean.
pub const INVENTED_CLIMATES: [InventedClimate; 7] = [
    InventedClimate { key: "mild_coast", name: "Mild coast", mean: 11.0, swing: 5.0 },
    InventedClimate { key: "temperate_inland", name: "Temperate inland", mean: 10.0, swing: 10.0 },
    InventedClimate { key: "cold_inland", name: "Cold inland", mean: 3.0, swing: 16.0 },
    InventedClimate { key: "high_mountain", name: "High mountain", mean: 2.0, swing: 8.0 },
    InventedClimate { key: "warm_dry", name: "Warm and dry", mean: 18.0, swing: 9.0 },
    InventedClimate { key: "hot_desert", name: "Hot desert", mean: 25.0, swing: 10.0 },
    InventedClimate { key: "tropics", name: "Tropics", mean: 27.0, swing: 1.5 },
];

impl InventedClimate {
    /// The one of a key.
    pub fn by_key(key: &str) -> Option<&'static Self> {
        INVENTED_CLIMATES.iter().find(|own| own.key == key)
    }

    /// Its means on one side of the equator: a wave with its warmest day on 20 July, or 20 January in the
    /// south, to a tenth of a degree.
    pub fn means(&self, southern: bool) -> MonthlyMeans {
        let warmest = if southern { WARMEST.1 } else { WARMEST.0 };
        let mut means = [0.0; 12];
        for (mean, month) in means.iter_mut().zip(0_u8..) {
            let middle = (f64::from(month) + 0.5) / 12.0 * YEAR;
            let celsius = self.mean + self.swing * (TAU * (middle - warmest) / YEAR).cos();
            *mean = (celsius * 10.0).round() / 10.0;
        }
        MonthlyMeans(means)
    }
}
