//! A rest check as it was taken.

use super::RestConditions;
use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::BatteryModel;
use crate::house_rules::HouseRules;
use crate::quantity::SpecificGravity;
use serde::{Deserialize, Serialize};

/// Volts of one battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatteryVolts {
    /// The battery.
    pub battery: BatteryAddress,
    /// Volts at its posts.
    pub volts: f64,
    /// Mean corrected gravity of its cells on this visit, for the cross-check.
    #[serde(default)]
    pub gravity: Option<SpecificGravity>,
    /// True when the technician was asked and says that it stands.
    #[serde(default)]
    pub stands: bool,
}

/// Volts of one string.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StringVolts {
    /// String, 0 is A.
    pub string: u8,
    /// Volts across it, isolated.
    pub volts: f64,
    /// Volts from its positive post to the negative post of each battery, in order, where taken.
    #[serde(default)]
    pub along: Vec<(BatteryAddress, f64)>,
}

/// Volts of the same batteries at an earlier reading since the same charge, disconnected all the while.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HeldSince {
    /// Days between the two readings, more than 0.
    pub days: f64,
    /// V then, by battery.
    pub volts: Vec<(BatteryAddress, f64)>,
}

/// A rest check as it was taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestSheet {
    /// The bank.
    pub shape: BankShape,
    /// Its batteries.
    pub model: BatteryModel,
    /// The house rules that judge.
    #[serde(default = "HouseRules::maker_first")]
    pub rules: HouseRules,
    /// What it did before.
    pub conditions: RestConditions,
    /// Batteries that were read.
    pub batteries: Vec<BatteryVolts>,
    /// Strings that were read.
    #[serde(default)]
    pub strings: Vec<StringVolts>,
    /// An earlier reading since the same charge, where it stood disconnected between; none: there is none.
    #[serde(default)]
    pub held: Option<HeldSince>,
}
