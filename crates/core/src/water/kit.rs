//! WA-6: behind a single-point watering kit the cells are still looked into.

use crate::house_rules::HouseRules;
use serde::{Deserialize, Serialize};

/// How far the next hand inspection is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KitInspection {
    /// Fills through the kit since the cells were last looked into.
    pub fills_since: u32,
    /// The house rule: every so many fills.
    pub every: u32,
    /// True when the next visit looks into every cell.
    pub due: bool,
}

/// WA-6 for so many fills since the last look.
pub fn kit_inspection(fills_since: u32, rules: &HouseRules) -> KitInspection {
    let every = u32::from(rules.kit_inspection_fills.max(1));
    KitInspection { fills_since, every, due: fills_since + 1 >= every }
}
