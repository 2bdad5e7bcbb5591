//! When a discharge under way will reach its end, with the interval that the readings leave.

use super::point::DischargePoint;
use crate::equalize::Within;

/// The shape of a discharge at one current: how much of the way from the first volts down to the end is left at a share
/// of the time. Nearly straight, then the knee. `slope` is the share of the way that the straight part takes, `knee` how
/// sharp the rest of it bends (our choice, no source; tested against the simulated cell).
fn left_at(share: f64, slope: f64, knee: f64) -> f64 {
    1.0 - slope * share - (1.0 - slope) * share.powf(knee)
}

/// Knees and slopes that batteries show: worn ones fall less before a sharper knee. A slope is weighed by how far it is
/// off the usual (our choice, no source).
const KNEES: [f64; 3] = [5.0, 6.5, 8.0];
const SLOPES: [f64; 10] = [0.08, 0.13, 0.18, 0.23, 0.28, 0.33, 0.38, 0.43, 0.48, 0.53];
const USUAL_SLOPE: f64 = 0.30;
const SLOPE_OFF: f64 = 0.12;
/// What one reading is off the shape, V a cell: the meter and the shape together (our choice, no source).
const OFF: f64 = 0.006;
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

/// Weight of a discharge of so many hours by the readings, as the logarithm: over every knee and slope.
fn by_readings(points: &[(f64, f64)], hours: f64, end: f64) -> f64 {
    let mut all = Vec::with_capacity(KNEES.len() * SLOPES.len());
    for knee in KNEES {
        // The height of the start fits itself; the end is where it ends. Sums of the two parts of the shape: at a
        // slope s it is a + s b.
        let mut sums = [0.0; 6];
        for (at, volts) in points.iter().filter(|(at, _)| *at >= DIP * hours) {
            let (share, over) = (at / hours, volts - end);
            let bent = share.powf(knee);
            let (a, b) = (1.0 - bent, bent - share);
            for (sum, own) in sums.iter_mut().zip([a * over, b * over, a * a, a * b, b * b, over * over]) {
                *sum += own;
            }
        }
        let [av, bv, aa, ab, bb, vv] = sums;
        for slope in SLOPES {
            let (along, whole) = (av + slope * bv, aa + 2.0 * slope * ab + slope * slope * bb);
            let misfit = if whole > 0.0 { (vv - along * along / whole).max(0.0) } else { vv };
            let unusual = ((slope - USUAL_SLOPE) / SLOPE_OFF).powi(2);
            all.push(-0.5 * (misfit / (OFF * OFF) + unusual));
        }
    }
    let best = all.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    best + all.iter().map(|own| (own - best).exp()).sum::<f64>().ln()
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
        .map(|hours| {
            let by_past = -0.5 * ((hours / middle).ln() / wide).powi(2);
            (hours, by_readings(&read, hours, end_per_cell) + by_past)
        })
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
    let left = |share| left_at(share, USUAL_SLOPE, KNEES[1]);
    let now = left(from / hours);
    (0..=POINTS)
        .map(|i| from + (hours - from) * f64::from(i) / f64::from(POINTS))
        .map(|at| [at, end_volts + (volts - end_volts) * left(at / hours) / now])
        .collect()
}
