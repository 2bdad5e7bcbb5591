//! Opening, editing and finishing a round.

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, uuid, written};
use super::state::AppState;
use crate::app::pages::round::{RoundPage, round_page};
use crate::app::rounds::{RoundToOpen, edit_round, finish_round, open_round};
use crate::app::typed::conditions::canonical;
use crate::app::typed::round::OpenRound;
use crate::db::{Changed, RoundRow};
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::quantity::units::ReaderUnits;

/// A time sent by a device.
pub fn instant(text: &str, field: &str) -> ApiResult<Timestamp> {
    text.parse().map_err(|_parse| {
        ApiError::field(field, format!("“{text}” is no time; accepted is RFC 3339, as 2026-10-08T09:30:00Z."))
    })
}

fn to_open(id: String, open: &OpenRound, by: Actor) -> ApiResult<RoundToOpen> {
    let text = serde_json::to_string(&open).unwrap_or_default();
    let instrument = open.instrument.instrument();
    Ok(RoundToOpen {
        id,
        bank: uuid(&open.bank, "bank")?,
        started_at: open.started_at.as_deref().map(|t| instant(t, "started_at")).transpose()?,
        conditions: canonical(&open.conditions, instrument)?,
        instrument,
        reversed: open.reversed,
        sent: super::extract::sent(&text, &by),
        by,
        typed: Some(text),
    })
}

/// Opens a round.
#[utoipa::path(
    put, path = "/api/rounds/{id}", operation_id = "put_round",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = OpenRound, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(open): Body<OpenRound>,
) -> ApiResult<Response> {
    Ok(written(open_round(&state, to_open(id, &open, by)?).await?))
}

async fn answer(
    state: &AppState,
    outcome: Changed<RoundRow>,
    device: String,
    units: ReaderUnits,
    doing: &str,
) -> ApiResult<Json<RoundPage>> {
    let (row, changed) = match outcome {
        Changed::Done(row) => (row, false),
        Changed::BySomebodyElse(row) => (row, true),
    };
    let page = round_page(state, row.id.clone(), device, units).await?;
    if changed {
        let by = row.finished_by.as_deref().map_or_else(|| "somebody".to_owned(), ToOwned::to_owned);
        let what = if row.finished_at.is_some() { "finished" } else { "changed" };
        let said = format!(
            "{by} {what} this round while you were {doing} it. Both of you kept every reading; look at it as it stands now."
        );
        let theirs = serde_json::to_value(&page).unwrap_or_default();
        return Err(ApiError::changed_since(said, theirs));
    }
    Ok(Json(page))
}

/// Changes the conditions, the instrument or the direction of a round.
#[utoipa::path(
    post, path = "/api/rounds/{id}/conditions", operation_id = "edit_round",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = OpenRound,
    responses((status = 200, body = RoundPage), (status = "default", body = Problem))
)]
pub async fn edit(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
    Body(open): Body<OpenRound>,
) -> ApiResult<Json<RoundPage>> {
    let device = by.device.clone();
    let outcome = edit_round(&state, version, to_open(id, &open, by)?).await?;
    answer(&state, outcome, device, units, "editing").await
}

/// Finishes a round; it is judged and joins the history.
#[utoipa::path(
    post, path = "/api/rounds/{id}/finish", operation_id = "finish_round",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)),
    responses((status = 200, body = RoundPage), (status = "default", body = Problem))
)]
pub async fn finish(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
) -> ApiResult<Json<RoundPage>> {
    let device = by.device.clone();
    let outcome = finish_round(&state, id, version, by).await?;
    answer(&state, outcome, device, units, "finishing").await
}
