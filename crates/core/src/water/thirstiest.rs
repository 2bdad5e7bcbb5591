//! WA-2: the thirstiest cell against the mean: by its own fills, or as such banks usually have it.

use super::Interval;
use super::season::count;
use crate::bank::CellAddress;
use crate::round::median;

/// Scatter of one cell's share of a fill.
const SHARE_SCATTER: f64 = 0.07;
/// The thirstiest of so many cells against their mean, where only totals are known (WA-2, by simulation).
const OF_TOTALS: [(f64, f64); 6] =
    [(1.0, 1.0), (6.0, 1.16), (12.0, 1.22), (24.0, 1.26), (48.0, 1.31), (96.0, 1.35)];

/// The thirstiest of so many cells against the mean.
pub(super) fn of_totals(cells: u32) -> f64 {
    let n = f64::from(cells.max(1)).ln();
    let last = OF_TOTALS.len() - 2;
    let i = OF_TOTALS.iter().skip(1).position(|row| n <= row.0.ln()).unwrap_or(last);
    let ((n0, f0), (n1, f1)) = (OF_TOTALS[i], OF_TOTALS[i + 1]);
    f0 + (f1 - f0) * (n - n0.ln()) / (n1.ln() - n0.ln())
}

/// Variance of ln r of one cell where only totals are known.
pub(super) const OWN_VARIANCE: f64 = SHARE_SCATTER * SHARE_SCATTER;

/// Intervals of the median cell, oldest first, and each cell against it, drawn to it as far as its fills are few.
pub(super) fn of_cells(cells: &[(CellAddress, Vec<Interval>)]) -> (Vec<Interval>, Vec<(CellAddress, f64)>) {
    let longest = cells.iter().map(|(_, own)| own.len()).max().unwrap_or(0);
    // Counted from the last fill: a battery that came later has fewer.
    let back = |own: &[Interval], j: usize| own.len().checked_sub(j + 1).map(|i| own[i]);
    let mut middle = Vec::with_capacity(longest);
    for j in (0..longest).rev() {
        let read: Vec<Interval> = cells.iter().filter_map(|(_, own)| back(own, j)).collect();
        let mut amounts: Vec<f64> = read.iter().map(|i| i.millilitres).collect();
        if let (Some(first), Some(millilitres)) = (read.first(), median(&mut amounts)) {
            middle.push(Interval { millilitres, ..*first });
        }
    }
    let ratios: Vec<(CellAddress, f64, usize)> = cells
        .iter()
        .filter_map(|(cell, own)| {
            let shares: Vec<f64> = (0..own.len())
                .filter_map(|j| {
                    let (own, all) = (back(own, j)?, back(&middle, j)?);
                    (all.millilitres > 0.0).then(|| own.millilitres / all.millilitres)
                })
                .collect();
            let n = shares.len();
            (n > 0).then(|| (*cell, shares.iter().sum::<f64>() / count(n), n))
        })
        .collect();
    let n = count(ratios.len());
    let mean = ratios.iter().map(|(_, r, _)| r).sum::<f64>() / n.max(1.0);
    let variance = ratios.iter().map(|(_, r, _)| (r - mean).powi(2)).sum::<f64>() / (n - 1.0).max(1.0);
    let drawn = |ratio: f64, fills: usize| {
        let noise = OWN_VARIANCE / count(fills.max(1));
        1.0 + (ratio - 1.0) * variance / (variance + noise)
    };
    (middle, ratios.into_iter().map(|(cell, ratio, fills)| (cell, drawn(ratio, fills).max(0.05))).collect())
}
