//! How far each step of a visit is.

use super::{Entry, Step, StepState, VisitSheet, cautions, checks, closing_items};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// How far a step is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepProgress {
    /// The step.
    pub step: Step,
    /// Its name.
    pub name: String,
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
        let count = |pick: &dyn Fn(&Entry) -> bool| sheet.standing().filter(|k| pick(&k.entry)).count();
        let (done, of) = match step {
            Step::MakeSafe => {
                let asked = cautions(Step::MakeSafe, shape, construction);
                let asked: Vec<_> = asked.into_iter().filter(|c| c.confirmed()).collect();
                let said = count(&|e| matches!(e, Entry::Confirmed { caution } if asked.contains(caution)));
                (said, asked.len())
            }
            Step::LookOver => {
                let all = checks(construction);
                (all.iter().filter(|c| sheet.checked(**c)).count(), all.len())
            }
            Step::RestCheck => (
                count(&|e| matches!(e, Entry::BatteryVolts { .. })),
                usize::from(shape.series) * usize::from(shape.parallel),
            ),
            Step::Round => (0, shape.cell_count()),
            Step::Water => (sheet.levels(shape).len(), shape.cell_count()),
            // Runs are counted by whoever holds them.
            Step::Equalize => (0, 0),
            Step::CloseUp => {
                (count(&|e| matches!(e, Entry::Closed { .. })), closing_items(construction).len())
            }
        };
        let (state, reason) = sheet.state_of(step);
        Self { step, name: step.name().into(), state, reason, done, of }
    }
}
