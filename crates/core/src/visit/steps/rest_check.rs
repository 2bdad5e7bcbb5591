//! Rest check: volts battery by battery, then strings; on sealed banks resistance and case too.

use super::{Done, StepWork, VisitStep, VisitUnderWay};
use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::Construction;
use crate::ohmic::{is_odd_resistance, usual_resistance};
use crate::rest::{VoltsState, state_question, volts_question};
use crate::visit::{
    Caution, CheckedInstrument, Entry, EntryQuestion, EntryRefused, Measurement, Place, VisitSheet,
};
use std::collections::BTreeSet;

/// Minutes a battery (common practice, no source).
const BATTERY_MINUTES: f64 = 2.0;

pub(super) struct RestCheck;

/// Batteries whose volts were read, in whatever state.
fn read(sheet: &VisitSheet) -> BTreeSet<BatteryAddress> {
    let own = sheet.standing().filter_map(|k| match (k.place, &k.entry) {
        (Place::Battery(battery), Entry::BatteryVolts { .. } | Entry::StateVolts { .. }) => Some(battery),
        _ => None,
    });
    own.collect()
}

impl VisitStep for RestCheck {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, _shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        vec![Caution::LooseLugs]
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(
            entry,
            Entry::Rested { .. }
                | Entry::BatteryVolts { .. }
                | Entry::StateVolts { .. }
                | Entry::StringVolts { .. }
                | Entry::AlongVolts { .. }
                | Entry::Ohmic { .. }
                | Entry::CaseTemperature { .. }
                | Entry::InstrumentCheck { instrument: CheckedInstrument::Meter, .. }
                | Entry::Corrected { measurement: Measurement::RestVolts, .. }
        )
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        if let Entry::Corrected { action, note, .. } = entry {
            super::corrected(*action, note)?;
        }
        let (wanted, fits) = match entry {
            Entry::Rested { .. } | Entry::InstrumentCheck { .. } => ("the bank", place == Place::Bank),
            Entry::StateVolts { .. } | Entry::Corrected { .. } => {
                ("a battery, a string or the bank", !matches!(place, Place::Cell(_)))
            }
            Entry::StringVolts { .. } => ("a string", matches!(place, Place::String(_))),
            _ => ("a battery", matches!(place, Place::Battery(_))),
        };
        if !fits {
            return Err(EntryRefused::OtherPlace { wanted, at: place.said() });
        }
        if let Some(asked) = super::instrument_asked(entry) {
            return Ok(Some(asked));
        }
        let cells = u16::from(visit.shape.cells_per_battery);
        Ok(match entry {
            Entry::Ohmic { milliohms, stands: false, .. } => {
                let usual = usual_resistance(visit.shape.cells_per_battery, visit.model.c20.ampere_hours());
                is_odd_resistance(*milliohms, usual)
                    .then_some(EntryQuestion::Resistance { milliohms: *milliohms, usual })
            }
            Entry::BatteryVolts { volts, stands: false } => volts_question(*volts, cells).map(|question| {
                EntryQuestion::Volts { question, volts: *volts, cells, state: VoltsState::AtRest }
            }),
            Entry::StateVolts { state, volts, stands: false, .. } => {
                let cells = place.cells_in_series(visit.shape);
                state_question(*state, *volts, cells).map(|question| EntryQuestion::Volts {
                    question,
                    volts: *volts,
                    cells,
                    state: *state,
                })
            }
            _ => None,
        })
    }

    fn progress(&self, sheet: &VisitSheet, shape: &BankShape, _construction: Construction) -> Done {
        Done { done: read(sheet).len(), of: usize::from(shape.series) * usize::from(shape.parallel) }
    }

    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        f64::from(work.times.set_up_minutes) + BATTERY_MINUTES * work.batteries
    }
}
