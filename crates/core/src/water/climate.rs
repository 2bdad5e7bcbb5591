//! Twelve monthly mean temperatures of a site, which water use is brought to (WA-2).

use super::year::YEAR;
use crate::quantity::Temperature;
use crate::quantity::bounds::{MEAN_TEMPERATURE, OutOfRange};
use serde::{Deserialize, Serialize};
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
    /// Means that are known to lie within the table, as those that ship.
    pub(super) const fn known(means: [f64; 12]) -> Self {
        Self(means)
    }

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
