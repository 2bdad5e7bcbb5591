//! Safety cautions in the step where the hazard is. They defer to the maker's manual, local codes
//! and licensed practice; the ones that hurt people when skipped are confirmed by name and time.

use serde::{Deserialize, Serialize};

/// Nominal volts from which charging reaches 60 V DC: a 48 V bank equalizing is above it.
pub(super) const HIGHER_VOLTAGE: u16 = 48;
/// Nominal volts up to which the negative may be grounded to a chassis (common practice, no source).
pub(super) const GROUNDED_UP_TO: u16 = 48;

/// A caution.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Caution {
    /// Sulphuric acid: eyes, hands, clothes.
    Acid,
    /// Metal on hands and neck, tools.
    MetalOff,
    /// Hydrogen: air, no flame, no switching.
    Ventilated,
    /// Loads and chargers off, bank isolated.
    Isolated,
    /// 48 V banks on charge and above, inverters.
    HigherVoltage,
    /// Colours differ from rig to rig.
    WiringOnRecord,
    /// Chassis-grounded systems.
    NegativeFirst,
    /// A sealed battery that is hot, hissing or swollen.
    HotSealed,
    /// Cracked or frozen.
    Frozen,
    /// Loose lugs while measuring.
    LooseLugs,
    /// Samples and drops.
    Samples,
    /// What goes into a cell.
    PureWater,
    /// Opening sealed batteries.
    NeverOpen,
    /// A load is switched at its own switch.
    SwitchTheLoad,
    /// What was discharged is charged at once.
    RechargeAtOnce,
    /// Probes under load.
    ProbeOneJoint,
    /// A wrench across two posts.
    WrenchSlips,
    /// Moving batteries.
    Weight,
}

impl Caution {
    /// True when it hurts people if skipped: confirmed by name and time.
    pub fn confirmed(self) -> bool {
        matches!(self, Self::Acid | Self::MetalOff | Self::Ventilated | Self::Isolated | Self::HigherVoltage)
    }
}
