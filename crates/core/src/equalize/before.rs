//! EQ-3: what is seen to before the charger is switched to equalize.

use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// One thing to see to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BeforeCheck {
    /// Charged to the end of absorption, or on float.
    Full,
    /// Plates covered in every cell.
    PlatesCovered,
    /// Caps as the maker says.
    Caps,
    /// Air moving as VE-1 asks, vents free, nothing that sparks.
    Air,
    /// Loads that cannot stand the volts are disconnected.
    LoadsOff,
    /// Electrolyte under 40 °C.
    Cool,
    /// Sun or fuel for the whole of it.
    SourceLasts,
    /// Eyes, face, hands; water and bicarbonate at hand.
    Protected,
    /// A named person stays.
    SomebodyStays,
}

impl BeforeCheck {
    /// Every check, in the order it is made. A sealed battery under its maker's conditioning voltage
    /// has no plates to see and no caps to open.
    pub fn of(construction: Construction) -> Vec<Self> {
        let all = [
            Self::Full,
            Self::PlatesCovered,
            Self::Caps,
            Self::Air,
            Self::LoadsOff,
            Self::Cool,
            Self::SourceLasts,
            Self::Protected,
            Self::SomebodyStays,
        ];
        all.into_iter()
            .filter(|c| construction.has_caps() || !matches!(c, Self::PlatesCovered | Self::Caps))
            .collect()
    }
}
