//! WA-2: how fast cells drink, and how many days they have.

use crate::quantity::Charge;
use crate::round::median;
use serde::{Deserialize, Serialize};

/// Water use changes by this factor per °C (WA-2, common practice, no source).
const PER_DEGREE: f64 = 1.06;
/// Temperature that rates are stated at, °C.
const REFERENCE: f64 = 25.0;
/// Scatter of ln r: never less than this with three fills or more, and with two, and with one.
const SCATTER: [f64; 3] = [0.20, 0.35, 0.50];
const MAD_TO_SIGMA: f64 = 1.4826;
/// Quantile of P10 and P90.
const Z_80: f64 = 1.2816;
/// Slowest rate told apart from none, mL a day and cell: a drop in five days.
const LEAST_RATE: f64 = 0.01;
/// Margin over the plates that a forecast keeps, mm (WA-2).
pub const MARGIN_MM: f64 = 10.0;
/// The thirstiest cell against the mean where only totals are known (WA-2).
pub const THIRSTIEST_FACTOR: f64 = 1.5;

/// One stretch between two fills to the mark.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Interval {
    /// Days between the fills, above zero.
    pub days: f64,
    /// Water at its end to come back to the mark, mL per cell.
    pub millilitres: f64,
    /// Mean electrolyte temperature, °C; none: unknown, read as 25.
    #[serde(default)]
    pub temperature: Option<f64>,
}

impl Interval {
    /// mL a day and cell, brought to 25 °C.
    pub fn rate(&self) -> f64 {
        let per_day = self.millilitres / self.days.max(f64::MIN_POSITIVE);
        (per_day / seasonal(self.temperature)).max(LEAST_RATE)
    }
}

/// How much faster a cell drinks at this temperature than at 25 °C.
pub fn seasonal(temperature: Option<f64>) -> f64 {
    PER_DEGREE.powf(temperature.unwrap_or(REFERENCE) - REFERENCE)
}

/// A rate with its scatter.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Consumption {
    /// Median rate, mL a day and cell at 25 °C.
    pub per_day: f64,
    /// Standard deviation of its logarithm.
    pub scatter: f64,
    /// Intervals it rests on; 0: the model's prior.
    pub fills: usize,
}

/// Days with their range.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DaysRange {
    /// One in ten is sooner.
    pub p10: f64,
    /// Half are sooner.
    pub p50: f64,
    /// Nine in ten are sooner.
    pub p90: f64,
}

/// What a cycled cell drinks before anything is known of it, mL a day at 25 °C: two per cent of C20
/// gassed a day (common practice, no source).
pub fn prior_rate(c20: Charge) -> f64 {
    0.02 * c20.ampere_hours() * super::millilitres_per_ampere_hour()
}

impl Consumption {
    /// From the intervals between fills, else from a prior rate.
    pub fn of(intervals: &[Interval], prior: f64) -> Self {
        let mut logs: Vec<f64> = intervals.iter().map(|i| i.rate().ln()).collect();
        let Some(middle) = median(&mut logs) else {
            return Self { per_day: prior.max(LEAST_RATE), scatter: SCATTER[2], fills: 0 };
        };
        let scatter = match logs.len() {
            1 => SCATTER[2],
            2 => SCATTER[1],
            _ => {
                let mut off: Vec<f64> = logs.iter().map(|l| (l - middle).abs()).collect();
                (MAD_TO_SIGMA * median(&mut off).unwrap_or(0.0)).max(SCATTER[0])
            }
        };
        Self { per_day: middle.exp(), scatter, fills: intervals.len() }
    }

    /// Consumption at a rate so many times as high.
    #[must_use]
    pub fn times(self, factor: f64) -> Self {
        Self { per_day: self.per_day * factor, ..self }
    }

    /// Days until so many mL per cell are gone at this temperature.
    pub fn days_for(&self, millilitres: f64, temperature: Option<f64>) -> DaysRange {
        let at =
            |z: f64| millilitres.max(0.0) / (self.per_day * seasonal(temperature) * (z * self.scatter).exp());
        DaysRange { p10: at(Z_80), p50: at(0.0), p90: at(-Z_80) }
    }

    /// mL per cell after so many days at this temperature: half the time less, nine in ten less.
    pub fn use_in(&self, days: f64, temperature: Option<f64>) -> (f64, f64) {
        let middle = self.per_day * seasonal(temperature) * days.max(0.0);
        (middle, middle * (Z_80 * self.scatter).exp())
    }

    /// P10 and P90 of its use in so many days, mL.
    pub fn range_in(&self, days: f64, temperature: Option<f64>) -> (f64, f64) {
        let (middle, most) = self.use_in(days, temperature);
        (if most > 0.0 { middle * middle / most } else { 0.0 }, most)
    }
}
