//! WA-2: how a bank drinks over time: a rate, its growth, the season, and how sure that is.

use super::Interval;
use super::season::{Season, count, placed};
use super::year::YEAR;
use serde::{Deserialize, Serialize};

/// Water use changes by this factor per °C, and where the charger compensates (WA-2, by simulation).
const PER_DEGREE: (f64, f64) = (1.06, 1.005);
/// Temperature that rates are stated at, °C.
const REFERENCE: f64 = 25.0;
/// Slowest rate told apart from none, mL a day and cell: a drop in five days.
const LEAST_RATE: f64 = 0.01;
/// Growth before anything is known: none, give or take this a year.
const GROWTH: f64 = 0.20;
/// Scatter of ln r from fill to fill before anything is known, with the weight of so many fills.
const SCATTER: (f64, f64) = (0.12, 4.0);
/// Degrees of freedom that the scatter is worth before anything is known.
const FREEDOM: f64 = 3.0;
/// Scatter of ln r where nothing but the model is known.
const PRIOR_SCATTER: f64 = 0.50;
/// The 90 % point of the normal distribution, and of Student's t by degrees of freedom (from memory).
const Z_90: f64 = 1.2816;
const T_90: [(f64, f64); 10] = [
    (3.0, 1.638),
    (4.0, 1.533),
    (5.0, 1.476),
    (6.0, 1.440),
    (8.0, 1.397),
    (10.0, 1.372),
    (15.0, 1.341),
    (20.0, 1.325),
    (30.0, 1.310),
    (60.0, 1.296),
];
/// Days that are looked ahead at most.
const FARTHEST: u32 = 3660;

/// How fast a cell drinks, and how sure that is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WaterUse {
    /// Rate at 25 °C at the middle of the fills, mL a day and cell.
    pub per_day: f64,
    /// Growth of its logarithm, a year.
    pub growth: f64,
    /// Years from the middle of the fills to the last of them.
    pub since_middle: f64,
    /// Square of the scatter of ln r from fill to fill.
    pub variance: f64,
    /// Sum of squares of the fills' times about their middle, years².
    pub time_spread: f64,
    /// Fills it rests on; 0: the model's prior.
    pub fills: usize,
    /// Where temperatures come from.
    pub season: Season,
    /// True where the charger compensates for temperature.
    pub compensates: bool,
}

impl WaterUse {
    fn per_degree(compensates: bool) -> f64 {
        if compensates { PER_DEGREE.1 } else { PER_DEGREE.0 }
    }

    /// From the intervals between fills, oldest first, else from a prior rate.
    pub(super) fn of(intervals: &[Interval], prior: f64, season: Season, compensates: bool) -> Self {
        let per_degree = Self::per_degree(compensates);
        let points: Vec<(f64, f64)> = placed(intervals)
            .into_iter()
            .map(|own| {
                let (start, end, interval) = own;
                let per_day = interval.millilitres / interval.days.max(f64::MIN_POSITIVE);
                let rate = per_day * per_degree.powf(REFERENCE - season.of_interval(own));
                (f64::midpoint(start, end) / YEAR, rate.max(LEAST_RATE).ln())
            })
            .collect();
        let n = count(points.len());
        if points.is_empty() {
            return Self {
                per_day: prior.max(LEAST_RATE),
                growth: 0.0,
                since_middle: 0.0,
                variance: PRIOR_SCATTER * PRIOR_SCATTER,
                time_spread: 0.0,
                fills: 0,
                season,
                compensates,
            };
        }
        let middle = points.iter().map(|p| p.0).sum::<f64>() / n;
        let level = points.iter().map(|p| p.1).sum::<f64>() / n;
        let spread: f64 = points.iter().map(|p| (p.0 - middle).powi(2)).sum();
        let along: f64 = points.iter().map(|p| (p.0 - middle) * (p.1 - level)).sum();
        let (mut growth, mut variance) = (0.0, 0.0);
        // Growth hangs on the scatter and the scatter on the growth.
        for _ in 0..6 {
            let left: f64 = points.iter().map(|p| (p.1 - level - growth * (p.0 - middle)).powi(2)).sum();
            variance = (SCATTER.1 * SCATTER.0 * SCATTER.0 + left) / (FREEDOM + n);
            growth = if points.len() > 1 { along / (spread + variance / (GROWTH * GROWTH)) } else { 0.0 };
        }
        Self {
            per_day: level.exp(),
            growth,
            since_middle: -middle,
            variance,
            time_spread: spread,
            fills: points.len(),
            season,
            compensates,
        }
    }

