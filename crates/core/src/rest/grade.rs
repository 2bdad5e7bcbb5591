//! RD-7: how much a rest voltage is worth.

use crate::house_rules::HouseRules;
use crate::quantity::Temperature;
use serde::{Deserialize, Serialize};

/// Half an hour of rest after the surface charge was burned off (RD-7).
const HOURS_AFTER_BURN_OFF: f64 = 0.5;
/// After a charge without burning off, volts read up to this much high, V per cell (RD-7).
pub const HIGH_AFTER_CHARGE: f64 = 0.02;

/// What the bank did before it was read.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[expect(clippy::struct_excessive_bools, reason = "each is a box that is ticked by itself")]
pub struct RestConditions {
    /// On charge now.
    #[serde(default)]
    pub charging: bool,
    /// Under load now.
    #[serde(default)]
    pub loaded: bool,
    /// Hours since the charge ended; none: unknown.
    #[serde(default)]
    pub hours_since_charge: Option<f64>,
    /// Hours since the last load; none: unknown.
    #[serde(default)]
    pub hours_since_load: Option<f64>,
    /// True when a real load burned the surface charge off.
    #[serde(default)]
    pub surface_charge_removed: bool,
    /// Temperature of the cases, °C.
    #[serde(default)]
    pub temperature: Option<Temperature>,
    /// What still draws, in the technician's words.
    #[serde(default)]
    pub still_draws: String,
    /// True when the charge before was a full one.
    #[serde(default)]
    pub charged_full: bool,
    /// True when the bank was disconnected from loads and chargers since.
    #[serde(default)]
    pub disconnected: bool,
}

/// How long volts are still to be waited for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wait {
    /// Hours until a percentage may be told from them.
    pub usable: f64,
    /// Hours until they are settled.
    pub settled: f64,
}

impl RestConditions {
    /// True when a load took the surface charge of the last charge away, and it has rested since: a load
    /// before that charge took nothing of it.
    pub fn burned_off(&self) -> bool {
        let since_load = self.hours_since_load.unwrap_or(0.0);
        let after_charge = self.hours_since_charge.is_none_or(|charge| since_load <= charge);
        self.surface_charge_removed && after_charge && since_load >= HOURS_AFTER_BURN_OFF
    }
}

/// What a rest voltage is worth.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Grade {
    /// Rested long enough for volts to count.
    Settled,
    /// Good enough for a percentage with a wide range.
    Usable,
    /// No percentage.
    Unsettled,
    /// Never a percentage.
    UnderLoad,
    /// Never a percentage.
    OnCharge,
}

impl RestConditions {
    /// Hours of rest; unknown is not long enough: nobody is taken at a word he did not say.
    fn rested(&self) -> f64 {
        match (self.hours_since_charge, self.hours_since_load) {
            (Some(charge), Some(load)) => charge.min(load),
            (Some(charge), None) => charge,
            _ => 0.0,
        }
    }

    /// True for volts without surface charge: settled by the house's hours, or burned off.
    pub fn free_of_surface_charge(&self, rules: &HouseRules) -> bool {
        match Grade::of(self, rules) {
            Grade::Settled => true,
            Grade::Usable => self.burned_off(),
            _ => false,
        }
    }

    /// How long to wait before the volts are read again; none where they may be told from already.
    pub fn wait(&self, rules: &HouseRules) -> Option<Wait> {
        if Grade::of(self, rules).tells_charge() {
            return None;
        }
        // A charger or a load that is on takes all it took before.
        let rested = if self.charging || self.loaded { 0.0 } else { self.rested() };
        let left = |hours: u16| (f64::from(hours) - rested).max(0.0);
        Some(Wait { usable: left(rules.usable_hours.into()), settled: left(rules.settled_hours.into()) })
    }
}

impl Grade {
    /// The grade by the house rules' hours of rest.
    pub fn of(conditions: &RestConditions, rules: &HouseRules) -> Self {
        if conditions.charging {
            return Self::OnCharge;
        }
        if conditions.loaded {
            return Self::UnderLoad;
        }
        let rested = conditions.rested();
        if rested >= f64::from(rules.settled_hours) {
            Self::Settled
        } else if rested >= f64::from(rules.usable_hours) || conditions.burned_off() {
            Self::Usable
        } else {
            Self::Unsettled
        }
    }

    /// True when a percentage may be said.
    pub fn tells_charge(self) -> bool {
        matches!(self, Self::Settled | Self::Usable)
    }

    /// How far volts may read high, V per cell: after a charge that was not burned off.
    pub fn may_read_high(self, conditions: &RestConditions) -> f64 {
        if self == Self::Usable && !conditions.burned_off() { HIGH_AFTER_CHARGE } else { 0.0 }
    }

    /// In words.
    pub fn said(self) -> &'static str {
        match self {
            Self::Settled => "settled",
            Self::Usable => "usable",
            Self::Unsettled => "not settled: volts are kept, no percentage is told from them",
            Self::UnderLoad => "under load: never a percentage",
            Self::OnCharge => "on charge: never a percentage",
        }
    }
}
