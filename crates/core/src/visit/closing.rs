//! Closing up: everything back as it was, in order.

use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// One line of the closing list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ClosingItem {
    /// Caps on.
    CapsOn,
    /// Tops wiped.
    TopsWiped,
    /// Tools counted.
    ToolsCounted,
    /// Cables as photographed.
    CablesAsPhotographed,
    /// Cover on, no cable pinched.
    CoverOn,
    /// Switch on.
    SwitchOn,
    /// Loads run.
    LoadsRun,
    /// Chargers back in their automatic mode.
    ChargersAutomatic,
}

/// The list for a bank of this construction.
pub fn closing_items(construction: Construction) -> Vec<ClosingItem> {
    use ClosingItem::{
        CablesAsPhotographed, CapsOn, ChargersAutomatic, CoverOn, LoadsRun, SwitchOn, ToolsCounted, TopsWiped,
    };
    [CapsOn, TopsWiped, ToolsCounted, CablesAsPhotographed, CoverOn, SwitchOn, LoadsRun, ChargersAutomatic]
        .into_iter()
        .filter(|item| construction.has_caps() || *item != CapsOn)
        .collect()
}
