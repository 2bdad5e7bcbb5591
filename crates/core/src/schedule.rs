//! What is due when: SC-1 consequence, SC-2 time needed, SC-3 the earlier of condition and calendar.

mod calendar;
mod condition;
mod consequence;
mod days;
mod duty;
mod equipment;
mod facts;
mod item;
mod judged_round;
mod left;
mod minutes;
mod season;
mod task;

pub use duty::Duty;
pub use equipment::equipment_findings;
pub use facts::{BankFacts, Habits, OpenFinding, Postponed, Reminder, WaterDates, on_the_move};
pub use item::{DueItem, Other, Why};
pub use judged_round::{JudgedRound, RoundCharge, never_full};
pub use left::usually_left;
pub use minutes::{minutes, step_minutes};
pub use season::{MonthDay, MonthDayError, Season};
pub use task::{Consequence, Task};

use jiff::civil::Date;
/// Everything due on a bank, most pressing first: by consequence, then by date.
pub fn due(facts: &BankFacts) -> Vec<DueItem> {
    let mut items: Vec<DueItem> = Vec::new();
    items.extend(condition::plates_bare(facts));
    items.extend(condition::suspect_cells(facts));
    items.extend(condition::standing(facts));
    items.extend(equipment::equipment(facts));
    items.extend(calendar::water(facts));
    items.push(calendar::round(facts));
    items.extend(calendar::equalize(facts));
    items.extend(condition::charge(facts));
    items.push(calendar::retorque(facts));
    items.push(calendar::test(facts));
    items.extend(calendar::standby(facts));
    items.extend(calendar::storage(facts));
    items.extend(left::charge_before_storage(facts));
    items.extend(left::season_asked(facts));
    items.extend(calendar::kit(facts));
    items.extend(condition::recharge(facts));
    items.extend(condition::rechecks(facts));
    items.extend(condition::reminders(facts));
    for item in &mut items {
        // The worst cell is the pilot of an equalize: that is what takes the time.
        item.minutes = match &item.why {
            Why::Recheck { recheck } => step_minutes(recheck.step, facts),
            _ if item.equalizes() => minutes(Task::Equalize, facts),
            _ => minutes(item.task, facts),
        };
        if let Some(own) = facts.postponed.iter().find(|p| p.task == item.task && p.of == item.about()) {
            item.postpone(own);
        }
    }
    items.sort_by_key(|item| (item.consequence, item.date));
    items
}

/// Everything that is due, with what waiting does as of a day (SC-1), most pressing first.
pub fn due_on(facts: &BankFacts, today: Date) -> Vec<DueItem> {
    let mut items = due(facts);
    for item in &mut items {
        item.consequence = item.consequence_on(today);
    }
    items.sort_by_key(|item| (item.consequence, item.date));
    items
}
