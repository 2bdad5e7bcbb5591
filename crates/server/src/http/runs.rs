//! Runs of an equalize: opened, written into, read.

use super::acting::{Acting, Reader};
use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, sent, uuid, written};
use super::state::AppState;
use super::visits::{SavedEntry, saved};
use crate::app::pages::run::{RunPage, run_page};
use crate::app::pages::run_lines::{RunLine, runs_under_way};
use crate::app::runs::{RunToOpen, discard_run, open_run, write_run_entry};
use crate::app::typed::conditions::TypedTemperature;
use crate::app::typed::faults::refused;
use crate::app::typed::instrument::NamedInstrument;
use crate::app::typed::run_entry::TypedRunEntry;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::equalize::RunKind;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{bounds, typed};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A run as it is opened.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct OpenRun {
    /// Its bank.
    pub bank: String,
    /// What it is for.
    pub kind: RunKind,
    /// Electrolyte temperature now.
    pub temperature: TypedTemperature,
    /// The pilot; left out on sealed batteries.
    #[serde(default)]
    pub pilot: Option<String>,
    /// What reads the cells; a hydrometer when left out.
    #[serde(default)]
    pub instrument: Option<NamedInstrument>,
    /// What was typed into the charger, V; empty: not told.
    #[serde(default)]
    pub set_to: String,
}

/// Opens a run; a bank has one that is not over at most. It belongs to the open visit of the bank, and
/// opens one where there is none.
#[utoipa::path(
    put, path = "/api/runs/{id}", operation_id = "put_run",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = OpenRun, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(open): Body<OpenRun>,
) -> ApiResult<Response> {
    let filled = |text: &str| Some(text.trim().to_owned()).filter(|t| !t.is_empty());
    let set_to = filled(&open.set_to)
        .map(|text| refused("set_to", typed::number(&text, bounds::VOLTAGE)))
        .transpose()?;
    let pilot = open.pilot.as_deref().and_then(filled);
    let named = open.instrument.map_or_else(Instrument::hydrometer, NamedInstrument::instrument);
    let run = RunToOpen {
        id,
        bank: uuid(&open.bank, "bank")?,
        kind: open.kind,
        temperature: refused(
            "temperature",
            typed::temperature(&open.temperature.typed, open.temperature.unit),
        )?,
        pilot: pilot.map(|text| refused("pilot", text.parse())).transpose()?,
        instrument: refused("instrument", named.checked())?,
        set_to,
        sent: sent(&serde_json::to_string(&open).unwrap_or_default(), &by),
        by,
    };
    Ok(written(open_run(&state, run).await?))
}

/// The page of a run.
#[utoipa::path(
    get, path = "/api/runs/{id}", operation_id = "get_run", params(("id" = String, Path)),
    responses((status = 200, body = RunPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Id(id): Id,
    Reader(units): Reader,
) -> ApiResult<Json<RunPage>> {
    let wrong = std::sync::Arc::clone(&state.feeds);
    Ok(Json(run_page(&state, id, units, move |bank| wrong.wrong(bank)).await?))
}

/// Writes one thing down of a run. The time is the server's: phones go wrong.
#[utoipa::path(
    put, path = "/api/runs/{id}/entries/{entry}", operation_id = "put_run_entry",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("entry" = String, Path)), request_body = TypedRunEntry,
    responses((status = 201, body = SavedEntry), (status = 200, body = SavedEntry), (status = "default", body = Problem))
)]
pub async fn put_entry(
    State(state): State<AppState>,
    Path((id, entry)): Path<(String, String)>,
    Reader(units): Reader,
    Acting(by): Acting,
    Body(sent): Body<TypedRunEntry>,
) -> ApiResult<(StatusCode, Json<SavedEntry>)> {
    let ids = (uuid(&id, "id")?, uuid(&entry, "entry")?);
    let text = serde_json::to_string(&sent).ok();
    let written = write_run_entry(&state, ids, (by, text), move |context| sent.parse(context)).await?;
    Ok(saved(written.map_err(|question| wording::run_entry_question(&question, units))))
}

/// Every run that is not over.
#[utoipa::path(
    get, path = "/api/runs", operation_id = "list_runs",
    responses((status = 200, body = Vec<RunLine>), (status = "default", body = Problem))
)]
pub async fn list(State(state): State<AppState>, Reader(units): Reader) -> ApiResult<Json<Vec<RunLine>>> {
    Ok(Json(runs_under_way(&state, units).await?))
}

/// Throws a run away that has not begun.
#[utoipa::path(
    delete, path = "/api/runs/{id}", operation_id = "discard_run", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn discard(State(state): State<AppState>, Id(id): Id) -> ApiResult<StatusCode> {
    discard_run(&state, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
