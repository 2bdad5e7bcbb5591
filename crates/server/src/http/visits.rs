//! Visits: opened, written into, closed.

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, etag, sent, uuid, written};
use super::rounds::instant;
use super::state::AppState;
use crate::app::banks::write_access;
use crate::app::pages::visit::{VisitPage, visit_page};
use crate::app::typed::visit_entry::{TypedBody, parse};
use crate::app::visits::{
    VisitToOpen, bank_of_visit, close_visit, discard_visit, open_visit, reopen_visit, write_visit_entry,
};
use crate::db::{AccessNotes, Changed, VisitRow, Written};
use crate::report::visit_report;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{Job, Place, Step, VisitEntry};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A visit as it is opened.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct OpenVisit {
    /// Its bank.
    pub bank: String,
    /// Civil day of a visit that is entered later, as 2026-10-08; today when left out.
    #[serde(default)]
    pub day: Option<String>,
    /// The one step it is for, as a recheck is; a whole visit when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub only: Option<Step>,
    /// The job it is for; a visit like others when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub job: Option<Job>,
}

/// Opens a visit; a bank has one open visit at most.
#[utoipa::path(
    put, path = "/api/visits/{id}", operation_id = "put_visit",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = OpenVisit, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(open): Body<OpenVisit>,
) -> ApiResult<Response> {
    let day = open.day.as_deref().map(str::trim).filter(|t| !t.is_empty());
    let visit = VisitToOpen {
        id,
        bank: uuid(&open.bank, "bank")?,
        day: day.map(|text| crate::app::typed::day::day(text, "day")).transpose()?,
        only: open.only,
        job: open.job,
        sent: sent(&serde_json::to_string(&open).unwrap_or_default(), &by),
        by,
    };
    Ok(written(open_visit(&state, visit).await?))
}

/// One entry as sent.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct SentEntry {
    /// Where: empty for the bank, A, A3 or A3-2.
    #[serde(default)]
    pub place: String,
    /// What.
    pub what: TypedBody,
    /// When, by the device.
    pub taken_at: String,
}

/// What became of an entry.
#[derive(Debug, Serialize, ToSchema)]
pub struct SavedEntry {
    /// False when it was asked about: nothing is stored until it is kept.
    pub saved: bool,
    /// The question.
    pub question: Option<String>,
}

/// Writes one thing down.
#[utoipa::path(
    put, path = "/api/visits/{id}/entries/{entry}", operation_id = "put_visit_entry",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("entry" = String, Path)), request_body = SentEntry,
    responses((status = 201, body = SavedEntry), (status = 200, body = SavedEntry), (status = "default", body = Problem))
)]
pub async fn put_entry(
    State(state): State<AppState>,
    Path((id, entry)): Path<(String, String)>,
    Reader(units): Reader,
    Acting(by): Acting,
    Body(sent): Body<SentEntry>,
) -> ApiResult<(StatusCode, Json<SavedEntry>)> {
    let visit = uuid(&id, "id")?;
    let id = uuid(&entry, "entry")?;
    let place: Place = sent.place.parse().map_err(|e| ApiError::field("place", format!("{e}.")))?;
    let (shape, model) = bank_of_visit(&state, visit.clone()).await?;
    let entry = VisitEntry {
        id,
        place,
        entry: parse(&sent.what, place, &shape, &model, units)?,
        typed: serde_json::to_string(&sent.what).ok(),
        by,
        taken_at: instant(&sent.taken_at, "taken_at")?,
    };
    let written = write_visit_entry(&state, visit, entry).await?;
    Ok(saved(written.map_err(|question| wording::entry_question(&question, units))))
}

/// The answer to an entry: written, or asked about.
pub fn saved(written: Result<Written, String>) -> (StatusCode, Json<SavedEntry>) {
    let (status, saved) = match written {
        Ok(Written::Created) => (StatusCode::CREATED, SavedEntry { saved: true, question: None }),
        Ok(Written::AlreadyThere) => (StatusCode::OK, SavedEntry { saved: true, question: None }),
        Err(question) => (StatusCode::OK, SavedEntry { saved: false, question: Some(question) }),
    };
    (status, Json(saved))
}

/// The page of a visit.
#[utoipa::path(
    get, path = "/api/visits/{id}", operation_id = "get_visit", params(("id" = String, Path)),
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn page(State(state): State<AppState>, Id(id): Id, Reader(units): Reader) -> ApiResult<Response> {
    let page = visit_page(&state, id, units).await?;
    Ok((etag(page.version), Json(page)).into_response())
}

async fn answer(
    state: &AppState,
    outcome: Changed<VisitRow>,
    units: ReaderUnits,
    doing: &str,
) -> ApiResult<Json<VisitPage>> {
    let (row, changed) = match outcome {
        Changed::Done(row) => (row, false),
        Changed::BySomebodyElse(row) => (row, true),
    };
    let page = visit_page(state, row.id.clone(), units).await?;
    if changed {
        let by = row.closed_by.clone().unwrap_or_else(|| "Somebody".into());
        let what = if row.ended_at.is_some() { "closed" } else { "opened" };
        let said = format!("{by} {what} this visit while you were {doing} it. Look at it as it stands now.");
        return Err(ApiError::changed_since(said, serde_json::to_value(&page).unwrap_or_default()));
    }
    Ok(Json(page))
}

/// Closes a visit; its report is kept as it stands.
#[utoipa::path(
    post, path = "/api/visits/{id}/close", operation_id = "close_visit",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)),
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn close(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
) -> ApiResult<Json<VisitPage>> {
    let outcome = close_visit(&state, (id, version), by, units, visit_report).await?;
    answer(&state, outcome, units, "closing").await
}

/// Opens a closed visit again.
#[utoipa::path(
    post, path = "/api/visits/{id}/reopen", operation_id = "reopen_visit",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)),
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn reopen(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
) -> ApiResult<Json<VisitPage>> {
    let outcome = reopen_visit(&state, id, version, by).await?;
    answer(&state, outcome, units, "opening").await
}

/// Throws a visit away in which nothing is written down.
#[utoipa::path(
    delete, path = "/api/visits/{id}", operation_id = "discard_visit", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn discard(State(state): State<AppState>, Id(id): Id) -> ApiResult<StatusCode> {
    discard_visit(&state, id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Access notes as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentAccess {
    /// The notes.
    pub notes: AccessNotes,
}

/// Writes down what the next visitor must know.
#[utoipa::path(
    put, path = "/api/banks/{id}/access", operation_id = "put_access",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = SentAccess, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put_access(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Acting(by): Acting,
    Body(sent): Body<SentAccess>,
) -> ApiResult<StatusCode> {
    write_access(&state, id, version, (sent.notes, by)).await?;
    Ok(StatusCode::NO_CONTENT)
}
