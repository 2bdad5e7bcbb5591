//! RD-1: whether a round can be judged, and what makes its judgement less certain.

use super::{Conditions, WaterAdded};
use crate::instrument::{Instrument, TemperatureKnowledge};
use serde::{Deserialize, Serialize};

/// Half an hour without a heavy load before gravity counts (RD-1).
pub const HOURS_AFTER_LOAD: f64 = 0.5;

/// Why a round is kept and not judged.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Unusable {
    /// Read while charging.
    Charging,
    /// A heavy load ran less than half an hour before.
    LoadTooRecent,
    /// Water was added and not yet mixed by a gassing charge (SG-4).
    Unmixed,
}

/// What is not known, and lowers certainty.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Doubt {
    /// Water may have been added since the last gassing charge.
    MixUnknown,
    /// Nobody noted the temperature.
    TemperatureUnknown,
    /// Nobody knows when the last load ran.
    LoadUnknown,
    /// Nobody proved that the bank was full, so fullness is not judged.
    FullUnproven,
}

/// Whether a round can be judged.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Usability {
    /// Empty when the round is judged.
    pub unusable: Vec<Unusable>,
    /// What lowers certainty.
    pub doubts: Vec<Doubt>,
}

impl Usability {
    /// True when the round is judged.
    pub fn judged(&self) -> bool {
        self.unusable.is_empty()
    }

    /// RD-1 on the conditions of a round.
    pub fn of(conditions: &Conditions, instrument: Instrument) -> Self {
        let mut unusable = Vec::new();
        let mut doubts = Vec::new();
        if conditions.charging {
            unusable.push(Unusable::Charging);
        }
        match conditions.hours_since_load {
            Some(hours) if hours < HOURS_AFTER_LOAD => unusable.push(Unusable::LoadTooRecent),
            Some(_) => {}
            None => doubts.push(Doubt::LoadUnknown),
        }
        match conditions.water_added {
            WaterAdded::Yes => unusable.push(Unusable::Unmixed),
            WaterAdded::Unknown => doubts.push(Doubt::MixUnknown),
            WaterAdded::No => {}
        }
        let unknown = conditions.temperature_knowledge() == TemperatureKnowledge::Unknown;
        if unknown && !instrument.corrects_for_temperature {
            doubts.push(Doubt::TemperatureUnknown);
        }
        if !conditions.is_proven_full() {
            doubts.push(Doubt::FullUnproven);
        }
        Self { unusable, doubts }
    }
}