    /// mL a day and cell so many days after the last fill.
    pub fn rate_at(&self, days: f64) -> f64 {
        let years = self.since_middle + days / YEAR;
        let warm = Self::per_degree(self.compensates).powf(self.season.at(days) - REFERENCE);
        self.per_day * (self.growth * years).exp() * warm
    }

    /// Standard deviation of the logarithm of its use up to so many days after the last fill; `own` is the
    /// variance of one cell among the others.
    fn scatter(&self, days: f64, own: f64) -> f64 {
        if self.fills == 0 {
            return (self.variance + self.season.doubt(days) + own).sqrt();
        }
        let years = self.since_middle + days / YEAR;
        let slope = self.variance / (self.time_spread + self.variance / (GROWTH * GROWTH));
        let fit = self.variance * (1.0 + 1.0 / count(self.fills));
        (fit + years * years * slope + self.season.doubt(days) + own).sqrt()
    }

    /// The 90 % point that belongs to what it rests on.
    fn z(&self) -> f64 {
        if self.fills == 0 {
            return Z_90;
        }
        let freedom = FREEDOM + count(self.fills);
        let after = T_90.iter().position(|(f, _)| *f >= freedom);
        match after {
            Some(0) => T_90[0].1,
            Some(i) => {
                let ((f0, t0), (f1, t1)) = (T_90[i - 1], T_90[i]);
                t0 + (t1 - t0) * (freedom - f0) / (f1 - f0)
            }
            None => Z_90,
        }
    }

    /// Water of a cell that drinks `factor` times the mean, from one day to another after the last fill, mL.
    pub fn between(&self, from: f64, to: f64, factor: f64) -> f64 {
        let steps = (to - from).abs().ceil().clamp(1.0, f64::from(FARTHEST));
        let step = (to - from) / steps;
        let mut sum = 0.0;
        let mut day = from + step / 2.0;
        while (day - to) * step.signum() < 0.0 {
            sum += self.rate_at(day) * step;
            day += step;
        }
        sum * factor
    }

    /// P10 and P90 of that water.
    pub fn range_between(&self, from: f64, to: f64, factor: f64) -> (f64, f64) {
        let middle = self.between(from, to, factor);
        let by = (self.z() * self.scatter(to, 0.0)).exp();
        (middle / by, middle * by)
    }

    /// Days after the last fill at which a cell has drunk so many mL since `from`: one in ten sooner, half,
    /// nine in ten.
    pub(super) fn days_for(&self, millilitres: f64, from: f64, factor: f64, own: f64) -> super::DaysRange {
        let wanted = millilitres.max(0.0);
        let z = self.z();
        let mut found: [Option<f64>; 3] = [None; 3];
        let (mut drunk, mut day) = (0.0, from);
        let mut before = [0.0; 3];
        for _ in 0..FARTHEST {
            drunk += self.rate_at(day + 0.5) * factor;
            day += 1.0;
            let s = self.scatter(day, own);
            let mut all = true;
            for (i, side) in [z, 0.0, -z].into_iter().enumerate() {
                let now = drunk * (side * s).exp();
                if found[i].is_none() && now >= wanted {
                    let share = if now > before[i] { (wanted - before[i]) / (now - before[i]) } else { 1.0 };
                    found[i] = Some(day - 1.0 + share.clamp(0.0, 1.0));
                }
                before[i] = now;
                all &= found[i].is_some();
            }
            if all {
                break;
            }
        }
        let far = from + f64::from(FARTHEST);
        let [p10, p50, p90] = found.map(|d| d.unwrap_or(far));
        super::DaysRange { p10, p50: p50.max(p10), p90: p90.max(p50).max(p10) }
    }
}
