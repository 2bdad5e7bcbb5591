//! Joints and strings: millivolts, currents, torque.

use super::{Done, StepWork, VisitStep, VisitUnderWay, applying, count};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::HIGHER_VOLTAGE;
use crate::visit::{Caution, Entry, EntryQuestion, EntryRefused, Place, VisitSheet, joint_accept};

pub(super) struct Joints;

impl VisitStep for Joints {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[
            (Caution::ProbeOneJoint, true),
            (Caution::WrenchSlips, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
        ])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Joint { .. })
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        let Entry::Joint { entry } = entry else { return Ok(None) };
        let question = joint_accept::accept(place, entry, (visit.shape, visit.sheet))?;
        Ok(question.map(|question| EntryQuestion::Joint { question, place }))
    }

    /// Which of them are wanted is open.
    fn progress(&self, sheet: &VisitSheet, _shape: &BankShape, _construction: Construction) -> Done {
        Done { done: count(sheet, |e| matches!(e, Entry::Joint { .. })), of: 0 }
    }

    /// A minute a joint: one between batteries, one at each end of a string.
    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        2.0 * work.batteries
    }
}
