//! What can be done about something that was found, and how it can be left.

use super::Check;
use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// What was done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Repair {
    /// Cleaned.
    Cleaned,
    /// Taken apart, cleaned and put together anew.
    Remade,
    /// Tightened.
    Tightened,
    /// Replaced.
    Replaced,
    /// Topped up.
    ToppedUp,
    /// Something that was not there was fitted.
    Fitted,
    /// Something was taken away, or moved clear.
    Cleared,
    /// Nothing was done.
    LeftAsItIs,
}

impl Repair {
    /// True where something is used to clean with.
    pub fn cleans(self) -> bool {
        matches!(self, Self::Cleaned | Self::Remade)
    }

    /// True when a torque may be written down with it.
    pub fn takes_torque(self) -> bool {
        matches!(self, Self::Remade | Self::Tightened | Self::Replaced | Self::Fitted)
    }
}

/// How it was left.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Left {
    /// In order.
    PutRight,
    /// Better, and not yet in order.
    Better,
    /// As it was found.
    AsFound,
}

/// One repair at a place: of something found on this visit or before, or without a finding.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Repaired {
    /// What was looked at.
    pub check: Check,
    /// Key of the kind that was found there.
    pub found: String,
    /// What was done.
    pub repair: Repair,
    /// How it was left.
    pub left: Left,
    /// Torque that was set, N·m.
    #[serde(default)]
    pub torque: Option<f64>,
    /// Torque that the model asks for, N·m, as it was known then.
    #[serde(default)]
    pub torque_asked: Option<f64>,
    /// What it was cleaned with.
    #[serde(default)]
    pub agent: String,
    /// What was put on against corrosion.
    #[serde(default)]
    pub coating: String,
    /// True where lock nuts were put on.
    #[serde(default)]
    pub lock_nuts: bool,
    /// The part that was used.
    #[serde(default)]
    pub part: String,
    /// In the technician's words.
    #[serde(default)]
    pub note: String,
}

impl Check {
    /// What is usually done about what is found here, the likeliest first; anything else may be written down
    /// too (common practice, no source).
    pub fn usual_repairs(self) -> &'static [Repair] {
        use Repair::{Cleaned, Cleared, Fitted, LeftAsItIs, Remade, Replaced, Tightened, ToppedUp};
        match self {
            Self::Case => &[Replaced, Cleaned, LeftAsItIs],
            Self::Top => &[Cleaned, Cleared, LeftAsItIs],
            Self::Seal => &[LeftAsItIs, Replaced],
            Self::Caps => &[Replaced, Fitted, Tightened, Cleaned, ToppedUp, LeftAsItIs],
            Self::Terminals => &[Cleaned, Remade, Tightened, Replaced, LeftAsItIs],
            Self::HoldDown => &[Tightened, Fitted, Replaced, LeftAsItIs],
            Self::Spacing | Self::Above => &[Cleared, Fitted, LeftAsItIs],
            Self::Cables => &[Remade, Replaced, Tightened, Cleared, LeftAsItIs],
            Self::Insulation | Self::Sensor => &[Fitted, Replaced, LeftAsItIs],
            Self::Fuse => &[Replaced, Fitted, Cleaned, Tightened, LeftAsItIs],
            Self::VentPath => &[Cleared, Cleaned, Replaced, LeftAsItIs],
            Self::Tray => &[Cleaned, LeftAsItIs],
        }
    }

    /// True when a joint of it has a torque.
    pub fn has_torque(self) -> bool {
        matches!(self, Self::Terminals | Self::HoldDown | Self::Cables | Self::Fuse)
    }
}

impl Repaired {
    /// True when it is a repair of what was found at a check.
    pub fn repairs(&self, check: Check, kind: &str) -> bool {
        self.check == check && self.found == kind
    }
}
