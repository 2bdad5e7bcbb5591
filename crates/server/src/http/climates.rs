//! The climate of a site: invented ones that ship, and what somebody typed or has as a table.

use super::acting::Reader;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::Body;
use crate::app::refused::AppError;
use crate::app::typed::climate::{lows_as_typed, monthly_means, record_lows};
use crate::formats::climate_csv::{self, ClimateTable};
use axum::Json;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{INVENTED_CLIMATES, InventedClimate, MonthlyMeans, RecordLows};
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
        /// Lowest on record of each month as typed, January first; empty: not known.
        #[serde(default)]
        lows: Vec<String>,
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
        /// Lowest on record, alike; none: not known.
        #[serde(default)]
        lows: Option<RecordLows>,
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
    /// Lowest on record, January first, °C; none: not known.
    pub lows: Option<RecordLows>,
    /// As this reader would type them.
    pub typed: Vec<String>,
    /// The lowest, alike; empty: not known.
    pub lows_typed: Vec<String>,
    /// Unit of those.
    pub unit: TemperatureUnit,
    /// "11 °C over the year; coldest January at 2 °C, warmest July at 20 °C."
    pub said: String,
    /// As a table that reads back as it is.
    pub csv: String,
}

/// An invented climate that ships.
#[derive(Debug, Serialize, ToSchema)]
pub struct InventedClimateView {
    /// Its key.
    pub key: &'static str,
    /// Its name.
    pub name: &'static str,
}

/// The invented climates that ship, to begin with until a site's own means are known.
#[utoipa::path(get, path = "/api/climates", operation_id = "list_climates", responses((status = 200, body = [InventedClimateView])))]
pub async fn list() -> Json<Vec<InventedClimateView>> {
    Json(INVENTED_CLIMATES.iter().map(|own| InventedClimateView { key: own.key, name: own.name }).collect())
}

/// A climate as typed, as a table, or one that ships, read into twelve monthly means.
#[utoipa::path(
    post, path = "/api/climates/read", operation_id = "read_climate", request_body = ClimateAsked,
    responses((status = 200, body = ClimateSheet), (status = "default", body = Problem))
)]
pub async fn read(Reader(units): Reader, Body(asked): Body<ClimateAsked>) -> ApiResult<Json<ClimateSheet>> {
    let ClimateTable { means, lows } = match asked {
        ClimateAsked::Typed { typed, lows, unit } => {
            let means = monthly_means(&typed, unit)?;
            ClimateTable { lows: record_lows(&lows, &means, unit)?, means }
        }
        ClimateAsked::Csv { csv } => {
            climate_csv::parse(&csv).map_err(|error| ApiError::from(AppError::refused("csv", &error)))?
        }
        ClimateAsked::Means { means, lows } => ClimateTable { means, lows },
        ClimateAsked::Invented { key, southern } => match InventedClimate::by_key(&key) {
            Some(own) => ClimateTable { means: own.means(southern), lows: Some(own.lows(southern)) },
            None => return Err(ApiError::field("key", format!("There is no climate “{key}” here."))),
        },
    };
    let lowest = lows.map(|lows| format!(" {}", wording::record_lows_line(&lows, units)));
    Ok(Json(ClimateSheet {
        typed: means.temperatures().into_iter().map(|t| units.type_temperature(t)).collect(),
        lows_typed: lows.map(|lows| lows_as_typed(&lows, units.temperature)).unwrap_or_default(),
        unit: units.temperature,
        said: format!("{}{}", wording::climate_line(&means, units), lowest.unwrap_or_default()),
        csv: climate_csv::write(&ClimateTable { means, lows }),
        means,
        lows,
    }))
}
