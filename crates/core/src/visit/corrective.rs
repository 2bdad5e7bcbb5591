//! What can be done about what a measurement showed.

use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// Which measurement showed it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measurement {
    /// Volts at rest, resistance, case temperature.
    RestVolts,
    /// Gravity, cell by cell.
    Gravity,
}

/// What was done about it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CorrectiveAction {
    /// Charged by itself, apart from its mates.
    ChargedByItself,
    /// Charged on with the bank.
    ChargedOn,
    /// Taken out of its string.
    TakenOut,
    /// Strings or batteries in parallel parted.
    Parted,
    /// A standing load switched off or disconnected.
    LoadOff,
    /// Shielded from cold or heat, or moved.
    Shielded,
    /// Nothing was done.
    LeftAsItIs,
    /// Something else, said in one's own words.
    Other,
}

impl CorrectiveAction {
    /// All of them, the likeliest first.
    pub const ALL: &'static [Self] = Self::VARIANTS;
}
