//! SC-2: time needed (common practice, no source), learned from the user's own visits after three.

use super::{BankFacts, Task};
use serde::{Deserialize, Serialize};

/// Visits of one's own before they replace the rule.
const OWN_VISITS: usize = 3;

/// How long the user's own rounds and fills took.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Habits {
    /// Minutes of past rounds of this bank.
    #[serde(default)]
    pub rounds: Vec<f64>,
}

fn whole(minutes: f64) -> u32 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to a year")]
    let rounded = minutes.clamp(0.0, 525_600.0).round() as u32;
    // People plan in fives.
    rounded.div_ceil(5) * 5
}

/// Minutes a task takes on this bank.
pub fn minutes(task: Task, facts: &BankFacts) -> u32 {
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    let cells = count(facts.shape.cell_count());
    let batteries = count(facts.shape.batteries().count());
    let own = || {
        let mut rounds = facts.habits.rounds.clone();
        (rounds.len() >= OWN_VISITS).then(|| crate::round::median(&mut rounds)).flatten()
    };
    whole(match task {
        Task::Round if facts.model.construction.has_caps() => own().unwrap_or(10.0 + 0.75 * cells),
        Task::Round => 10.0 + 2.0 * batteries,
        Task::Water | Task::KitInspection | Task::CoverPlates => 10.0 + 0.5 * cells,
        // EQ-4's corrective cap less what such a run usually spares (common practice, no source).
        Task::Equalize => 270.0,
        Task::SuspectCell | Task::Charge => 60.0,
        Task::LoadTest | Task::StandbyWet | Task::StandbyFrost => 10.0 * batteries,
        // One joint between batteries and one at each end of a string.
        Task::RetorqueAndClean => 15.0 + batteries + f64::from(facts.shape.parallel),
        Task::StorageCheck => 15.0 + batteries,
        Task::SeenFinding | Task::Reminder => 30.0,
    })
}
