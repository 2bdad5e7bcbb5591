//! The path of a round: along the rows as the bank stands, there and back.

use super::{CellAddress, Plan};

/// Every cell in walking order: the first row from left to right, the next from right to left,
/// and so on; reversed, the same path from its end.
pub fn walk(plan: &Plan, reversed: bool) -> Vec<CellAddress> {
    let mut path = Vec::new();
    for (i, row) in plan.rows.iter().enumerate() {
        let mut cells: Vec<CellAddress> =
            row.batteries.iter().flat_map(|battery| battery.cells.iter().copied()).collect();
        if i % 2 == 1 {
            cells.reverse();
        }
        path.extend(cells);
    }
    if reversed {
        path.reverse();
    }
    path
}
