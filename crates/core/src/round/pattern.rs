//! RD-5: the pattern of a round, as level and as shape.

use super::centre::median;
use super::fit::{Candidate, Fit, Point, count, middle};
use super::gradient;
use super::shape::{Shape, Side, WHOLE_POINTS};
use crate::bank::{BatteryAddress, CellAddress, string_letter};
use crate::instrument::Limit;
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Turns a median absolute deviation into a standard deviation for normal scatter.
const MAD_TO_SIGMA: f64 = 1.4826;
/// A cell this many sigmas off its mates stands alone (RD-5).
const LONE_SIGMAS: f64 = 3.5;
/// Both cells of a pair lie beyond this share of what their mean must.
const PAIR_SHARE: f64 = 0.7;
/// An even bank is called otherwise only where a pattern explains it better by this.
const BEATS_EVEN: f64 = 10.0;
/// A pattern that explains nearly as well is named beside the best.
const BESIDE: f64 = 2.0;

/// Level of a proven-full, mixed round against the model's full gravity.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Level {
    /// Short of full: undercharge or sulfation; an equalize tells which.
    Low,
    /// Full.
    Full,
    /// Above full: acid was added, or the levels are low.
    High,
}

/// The centre against the model's full gravity.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct OffFull {
    /// Centre less full.
    pub off: Points,
    /// More than this under full is short of it.
    pub low: Limit,
    /// More than this over full is above it.
    pub high: Limit,
}

impl OffFull {
    /// Limits of ten points down and fifteen up, widened by the uncertainty of the centre.
    pub(super) fn of(centre: SpecificGravity, full: SpecificGravity, uncertainty: Points) -> Self {
        let noise = Points::new(2.0 * uncertainty.value());
        let limit = |points| Limit::widened(Points::new(points), noise);
        Self { off: centre - full, low: limit(10.0), high: limit(15.0) }
    }

    pub(crate) fn level(&self) -> Level {
        if -self.off > self.low.used {
            Level::Low
        } else if self.off > self.high.used {
            Level::High
        } else {
            Level::Full
        }
    }
}

/// The shape of a round with what it says of each cell.
#[derive(Debug, Clone)]
pub(super) struct Pattern {
    /// Who is different.
    pub shape: Shape,
    /// What explains the cells nearly as well.
    pub beside: Option<Shape>,
    /// Centre of the cells outside the pattern, cells that stand high by themselves left out.
    pub centre: f64,
    /// Cells that stand high by themselves.
    pub high: Vec<CellAddress>,
    /// What a string, battery, pair or gradient says of a cell, points over 1.000: its condition is
    /// judged by what is left.
    pub expected: Vec<(CellAddress, f64)>,
}

impl Pattern {
    /// The centre as a gravity.
    pub(super) fn centre(&self) -> SpecificGravity {
        SpecificGravity::corrected(1.0 + self.centre / 1000.0)
    }

    /// True where what it names lies below the bank.
    pub(super) fn lies_low(&self) -> bool {
        !matches!(
            self.shape,
            Shape::LoneCell { side: Side::High, .. } | Shape::Cells { side: Side::High, .. }
        )
    }
}

/// What the patterns are judged by, points.
#[derive(Debug, Clone, Copy)]
pub(super) struct PatternLimits {
    /// Uncertainty of a deviation.
    pub uncertainty: f64,
    /// Spread under which a bank is even.
    pub even: f64,
    /// Deviation under which a cell is steady.
    pub steady: f64,
    /// Cells of a case.
    pub case: u8,
    /// Batteries of a string.
    pub series: u8,
}

/// Who is different, by the pattern that explains the cells best.
/// `lines` are the ways along which a gradient can run: the strings, and the rows as they stand.
pub(super) fn pattern(
    cells: &[(CellAddress, SpecificGravity)],
    limits: PatternLimits,
    lines: &[Vec<Vec<CellAddress>>],
) -> Pattern {
    let points: Vec<Point> = cells
        .iter()
        .map(|(cell, sg)| Point { cell: *cell, points: (sg.value() - 1.0) * 1000.0, place: 0.0 })
        .collect();
    let all = middle(&points, |_| true).unwrap_or(0.0);
    let seen = Seen { points: &points, lines, centre: all, limits };
    if points.len() < 3 {
        return seen.told(&seen.weigh(Candidate::centre(&points)), Shape::TooFew, None);
    }
    let (best, beside) = seen.best();
    let shape = best.shape.clone();
    seen.told(&best, shape, beside)
}

