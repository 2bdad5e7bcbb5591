//! Load and capacity tests: where voltage alone cannot be believed.

use super::{Done, StepWork, VisitStep, VisitUnderWay, applying, count};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::HIGHER_VOLTAGE;
use crate::visit::{Caution, Entry, EntryQuestion, EntryRefused, Place, VisitSheet, test_accept};

pub(super) struct LoadTest;

impl VisitStep for LoadTest {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[
            (Caution::SwitchTheLoad, true),
            (Caution::RechargeAtOnce, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
        ])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Test { .. })
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        let Entry::Test { test } = entry else { return Ok(None) };
        let question = test_accept::accept(place, test, (visit.shape, visit.sheet))?;
        Ok(question.map(|question| EntryQuestion::Test { question, place }))
    }

    /// Which test is wanted is open.
    fn progress(&self, sheet: &VisitSheet, _shape: &BankShape, _construction: Construction) -> Done {
        Done { done: count(sheet, |e| matches!(e, Entry::Test { test } if test.is_a_test())), of: 0 }
    }

    fn minutes(&self, work: &StepWork<'_>) -> f64 {
        f64::from(work.times.test_battery_minutes) * work.batteries
    }
}
