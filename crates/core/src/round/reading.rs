//! RD-1: what was read at a cell, and under which conditions.

use crate::bank::{BatteryAddress, CellAddress};
use crate::instrument::TemperatureKnowledge;
use crate::quantity::{SpecificGravity, Temperature, Voltage};
use serde::{Deserialize, Serialize};

/// What the technician recorded at one cell.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CellReading {
    /// A gravity as the instrument showed it.
    Gravity {
        /// As read, before any correction.
        read: SpecificGravity,
    },
    /// The float stood below the lowest mark.
    BelowScale,
    /// The float stood above the highest mark.
    AboveScale,
    /// The cell was not read.
    NotRead {
        /// Why, as the technician says it: "vent cap seized".
        #[serde(default)]
        reason: String,
    },
}

/// The reading that stands for one cell.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellRecord {
    /// The cell.
    pub cell: CellAddress,
    /// What was recorded.
    pub reading: CellReading,
    /// Electrolyte temperature at this cell, where it was taken here.
    #[serde(default)]
    pub temperature: Option<Temperature>,
    /// True when the technician was asked to re-read and says that this reading stands.
    #[serde(default)]
    pub stands: bool,
}

/// Whether water was added since the last gassing charge (SG-4).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum WaterAdded {
    /// No: the electrolyte is mixed.
    No,
    /// Yes: the reading is unmixed and is not judged.
    Yes,
    /// Nobody knows: judged, with less certainty.
    #[default]
    Unknown,
}

/// Temperature of one battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatteryTemperature {
    /// The battery.
    pub battery: BatteryAddress,
    /// Its electrolyte.
    pub temperature: Temperature,
}

/// Electrolyte temperature of a round.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(tag = "known", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RoundTemperature {
    /// The pilot's, for all cells.
    OneForAll {
        /// The pilot's electrolyte.
        temperature: Temperature,
    },
    /// Read battery by battery; a battery without its own takes the median of the others.
    PerBattery {
        /// The batteries that were measured.
        batteries: Vec<BatteryTemperature>,
    },
    /// Not known: the gravity is taken as read, with a wide uncertainty.
    #[default]
    Unknown,
}

/// What RD-1 needs to know before a number counts.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Conditions {
    /// True when the bank was on charge during the round.
    #[serde(default)]
    pub charging: bool,
    /// Hours since the charge ended; none: unknown.
    #[serde(default)]
    pub hours_since_charge: Option<f64>,
    /// Hours since the last heavy load; none: unknown.
    #[serde(default)]
    pub hours_since_load: Option<f64>,
    /// Water since the last gassing charge.
    #[serde(default)]
    pub water_added: WaterAdded,
    /// How the technician knows that the bank was full, where he does ("tail current held at 2 %").
    #[serde(default)]
    pub proven_full: Option<String>,
    /// Electrolyte temperature.
    #[serde(default)]
    pub temperature: RoundTemperature,
    /// Volts of the whole bank at rest, where taken.
    #[serde(default)]
    pub rest_volts: Option<Voltage>,
}

impl Conditions {
    /// The conditions themselves when their hours can be.
    ///
    /// # Errors
    /// [`OutOfRange`](crate::quantity::OutOfRange) for hours outside 0 to a year.
    pub fn checked(self) -> Result<Self, crate::quantity::OutOfRange> {
        for hours in self.hours_since_charge.iter().chain(&self.hours_since_load) {
            crate::quantity::bounds::HOURS.check(*hours)?;
        }
        Ok(self)
    }

    /// True when somebody says how he knows that the bank was full; an empty word is no proof.
    pub fn is_proven_full(&self) -> bool {
        self.proven_full.as_deref().is_some_and(|how| !how.trim().is_empty())
    }

    /// The temperature that corrects this battery, where anything is known.
    pub fn temperature_of(&self, battery: BatteryAddress) -> Option<Temperature> {
        match &self.temperature {
            RoundTemperature::OneForAll { temperature } => Some(*temperature),
            RoundTemperature::Unknown => None,
            RoundTemperature::PerBattery { batteries } => {
                batteries.iter().find(|b| b.battery == battery).map(|b| b.temperature).or_else(|| {
                    let mut all: Vec<f64> = batteries.iter().map(|b| b.temperature.celsius()).collect();
                    super::median(&mut all).and_then(|t| Temperature::from_celsius(t).ok())
                })
            }
        }
    }

    /// What is known of the temperature, for the uncertainty.
    pub fn temperature_knowledge(&self) -> TemperatureKnowledge {
        match &self.temperature {
            RoundTemperature::OneForAll { .. } => TemperatureKnowledge::OneForAll,
            RoundTemperature::PerBattery { batteries } if !batteries.is_empty() => {
                TemperatureKnowledge::PerBattery
            }
            _ => TemperatureKnowledge::Unknown,
        }
    }
}

/// Where a float stood that could not be read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OffScale {
    /// Below the scale.
    Below,
    /// Above the scale.
    Above,
}
