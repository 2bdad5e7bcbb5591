//! EQ-5: what an equalize did, from the rounds before and after it.

use crate::bank::CellAddress;
use crate::instrument::{Limit, spread_of_noise};
use crate::quantity::Points;
use crate::round::STEADY_POINTS;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Hours of rest before the cells are read after a run (EQ-5, common practice, no source).
pub const REST_HOURS: f64 = 1.0;
/// A cell that is still so far down did not answer, points (EQ-5, common practice, no source).
const STILL_DOWN: Points = Points::new(-30.0);
/// Share by which the spread must have shrunk to have helped.
const HELPED_BY: f64 = 1.0 / 3.0;

/// A cell within so many points of the bank is steady, if the instrument tells that much (RD-8).
const STEADY: Points = Points::new(STEADY_POINTS);

/// What a run did.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "outcome", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Outcome {
    /// The bank is even.
    Evened,
    /// Cells that gained nothing and are still far down.
    DidNotAnswer {
        /// The cells, lowest first.
        cells: Vec<CellAddress>,
    },
    /// The spread shrank.
    Helped,
    /// It did nothing that the instrument can tell.
    NoEffect,
}

impl Outcome {
    /// Its mark.
    pub const fn condition(&self) -> Severity {
        match self {
            Self::Evened => Severity::Steady,
            Self::Helped | Self::NoEffect => Severity::Watch,
            Self::DidNotAnswer { .. } => Severity::Act,
        }
    }
}

/// One cell before and after.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellAnswer {
    /// The cell.
    pub cell: CellAddress,
    /// Deviation before.
    pub before: Points,
    /// Deviation after.
    pub after: Points,
}

/// A run as judged afterwards.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunAfter {
    /// What it did.
    pub outcome: Outcome,
    /// Spread before.
    pub before: Points,
    /// Spread after.
    pub after: Points,
    /// Spread under which the bank is even: the rule's, or what noise explains.
    pub even: Limit,
    /// Gain of one cell that the instrument can tell, points.
    pub told: Points,
    /// Every cell that was read both times.
    pub cells: Vec<CellAnswer>,
}

impl RunAfter {
    /// Half-height of the band in which a cell is steady (RD-8), points.
    pub fn steady(&self) -> Points {
        if self.told > STEADY { self.told } else { STEADY }
    }

    /// True for a cell that gained nothing and is still far down.
    pub fn is_non_responding(&self, cell: CellAddress) -> bool {
        matches!(&self.outcome, Outcome::DidNotAnswer { cells } if cells.contains(&cell))
    }

    /// How a cell stood before the run.
    pub fn condition_before(&self, cell: &CellAnswer) -> Severity {
        self.by_band(cell.before)
    }

    /// How it stands after.
    pub fn condition_after(&self, cell: &CellAnswer) -> Severity {
        if self.is_non_responding(cell.cell) { Severity::Act } else { self.by_band(cell.after) }
    }

    fn by_band(&self, deviation: Points) -> Severity {
        if deviation.abs() <= self.steady() { Severity::Steady } else { Severity::Watch }
    }

    /// Cells worth a line: off the band before or after, or moved more than the instrument scatters.
    pub fn told_of(&self) -> impl Iterator<Item = &CellAnswer> {
        let off = |p: Points| p.abs() > self.steady();
        self.cells
            .iter()
            .filter(move |c| off(c.before) || off(c.after) || (c.after - c.before).abs() >= self.told)
    }
}

fn spread(values: impl Iterator<Item = f64>) -> Points {
    let (low, high) = values.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    Points::new(if high < low { 0.0 } else { high - low })
}

/// EQ-5. Deviations of the cells in the round before and the round after; `even` is the limit of an
/// even bank (RD-4) and `noise` the standard uncertainty of one deviation, points. None where fewer
/// than two cells were read both times.
pub fn judge_after(
    before: &[(CellAddress, Points)],
    after: &[(CellAddress, Points)],
    even: Points,
    noise: Points,
) -> Option<RunAfter> {
    let cells: Vec<CellAnswer> = before
        .iter()
        .filter_map(|(cell, before)| {
            let after = after.iter().find(|(own, _)| own == cell)?.1;
            Some(CellAnswer { cell: *cell, before: *before, after })
        })
        .collect();
    if cells.len() < 2 {
        return None;
    }
    let even = Limit::widened(even, spread_of_noise(cells.len(), noise));
    let told = Points::new(2.0 * noise.value());
    let (was, is) =
        (spread(cells.iter().map(|c| c.before.value())), spread(cells.iter().map(|c| c.after.value())));
    let mut non_responding: Vec<&CellAnswer> =
        cells.iter().filter(|c| c.after <= STILL_DOWN && c.after - c.before < told).collect();
    non_responding.sort_by(|a, b| a.after.value().total_cmp(&b.after.value()));
    let shrunk = was - is;
    let outcome = if is < even.used {
        Outcome::Evened
    } else if !non_responding.is_empty() {
        Outcome::DidNotAnswer { cells: non_responding.iter().map(|c| c.cell).collect() }
    } else if shrunk.value() >= was.value() * HELPED_BY
        && shrunk.value() > 2.0 * std::f64::consts::SQRT_2 * noise.value()
    {
        Outcome::Helped
    } else {
        Outcome::NoEffect
    };
    Some(RunAfter { outcome, before: was, after: is, even, told, cells })
}
