//! Whether something may be written down on a visit, and what it is asked about.

use super::{Entry, EntryQuestion, EntryRefused, Place, Step, StepState, VisitUnderWay, steps};
use crate::log::possible_time;
use jiff::Timestamp;
use strum::VariantArray;

/// Decides about an entry that is new on a visit; `latest` is the latest time that any clock can show now.
/// What is of a step is decided by the step.
///
/// # Errors
/// [`EntryRefused`]; nothing is added then.
pub fn accept(
    (place, entry, taken_at): (Place, &Entry, Timestamp),
    visit: &VisitUnderWay<'_>,
    latest: Timestamp,
) -> Result<Option<EntryQuestion>, EntryRefused> {
    if !visit.taking {
        return Err(EntryRefused::VisitClosed);
    }
    possible_time(taken_at, latest)?;
    if !place.on(visit.shape) {
        return Err(EntryRefused::NoSuchPlace(place.said()));
    }
    match entry {
        Entry::Step { state: StepState::Skipped, reason, .. } if reason.trim().is_empty() => {
            return Err(EntryRefused::NoReason);
        }
        Entry::Recheck { step, .. } if !step.can_be_rechecked() => return Err(EntryRefused::NoRecheck),
        Entry::Recheck { step, .. } | Entry::Only { step }
            if !steps(visit.model.construction).contains(step) =>
        {
            return Err(EntryRefused::NoSuchStep);
        }
        Entry::Note { text } if text.trim().is_empty() => return Err(EntryRefused::NoteEmpty),
        Entry::Withdrawn { entry } if !visit.sheet.all().iter().any(|e| e.id == *entry) => {
            return Err(EntryRefused::NoSuchEntry);
        }
        _ => {}
    }
    let step = Step::VARIANTS.iter().map(|step| steps::of(*step)).find(|step| step.takes(entry));
    step.map_or(Ok(None), |step| step.accept(place, entry, visit))
}
