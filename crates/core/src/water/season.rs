//! WA-2: the temperatures that water use is brought to, past and ahead, from one source.

use super::climate::MonthlyMeans;
use super::consumption::Interval;
use super::year::{WARMEST, YEAR};
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Fills and days before a wave is told from the temperatures that were written down.
const WAVE_FILLS: usize = 3;
const WAVE_DAYS: f64 = 182.0;
/// What a wave is drawn to, °C: no more swing than this either way of none, and little out of step.
const SWING: (f64, f64) = (6.0, 2.0);
/// Doubt of one temperature that was written down, °C.
const LOG_DOUBT: f64 = 2.0;
/// Water is at this where nobody wrote a temperature down, °C.
const UNKNOWN: f64 = 25.0;

/// Where temperatures come from.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "from", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Season {
    /// Twelve monthly means of the site, all shifted by what was written down there.
    Climate {
        /// January to December, °C.
        means: MonthlyMeans,
        /// Added to each, °C.
        shift: f64,
        /// Day of the year of the last fill, from New Year.
        fill_day: f64,
    },
    /// A wave over the year through what was written down.
    Wave {
        /// Mean, °C.
        mean: f64,
        /// Swing in step with the warmest day, °C.
        swing: f64,
        /// Swing out of step, °C.
        out_of_step: f64,
        /// Days from the warmest day to the last fill.
        fill_day: f64,
    },
    /// One temperature all year.
    Flat {
        /// °C.
        celsius: f64,
        /// True where somebody expects it ahead, and past fills were at what was written down.
        expected: bool,
    },
}

/// What is known of the time of year at a site.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Calendar {
    /// Day of the year of the last fill, from New Year.
    pub fill_day: f64,
    /// Twelve monthly means.
    pub climate: Option<MonthlyMeans>,
    /// South of the equator.
    pub southern: bool,
}

fn mean(values: impl Iterator<Item = f64>) -> Option<f64> {
    let (sum, n) = values.fold((0.0, 0.0), |(sum, n), v| (sum + v, n + 1.0));
    (n > 0.0).then(|| sum / n)
}

/// Intervals with the days of their beginning and end, counted from the last fill (negative).
pub(super) fn placed(intervals: &[Interval]) -> Vec<(f64, f64, Interval)> {
    let mut end = 0.0;
    let mut all: Vec<(f64, f64, Interval)> = intervals
        .iter()
        .rev()
        .map(|own| {
            let start = end - own.days;
            let placed = (start, end, *own);
            end = start;
            placed
        })
        .collect();
    all.reverse();
    all
}

impl Season {
    /// From what is known: the climate of the site, else a wave where fills over half a year tell one, else
    /// flat.
    pub(super) fn of(intervals: &[Interval], calendar: Option<Calendar>) -> Self {
        let placed = placed(intervals);
        let logs: Vec<(f64, f64)> = placed
            .iter()
            .filter_map(|(start, end, own)| Some((f64::midpoint(*start, *end), own.temperature?)))
            .collect();
        let flat = mean(logs.iter().map(|(_, t)| *t)).unwrap_or(UNKNOWN);
        let flat_all_year = Self::Flat { celsius: flat, expected: false };
        let Some(calendar) = calendar else { return flat_all_year };
        if let Some(means) = calendar.climate {
            let bare = Self::Climate { means, shift: 0.0, fill_day: calendar.fill_day };
            let off = placed
                .iter()
                .filter_map(|(start, end, own)| Some(own.temperature? - bare.mean_between(*start, *end)));
            let off: Vec<f64> = off.collect();
            let n = count(off.len());
            let shift = mean(off.into_iter()).unwrap_or(0.0) * n / (n + 1.0);
            return Self::Climate { means, shift, fill_day: calendar.fill_day };
        }
        let span = placed.first().map_or(0.0, |(start, _, _)| -start);
        if logs.len() < WAVE_FILLS || span < WAVE_DAYS {
            return flat_all_year;
        }
        let warmest = if calendar.southern { WARMEST.1 } else { WARMEST.0 };
        let fill_day = calendar.fill_day - warmest;
        let (mean, swing, out_of_step) = wave(&logs, fill_day, flat);
        Self::Wave { mean, swing, out_of_step, fill_day }
    }

    /// Temperature so many days after the last fill, °C.
    pub(super) fn at(&self, days: f64) -> f64 {
        match self {
            Self::Climate { means, shift, fill_day } => means.on_day(fill_day + days) + shift,
            Self::Wave { mean, swing, out_of_step, fill_day } => {
                let angle = TAU * (fill_day + days) / YEAR;
                mean + swing * angle.cos() + out_of_step * angle.sin()
            }
            Self::Flat { celsius, .. } => *celsius,
        }
    }

    /// Mean between two days from the last fill, °C.
    pub(super) fn mean_between(&self, start: f64, end: f64) -> f64 {
        const PARTS: u32 = 12;
        let step = (end - start) / f64::from(PARTS);
        (0..PARTS).map(|i| self.at(start + (f64::from(i) + 0.5) * step)).sum::<f64>() / f64::from(PARTS)
    }

    /// What an interval was at: the climate over it; the wave and what was written down, half and half.
    pub(super) fn of_interval(&self, (start, end, own): (f64, f64, Interval)) -> f64 {
        let told = self.mean_between(start, end);
        match self {
            Self::Wave { .. } => own.temperature.map_or(told, |logged| f64::midpoint(told, logged)),
            Self::Flat { expected: true, .. } => own.temperature.unwrap_or(told),
            _ => told,
        }
    }

    /// Doubt of the logarithm of the use that the season leaves, so many days ahead; squared.
    pub(super) fn doubt(&self, days: f64) -> f64 {
        let share = (days / 90.0).clamp(0.0, 1.0);
        match self {
            Self::Climate { .. } => 0.03 * 0.03,
            Self::Wave { .. } => 0.058 * 0.058 * share,
            Self::Flat { .. } => (0.3 * share) * (0.3 * share),
        }
    }
}

pub(super) fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

/// Least squares of a + b·cos + c·sin, b and c drawn to nothing.
fn wave(logs: &[(f64, f64)], fill_day: f64, flat: f64) -> (f64, f64, f64) {
    let pull = |sd: f64| (LOG_DOUBT / sd).powi(2);
    let mut rows = [[0.0; 4]; 3];
    for (day, celsius) in logs {
        let angle = TAU * (fill_day + day) / YEAR;
        let x = [1.0, angle.cos(), angle.sin()];
        for i in 0..3 {
            for j in 0..3 {
                rows[i][j] += x[i] * x[j];
            }
            rows[i][3] += x[i] * (celsius - flat);
        }
    }
    rows[1][1] += pull(SWING.0);
    rows[2][2] += pull(SWING.1);
    // Three equations by elimination; the pull keeps them apart.
    for i in 0..3 {
        let row = rows[i];
        if row[i].abs() < 1e-12 {
            return (flat, 0.0, 0.0);
        }
        for (_, other) in rows.iter_mut().enumerate().filter(|(k, _)| *k != i) {
            let factor = other[i] / row[i];
            for (value, own) in other.iter_mut().zip(row) {
                *value -= factor * own;
            }
        }
    }
    (flat + rows[0][3] / rows[0][0], rows[1][3] / rows[1][1], rows[2][3] / rows[2][2])
}
