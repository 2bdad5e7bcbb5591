//! EQ-5 over runs: a cell that did not answer is tried once more; one that did not answer twice running
//! is replaced.

use super::Outcome;
use crate::bank::CellAddress;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// A cell that did not answer the last run that was judged.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NonRespondingCell {
    /// The cell.
    pub cell: CellAddress,
    /// How many runs running.
    pub times: u8,
    /// Day of the last of them.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub last: Date,
}

impl NonRespondingCell {
    /// True when it is to be replaced (EQ-5).
    pub const fn is_given_up(&self) -> bool {
        self.times >= 2
    }
}

/// Cells that did not answer the last of these runs, lowest first; runs oldest first.
pub fn non_responding_cells(runs: &[(Date, &Outcome)]) -> Vec<NonRespondingCell> {
    let non_responding = |outcome: &Outcome, cell: &CellAddress| matches!(outcome, Outcome::DidNotAnswer { cells } if cells.contains(cell));
    let Some((last, Outcome::DidNotAnswer { cells })) = runs.last().copied() else { return Vec::new() };
    let times = |cell: &CellAddress| {
        let running = runs.iter().rev().take_while(|(_, outcome)| non_responding(outcome, cell)).count();
        u8::try_from(running).unwrap_or(u8::MAX)
    };
    cells.iter().map(|cell| NonRespondingCell { cell: *cell, times: times(cell), last }).collect()
}

/// How a cell stands with its runs; none: it answered, or was in none.
pub fn non_responding(cells: &[NonRespondingCell], cell: CellAddress) -> Option<&NonRespondingCell> {
    cells.iter().find(|own| own.cell == cell)
}
