//! The climate of a site, from whatever somebody has of it.

use super::refused::{AppError, AppResult};
use super::typed::faults::{Faults, refused};
use crate::formats::climate_csv;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::typed::mean_temperature;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::water::{InventedClimate, MONTHS, MonthlyMeans};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What somebody has of a climate.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
#[serde(tag = "from", rename_all = "snake_case", deny_unknown_fields)]
pub enum ClimateAsked {
    /// Twelve means as typed, January first.
    Typed {
        /// As typed.
        #[schema(min_items = 12, max_items = 12)]
        typed: Vec<String>,
        /// Unit they were typed in.
        #[serde(default)]
        unit: TemperatureUnit,
    },
    /// A table, a line a month or a day.
    Csv {
        /// Its text.
        csv: String,
    },
    /// Means that are known already.
    Means {
        /// January first, °C.
        means: MonthlyMeans,
    },
    /// An invented one that ships.
    Invented {
        /// Its key.
        key: String,
        /// True south of the equator.
        #[serde(default)]
        southern: bool,
    },
}

/// A climate, to be shown, typed over and sent with a site.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ClimateSheet {
    /// January first, °C.
    pub means: MonthlyMeans,
    /// As this reader would type them.
    pub typed: Vec<String>,
    /// Unit of those.
    pub unit: TemperatureUnit,
    /// "11 °C over the year; coldest January at 2 °C, warmest July at 20 °C."
    pub said: String,
    /// As a table that reads back as it is.
    pub csv: String,
}

fn as_typed(typed: &[String], unit: TemperatureUnit) -> AppResult<MonthlyMeans> {
    if typed.len() != MONTHS.len() {
        let said = format!("{} months are not possible; accepted is twelve, January first.", typed.len());
        return Err(AppError::field("typed", said));
    }
    let mut faults = Faults::default();
    let mut means = [0.0; 12];
    for ((at, text), mean) in typed.iter().enumerate().zip(&mut means) {
        let field = format!("typed.{at}");
        let read = if text.trim().is_empty() {
            Err(format!("{} is empty; a climate needs all twelve months", MONTHS[at]))
        } else {
            mean_temperature(text, unit).map_err(|error| format!("{}: {error}", MONTHS[at]))
        };
        *mean = faults.take(&field, read).map_or(0.0, Temperature::celsius);
    }
    faults.none()?;
    refused("typed", MonthlyMeans::try_from(means))
}

/// Reads a climate.
///
/// # Errors
/// Every month that does not fit, the line of a table, a climate that there is not.
pub fn climate_sheet(asked: ClimateAsked, units: ReaderUnits) -> AppResult<ClimateSheet> {
    let means = match asked {
        ClimateAsked::Typed { typed, unit } => as_typed(&typed, unit)?,
        ClimateAsked::Csv { csv } => {
            climate_csv::parse(&csv).map_err(|error| AppError::refused("csv", &error))?
        }
        ClimateAsked::Means { means } => means,
        ClimateAsked::Invented { key, southern } => match InventedClimate::by_key(&key) {
            Some(own) => own.means(southern),
            None => return Err(AppError::field("key", format!("There is no climate “{key}” here."))),
        },
    };
    Ok(ClimateSheet {
        typed: climate_csv::typed(&means, |t| units.type_temperature(t)),
        unit: units.temperature,
        said: wording::climate_line(&means, units),
        csv: climate_csv::write(&means),
        means,
    })
}
