//! WA-5: a cell that drinks much more or less than its mates is evidence.

use crate::bank::CellAddress;
use crate::round::median;
use serde::{Deserialize, Serialize};

/// Factor of the median that makes a cell thirsty or dry (WA-5).
pub const THIRSTY: f64 = 1.5;
/// And that makes it a sparing one (WA-5).
pub const SPARING: f64 = 0.6;

/// A cell that drinks unlike its mates.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Uneven {
    /// The cell.
    pub cell: CellAddress,
    /// Its use against the median in the last fill.
    pub factor: f64,
    /// Its use against the median in the fill before.
    pub before: f64,
    /// True when it drinks more.
    pub more: bool,
}

/// True for a use that is odd in one fill already: worth a look, no evidence yet.
pub fn odd_share(share: f64) -> bool {
    !(SPARING..=THIRSTY).contains(&share)
}

/// Cells beyond the factors over the last two fills, thirstiest first. Each fill lists mL by cell.
pub fn uneven_consumption(last: &[(CellAddress, f64)], before: &[(CellAddress, f64)]) -> Vec<Uneven> {
    let middle = |fill: &[(CellAddress, f64)]| {
        median(&mut fill.iter().map(|(_, ml)| *ml).collect::<Vec<_>>()).filter(|m| *m > 0.0)
    };
    let (Some(now), Some(then)) = (middle(last), middle(before)) else { return Vec::new() };
    let mut found: Vec<Uneven> = last
        .iter()
        .filter_map(|(cell, ml)| {
            let (_, past) = before.iter().find(|(c, _)| c == cell)?;
            let (factor, past) = (ml / now, past / then);
            let more = factor > THIRSTY && past > THIRSTY;
            let less = factor < SPARING && past < SPARING;
            (more || less).then_some(Uneven { cell: *cell, factor, before: past, more })
        })
        .collect();
    found.sort_by(|a, b| b.factor.total_cmp(&a.factor).then(a.cell.cmp(&b.cell)));
    found
}
