//! When a discharge under way will reach its end, with the interval that the readings leave.

use super::run::DischargePoint;
use crate::equalize::Within;

/// The shape of a discharge at one current: how much of the way from the first volts down to the end is left at a share
/// of the time. Nearly straight, then the knee (our choice, no source; tested against the simulated cell).
fn left_at(share: f64) -> f64 {
    const STRAIGHT: f64 = 0.45;
    1.0 - STRAIGHT * share - (1.0 - STRAIGHT) * share.powi(6)
}

/// What one reading is off the shape, V a cell: the meter and the shape together (our choice, no source).
const OFF: f64 = 0.008;
/// Share of the time at the start that tells nothing: the volts dip and recover.
const DIP: f64 = 0.03;
/// How far the last lasting of the bank, or the rating, is off today's, as a share (our choice, no source).
const SINCE_LAST: f64 = 0.15;
const SINCE_NEW: f64 = 0.35;
/// Share of the rating that a bank of unknown past is expected to have.
const USUAL: f64 = 0.85;
/// Steps of the grid, and its span around what is expected, as a power of e.
const STEPS: u32 = 240;
const SPAN: f64 = 1.5;

/// What is expected of a discharge before it tells anything.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Expected {
    /// Hours that a new one lasts at this current and temperature.
    pub rated: f64,
    /// Hours that this one lasted last time under the same load; none: not on record.
    pub last: Option<f64>,
}

/// How well the readings fit a discharge of so many hours: the squared misfit, in units of what a reading is off.
fn misfit(points: &[(f64, f64)], hours: f64, end: f64) -> f64 {
    // The height of the start fits itself; the end is where it ends.
    let told =
        || points.iter().filter(|(at, _)| *at >= DIP * hours).map(|(at, v)| (left_at(at / hours), v - end));
    let (over, under) = told().fold((0.0, 0.0), |(a, b), (g, v)| (a + g * v, b + g * g));
    if under <= 0.0 {
        return 0.0;
    }
    let height = over / under;
    told().map(|(g, v)| ((v - height * g) / OFF).powi(2)).sum()
}

/// The share of the weight, in order of the hours, at which a value lies.
fn at_weight(weighted: &[(f64, f64)], share: f64) -> f64 {
    let all: f64 = weighted.iter().map(|(_, w)| w).sum();
    let mut so_far = 0.0;
    for (hours, weight) in weighted {
        so_far += weight;
        if so_far >= share * all {
            return *hours;
        }
    }
    weighted.last().map_or(0.0, |(hours, _)| *hours)
}

/// Hours of load until the end voltage, nine times in ten within low and high; none before anything is read under load.
/// `cells` are those in series, `elapsed` the hours of load so far.
pub(super) fn ends(
    points: &[DischargePoint],
    cells: u16,
    end_per_cell: f64,
    elapsed: f64,
    expected: Expected,
) -> Option<Within> {
    let read: Vec<(f64, f64)> = points
        .iter()
        .filter(|p| p.under_load)
        .filter_map(|p| Some((p.hours, p.volts? / f64::from(cells.max(1)))))
        .collect();
    if read.is_empty() || expected.rated <= 0.0 {
        return None;
    }
    let (middle, wide) = match expected.last {
        Some(last) => (last, SINCE_LAST),
        None => (USUAL * expected.rated, SINCE_NEW),
    };
    let last_read = read.iter().map(|(at, _)| *at).fold(0.0, f64::max);
    let least = elapsed.max(last_read).max(0.02 * expected.rated);
    // From now on to long after: a bank may outlast everything that was expected.
    let most = (middle * SPAN.exp()).max(least * 2.0);
    let step = (most / least).ln() / f64::from(STEPS);
    let weighted: Vec<(f64, f64)> = (0..=STEPS)
        .map(|i| least * (step * f64::from(i)).exp())
        .map(|hours| (hours, misfit(&read, hours, end_per_cell), ((hours / middle).ln() / wide).powi(2)))
        .map(|(hours, by_readings, by_past)| (hours, -0.5 * (by_readings + by_past)))
        .collect();
    let best = weighted.iter().map(|(_, w)| *w).fold(f64::NEG_INFINITY, f64::max);
    let weighted: Vec<(f64, f64)> = weighted.into_iter().map(|(h, w)| (h, (w - best).exp())).collect();
    Some(Within {
        low: at_weight(&weighted, 0.05),
        best: at_weight(&weighted, 0.5),
        high: at_weight(&weighted, 0.95),
    })
}

/// The volts of a cell ahead of the last reading, on the way to its end: hours of load and volts of all cells in series.
pub fn way_to_end(last: (f64, f64), end: (f64, f64)) -> Vec<[f64; 2]> {
    const POINTS: u32 = 16;
    let (from, volts) = last;
    let (hours, end_volts) = end;
    if hours <= from || volts <= end_volts {
        return Vec::new();
    }
    let now = left_at(from / hours);
    (0..=POINTS)
        .map(|i| from + (hours - from) * f64::from(i) / f64::from(POINTS))
        .map(|at| [at, end_volts + (volts - end_volts) * left_at(at / hours) / now])
        .collect()
}
