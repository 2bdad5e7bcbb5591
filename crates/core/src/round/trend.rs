//! RD-6: is a cell sinking against its mates? Theil-Sen slope with its 80 % interval.

use super::median;
use crate::bank::CellAddress;
use crate::instrument::InstrumentKind;
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Rounds and days a trend needs (RD-6).
const ROUNDS: usize = 5;
const DAYS: f64 = 180.0;
/// Normal quantile of the two-sided 80 % interval.
const Z_80: f64 = 1.2816;
const DAYS_PER_YEAR: f64 = 365.25;

/// One cell of an earlier round.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PastCell {
    /// The cell.
    pub cell: CellAddress,
    /// Corrected gravity then.
    pub corrected: SpecificGravity,
    /// Deviation from the median then.
    pub deviation: Points,
}

/// An earlier round of the same bank, newest first in a list.
///
/// A cell whose block was swapped since is left out by whoever makes the list: history follows the
/// block.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PastRound {
    /// Days before the round that is judged.
    pub days_before: f64,
    /// Instrument of that round: deviations are not compared across instruments.
    pub instrument: InstrumentKind,
    /// True when an equalize came between that round and the judged one.
    #[serde(default)]
    pub before_equalize: bool,
    /// The cells that were judged.
    pub cells: Vec<PastCell>,
}

impl PastRound {
    /// This cell then.
    pub fn cell(&self, cell: CellAddress) -> Option<&PastCell> {
        self.cells.iter().find(|c| c.cell == cell)
    }
}

/// A cell that sinks.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sinking {
    /// Slope of its deviation, points per year, below zero.
    pub points_per_year: Points,
    /// Upper end of the 80 % interval, below zero.
    pub at_least: Points,
    /// Lower end of the 80 % interval.
    pub at_most: Points,
    /// Rounds it rests on.
    pub rounds: usize,
    /// Days it spans.
    pub days: f64,
    /// Days since it left the steady band; none while it lies within.
    #[serde(default)]
    pub outside_for: Option<f64>,
}

/// A slope with its 80 % interval, per year.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Slope {
    /// Median slope, per year.
    pub per_year: f64,
    /// Lower end of the 80 % interval.
    pub low: f64,
    /// Upper end.
    pub high: f64,
    /// Values it rests on.
    pub values: usize,
    /// Days they span.
    pub days: f64,
}

/// RD-6 for anything that was measured over time, as `(day, value)`, oldest first: spread, lowest
/// cell, water, rest volts. None under five values or 180 days.
pub fn slope(series: &[(f64, f64)]) -> Option<Slope> {
    let days = series.last()?.0 - series.first()?.0;
    if series.len() < ROUNDS || days < DAYS {
        return None;
    }
    let (per_year, low, high) = theil_sen(series)?;
    Some(Slope { per_year, low, high, values: series.len(), days })
}

/// Slope per year with its 80 % interval for `(day, value)` pairs; none for too few.
pub fn theil_sen(series: &[(f64, f64)]) -> Option<(f64, f64, f64)> {
    let mut slopes = Vec::with_capacity(series.len() * (series.len() - 1) / 2);
    for (i, a) in series.iter().enumerate() {
        for b in &series[i + 1..] {
            if (b.0 - a.0).abs() > 1e-9 {
                slopes.push((b.1 - a.1) / (b.0 - a.0) * DAYS_PER_YEAR);
            }
        }
    }
    slopes.sort_unstable_by(f64::total_cmp);
    let count = f64::from(u32::try_from(slopes.len()).ok()?);
    let n = f64::from(u32::try_from(series.len()).ok()?);
    // Sen's interval from the variance of Kendall's S.
    let half_width = Z_80 * (n * (n - 1.0) * (2.0 * n + 5.0) / 18.0).sqrt();
    let rank = |r: f64| {
        let clamped = r.round().clamp(0.0, count - 1.0);
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "clamped to the indices above"
        )]
        slopes.get(clamped as usize).copied()
    };
    let low = rank((count - half_width) / 2.0 - 1.0)?;
    let high = rank(f64::midpoint(count, half_width))?;
    Some((median(&mut slopes.clone())?, low, high))
}

/// The rounds a cell's deviation can be compared over: the same instrument, newest first.
fn comparable(past: &[PastRound], instrument: InstrumentKind) -> impl Iterator<Item = &PastRound> {
    past.iter().filter(move |round| round.instrument == instrument)
}

