//! What is known of an invented bank when its due items are worked out.

use super::shape;
use jiff::civil::{Date, date};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::Points;
use rainshadow_core::schedule::{BankFacts, DueItem, Duty, Habits, JudgedRound, Task, due};
use rainshadow_core::severity::Severity;

/// The day it is asked for.
pub const TODAY: Date = date(2026, 10, 8);

/// A steady bank of 48 cells, a week after its round.
pub fn facts() -> BankFacts {
    BankFacts {
        shape: shape(3, 8, 2),
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        rules: HouseRules::maker_first(),
        duty: Duty::Cycled,
        on_the_move: false,
        season: None,
        wet_season: None,
        first_frost: None,
        known_since: date(2024, 1, 1),
        round: Some(JudgedRound::of_nothing(date(2026, 10, 1), Severity::Steady, Some(Points::new(9.0)))),
        came: Vec::new(),
        last_volts: None,
        last_water_check: Some(date(2026, 10, 1)),
        non_responding: Vec::new(),
        last_equalize: Some(date(2026, 9, 1)),
        last_retorque: Some(date(2026, 7, 1)),
        last_test: Some(date(2026, 3, 1)),
        recharge_owed: None,
        last_standby_check: None,
        last_storage_check: None,
        charged_for_storage: None,
        stored_since: None,
        water: None,
        plates_bare: None,
        at_plates: None,
        bare_found: None,
        kit_fills: None,
        findings: Vec::new(),
        rechecks: Vec::new(),
        reminders: Vec::new(),
        postponed: Vec::new(),
        habits: Habits::default(),
    }
}

pub fn item(facts: &BankFacts, task: Task) -> DueItem {
    due(facts).into_iter().find(|i| i.task == task).unwrap_or_else(|| panic!("{task:?} is not due"))
}

pub fn has(facts: &BankFacts, task: Task) -> bool {
    due(facts).iter().any(|i| i.task == task)
}
