//! Where a bank stands, as far as its work and its safety hang on it.

use serde::{Deserialize, Serialize};

/// What is around a bank.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Surroundings {
    /// The sun stands on it.
    Sun,
    /// Beside an engine or its exhaust.
    EngineHeat,
    /// In an insulated box or room.
    Insulated,
    /// Where people live or sleep.
    LivingSpace,
    /// Electronics stand over it or in the same box.
    Electronics,
    /// A flame, a heater or a switch that sparks is near.
    Sparks,
}

impl Surroundings {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 6] =
        [Self::LivingSpace, Self::Sparks, Self::Electronics, Self::EngineHeat, Self::Sun, Self::Insulated];
}
