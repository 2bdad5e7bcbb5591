//! What the levels of a round are a sign of: plates that show, or all of them covered.

use super::evidence::said;
use super::{RoundRead, Sign};
use crate::battery_model::BatteryModel;

/// mm that a level may be misjudged by (our choice, no source).
const MISJUDGED: f64 = 2.0;
/// Share of the cells whose level has to be known before all plates are called covered (our choice, no source).
const KNOWN: f64 = 0.8;

/// The sign of the levels of the newest round; none where they were not read, or stand near the plates.
pub(super) fn sign(rounds: &[&RoundRead], model: &BatteryModel) -> Option<Sign> {
    let newest = rounds.last()?;
    let height = model.fill_mark_above_plates?.millimetres();
    let known: Vec<_> = newest.cells.iter().filter_map(|own| Some((own.cell, own.below_mark?))).collect();
    let bare: Vec<String> = known
        .iter()
        .filter(|(_, below)| *below > height + MISJUDGED)
        .map(|(cell, _)| cell.to_string())
        .collect();
    if !bare.is_empty() {
        let seen = format!("{} of {} cells on {}", bare.len(), known.len(), said(newest.day));
        return Some(Sign::new("plates_show", seen, &bare.join(" ")));
    }
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    let most = known.iter().map(|(_, below)| *below).fold(0.0, f64::max);
    let covered = most < height - MISJUDGED && count(known.len()) >= KNOWN * count(newest.cells.len());
    (covered && !known.is_empty()).then(|| {
        Sign::new(
            "plates_covered",
            format!("at most {most:.0} mm under the mark on {}", said(newest.day)),
            "",
        )
    })
}
