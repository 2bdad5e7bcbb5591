//! SC-2: time needed (common practice, no source), learned from the user's own visits after three.

use super::{BankFacts, Task};

/// Visits of one's own before they replace the rule.
const OWN_VISITS: usize = 3;

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
    let own = |past: &[f64]| {
        let mut past = past.to_vec();
        (past.len() >= OWN_VISITS).then(|| crate::round::median(&mut past)).flatten()
    };
    let times = facts.rules.times;
    let set_up = f64::from(times.set_up_minutes);
    let by_cell = |seconds: u16| set_up + f64::from(seconds) / 60.0 * cells;
    let look_over = f64::from(times.look_over_minutes) + batteries;
    whole(match task {
        Task::Round if facts.model.construction.has_caps() => {
            own(&facts.habits.rounds).unwrap_or_else(|| by_cell(times.round_cell_seconds))
        }
        // Volts and resistance, two minutes a battery (common practice, no source).
        Task::Round => set_up + 2.0 * batteries,
        Task::Water | Task::KitInspection | Task::CoverPlates => {
            // What was noted begins at the first cell: getting there comes before it.
            own(&facts.habits.fills).map_or_else(|| by_cell(times.fill_cell_seconds), |m| set_up + m)
        }
        // EQ-4's corrective cap less what such a run usually spares (common practice, no source).
        Task::Equalize => 270.0,
        Task::SuspectCell | Task::Charge => 60.0,
        Task::LoadTest | Task::StandbyWet | Task::StandbyFrost => {
            f64::from(times.test_battery_minutes) * batteries
        }
        // One joint between batteries and one at each end of a string, a minute each.
        Task::RetorqueAndClean => look_over + f64::from(facts.shape.parallel),
        Task::StorageCheck => look_over,
        Task::SeenFinding | Task::Reminder => 30.0,
    })
}
