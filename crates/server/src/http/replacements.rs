//! Batteries replaced or moved, and undone.

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::db::{BankRow, ChangeKind, NewChange, Site, TakenOut, taken_out, undo_change};
use crate::words;
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
    match (sent.kind, other) {
        (ChangeKind::Swapped, None) => {
            return Err(ApiError::field("other", "Two change places: name the other one."));
        }
        (ChangeKind::Swapped, Some(other)) if other == first => {
            return Err(ApiError::field("other", "A battery does not change places with itself."));
        }
        _ => {}
    }
    let day = crate::app::typed::day::day(&sent.day, "day")?;
    let now = state.clock.now();
    let bank_id = bank.clone();
    let zone =
        state.db.read(move |db| Ok(Site::by_id(db, &BankRow::by_id(db, &bank_id)?.site_id)?.zone)).await?;
    if day > words::local_day(now, &zone) {
        return Err(ApiError::field("day", format!("{} lies in the future.", words::day(day))));
    }
    if sent.reason.trim().is_empty() {
        return Err(ApiError::field("reason", "Say why, for whoever reads the trend that breaks here."));
    }
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
    Ok(written(state.write(move |tx| new.make(tx, now)).await?))
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
    Ok(Json(state.db.read(move |db| taken_out(db, &BankRow::by_id(db, &id)?.model_id)).await?))
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
    let now = state.clock.now();
    state.write(move |tx| undo_change(tx, &id, &by, now)).await?;
    Ok(StatusCode::NO_CONTENT)
}
