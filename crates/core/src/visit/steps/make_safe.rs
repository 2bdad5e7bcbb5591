//! Make safe: eyes, hands, metal, air, loads, chargers, isolation.

use super::{Done, StepWork, VisitStep, applying, count};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::{GROUNDED_UP_TO, HIGHER_VOLTAGE};
use crate::visit::{Caution, Entry, VisitSheet};

pub(super) struct MakeSafe;

impl VisitStep for MakeSafe {
    fn applies(&self, _construction: Construction) -> bool {
        true
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[
            (Caution::Acid, true),
            (Caution::MetalOff, true),
            (Caution::Ventilated, true),
            (Caution::Isolated, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
            (Caution::WiringOnRecord, true),
            (Caution::NegativeFirst, shape.system_voltage <= GROUNDED_UP_TO),
        ])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Confirmed { .. })
    }

    fn progress(&self, sheet: &VisitSheet, shape: &BankShape, construction: Construction) -> Done {
        let asked: Vec<Caution> =
            self.cautions(shape, construction).into_iter().filter(|c| c.confirmed()).collect();
        let said = count(sheet, |e| matches!(e, Entry::Confirmed { caution } if asked.contains(caution)));
        Done { done: said, of: asked.len() }
    }

    /// Part of getting ready, which round and fill have.
    fn minutes(&self, _work: &StepWork<'_>) -> f64 {
        0.0
    }
}
