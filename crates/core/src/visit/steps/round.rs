//! Round: every cell by hydrometer. Its readings are entries of the round and not of the visit.

use super::{Done, StepWork, VisitStep, VisitUnderWay};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::{Caution, Entry, EntryQuestion, EntryRefused, Measurement, Place, VisitSheet};

pub(super) struct Round;

impl VisitStep for Round {
    fn applies(&self, construction: Construction) -> bool {
        construction.has_caps()
    }

    fn cautions(&self, _shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        vec![Caution::Samples]
    }

    fn takes(&self, entry: &Entry) -> bool {
        match entry {
            Entry::Corrected { measurement: Measurement::Gravity, .. } => true,
            Entry::InstrumentCheck { instrument, .. } => instrument.reads_gravity(),
            _ => false,
        }
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        if !visit.model.construction.has_caps() {
            return Err(EntryRefused::Sealed { what: "gravity" });
        }
        if matches!(entry, Entry::InstrumentCheck { .. }) && place != Place::Bank {
            return Err(EntryRefused::OtherPlace { wanted: "the bank", at: place.said() });
        }
        let Entry::Corrected { action, note, .. } = entry else { return Ok(super::instrument_asked(entry)) };
        super::corrected(*action, note).map(|()| None)
    }

    /// Cells of a round are counted by whoever holds it.
    fn progress(&self, _sheet: &VisitSheet, shape: &BankShape, _construction: Construction) -> Done {
        Done { done: 0, of: shape.cell_count() }
    }

    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        StepWork::own(work.rounds).unwrap_or_else(|| work.by_cell(work.times.round_cell_seconds))
    }
}