/// RD-6 for every cell of the judged round: the laggards whose whole interval lies below zero and
/// which were among the lowest tenth in this round and the two before.
pub(super) fn laggards(
    now: &[(CellAddress, Points)],
    past: &[PastRound],
    instrument: InstrumentKind,
    steady: Points,
) -> Vec<(CellAddress, Sinking)> {
    let mut rounds: Vec<(f64, Vec<(CellAddress, Points)>)> = vec![(0.0, now.to_vec())];
    rounds.extend(
        comparable(past, instrument)
            .map(|round| (round.days_before, round.cells.iter().map(|c| (c.cell, c.deviation)).collect())),
    );
    if rounds.len() < ROUNDS {
        return Vec::new();
    }
    let lowest_of = |cells: &[(CellAddress, Points)]| -> Vec<CellAddress> {
        let mut sorted = cells.to_vec();
        sorted.sort_unstable_by(|a, b| a.1.value().total_cmp(&b.1.value()).then(a.0.cmp(&b.0)));
        sorted.iter().take(cells.len().div_ceil(10)).map(|(cell, _)| *cell).collect()
    };
    let mut candidates = lowest_of(&rounds[0].1);
    for (_, cells) in &rounds[1..3] {
        let lowest = lowest_of(cells);
        candidates.retain(|cell| lowest.contains(cell));
    }
    candidates
        .into_iter()
        .filter_map(|cell| {
            let series: Vec<(f64, f64)> = rounds
                .iter()
                .filter_map(|(days, cells)| {
                    cells.iter().find(|(c, _)| *c == cell).map(|(_, d)| (-days, d.value()))
                })
                .collect();
            let days = series.first()?.0 - series.last()?.0;
            if series.len() < ROUNDS || days < DAYS {
                return None;
            }
            let (slope, low, high) = theil_sen(&series)?;
            (high < 0.0).then(|| {
                let sinking = Sinking {
                    points_per_year: Points::new(slope),
                    at_least: Points::new(high),
                    at_most: Points::new(low),
                    rounds: series.len(),
                    days,
                    outside_for: outside_for(&series, steady),
                };
                (cell, sinking)
            })
        })
        .collect()
}

/// For how many days a cell has lain under the steady band without a break, of `(day, deviation)` with the
/// newest first.
fn outside_for(newest_first: &[(f64, f64)], steady: Points) -> Option<f64> {
    let under = newest_first.iter().take_while(|(_, deviation)| *deviation < -steady.value());
    under.last().map(|(day, _)| -day)
}

/// The last comparable round in which this cell was judged (RD-3: never across an equalize or
/// another instrument).
pub(super) fn last_of(
    past: &[PastRound],
    instrument: InstrumentKind,
    cell: CellAddress,
) -> Option<(&PastRound, &PastCell)> {
    comparable(past, instrument)
        .filter(|round| !round.before_equalize)
        .filter_map(|round| round.cell(cell).map(|c| (round, c)))
        .min_by(|a, b| a.0.days_before.total_cmp(&b.0.days_before))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_straight_fall_gives_its_own_slope() {
        let series: Vec<(f64, f64)> = (0..8)
            .map(|i| (-60.0 * f64::from(i), -10.0 + 60.0 * f64::from(i) * 20.0 / DAYS_PER_YEAR))
            .collect();
        let (slope, low, high) = theil_sen(&series).unwrap();
        assert!((slope + 20.0).abs() < 1e-9 && (low + 20.0).abs() < 1e-9 && (high + 20.0).abs() < 1e-9);
    }

    #[test]
    fn one_wild_reading_hardly_moves_the_slope() {
        let mut series: Vec<(f64, f64)> =
            (0..9).map(|i| (-60.0 * f64::from(i), f64::from(i) * 60.0 * 20.0 / DAYS_PER_YEAR)).collect();
        series[4].1 += 80.0;
        let (slope, _, _) = theil_sen(&series).unwrap();
        assert!((slope + 20.0).abs() < 4.0, "{slope}");
    }

    #[test]
    fn the_interval_of_five_points_follows_sen_1968() {
        // Ten slopes, C = 1.2816·√(5·4·15/18) = 5.23: ranks (10 − 5.23)/2 and (10 + 5.23)/2 + 1,
        // the second and the ninth of ten sorted slopes (Sen 1968, from memory).
        let series = [(0.0, 0.0), (1.0, 1.0), (2.0, 3.0), (3.0, 7.0), (4.0, 15.0)];
        let (_, low, high) = theil_sen(&series).unwrap();
        assert!((low / DAYS_PER_YEAR - 1.5).abs() < 1e-9, "{low}");
        assert!((high / DAYS_PER_YEAR - 6.0).abs() < 1e-9, "{high}");
    }
}
