//! Close up: everything back as it was.

use super::{Done, StepWork, VisitStep, applying};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::GROUNDED_UP_TO;
use crate::visit::{Caution, Entry, VisitSheet};

pub(super) struct CloseUp;

impl VisitStep for CloseUp {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[(Caution::NegativeFirst, shape.system_voltage <= GROUNDED_UP_TO)])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Closed { .. } | Entry::LeftAs { .. })
    }

    fn progress(&self, sheet: &VisitSheet, _shape: &BankShape, construction: Construction) -> Done {
        let of = sheet.closing(construction).len();
        Done { done: of - sheet.not_closed(construction).len(), of }
    }

    /// Part of getting ready, which round and fill have.
    fn minutes(&self, _work: &StepWork<'_>) -> f64 {
        0.0
    }
}
