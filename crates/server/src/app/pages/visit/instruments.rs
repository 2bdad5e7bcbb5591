//! Instruments that were held against what they should show on a visit.

use super::VisitContext;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{CheckedInstrument, instruments_checked};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// An instrument that can be checked.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentChoice {
    /// Which.
    pub instrument: CheckedInstrument,
    /// Its name.
    pub name: &'static str,
}

/// An instrument that was checked.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentLine {
    /// Which.
    pub instrument: CheckedInstrument,
    /// What it came to.
    pub said: String,
    /// Watch where it is off by more than matters.
    pub condition: Severity,
}

/// Checks of instruments in a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentsView {
    /// What can be checked here, what was read with last first.
    pub choices: Vec<InstrumentChoice>,
    /// What was.
    pub checked: Vec<InstrumentLine>,
}

impl VisitContext {
    /// Checks of those that read gravity, or of the meter.
    pub(super) fn instruments(&self, of_gravity: bool) -> InstrumentsView {
        let last = self.rounds.last().map(|(round, _, _)| CheckedInstrument::from(round.instrument.kind));
        let mut all: Vec<CheckedInstrument> = CheckedInstrument::ALL.to_vec();
        all.retain(|own| own.reads_gravity() == of_gravity);
        all.sort_by_key(|own| Some(*own) != last);
        let name = |instrument| InstrumentChoice { instrument, name: wording::instrument_name(instrument) };
        let checked = instruments_checked(&self.sheet).into_iter();
        let line = |own: rainshadow_core::visit::InstrumentChecked| InstrumentLine {
            instrument: own.instrument,
            said: wording::instrument_checked(&own),
            condition: if own.matters() { Severity::Watch } else { Severity::Steady },
        };
        InstrumentsView {
            choices: all.into_iter().map(name).collect(),
            checked: checked.filter(|own| own.instrument.reads_gravity() == of_gravity).map(line).collect(),
        }
    }
}
