//! SG-3: do rest volts and gravity tell the same story?

use super::Conditions;
use crate::bank::BankShape;
use crate::electrolyte::{CROSS_CHECK_LIMIT_VOLTS, measured_rest_voltage, rule_rest_voltage};
use crate::house_rules::HouseRules;
use crate::quantity::SpecificGravity;
use serde::{Deserialize, Serialize};

/// Settled volts this much over what the gravity leads to say that the acid is layered, V a cell (SG-3).
pub const LAYERED_VOLTS: f64 = 0.015;
/// A string this far under its gravity has a dead cell, V (SG-3).
pub const DEAD_CELL_VOLTS: f64 = 1.4;
/// Volts this far under gravity are explained before anybody equalizes, V (RD-9).
pub const UNEXPLAINED_VOLTS: f64 = 1.0;
/// No acid of a lead cell holds a cell at this by itself: it is still charging, or the meter is off, V.
pub const ON_CHARGE_VOLTS: f64 = 2.2;
/// A cell gives about this, V.
const CELL: f64 = 2.0;

/// What volts beside gravity say.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "story", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RestStory {
    /// They agree.
    Agree,
    /// The volts say fuller than what was drawn from the top: the acid is layered.
    Layered,
    /// So many cells give nothing.
    DeadCells {
        /// How many.
        cells: u32,
    },
    /// The volts say emptier, and by less than a cell.
    Under,
    /// No cell at rest stands so high.
    OnCharge,
}

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
    /// True when settled volts and gravity disagree by more than the rule allows.
    pub disagrees: bool,
    /// What settled volts say beside the gravity.
    pub story: RestStory,
    /// Volts of the whole string that are missing against its gravity; negative: too many.
    #[serde(default)]
    pub short: f64,
}

impl RestCheck {
    pub(super) fn of(
        mean: SpecificGravity,
        conditions: &Conditions,
        shape: &BankShape,
        rules: &HouseRules,
    ) -> Self {
        let expected = measured_rest_voltage(mean);
        let cells = f64::from(shape.cells_in_series());
        let measured = conditions.rest_volts.map(|v| v.volts() / cells);
        let rested = |hours: Option<f64>| hours.is_some_and(|h| h >= f64::from(rules.settled_hours));
        let settled = !conditions.charging
            && rested(conditions.hours_since_charge)
            && rested(conditions.hours_since_load);
        let short = measured.map_or(0.0, |m| (expected - m) * cells);
        let story = measured.filter(|_| settled).map_or(RestStory::Agree, |m| {
            if m > ON_CHARGE_VOLTS {
                RestStory::OnCharge
            } else if m - expected > LAYERED_VOLTS {
                RestStory::Layered
            } else if short >= DEAD_CELL_VOLTS {
                RestStory::DeadCells { cells: missing(short) }
            } else if expected - m > CROSS_CHECK_LIMIT_VOLTS {
                RestStory::Under
            } else {
                RestStory::Agree
            }
        });
        Self {
            expected_cell_volts: expected,
            rule_cell_volts: rule_rest_voltage(mean),
            measured_cell_volts: measured,
            settled,
            disagrees: story != RestStory::Agree,
            story,
            short,
        }
    }
}

#[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "volts of a bank are few")]
fn missing(short: f64) -> u32 {
    (short / CELL).round().max(1.0) as u32
}
