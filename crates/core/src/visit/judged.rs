//! What a visit measured is judged by.

use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::house_rules::HouseRules;

/// What is measured, and what judges it.
#[derive(Debug, Clone, Copy)]
pub struct Judged<'a> {
    /// The bank.
    pub shape: &'a BankShape,
    /// Its batteries.
    pub model: &'a BatteryModel,
    /// The rules that judge.
    pub rules: &'a HouseRules,
}
