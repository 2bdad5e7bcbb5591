//! What was done on a visit about what a measurement showed, and what a second reading showed after it.

use super::{CorrectiveAction, Entry, Measurement, Place, VisitEntry, VisitSheet};
use crate::finding::{Finding, FindingKind, Subject};
use crate::rest::VoltsState;

/// One action at a place, with what was read there after it.
#[derive(Debug, Clone, PartialEq)]
pub struct Corrected<'a> {
    /// The entry.
    pub entry: &'a VisitEntry,
    /// Which measurement asked for it.
    pub measurement: Measurement,
    /// What was done.
    pub action: CorrectiveAction,
    /// In the technician's words.
    pub note: &'a str,
    /// What the same place showed last after it, V with its state; none: its volts were not read again.
    pub after: Option<(VoltsState, f64)>,
}

impl Corrected<'_> {
    /// True when it was done about what this finding says: the same measurement, at the same battery, string or
    /// bank.
    pub fn is_about(&self, finding: &Finding) -> bool {
        let measured = match finding.kind {
            FindingKind::Rest(_) | FindingKind::Ohmic(_) => self.measurement == Measurement::RestVolts,
            FindingKind::Round(_) => self.measurement == Measurement::Gravity,
            _ => false,
        };
        let here = Subject::from(self.entry.place);
        let same = here == finding.subject;
        let battery = here.battery().is_some() && here.battery() == finding.subject.battery();
        measured && (same || battery)
    }
}

impl VisitSheet {
    /// Everything that was done about what was measured, in the order it was written down.
    pub fn corrected(&self) -> Vec<Corrected<'_>> {
        let mut all: Vec<Corrected<'_>> = Vec::new();
        for entry in self.standing() {
            match &entry.entry {
                Entry::Corrected { measurement, action, note } => all.push(Corrected {
                    entry,
                    measurement: *measurement,
                    action: *action,
                    note,
                    after: None,
                }),
                Entry::StateVolts { state, volts, .. } => {
                    let about =
                        |own: &&mut Corrected<'_>| battery_of(own.entry.place) == battery_of(entry.place);
                    for own in all.iter_mut().filter(about) {
                        own.after = Some((*state, *volts));
                    }
                }
                _ => {}
            }
        }
        all
    }
}

/// Where the volts of a place are read: those of a cell are those of its battery.
fn battery_of(place: Place) -> Place {
    match place {
        Place::Cell(cell) => Place::Battery(cell.battery),
        other => other,
    }
}
