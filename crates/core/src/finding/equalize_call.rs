//! Whether what was found asks for an equalize, and what forbids one (RD-9).

use serde::{Deserialize, Serialize};

/// What a finding says about an equalize.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(tag = "call", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EqualizeCall {
    /// It asks for none.
    #[default]
    NotAsked,
    /// The spread is at its limit or over it.
    Asked {
        /// True when the round was proven full; else the bank is charged fully first.
        proven_full: bool,
    },
    /// None is advised, whatever the spread.
    Barred {
        /// What has to be put right first.
        by: BarredBy,
    },
}

/// Why no equalize is advised.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BarredBy {
    /// A case is bulging, cracked, leaking or hot: that battery is not charged at all.
    DamagedCase,
    /// A cell is dead.
    DeadCell,
    /// Acid was added.
    Acid,
    /// Levels are low.
    LowLevels,
    /// The acid is layered: it is stirred, and read again.
    Layered,
    /// The batteries are sealed.
    Sealed,
    /// Volts are missing that nobody has explained.
    MissingVolts,
    /// Nobody knows that it was full, and it stands far from it.
    FarFromFull,
}

impl BarredBy {
    /// True where charging does harm at once: such a bar leads over every other, and no run is opened beside it.
    pub fn does_harm(self) -> bool {
        matches!(self, Self::DamagedCase | Self::DeadCell)
    }
}
