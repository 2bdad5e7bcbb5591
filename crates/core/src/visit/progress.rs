//! How far each step of a visit is.

use super::{Step, StepState, VisitSheet};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// How far a step is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepProgress {
    /// The step.
    pub step: Step,
    /// What the technician said of it, if anything.
    pub state: Option<StepState>,
    /// Why it was skipped.
    pub reason: String,
    /// Things done in it.
    pub done: usize,
    /// Things there are to do; 0 where that is open.
    pub of: usize,
}

impl StepProgress {
    /// Counts what the sheet holds for a step. Cells of a round are counted by whoever holds it.
    pub fn of(step: Step, sheet: &VisitSheet, shape: &BankShape, construction: Construction) -> Self {
        let super::steps::Done { done, of } = super::steps::of(step).progress(sheet, shape, construction);
        let (state, reason) = sheet.state_of(step);
        Self { step, state, reason, done, of }
    }
}
