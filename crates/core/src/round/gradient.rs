//! RD-5: a gradient along the strings or the rows, by Spearman's rank correlation.

use super::fit::{Candidate, Point, count};
use super::shape::{Shape, WHOLE_POINTS};
use crate::bank::CellAddress;

/// Rank correlation that makes a gradient (RD-5).
const RHO: f64 = 0.7;
/// A gradient by chance happens once in a hundred.
const T_01: [(f64, f64); 9] = [
    // Two-sided 1 % points of Student's t by degrees of freedom (from memory).
    (3.0, 5.841),
    (4.0, 4.604),
    (5.0, 4.032),
    (6.0, 3.707),
    (8.0, 3.355),
    (10.0, 3.169),
    (15.0, 2.947),
    (30.0, 2.750),
    (120.0, 2.617),
];
/// Fewest cells in a row whose order can mean anything at one per cent.
const LEAST: usize = 5;

/// Ranks from one, ties sharing their mean.
fn ranks(values: &[f64]) -> Vec<f64> {
    values
        .iter()
        .map(|v| {
            let below = values.iter().filter(|o| *o < v).count();
            let same = values.iter().filter(|o| (*o - v).abs() < 1e-12).count();
            count(below) + f64::midpoint(count(same), 1.0)
        })
        .collect()
}

fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / count(values.len().max(1))
}

/// Spearman's ρ of values against their order; none where all are alike.
fn rho(values: &[f64]) -> Option<f64> {
    let order: Vec<f64> = (1..=values.len()).map(count).collect();
    let ranked = ranks(values);
    let (mx, my) = (mean(&order), mean(&ranked));
    let sum =
        |f: &dyn Fn(f64, f64) -> f64| order.iter().zip(&ranked).map(|(x, y)| f(x - mx, y - my)).sum::<f64>();
    let (xy, xx, yy) = (sum(&|x, y| x * y), sum(&|x, _| x * x), sum(&|_, y| y * y));
    (yy > 0.0).then(|| xy / (xx * yy).sqrt())
}

/// True when a ρ this large among n values comes by chance less than once in a hundred.
fn significant(rho: f64, n: usize) -> bool {
    let freedom = count(n) - 2.0;
    let t = rho.abs() * (freedom / (1.0 - rho * rho).max(f64::MIN_POSITIVE)).sqrt();
    let critical = T_01.iter().rev().find(|(df, _)| freedom >= *df).map(|(_, t)| *t);
    critical.is_some_and(|critical| t > critical)
}

/// A line over places that are common to all groups, a group being a string or a row as it stands: where
/// one of them has |ρ| ≥ 0.7 and p < 0.01, and the ends of the line lie 10 points apart.
pub(super) fn along(points: &[Point], groups: &[Vec<CellAddress>]) -> Option<Candidate> {
    let mut strong = false;
    let mut placed = Vec::with_capacity(points.len());
    for group in groups {
        // Places of cells that were not read are kept.
        let read: Vec<Point> = group
            .iter()
            .enumerate()
            .filter_map(|(place, cell)| {
                let point = points.iter().find(|p| p.cell == *cell)?;
                Some(Point { place: count(place), ..*point })
            })
            .collect();
        let values: Vec<f64> = read.iter().map(|p| p.points).collect();
        strong |= values.len() >= LEAST
            && rho(&values).is_some_and(|rho| rho.abs() >= RHO && significant(rho, values.len()));
        placed.extend(read);
    }
    if !strong || placed.len() != points.len() {
        return None;
    }
    // Back in the order of the cells, which the caller keeps.
    let place = |cell: CellAddress| placed.iter().find(|p| p.cell == cell).copied();
    let placed: Vec<Point> = points.iter().filter_map(|p| place(p.cell)).collect();
    let longest = groups.iter().rev().max_by_key(|g| g.len())?;
    let (first, last) = (*longest.first()?, *longest.last()?);
    let length = count(longest.len() - 1);
    let mut apart = 0.0;
    let line = Candidate::line(&placed, |slope| {
        apart = slope * length;
        let (low_end, high_end) = if slope > 0.0 { (first, last) } else { (last, first) };
        Shape::Gradient { low_end, high_end }
    })?;
    (apart.abs() >= WHOLE_POINTS).then_some(line)
}
