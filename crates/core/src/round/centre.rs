//! RD-2: centre and spread of a round, by bank and by string.

use crate::bank::CellAddress;
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Median of the values; the mean of the middle two for an even count; none for no values.
pub fn median(values: &mut [f64]) -> Option<f64> {
    if values.is_empty() {
        return None;
    }
    let middle = values.len() / 2;
    let even = values.len().is_multiple_of(2);
    let (below, at, _) = values.select_nth_unstable_by(middle, f64::total_cmp);
    let upper = *at;
    if !even {
        return Some(upper);
    }
    let lower = below.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    Some(f64::midpoint(lower, upper))
}

/// Median of gravities; none for none.
pub fn middle_of(gravities: impl Iterator<Item = SpecificGravity>) -> Option<SpecificGravity> {
    median(&mut gravities.map(SpecificGravity::value).collect::<Vec<_>>()).map(SpecificGravity::corrected)
}

/// Highest less lowest, with the cells that make it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spread {
    /// Highest less lowest corrected gravity.
    pub points: Points,
    /// Lowest cell.
    pub lowest: CellAddress,
    /// Its corrected gravity.
    pub lowest_gravity: SpecificGravity,
    /// Highest cell.
    pub highest: CellAddress,
    /// Its corrected gravity.
    pub highest_gravity: SpecificGravity,
}

/// Figures of one string.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StringFigures {
    /// Its letter.
    pub letter: char,
    /// Median of its cells.
    pub centre: SpecificGravity,
    /// Its spread.
    pub spread: Spread,
}

/// Median gravity of the cells.
pub(super) fn centre(cells: &[(CellAddress, SpecificGravity)]) -> Option<SpecificGravity> {
    let mut values: Vec<f64> = cells.iter().map(|(_, sg)| sg.value()).collect();
    median(&mut values).map(SpecificGravity::corrected)
}

/// Spread of the cells; none for no cells.
pub(super) fn spread(cells: &[(CellAddress, SpecificGravity)]) -> Option<Spread> {
    // Of equal cells the one with the first address is named, whatever the order of entry.
    let by = |a: &&(CellAddress, SpecificGravity), b: &&(CellAddress, SpecificGravity)| {
        a.1.value().total_cmp(&b.1.value())
    };
    let lowest = cells.iter().min_by(|a, b| by(a, b).then(a.0.cmp(&b.0)))?;
    let highest = cells.iter().max_by(|a, b| by(a, b).then(b.0.cmp(&a.0)))?;
    Some(Spread {
        points: highest.1 - lowest.1,
        lowest: lowest.0,
        lowest_gravity: lowest.1,
        highest: highest.0,
        highest_gravity: highest.1,
    })
}

/// Figures of every string that has a reading.
pub(super) fn by_string(cells: &[(CellAddress, SpecificGravity)]) -> Vec<StringFigures> {
    let mut strings: Vec<u8> = cells.iter().map(|(cell, _)| cell.battery.string).collect();
    strings.sort_unstable();
    strings.dedup();
    strings
        .into_iter()
        .filter_map(|string| {
            let own: Vec<_> =
                cells.iter().filter(|(cell, _)| cell.battery.string == string).copied().collect();
            Some(StringFigures {
                letter: crate::bank::string_letter(string),
                centre: centre(&own)?,
                spread: spread(&own)?,
            })
        })
        .collect()
}

/// Mean gravity of the cells: what the volts of a string add up to.
pub(super) fn mean(cells: &[(CellAddress, SpecificGravity)]) -> Option<SpecificGravity> {
    let count = f64::from(u32::try_from(cells.len()).ok().filter(|n| *n > 0)?);
    Some(SpecificGravity::corrected(cells.iter().map(|(_, sg)| sg.value()).sum::<f64>() / count))
}
