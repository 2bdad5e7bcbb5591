//! Look over: cases, caps, cables, hold-downs, vents.

use super::{Done, StepWork, VisitStep, VisitUnderWay, applying};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::severity::Severity;
use crate::visit::{
    Caution, Entry, EntryQuestion, EntryRefused, Left, Place, Repair, Repaired, VisitSheet, checks,
};

pub(super) struct LookOver;

/// A repair is of something that can be found, on a bank that has it; it needs no finding beside it.
fn repair(repaired: &Repaired, visit: &VisitUnderWay<'_>) -> Result<(), EntryRefused> {
    let Repaired { check, found, repair, left, torque, .. } = repaired;
    if check.needs_caps() && !visit.model.construction.has_caps() {
        return Err(EntryRefused::NoCaps);
    }
    if check.needs_seal() && visit.model.construction.has_caps() {
        return Err(EntryRefused::NotSealed);
    }
    if check.kind(found).is_none() {
        return Err(EntryRefused::NoSuchFault { kind: found.clone(), check: *check });
    }
    if *repair == Repair::LeftAsItIs && *left != Left::AsFound {
        return Err(EntryRefused::NothingDone);
    }
    if torque.is_some() && !(check.has_torque() && repair.takes_torque()) {
        return Err(EntryRefused::NoTorque);
    }
    Ok(())
}

impl VisitStep for LookOver {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, _shape: &BankShape, construction: Construction) -> Vec<Caution> {
        let sealed = !construction.has_caps();
        applying(&[
            (Caution::HotSealed, sealed),
            (Caution::NeverOpen, sealed),
            (Caution::Frozen, true),
            (Caution::Weight, true),
        ])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Checked { .. } | Entry::NotHere { .. } | Entry::Repaired { .. })
    }

    fn accept(
        &self,
        _place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        if let Entry::Repaired { repaired } = entry {
            return repair(repaired, visit).map(|()| None);
        }
        if let Entry::NotHere { check } = entry
            && !check.can_be_absent()
        {
            return Err(EntryRefused::AlwaysThere);
        }
        let Entry::Checked { check, found, measured } = entry else { return Ok(None) };
        if check.needs_caps() && !visit.model.construction.has_caps() {
            return Err(EntryRefused::NoCaps);
        }
        if check.needs_seal() && visit.model.construction.has_caps() {
            return Err(EntryRefused::NotSealed);
        }
        if measured.is_some() && check.measures().is_none() {
            return Err(EntryRefused::NothingMeasured);
        }
        if let Some(found) = found {
            if check.kind(&found.kind).is_none() {
                return Err(EntryRefused::NotFoundHere { kind: found.kind.clone(), check: *check });
            }
            if !matches!(found.severity, Severity::Watch | Severity::Act) {
                return Err(EntryRefused::FoundFine);
            }
        }
        Ok(None)
    }

    fn progress(&self, sheet: &VisitSheet, _shape: &BankShape, construction: Construction) -> Done {
        let all = checks(construction);
        Done { done: all.iter().filter(|c| sheet.checked(**c) || sheet.not_here(**c)).count(), of: all.len() }
    }

    /// A minute a battery beside the house's minutes.
    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        f64::from(work.times.look_over_minutes) + work.batteries
    }
}
