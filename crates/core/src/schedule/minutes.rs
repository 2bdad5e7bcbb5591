//! SC-2: time needed (common practice, no source), learned from the user's own visits after three.

use super::{BankFacts, Task};
use crate::visit::{Step, StepWork};

fn whole(minutes: f64) -> u32 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to a year")]
    let rounded = minutes.clamp(0.0, 525_600.0).round() as u32;
    // People plan in fives.
    rounded.div_ceil(5) * 5
}

fn work(facts: &BankFacts) -> StepWork<'_> {
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    StepWork {
        cells: count(facts.shape.cell_count()),
        batteries: count(facts.shape.batteries().count()),
        times: facts.rules.times,
        rounds: &facts.habits.rounds,
        fills: &facts.habits.fills,
    }
}

/// Minutes a step takes on this bank.
pub fn step_minutes(step: Step, facts: &BankFacts) -> u32 {
    whole(step.minutes(&work(facts)))
}

/// Minutes a task takes on this bank.
pub fn minutes(task: Task, facts: &BankFacts) -> u32 {
    let work = work(facts);
    whole(match task {
        Task::Round if facts.model.construction.has_caps() => Step::Round.minutes(&work),
        Task::Round => Step::RestCheck.minutes(&work),
        Task::Water | Task::KitInspection | Task::CoverPlates => Step::Water.minutes(&work),
        Task::Equalize => Step::Equalize.minutes(&work),
        Task::SuspectCell | Task::Charge => 60.0,
        Task::LoadTest | Task::StandbyWet | Task::StandbyFrost => {
            f64::from(facts.rules.times.test_battery_minutes) * work.batteries
        }
        // One joint between batteries and one at each end of a string, a minute each.
        Task::RetorqueAndClean => Step::LookOver.minutes(&work) + f64::from(facts.shape.parallel),
        Task::StorageCheck => Step::LookOver.minutes(&work),
        // Somebody sets the charger and comes back; nobody stands beside it.
        Task::ChargeForStorage | Task::Recharge | Task::SeenFinding | Task::Recheck | Task::Reminder => 30.0,
        Task::SayWhenUsed => 2.0,
    })
}
