//! The path of a visit: its steps in order.

use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// A step of a visit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Step {
    /// Eyes, hands, metal, air, loads, chargers, isolation.
    MakeSafe,
    /// Look over cases, caps, cables, hold-downs, vents.
    LookOver,
    /// Volts at rest, battery by battery, then strings; on sealed banks resistance and case too.
    RestCheck,
    /// Every cell by hydrometer.
    Round,
    /// Levels and water.
    Water,
    /// Equalize, where readings or calendar ask for it.
    Equalize,
    /// Everything back as it was.
    CloseUp,
}
