//! The climate of a site: invented ones that ship, and what somebody typed or has as a table.

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::Body;
use crate::app::climates::{ClimateAsked, ClimateSheet, climate_sheet};
use axum::Json;
use rainshadow_core::water::INVENTED_CLIMATES;
use serde::Serialize;
use utoipa::ToSchema;

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
    Ok(Json(climate_sheet(asked, units)?))
}
