//! Visits: opened, written into, closed.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, Reader, etag, written};
use super::parsed::Parsed;
use super::rounds::{By, instant};
use super::state::AppState;
use super::typed_entry::{TypedBody, parse};
use super::visit_page::{VisitPage, read_page};
use crate::db::{
    AccessNotes, BankRow, CloseOutcome, ModelRow, NewEntry, NewVisit, RoundRow, RunRow, Site, StoredEntry,
    VisitRow, Written,
};
use crate::words;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::Place;
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
    /// Who: initials.
    pub person: String,
    /// On which device.
    pub device: String,
}

/// Latest a bank can have been without anybody knowing when it went into service.
fn not_before(bank: &BankRow) -> Option<Date> {
    let text = bank.in_service.as_deref()?;
    text.parse()
        .ok()
        .or_else(|| format!("{text}-01").parse().ok())
        .or_else(|| format!("{text}-01-01").parse().ok())
}

fn started(open: &OpenVisit, bank: &BankRow, zone: &str, state: &AppState) -> ApiResult<jiff::Timestamp> {
    let now = state.clock.now();
    let Some(text) = open.day.as_deref().map(str::trim).filter(|t| !t.is_empty()) else { return Ok(now) };
    let refuse = |said: String| ApiError::field("day", said);
    let day = super::typed_day::day(text, "day")?;
    let today = words::local_day(now, zone);
    if day > today {
        return Err(refuse(format!(
            "{} lies in the future; a visit is of today or earlier.",
            words::day(day)
        )));
    }
    if let Some(first) = not_before(bank).filter(|first| day < *first) {
        let said =
            format!("{} lies before the bank went into service on {}.", words::day(day), words::day(first));
        return Err(refuse(said));
    }
    if day == today {
        return Ok(now);
    }
    // A day without an hour is noon, as for a notebook round.
    let noon = day.at(12, 0, 0, 0).in_tz(zone).or_else(|_zone| day.at(12, 0, 0, 0).in_tz("UTC"));
    noon.map(|z| z.timestamp()).map_err(|e| refuse(format!("{e}.")))
}

/// Opens a visit; a bank has one open visit at most.
#[utoipa::path(
    put, path = "/api/visits/{id}", operation_id = "put_visit", params(("id" = String, Path)),
    request_body = OpenVisit, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(open): Body<OpenVisit>,
) -> ApiResult<Response> {
    let bank_id = super::extract::uuid(&open.bank, "bank")?;
    let (bank, site) = state
        .db
        .read(move |db| {
            let bank = BankRow::by_id(db, &bank_id)?;
            let site = Site::by_id(db, &bank.site_id)?;
            Ok((bank, site))
        })
        .await?;
    let visit = NewVisit {
        id,
        bank: bank.id.clone(),
        started_at: started(&open, &bank, &site.zone, &state)?,
        ended_at: None,
        zone: site.zone,
        person: open.person.trim().to_owned(),
        device: open.device.trim().to_owned(),
        sent: serde_json::to_string(&open).unwrap_or_default(),
    };
    Ok(written(state.write(move |tx| VisitRow::create(tx, &visit)).await?))
}

/// One entry as sent.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct SentEntry {
    /// Where: empty for the bank, A, A3 or A3-2.
    #[serde(default)]
    pub place: String,
    /// What.
    pub what: TypedBody,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
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
    params(("id" = String, Path), ("entry" = String, Path)), request_body = SentEntry,
    responses((status = 201, body = SavedEntry), (status = 200, body = SavedEntry), (status = "default", body = Problem))
)]
pub async fn put_entry(
    State(state): State<AppState>,
    Path((id, entry)): Path<(String, String)>,
    Reader(units): Reader,
    Body(sent): Body<SentEntry>,
) -> ApiResult<(StatusCode, Json<SavedEntry>)> {
    let id = super::extract::uuid(&id, "id")?;
    let entry_id = super::extract::uuid(&entry, "entry")?;
    let place: Place = sent.place.parse().map_err(|e| ApiError::field("place", format!("{e}.")))?;
    let (visit, bank, model, sheet) = state
        .db
        .read(move |db| {
            let visit = VisitRow::by_id(db, &id)?;
            let bank = BankRow::by_id(db, &visit.bank_id)?;
            let model = ModelRow::by_id(db, &bank.model_id)?;
            let sheet = StoredEntry::sheet(db, &visit)?;
            Ok((visit, bank, model, sheet))
        })
        .await?;
    if !place.on(&bank.shape) {
        return Err(ApiError::field("place", format!("This bank has no {}.", place.said())));
    }
    let now = state.clock.now();
    let entry = match parse(&sent.what, place, &bank.shape, &model, &sheet, units)? {
        Parsed::Entry(entry) => entry,
        Parsed::Question(question) => {
            return Ok((StatusCode::OK, Json(SavedEntry { saved: false, question: Some(question) })));
        }
    };
    let new = NewEntry {
        id: entry_id,
        place,
        entry,
        typed: serde_json::to_string(&sent.what).ok(),
        person: sent.person.trim().to_owned(),
        device: sent.device.trim().to_owned(),
        taken_at: instant(&sent.taken_at, "taken_at", &state.clock)?,
    };
    let written = state.write(move |tx| StoredEntry::write_down(tx, &visit.id, &new, now)).await?;
    let status = if written == Written::Created { StatusCode::CREATED } else { StatusCode::OK };
    Ok((status, Json(SavedEntry { saved: true, question: None })))
}

