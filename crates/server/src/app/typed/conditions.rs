//! The opening of a round as typed, turned into conditions; every field that does not fit is named.

use super::faults::{Faults, filled};
use crate::app::refused::AppError;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{Voltage, bounds, typed};
use rainshadow_core::round::{BatteryTemperature, Conditions, RoundTemperature, WaterAdded};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A temperature as typed, with its unit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedTemperature {
    /// As typed.
    pub typed: String,
    /// Its unit.
    #[serde(default)]
    pub unit: TemperatureUnit,
}

/// The temperature of one battery as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedBatteryTemperature {
    /// The battery: "A3".
    pub battery: String,
    /// As typed.
    pub typed: String,
    /// Its unit.
    #[serde(default)]
    pub unit: TemperatureUnit,
}

/// Temperatures of a round as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(tag = "known", rename_all = "snake_case")]
pub enum TypedRoundTemperature {
    /// The pilot's, for all cells.
    OneForAll {
        /// As typed.
        typed: String,
        /// Its unit.
        #[serde(default)]
        unit: TemperatureUnit,
    },
    /// Battery by battery.
    PerBattery {
        /// The batteries.
        batteries: Vec<TypedBatteryTemperature>,
    },
    /// Not known.
    #[default]
    Unknown,
}

/// What RD-1 needs, as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
pub struct TypedConditions {
    /// On charge now.
    #[serde(default)]
    pub charging: bool,
    /// Hours since the charge ended; empty or left out: unknown.
    #[serde(default)]
    pub hours_since_charge: Option<String>,
    /// Hours since the last heavy load; empty or left out: unknown.
    #[serde(default)]
    pub hours_since_load: Option<String>,
    /// Water since the last gassing charge.
    #[serde(default)]
    pub water_added: WaterAdded,
    /// How the technician knows that the bank is full; left out: not proven.
    #[serde(default)]
    pub proven_full: Option<String>,
    /// Electrolyte temperature.
    #[serde(default)]
    pub temperature: TypedRoundTemperature,
    /// Volts of the whole bank at rest; empty or left out: not taken.
    #[serde(default)]
    pub rest_volts: Option<String>,
}

/// Canonical conditions, or every field that does not fit.
pub fn canonical(sent: &TypedConditions, instrument: Instrument) -> Result<Conditions, AppError> {
    let mut faults = Faults::default();
    faults.take("instrument", instrument.checked());
    let mut hours = |field: &str, text: Option<&String>| {
        filled(text).and_then(|t| faults.take(field, typed::number(t, bounds::HOURS)))
    };
    let hours_since_charge = hours("hours_since_charge", sent.hours_since_charge.as_ref());
    let hours_since_load = hours("hours_since_load", sent.hours_since_load.as_ref());
    let rest_volts = filled(sent.rest_volts.as_ref())
        .and_then(|t| faults.take("rest_volts", typed::number(t, bounds::VOLTAGE)))
        .and_then(|v| Voltage::from_volts(v).ok());
    let temperature = match &sent.temperature {
        TypedRoundTemperature::Unknown => RoundTemperature::Unknown,
        TypedRoundTemperature::OneForAll { typed: text, unit } => faults
            .take("temperature", typed::temperature(text, *unit))
            .map_or(RoundTemperature::Unknown, |temperature| RoundTemperature::OneForAll { temperature }),
        TypedRoundTemperature::PerBattery { batteries } => {
            let batteries = batteries
                .iter()
                .filter(|b| !b.typed.trim().is_empty())
                .filter_map(|b| {
                    let field = format!("temperature.{}", b.battery);
                    let battery = faults.take(&field, b.battery.parse());
                    let temperature = faults.take(&field, typed::temperature(&b.typed, b.unit));
                    Some(BatteryTemperature { battery: battery?, temperature: temperature? })
                })
                .collect();
            RoundTemperature::PerBattery { batteries }
        }
    };
    faults.none()?;
    Ok(Conditions {
        charging: sent.charging,
        hours_since_charge,
        hours_since_load,
        water_added: sent.water_added,
        proven_full: filled(sent.proven_full.as_ref()).map(ToOwned::to_owned),
        temperature,
        rest_volts,
    })
}
