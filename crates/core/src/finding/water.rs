//! What levels and fills show (WA-4, WA-5).

use super::{Bound, Certainty, Finding, FindingKind, RuleId, Subject, Tolerance, WaterFinding};
use crate::bank::CellAddress;
use crate::severity::Severity;
use crate::water::{SPARING, THIRSTY, Uneven};

/// Plates that showed and were not covered; none where there are none.
pub fn plates_bare(cells: &[CellAddress]) -> Option<Finding> {
    let kind = FindingKind::Water(WaterFinding::PlatesBare);
    let finding = Finding::recorded(Subject::Bank, kind, Severity::Act, RuleId::Wa4);
    (!cells.is_empty()).then(|| Finding { cells: cells.to_vec(), ..finding })
}

/// Levels that stood at the plates and got no water; none where there are none.
pub fn levels_at_plates(cells: &[CellAddress]) -> Option<Finding> {
    let kind = FindingKind::Water(WaterFinding::LevelsAtPlates);
    let finding = Finding::recorded(Subject::Bank, kind, Severity::Act, RuleId::Wa4);
    (!cells.is_empty()).then(|| Finding { cells: cells.to_vec(), ..finding })
}

/// A cell that drinks unlike its mates.
pub fn uneven(uneven: &Uneven) -> Finding {
    let kind = FindingKind::Water(WaterFinding::UnevenConsumption { uneven: *uneven });
    Finding {
        cells: vec![uneven.cell],
        tolerance: Some(Tolerance::of_every_house(Bound::Factor { low: SPARING, high: THIRSTY })),
        certainty: Certainty::Clear,
        ..Finding::recorded(Subject::Cell(uneven.cell), kind, Severity::Watch, RuleId::Wa5)
    }
}
