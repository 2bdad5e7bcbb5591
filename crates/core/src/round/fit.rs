//! RD-5: candidate patterns fitted to the cells, and how well each explains them (BIC).

use super::centre::median;
use super::shape::Shape;
use crate::bank::{CellAddress, string_letter};

/// A reading as the patterns see it.
#[derive(Debug, Clone, Copy)]
pub(super) struct Point {
    /// The cell.
    pub cell: CellAddress,
    /// Points over 1.000, corrected.
    pub points: f64,
    /// Its place in its string, counted over cells that were not read too.
    pub place: f64,
}

/// How a pattern explains the cells.
#[derive(Debug, Clone)]
pub(super) struct Fit {
    /// The pattern.
    pub shape: Shape,
    /// Bayesian information criterion: less is better.
    pub bic: f64,
    /// What the pattern says of each cell, points over 1.000.
    pub expected: Vec<f64>,
    /// Cells of the pattern, true for each that is named.
    pub named: Vec<bool>,
}

/// A pattern before it is weighed: what it says, its parameters, and among how many places it was found
/// (as their logarithm).
pub(super) struct Candidate {
    pub shape: Shape,
    pub expected: Vec<f64>,
    pub named: Vec<bool>,
    pub parameters: f64,
    pub log_places: f64,
}

pub(super) fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

fn mean(values: impl Iterator<Item = f64>) -> f64 {
    let (sum, n) = values.fold((0.0, 0.0), |(sum, n), v| (sum + v, n + 1.0));
    if n > 0.0 { sum / n } else { 0.0 }
}

/// Median of those points that are picked.
pub(super) fn middle(points: &[Point], pick: impl Fn(usize) -> bool) -> Option<f64> {
    let mut own: Vec<f64> =
        points.iter().enumerate().filter(|(i, _)| pick(*i)).map(|(_, p)| p.points).collect();
    median(&mut own)
}

impl Candidate {
    /// No pattern: one centre for all.
    pub(super) fn centre(points: &[Point]) -> Self {
        let centre = mean(points.iter().map(|p| p.points));
        Self {
            shape: Shape::Drift,
            expected: vec![centre; points.len()],
            named: vec![false; points.len()],
            parameters: 1.0,
            log_places: 0.0,
        }
    }

    /// Some cells off by one shift, the rest at their own centre.
    pub(super) fn shifted(points: &[Point], named: Vec<bool>, shape: Shape, places: usize) -> Self {
        let own = mean(points.iter().zip(&named).filter(|(_, n)| **n).map(|(p, _)| p.points));
        let rest = mean(points.iter().zip(&named).filter(|(_, n)| !**n).map(|(p, _)| p.points));
        let expected = named.iter().map(|n| if *n { own } else { rest }).collect();
        Self { shape, expected, named, parameters: 2.0, log_places: count(places).ln() }
    }

    /// Some cells each by itself, the rest at their own centre.
    pub(super) fn single(points: &[Point], named: Vec<bool>, shape: Shape) -> Self {
        let rest = mean(points.iter().zip(&named).filter(|(_, n)| !**n).map(|(p, _)| p.points));
        let expected = points.iter().zip(&named).map(|(p, n)| if *n { p.points } else { rest }).collect();
        let cells = count(named.iter().filter(|n| **n).count());
        let log_places = cells * count(points.len()).ln();
        Self { shape, expected, named, parameters: 1.0 + cells, log_places }
    }

    /// One line over the place in the string, common to all strings; its slope with it.
    pub(super) fn line(points: &[Point], shape: impl FnOnce(f64) -> Shape) -> Option<Self> {
        let (x, y) = (mean(points.iter().map(|p| p.place)), mean(points.iter().map(|p| p.points)));
        let xx: f64 = points.iter().map(|p| (p.place - x).powi(2)).sum();
        if xx <= 0.0 {
            return None;
        }
        let slope = points.iter().map(|p| (p.place - x) * (p.points - y)).sum::<f64>() / xx;
        Some(Self {
            shape: shape(slope),
            expected: points.iter().map(|p| y + slope * (p.place - x)).collect(),
            named: vec![false; points.len()],
            parameters: 2.0,
            log_places: 0.0,
        })
    }

    /// Weighed against the cells; scatter under the instrument's own counts for nothing.
    pub(super) fn weighed(self, points: &[Point], uncertainty: f64) -> Fit {
        let n = count(points.len());
        let squares: f64 = points.iter().zip(&self.expected).map(|(p, e)| (p.points - e).powi(2)).sum();
        let variance = (squares / n).max(uncertainty.powi(2)).max(f64::MIN_POSITIVE);
        let bic = n * variance.ln() + self.parameters * n.ln() + 2.0 * self.log_places;
        Fit { shape: self.shape, bic, expected: self.expected, named: self.named }
    }
}

impl Shape {
    /// How large a unit it names: of two that explain alike the larger is told.
    pub(super) fn size(&self) -> u8 {
        match self {
            Self::String { .. } => 6,
            Self::Battery { .. } => 5,
            Self::Gradient { .. } => 4,
            Self::Pair { .. } => 3,
            Self::Cells { .. } => 2,
            Self::LoneCell { .. } => 1,
            Self::Even | Self::Drift | Self::TooFew => 0,
        }
    }

    /// Cells it names of those that were read; a gradient names none.
    pub(crate) fn names(&self, cell: CellAddress) -> bool {
        match self {
            Self::LoneCell { cell: own, .. } => *own == cell,
            Self::Cells { cells, .. } => cells.contains(&cell),
            Self::Pair { cells } => cells.contains(&cell),
            Self::Battery { battery } => cell.battery == *battery,
            Self::String { letter } => string_letter(cell.battery.string) == *letter,
            Self::Even | Self::Drift | Self::TooFew | Self::Gradient { .. } => false,
        }
    }
}
