//! What a bank does while its volts are read. Only volts at rest tell a charge; the others are kept beside them.

use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// What the bank does while its volts are read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum VoltsState {
    /// A charger is on.
    OnCharge,
    /// The charger has just gone off.
    JustOff,
    /// No charge and no load.
    AtRest,
    /// A small load: lamps, a fan.
    SmallLoad,
    /// The load that the bank is there for.
    RealLoad,
}

impl VoltsState {
    /// Every state, in the order of the trade.
    pub fn all() -> &'static [Self] {
        Self::VARIANTS
    }

    /// Volts per cell between which a sound cell usually stands; outside them the reading is asked about (common
    /// practice, no source).
    pub const fn usual(self) -> (f64, f64) {
        match self {
            Self::OnCharge => (2.0, 2.70),
            Self::JustOff => (1.95, 2.45),
            Self::AtRest => (1.85, 2.25),
            Self::SmallLoad => (1.80, 2.20),
            Self::RealLoad => (1.60, 2.15),
        }
    }

    /// True where volts without a charger and without a load are read.
    pub const fn is_rest(self) -> bool {
        matches!(self, Self::AtRest)
    }

    /// True where a load draws.
    pub const fn is_loaded(self) -> bool {
        matches!(self, Self::SmallLoad | Self::RealLoad)
    }
}
