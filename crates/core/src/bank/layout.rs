//! How a bank stands: tiers, rows, orientation and folds, seen from above from the working side.

use serde::{Deserialize, Serialize};

/// Left or right, seen from the side where the technician stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Side {
    /// Left.
    #[default]
    Left,
    /// Right.
    Right,
}

/// How a bank stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Layout {
    /// Rows that one string is folded into; 1 is not folded.
    pub rows_per_string: u8,
    /// Shelves above each other that the rows are shared among, the upper one first.
    pub tiers: u8,
    /// Where the positive end of string A stands.
    pub positive_end: Side,
    /// True when every other string is turned, its positive end on the other side.
    pub strings_alternate: bool,
    /// What lies behind the first row.
    pub far_side: String,
    /// What lies before the last row.
    pub near_side: String,
}

impl Default for Layout {
    fn default() -> Self {
        Self {
            rows_per_string: 1,
            tiers: 1,
            positive_end: Side::Left,
            strings_alternate: false,
            far_side: "wall side".into(),
            near_side: "aisle side".into(),
        }
    }
}
