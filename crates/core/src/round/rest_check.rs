//! SG-3: do rest volts and gravity tell the same story?

use super::Conditions;
use crate::bank::BankShape;
use crate::electrolyte::{CROSS_CHECK_LIMIT_VOLTS, measured_rest_voltage, rule_rest_voltage};
use crate::house_rules::HouseRules;
use crate::quantity::SpecificGravity;
use serde::{Deserialize, Serialize};

/// What the volts should be by gravity, and what they are.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestCheck {
    /// Volts per cell that the mean gravity leads to, by the measured curve.
    pub expected_cell_volts: f64,
    /// Volts of a cell at rest by the rule of the trade, SG + 0.845.
    pub rule_cell_volts: f64,
    /// Volts per cell as measured at the bank, where taken.
    pub measured_cell_volts: Option<f64>,
    /// True when the bank had rested long enough for volts to count.
    pub settled: bool,
    /// True when settled volts and gravity disagree by more than 0.02 V per cell.
    pub disagrees: bool,
}

impl RestCheck {
    pub(super) fn of(
        mean: SpecificGravity,
        conditions: &Conditions,
        shape: &BankShape,
        rules: &HouseRules,
    ) -> Self {
        let expected = measured_rest_voltage(mean);
        let measured = conditions.rest_volts.map(|v| v.volts() / f64::from(shape.cells_in_series()));
        let rested = |hours: Option<f64>| hours.is_some_and(|h| h >= f64::from(rules.settled_hours));
        let settled = !conditions.charging
            && rested(conditions.hours_since_charge)
            && rested(conditions.hours_since_load);
        let apart = measured.is_some_and(|m| (m - expected).abs() > CROSS_CHECK_LIMIT_VOLTS);
        Self {
            expected_cell_volts: expected,
            rule_cell_volts: rule_rest_voltage(mean),
            measured_cell_volts: measured,
            settled,
            disagrees: settled && apart,
        }
    }
}