/// Cells as they were seen, and what counts as far.
struct Seen<'a> {
    points: &'a [Point],
    lines: &'a [Vec<Vec<CellAddress>>],
    centre: f64,
    limits: PatternLimits,
}

impl Seen<'_> {
    fn weigh(&self, candidate: Candidate) -> Fit {
        candidate.weighed(self.points, self.limits.uncertainty)
    }

    fn deviation(&self, i: usize) -> f64 {
        self.points[i].points - self.centre
    }

    /// The best pattern, and what is nearly as good.
    fn best(&self) -> (Fit, Option<Shape>) {
        let none = self.weigh(Candidate::centre(self.points));
        let (lowest, highest) = self
            .points
            .iter()
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), p| (l.min(p.points), h.max(p.points)));
        // A hair under the limit is under it, however the difference was rounded.
        let even = Points::new(highest - lowest) < Points::new(self.limits.even);
        let mut all: Vec<Fit> = self.groups().into_iter().map(|c| self.weigh(c)).collect();
        if even {
            all.retain(|fit| fit.bic < none.bic - BEATS_EVEN);
        } else {
            all.extend(self.pairs().into_iter().chain(self.singles()).map(|c| self.weigh(c)));
        }
        let even_or_drift = if even { Shape::Even } else { Shape::Drift };
        all.push(Fit { shape: even_or_drift, ..none });
        all.sort_by(|a, b| a.bic.total_cmp(&b.bic).then(b.shape.size().cmp(&a.shape.size())));
        let best = all.remove(0);
        let near = |fit: &&Fit| fit.bic < best.bic + BESIDE && fit.shape.size() > 0;
        let beside = all.iter().find(near).map(|fit| fit.shape.clone());
        (best, beside)
    }

    /// Strings, batteries and gradients.
    fn groups(&self) -> Vec<Candidate> {
        let by_string = |c: CellAddress| c.battery.string;
        let by_battery = |c: CellAddress| c.battery;
        let mut all = Vec::new();
        if self.limits.series > 1 {
            all.extend(self.low_groups(by_string, |string| Shape::String { letter: string_letter(string) }));
        }
        all.extend(self.low_groups(by_battery, |battery: BatteryAddress| Shape::Battery { battery }));
        let lines = self.lines.iter().filter_map(|groups| gradient::along(self.points, groups));
        all.extend(lines);
        all
    }

    /// Groups of at least two cells that all lie under the median of the others, by ten points in the
    /// median.
    fn low_groups<K: Ord + Copy>(
        &self,
        key: impl Fn(CellAddress) -> K,
        shape: impl Fn(K) -> Shape,
    ) -> Vec<Candidate> {
        let mut keys: Vec<K> = self.points.iter().map(|p| key(p.cell)).collect();
        keys.sort_unstable();
        keys.dedup();
        let places = keys.len();
        let group = |k: K| {
            let named: Vec<bool> = self.points.iter().map(|p| key(p.cell) == k).collect();
            let (own, others) = (middle(self.points, |i| named[i])?, middle(self.points, |i| !named[i])?);
            let low = self.points.iter().zip(&named).all(|(p, n)| !n || p.points < others);
            let two = named.iter().filter(|n| **n).count() >= 2;
            let apart = Points::new(others - own) >= Points::new(WHOLE_POINTS);
            (two && low && apart).then(|| Candidate::shifted(self.points, named, shape(k), places))
        };
        keys.into_iter().filter_map(group).collect()
    }

    /// Two neighbours in a case of three or more, low together.
    fn pairs(&self) -> Vec<Candidate> {
        if self.limits.case < 3 {
            return Vec::new();
        }
        let at = |cell: CellAddress| self.points.iter().position(|p| p.cell == cell);
        let next = |cell: CellAddress| CellAddress { cell: cell.cell + 1, ..cell };
        let places: Vec<(usize, usize)> =
            self.points.iter().enumerate().filter_map(|(i, p)| Some((i, at(next(p.cell))?))).collect();
        let low = |(a, b): &(usize, usize)| {
            let (a, b) = (-self.deviation(*a), -self.deviation(*b));
            let steady = self.limits.steady;
            f64::midpoint(a, b) > steady && a.min(b) > PAIR_SHARE * steady
        };
        let pair = |(a, b): (usize, usize)| {
            let named = (0..self.points.len()).map(|i| i == a || i == b).collect();
            let cells = [self.points[a].cell, self.points[b].cell];
            Candidate::shifted(self.points, named, Shape::Pair { cells }, places.len())
        };
        places.iter().copied().filter(low).map(pair).collect()
    }

    /// Scatter of the cells but some, at least what the instrument makes: the smaller of the robust one and
    /// the plain one, since marks of five points make the robust one coarse.
    fn scatter_without(&self, some: &[usize]) -> f64 {
        let others = || (0..self.points.len()).filter(|i| !some.contains(i)).map(|i| self.points[i].points);
        let n = count(self.points.len() - some.len());
        let mut values: Vec<f64> = others().collect();
        let centre = median(&mut values).unwrap_or(0.0);
        let mut absolute: Vec<f64> = others().map(|p| (p - centre).abs()).collect();
        let robust = MAD_TO_SIGMA * median(&mut absolute).unwrap_or(0.0);
        let mean = others().sum::<f64>() / n.max(1.0);
        let plain = (others().map(|p| (p - mean).powi(2)).sum::<f64>() / (n - 1.0).max(1.0)).sqrt();
        robust.min(plain).max(self.limits.uncertainty).max(f64::MIN_POSITIVE)
    }

    /// One to three cells of one side, each by itself.
    fn singles(&self) -> Vec<Candidate> {
        let mut all = Vec::new();
        for (side, sign) in [(Side::Low, -1.0), (Side::High, 1.0)] {
            let mut far: Vec<usize> = (0..self.points.len()).collect();
            far.sort_by(|a, b| (sign * self.deviation(*b)).total_cmp(&(sign * self.deviation(*a))));
            for m in 1..=far.len().min(3) {
                if self.points.len() < 3 * m {
                    break;
                }
                // The scatter of the others: in a small bank the cells themselves would widen it.
                let sigma = self.scatter_without(&far[..m]);
                let nearest = sign * self.deviation(far[m - 1]);
                if nearest / sigma < LONE_SIGMAS || nearest <= self.limits.steady {
                    continue;
                }
                let named: Vec<bool> = (0..self.points.len()).map(|i| far[..m].contains(&i)).collect();
                let mut cells: Vec<CellAddress> = far[..m].iter().map(|i| self.points[*i].cell).collect();
                cells.sort_unstable();
                let shape = match cells.as_slice() {
                    [cell] => Shape::LoneCell { cell: *cell, side },
                    _ => Shape::Cells { cells, side },
                };
                all.push(Candidate::single(self.points, named, shape));
            }
        }
        all
    }

    /// The pattern with its centre and what it says of each cell.
    fn told(&self, best: &Fit, shape: Shape, beside: Option<Shape>) -> Pattern {
        let off = |i: usize, centre: f64| self.points[i].points - centre;
        let named: Vec<usize> = (0..self.points.len()).filter(|i| best.named[*i]).collect();
        let sigma = self.scatter_without(&named);
        let high = |i: usize, centre: f64| {
            off(i, centre) / sigma >= LONE_SIGMAS && off(i, centre) > self.limits.steady
        };
        // Of a high cell its mates are told first; then the middle of those.
        let outside = middle(self.points, |i| !best.named[i]).unwrap_or(self.centre);
        let centre = middle(self.points, |i| !best.named[i] && !high(i, outside)).unwrap_or(outside);
        let high = (0..self.points.len())
            .filter(|i| high(*i, centre) && !matches!(shape, Shape::Gradient { .. }))
            .map(|i| self.points[i].cell)
            .collect();
        let own = middle(self.points, |i| best.named[i]);
        let expected = match &shape {
            Shape::String { .. } | Shape::Battery { .. } | Shape::Pair { .. } => own.map(|own| {
                let named = self.points.iter().zip(&best.named).filter(|(_, n)| **n);
                named.map(|(p, _)| (p.cell, own)).collect()
            }),
            Shape::Gradient { .. } => {
                Some(self.points.iter().zip(&best.expected).map(|(p, e)| (p.cell, *e)).collect())
            }
            _ => None,
        };
        Pattern { shape, beside, centre, high, expected: expected.unwrap_or_default() }
    }
}
