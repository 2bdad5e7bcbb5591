//! Air around a bank: a year, a day, and the weather that a caller brings.

use std::f64::consts::TAU;

/// Days from the first of January to the middle of the warmest time, in the northern half.
const WARMEST_DAY: f64 = 205.0;
const WARMEST_HOUR: f64 = 15.0;
const YEAR: f64 = 365.25;

/// Where a bank stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Climate {
    /// Mean of the year, °C.
    pub mean: f64,
    /// Half of what the warmest time of the year lies above the coldest, °C.
    pub year: f64,
    /// Half of what an afternoon lies above the night before it, °C.
    pub day: f64,
}

impl Climate {
    /// Air on a day of the year, counted from 0, at an hour of it, °C.
    pub fn air(&self, day_of_year: f64, hour: f64) -> f64 {
        let day = ((hour - WARMEST_HOUR) / 24.0 * TAU).cos();
        self.mean + self.year * season(day_of_year) + self.day * day
    }
}

/// 1 in the middle of summer, −1 in the middle of winter.
pub fn season(day_of_year: f64) -> f64 {
    ((day_of_year - WARMEST_DAY) / YEAR * TAU).cos()
}