/// The page of a visit.
#[utoipa::path(
    get, path = "/api/visits/{id}", operation_id = "get_visit", params(("id" = String, Path)),
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn page(State(state): State<AppState>, Id(id): Id, Reader(units): Reader) -> ApiResult<Response> {
    let page = read_page(&state, id, units).await?;
    Ok((etag(page.version), Json(page)).into_response())
}

async fn answer(
    state: &AppState,
    outcome: CloseOutcome,
    units: ReaderUnits,
    doing: &str,
) -> ApiResult<Json<VisitPage>> {
    let (row, changed) = match outcome {
        CloseOutcome::Closed(row) => (row, false),
        CloseOutcome::Changed(row) => (row, true),
    };
    let page = read_page(state, row.id.clone(), units).await?;
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
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = By,
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn close(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Body(by): Body<By>,
) -> ApiResult<Json<VisitPage>> {
    let now = state.clock.now();
    let name = format!("{} on {}", by.person, by.device);
    let today = state.clock.today();
    let outcome = state
        .write(move |tx| {
            let row = VisitRow::by_id(tx, &id)?;
            if BankRow::by_id(tx, &row.bank_id)?.archived_at.is_some() {
                return Err(crate::db::DbError::Archived);
            }
            // Nobody leaves while the charger is on equalize.
            if let Some(run) = RunRow::open_of(tx, &row.bank_id)?.filter(|run| run.visit_id == row.id) {
                return Err(run.under_way());
            }
            if let Some(open) = RoundRow::open_on(tx, &row.id)? {
                return Err(open);
            }
            crate::app::bank_state::refresh(tx, &row.bank_id)?;
            let report = super::printed::rendered(tx, &id, today, units)?;
            VisitRow::close(tx, &id, version, &name, &report, now)
        })
        .await?;
    answer(&state, outcome, units, "closing").await
}

/// Opens a closed visit again.
#[utoipa::path(
    post, path = "/api/visits/{id}/reopen", operation_id = "reopen_visit",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = By,
    responses((status = 200, body = VisitPage), (status = "default", body = Problem))
)]
pub async fn reopen(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Body(by): Body<By>,
) -> ApiResult<Json<VisitPage>> {
    let now = state.clock.now();
    let name = format!("{} on {}", by.person, by.device);
    let outcome = state.write(move |tx| VisitRow::reopen(tx, &id, version, &name, now)).await?;
    answer(&state, outcome, units, "opening").await
}

/// Throws a visit away in which nothing is written down.
#[utoipa::path(
    delete, path = "/api/visits/{id}", operation_id = "discard_visit", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn discard(State(state): State<AppState>, Id(id): Id) -> ApiResult<StatusCode> {
    state.write(move |tx| VisitRow::discard(tx, &id)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Access notes as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentAccess {
    /// The notes.
    pub notes: AccessNotes,
    /// Who.
    pub person: String,
}

/// Writes down what the next visitor must know.
#[utoipa::path(
    put, path = "/api/banks/{id}/access", operation_id = "put_access",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = SentAccess, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put_access(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(sent): Body<SentAccess>,
) -> ApiResult<StatusCode> {
    state
        .write(move |tx| {
            BankRow::as_seen(tx, &id, version)?;
            BankRow::set_access(tx, &id, &sent.notes, sent.person.trim())
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
