//! RD-5: a gradient along a row, by Spearman's rank correlation.

use super::shape::{Shape, WHOLE_POINTS};
use crate::bank::CellAddress;
use crate::quantity::SpecificGravity;

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
/// Cells of one end that are averaged, so that one reading is no gradient.
const END: usize = 2;

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

fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
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

/// The row with the strongest gradient, where one has |ρ| ≥ 0.7, p < 0.01 and ends 10 points apart.
pub(super) fn along_a_row(
    cells: &[(CellAddress, SpecificGravity)],
    rows: &[Vec<CellAddress>],
) -> Option<Shape> {
    rows.iter()
        .filter_map(|row| {
            let read: Vec<(CellAddress, f64)> = row
                .iter()
                .filter_map(|cell| {
                    cells.iter().find(|(c, _)| c == cell).map(|(c, sg)| (*c, sg.value() * 1000.0))
                })
                .collect();
            if read.len() < LEAST {
                return None;
            }
            let values: Vec<f64> = read.iter().map(|(_, v)| *v).collect();
            let rho = rho(&values)?;
            let apart = mean(&values[values.len() - END..]) - mean(&values[..END]);
            let strong = rho.abs() >= RHO && significant(rho, values.len()) && apart.abs() >= WHOLE_POINTS;
            strong.then(|| {
                let (first, last) = (read[0].0, read[read.len() - 1].0);
                let (low_end, high_end) = if apart > 0.0 { (first, last) } else { (last, first) };
                (rho.abs(), Shape::Gradient { low_end, high_end })
            })
        })
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, shape)| shape)
}
