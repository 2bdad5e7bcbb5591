//! The cells that a run is watched by: the pilot and the two lowest others (EQ-4).

use crate::bank::{BankShape, CellAddress};
use crate::quantity::SpecificGravity;

/// Cells that are read in a run.
pub const WATCHED: usize = 3;

/// The pilot that the last round suggests: its lowest cell. Without a round the first cell.
pub fn pilot(shape: &BankShape, gravities: &[(CellAddress, SpecificGravity)]) -> Option<CellAddress> {
    lowest(gravities, None).first().copied().or_else(|| shape.cells().next())
}

/// The pilot and the two lowest others. Where fewer are known to be low, cells from the far end and
/// the middle of the bank stand in: neighbours tell the least of one another.
pub fn watched(
    shape: &BankShape,
    gravities: &[(CellAddress, SpecificGravity)],
    pilot: CellAddress,
) -> Vec<CellAddress> {
    let all: Vec<CellAddress> = shape.cells().collect();
    let far = [all.len().saturating_sub(1), all.len() / 2, 0].into_iter().filter_map(|i| all.get(i).copied());
    let mut watched = vec![pilot];
    for cell in lowest(gravities, Some(pilot)).into_iter().chain(far) {
        if watched.len() < WATCHED && !watched.contains(&cell) {
            watched.push(cell);
        }
    }
    watched
}

fn lowest(gravities: &[(CellAddress, SpecificGravity)], but: Option<CellAddress>) -> Vec<CellAddress> {
    let mut low: Vec<_> = gravities.iter().filter(|(cell, _)| Some(*cell) != but).collect();
    low.sort_by(|a, b| a.1.value().total_cmp(&b.1.value()));
    low.into_iter().take(WATCHED - 1).map(|(cell, _)| *cell).collect()
}
