//! One cell's line against the bank's median.

use super::acting::Reader;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::uuid;
use super::state::AppState;
use crate::app::pages::cell::{CellPage, cell_page};
use axum::Json;
use axum::extract::{Path, State};
use rainshadow_core::bank::CellAddress;

/// One cell's line against the bank's median.
#[utoipa::path(
    get, path = "/api/banks/{id}/cells/{cell}", operation_id = "get_cell",
    params(("id" = String, Path), ("cell" = String, Path)),
    responses((status = 200, body = CellPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Path((id, cell)): Path<(String, String)>,
    Reader(units): Reader,
) -> ApiResult<Json<CellPage>> {
    let cell: CellAddress = cell.parse().map_err(|e| ApiError::field("cell", format!("{e}.")))?;
    Ok(Json(cell_page(&state, uuid(&id, "id")?, cell, units).await?))
}
