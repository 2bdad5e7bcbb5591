//! Water: levels looked at, then what was poured.

use super::{Done, StepWork, VisitStep, VisitUnderWay};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::{Caution, Entry, EntryQuestion, EntryRefused, Place, VisitSheet};
use crate::water::{AmountKnown, Level, amount_question, over_the_mark};

pub(super) struct Water;

impl VisitStep for Water {
    fn applies(&self, construction: Construction) -> bool {
        construction.has_caps()
    }

    fn cautions(&self, _shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        vec![Caution::PureWater, Caution::Samples]
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(
            entry,
            Entry::Level { .. } | Entry::Lamp { .. } | Entry::Water { .. } | Entry::Spilled { .. }
        )
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        if !visit.model.construction.has_caps() {
            let what =
                if matches!(entry, Entry::Level { .. } | Entry::Lamp { .. }) { "level" } else { "water" };
            return Err(EntryRefused::Sealed { what });
        }
        let Entry::Water { millilitres, poured, stands: false, .. } = entry else { return Ok(None) };
        let cells = place.cells(visit.shape);
        let levels: Vec<Level> = visit
            .sheet
            .levels(visit.shape)
            .into_iter()
            .filter(|(cell, _)| cells.contains(cell))
            .map(|(_, level)| level)
            .collect();
        let question = match poured.amount {
            AmountKnown::Unknown => over_the_mark(&levels, visit.model),
            _ => amount_question(*millilitres, cells.len(), &levels, visit.model),
        };
        Ok(question.map(|question| EntryQuestion::Amount { question, place }))
    }

    fn progress(&self, sheet: &VisitSheet, shape: &BankShape, _construction: Construction) -> Done {
        Done { done: sheet.levels(shape).len(), of: shape.cell_count() }
    }

    /// What was noted begins at the first cell: getting there comes before it.
    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        StepWork::own(work.fills).map_or_else(
            || work.by_cell(work.times.fill_cell_seconds),
            |minutes| f64::from(work.times.set_up_minutes) + minutes,
        )
    }
}
