//! Batteries replaced or moved, and undone.

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::replacements::{change_battery, replacing, undo_change};
use crate::app::typed::faults::{filled, refused};
use crate::db::{ChangeKind, ChangeMore, NewChange, TakenOut};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::quantity::{bounds, typed};
use rainshadow_core::replacing::{Gone, UsedBattery};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
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
    /// A used one from elsewhere comes in; none: a new one, or one that was taken out.
    #[serde(default)]
    pub brought: Option<SentUsed>,
    /// Where the old one went; none: not told.
    #[serde(default)]
    pub gone: Option<Gone>,
    /// True when a new one beyond the house's limit comes in all the same.
    #[serde(default)]
    pub all_the_same: bool,
    /// Why.
    pub reason: String,
}

/// A used battery as sent.
#[derive(Debug, Default, Deserialize, ToSchema)]
#[serde(default)]
pub struct SentUsed {
    /// Its age, months; empty: nobody knows.
    pub months: String,
    /// Capacity by its last test, %; empty: not tested.
    pub capacity: String,
    /// Inner resistance, mΩ; empty: not measured.
    pub milliohms: String,
}

impl SentUsed {
    fn battery(&self) -> ApiResult<UsedBattery> {
        let figure = |field: &str, text: &String, range| {
            filled(Some(text)).map(|t| refused(field, typed::number(t, range))).transpose()
        };
        Ok(UsedBattery {
            months: figure("months", &self.months, bounds::AGE_MONTHS)?,
            capacity: figure("capacity", &self.capacity, bounds::CAPACITY_PERCENT)?,
            milliohms: figure("milliohms", &self.milliohms, bounds::RESISTANCE)?,
        })
    }
}

/// A place where an old battery can go.
#[derive(Debug, Serialize, ToSchema)]
pub struct GoneChoice {
    /// Which.
    pub gone: Gone,
    /// As said.
    pub said: &'static str,
}

/// What is to be known where a battery is replaced.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReplacingView {
    /// Batteries that were taken out, here or elsewhere, and would fit.
    pub taken_out: Vec<TakenOut>,
    /// The house's limit for a new one, applied.
    pub one_new: String,
    /// How it stands.
    pub one_new_condition: Severity,
    /// Where the old one can go.
    pub gone: Vec<GoneChoice>,
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
        more: ChangeMore {
            used: sent.brought.as_ref().map(SentUsed::battery).transpose()?,
            gone: sent.gone.filter(|_| sent.kind == ChangeKind::Replaced),
            all_the_same: sent.all_the_same,
        },
        by,
    };
    Ok(written(change_battery(&state, new).await?))
}

/// Batteries that were taken out, here or elsewhere, and would fit into this bank.
#[utoipa::path(
    get, path = "/api/banks/{id}/taken-out", operation_id = "list_taken_out", params(("id" = String, Path)),
    responses((status = 200, body = ReplacingView), (status = "default", body = Problem))
)]
pub async fn list(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
) -> ApiResult<Json<ReplacingView>> {
    let own = replacing(&state, id).await?;
    Ok(Json(ReplacingView {
        one_new: wording::one_new(&own.one_new, &own.house),
        one_new_condition: own.one_new.condition,
        taken_out: own.taken_out,
        gone: Gone::ALL.into_iter().map(|gone| GoneChoice { gone, said: wording::gone(gone) }).collect(),
    }))
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
