//! Equalize, where readings or calendar ask for it. What is written down of it are entries of the run.

use super::{Done, StepWork, VisitStep, applying};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::HIGHER_VOLTAGE;
use crate::visit::{Caution, Entry, VisitSheet};

/// EQ-4's corrective cap less what such a run usually spares, minutes (common practice, no source).
const MINUTES: f64 = 270.0;

pub(super) struct Equalize;

impl VisitStep for Equalize {
    fn applies(&self, construction: Construction) -> bool {
        construction.has_caps()
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[
            (Caution::Ventilated, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
        ])
    }

    fn takes(&self, _entry: &Entry) -> bool {
        false
    }

    /// Runs are counted by whoever holds them.
    fn progress(&self, _sheet: &VisitSheet, _shape: &BankShape, _construction: Construction) -> Done {
        Done { done: 0, of: 0 }
    }

    fn minutes(&self, _work: &StepWork<'_>) -> f64 {
        MINUTES
    }
}
