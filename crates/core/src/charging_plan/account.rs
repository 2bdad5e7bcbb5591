//! Where the ampere-hours of a bank went.

use serde::{Deserialize, Serialize};

/// Where the ampere-hours of a month or a year went.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingAccount {
    /// From the sun, Ah: to loads and into the bank.
    pub solar: f64,
    /// From the engine.
    pub engine: f64,
    /// From the generator.
    pub generator: f64,
    /// From the plug.
    pub shore: f64,
    /// To the loads.
    pub used: f64,
    /// Wanted by the loads and not there.
    pub missed: f64,
    /// Lost on the way in, to gas, and by itself.
    pub lost: f64,
    /// Change of what is stored.
    pub stored: f64,
}

impl ChargingAccount {
    /// Ah from all sources.
    pub fn came(&self) -> f64 {
        self.solar + self.engine + self.generator + self.shore
    }

    pub(super) fn add(&mut self, other: &Self) {
        self.solar += other.solar;
        self.engine += other.engine;
        self.generator += other.generator;
        self.shore += other.shore;
        self.used += other.used;
        self.missed += other.missed;
        self.lost += other.lost;
        self.stored += other.stored;
    }
}
