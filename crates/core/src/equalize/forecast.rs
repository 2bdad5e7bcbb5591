//! EQ-4: the plateau a run rises to, and the hours left, with what the readings allow.
//!
//! `SG(t) = SG∞ − (SG∞ − SG0)·exp(−t/τ)`. For a τ the rest is a straight line and is fitted by least
//! squares; τ itself is tried from a quarter of an hour to twenty, evenly by its logarithm, and each
//! weighs as much as its curve fits. The middle of what they say is told, and the interval that holds
//! four fifths of the weight: few readings that still rise say little of the plateau, and it shows.

use super::rising::{POINTS_LEFT, SLOPE_LEFT};
use super::{LEAST_HOURS, RunKind};
use crate::quantity::bounds::GRAVITY_UNQUESTIONED;
use serde::{Deserialize, Serialize};

/// Readings before which nothing is forecast (EQ-4).
pub const LEAST_READINGS: usize = 5;
/// Time constants that are tried, h.
const TAUS: (f64, f64) = (0.25, 20.0);
const GRID: u32 = 160;
/// Shares of the weight below the lower end, the middle and the upper end of an interval of four fifths.
const SHARES: [f64; 3] = [0.1, 0.5, 0.9];
/// Points of gravity between marks of a millionth: below this the noise is not told apart from none.
const LEAST_NOISE: f64 = 0.5;

/// A figure with its interval.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Within {
    /// Lowest that still fits.
    pub low: f64,
    /// Best.
    pub best: f64,
    /// Highest that still fits.
    pub high: f64,
}

/// The values below which a tenth, half and nine tenths of the weight lie.
fn within(mut weighted: Vec<(f64, f64)>) -> Within {
    weighted.sort_by(|a, b| a.0.total_cmp(&b.0));
    let all: f64 = weighted.iter().map(|(_, w)| w).sum();
    let at = |share: f64| {
        let mut sum = 0.0;
        let found = weighted.iter().find(|(_, w)| {
            sum += w;
            sum >= share * all
        });
        found.or(weighted.last()).map_or(0.0, |(value, _)| *value)
    };
    let [low, best, high] = SHARES.map(at);
    Within { low, best, high }
}

/// Where a run is going.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunForecast {
    /// The plateau, corrected gravity.
    pub plateau: Within,
    /// Hours on equalize at which the rule ends it; held to the cap.
    pub ends: Within,
    /// True when the cap comes before the rule for what fits best.
    pub by_cap: bool,
    /// Gravity at the start, and the time constant in hours, of what fits best.
    pub start: f64,
    /// Time constant of what fits best, h.
    pub tau: f64,
}

impl RunForecast {
    /// The curve at so many hours.
    pub fn at(&self, hours: f64) -> f64 {
        self.plateau.best - (self.plateau.best - self.start) * (-hours / self.tau).exp()
    }
}

#[derive(Debug, Clone, Copy)]
struct Fit {
    tau: f64,
    plateau: f64,
    start: f64,
    error: f64,
}

fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

/// Least squares for one time constant; none where the curve would fall, or bend the wrong way.
fn fit(readings: &[(f64, f64)], tau: f64) -> Option<Fit> {
    let n = count(readings.len());
    let x = |t: f64| 1.0 - (-t / tau).exp();
    let (sx, sy) = readings.iter().fold((0.0, 0.0), |(a, b), (t, g)| (a + x(*t), b + g));
    let (mx, my) = (sx / n, sy / n);
    let (sxx, sxy) = readings.iter().fold((0.0, 0.0), |(a, b), (t, g)| {
        let d = x(*t) - mx;
        (a + d * d, b + d * (g - my))
    });
    if sxx < 1e-12 {
        return None;
    }
    let rise = (sxy / sxx).max(0.0);
    let start = my - rise * mx;
    let error = readings.iter().map(|(t, g)| (g - start - rise * x(*t)).powi(2)).sum();
    Some(Fit { tau, plateau: start + rise, start, error })
}

/// Hours at which the rule would end a run that follows this curve, with readings at their distance.
fn ends(fit: &Fit, kind: RunKind, last: f64) -> f64 {
    let every = f64::from(kind.reading_minutes()) / 60.0;
    let left = |t: f64| (fit.plateau - fit.start) * (-t / fit.tau).exp() * 1000.0;
    let mut t = last;
    while t < kind.cap() {
        t += every;
        let slope = (left((t - 2.0).max(0.0)) - left(t)) / 2.0;
        if t >= LEAST_HOURS && slope <= SLOPE_LEFT && left(t) <= POINTS_LEFT {
            return t.min(kind.cap());
        }
    }
    kind.cap()
}

/// The plateau and the end of a run from its readings: hours on equalize and mean gravity; `noise` is
/// the standard uncertainty of one cell's reading, points. None before five readings.
pub fn forecast(kind: RunKind, readings: &[(f64, f64)], noise: f64) -> Option<RunForecast> {
    if readings.len() < LEAST_READINGS {
        return None;
    }
    let last = readings.last().map_or(0.0, |r| r.0);
    let ratio = (TAUS.1 / TAUS.0).powf(1.0 / f64::from(GRID));
    let fits: Vec<Fit> =
        (0..=GRID).filter_map(|i| fit(readings, TAUS.0 * ratio.powf(f64::from(i)))).collect();
    let best = *fits.iter().min_by(|a, b| a.error.total_cmp(&b.error))?;
    // The mean of three cells scatters less than one; what the fit leaves may say it scatters more.
    let free = (count(readings.len()) - 3.0).max(1.0);
    let own = (best.error / free).sqrt() * 1000.0;
    let sigma = (noise / 3.0_f64.sqrt()).max(own).max(LEAST_NOISE) / 1000.0;
    let weight = |f: &Fit| (-(f.error - best.error) / (2.0 * sigma * sigma)).exp();
    // A plateau that no cell reaches says only that the readings still rise.
    let reached = |f: &Fit| f.plateau.min(GRAVITY_UNQUESTIONED.high);
    let plateau = within(fits.iter().map(|f| (reached(f), weight(f))).collect());
    let end = within(fits.iter().map(|f| (ends(f, kind, last), weight(f))).collect());
    // The curve that is drawn is the one whose plateau is told.
    let off = |f: &Fit| (reached(f) - plateau.best).abs();
    let middle = fits.iter().min_by(|a, b| off(a).total_cmp(&off(b))).copied().unwrap_or(best);
    Some(RunForecast {
        by_cap: end.best >= kind.cap(),
        plateau,
        ends: end,
        start: middle.start,
        tau: middle.tau,
    })
}
