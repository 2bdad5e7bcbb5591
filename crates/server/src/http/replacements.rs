//! Batteries replaced or moved, and undone.

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::replacements::{change_battery, taken_out, undo_change};
use crate::db::{ChangeKind, NewChange, TakenOut};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::bank::BatteryAddress;
use serde::Deserialize;
use utoipa::ToSchema;

/// A change as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentChange {
    /// Day it happened, as 2026-10-08.
    pub day: String,
    /// What.
    pub kind: ChangeKind,
    /// The place: "A3".
    pub battery: String,
    /// The other place, for two that change places.
    #[serde(default)]
    pub other: Option<String>,
    /// Serial number of the new one.
    #[serde(default)]
    pub serial: String,
    /// Date code of the new one.
    #[serde(default)]
    pub date_code: String,
    /// One that was taken out earlier, here or elsewhere, in place of a new one: its block.
    #[serde(default)]
    pub used: Option<String>,
    /// Why.
    pub reason: String,
}

fn battery(text: &str, field: &str) -> ApiResult<BatteryAddress> {
    text.parse().map_err(|e| ApiError::field(field, format!("{e}.")))
}

fn short(text: &str, field: &str) -> ApiResult<String> {
    let text = text.trim();
    if text.chars().count() > 80 {
        return Err(ApiError::field(field, "Up to 80 characters are taken."));
    }
    Ok(text.to_owned())
}

/// Replaces a battery, or lets two change places.
#[utoipa::path(
    put, path = "/api/banks/{id}/changes/{change}", operation_id = "put_change",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("change" = String, Path)), request_body = SentChange,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    _all: WholeShop,
    Path((id, change)): Path<(String, String)>,
    Acting(by): Acting,
    Body(sent): Body<SentChange>,
) -> ApiResult<Response> {
    let bank = super::extract::uuid(&id, "id")?;
    let first = battery(&sent.battery, "battery")?;
    let other =
        sent.other.as_deref().filter(|o| !o.trim().is_empty()).map(|o| battery(o, "other")).transpose()?;
    let day = crate::app::typed::day::day(&sent.day, "day")?;
    let new = NewChange {
        id: super::extract::uuid(&change, "change")?,
        bank,
        day,
        kind: sent.kind,
        battery: first,
        other: other.filter(|_| sent.kind == ChangeKind::Swapped),
        serial: short(&sent.serial, "serial")?,
        date_code: short(&sent.date_code, "date_code")?,
        used: sent.used.filter(|u| !u.is_empty() && sent.kind == ChangeKind::Replaced),
        reason: short(&sent.reason, "reason")?,
        by,
    };
    Ok(written(change_battery(&state, new).await?))
}

/// Batteries that were taken out, here or elsewhere, and would fit into this bank.
#[utoipa::path(
    get, path = "/api/banks/{id}/taken-out", operation_id = "list_taken_out", params(("id" = String, Path)),
    responses((status = 200, body = [TakenOut]), (status = "default", body = Problem))
)]
pub async fn list(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
) -> ApiResult<Json<Vec<TakenOut>>> {
    Ok(Json(taken_out(&state, id).await?))
}

/// Undoes the last change of a bank.
#[utoipa::path(
    post, path = "/api/changes/{id}/undo", operation_id = "undo_change",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn undo(
    State(state): State<AppState>,
    _all: WholeShop,
    super::extract::Id(id): super::extract::Id,
    Acting(by): Acting,
) -> ApiResult<StatusCode> {
    undo_change(&state, id, by).await?;
    Ok(StatusCode::NO_CONTENT)
}
