//! The page of a round, and what a figure being typed would mean.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::{Device, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Id, etag};
use super::state::AppState;
use crate::app::pages::round::{PreviewView, RoundPage, Typing, preview_reading, round_page};
use axum::Json;
use axum::extract::{Query, State};
use axum::response::{IntoResponse, Response};
use rainshadow_core::bank::CellAddress;

/// A round as far as it has come.
#[utoipa::path(
    get, path = "/api/rounds/{id}", operation_id = "get_round", params(("id" = String, Path)),
    responses((status = 200, body = RoundPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Id(id): Id,
    Device(device): Device,
    Reader(units): Reader,
) -> ApiResult<Response> {
    let page = round_page(&state, id, device, units).await?;
    Ok((etag(page.version), Json(page)).into_response())
}

/// What a figure being typed would mean; nothing is stored.
#[utoipa::path(
    get, path = "/api/rounds/{id}/preview", operation_id = "preview_reading", params(("id" = String, Path), Typing),
    responses((status = 200, body = PreviewView), (status = "default", body = Problem))
)]
pub async fn preview(
    State(state): State<AppState>,
    Id(id): Id,
    Query(typing): Query<Typing>,
) -> ApiResult<Json<PreviewView>> {
    let cell: CellAddress = typing.cell.parse().map_err(|e| ApiError::field("cell", format!("{e}.")))?;
    Ok(Json(preview_reading(&state, id, cell, typing).await?))
}
