//! Runs of an equalize: opened, written into, read.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, Reader, uuid, written};
use super::faults::filled;
use super::run_page::RunPage;
use super::state::AppState;
use super::typed_conditions::TypedTemperature;
use super::typed_run::{TypedRunEntry, UnderstoodRun};
use super::visits::SavedEntry;
use crate::app::equalize_case::EqualizeCase;
use crate::app::run_case::RunCase;
use crate::db::Connection;
use crate::db::{DbError, NewRun, NewVisit, PlannedRun, RunEntryRow, RunRow, VisitRow, Written};
use crate::words;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::charge::{MOST_PER_CELL, Stage, setpoint};
use rainshadow_core::equalize::{Alarm, Phase, RunKind, volts_on_charge, watched};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
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
    pub instrument: Option<Instrument>,
    /// What was typed into the charger, V; empty: not told.
    #[serde(default)]
    pub set_to: String,
    /// Who stays with it: initials.
    pub person: String,
    /// On which device.
    pub device: String,
}

/// Volts typed into the charger: not of another bank, and not above what any cell takes.
fn set_to(text: &str, cells: u16) -> ApiResult<Option<f64>> {
    let Some(text) = filled(Some(&text.to_owned())).map(ToOwned::to_owned) else { return Ok(None) };
    let refuse = |said: String| ApiError::field("set_to", wording::stopped(&said));
    let volts = typed::number(&text, bounds::VOLTAGE).map_err(|e| refuse(e.to_string()))?;
    let volts = volts_on_charge(volts, cells).map_err(|e| refuse(e.to_string()))?;
    let most = MOST_PER_CELL * f64::from(cells);
    if volts > most {
        return Err(refuse(format!(
            "{volts:.1} V is {:.2} V a cell; no cell is charged above 2.70 V, {most:.1} V for this bank",
            volts / f64::from(cells)
        )));
    }
    Ok(Some(volts))
}

/// Opens a run; a bank has one that is not over at most. It belongs to the open visit of the bank, and
/// opens one where there is none.
#[utoipa::path(
    put, path = "/api/runs/{id}", operation_id = "put_run", params(("id" = String, Path)),
    request_body = OpenRun, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(open): Body<OpenRun>,
) -> ApiResult<Response> {
    let bank_id = uuid(&open.bank, "bank")?;
    if open.person.trim().is_empty() {
        return Err(ApiError::field("person", "A run needs a named person who stays with it."));
    }
    let now = state.clock.now();
    let today = state.clock.today();
    let sent = serde_json::to_string(&open).unwrap_or_default();
    let outcome: ApiResult<Written> = state
        .write(move |tx| {
            // The same again, by somebody whose answer was lost: answered before anything is judged.
            if let Ok(before) = RunRow::by_id(tx, &id) {
                return if before.sent == sent {
                    Ok(Ok(Written::AlreadyThere))
                } else {
                    Err(DbError::OtherBody { what: "run", id })
                };
            }
            let case = EqualizeCase::read(tx, &bank_id, today)?;
            let new = match plan_new(&case, &open, id) {
                Ok(new) => new,
                Err(refused) => return Ok(Err(refused)),
            };
            let visit = if let Some(visit) = VisitRow::open_of(tx, &bank_id)? {
                visit.id
            } else {
                let visit = NewVisit {
                    id: uuid::Uuid::now_v7().to_string(),
                    bank: bank_id.clone(),
                    started_at: now,
                    ended_at: None,
                    zone: case.site.zone.clone(),
                    person: open.person.trim().to_owned(),
                    device: open.device.trim().to_owned(),
                    sent: String::new(),
                };
                VisitRow::create(tx, &visit)?;
                visit.id
            };
            let new = NewRun { visit, opened_at: now, zone: case.site.zone.clone(), sent, ..new };
            Ok(Ok(RunRow::create(tx, &new)?))
        })
        .await?;
    Ok(written(outcome?))
}

/// What of a new run is worked out from the request; when and on which visit is filled in after.
fn plan_new(case: &EqualizeCase, open: &OpenRun, id: String) -> ApiResult<NewRun> {
    let temperature = typed::temperature(&open.temperature.typed, open.temperature.unit)
        .map_err(|e| ApiError::field("temperature", wording::stopped(&e.to_string())))?;
    let cells = case.bank.shape.cells_in_series();
    let set_to = set_to(&open.set_to, cells)?;
    let (asked, plan) = case
        .planned(open.kind, temperature)
        .map_err(|e| ApiError::field(e.field(), wording::stopped(&e.to_string())))?;
    let float = setpoint(&case.model, Stage::Float, cells, temperature, case.compensates(), None)
        .map_err(|e| ApiError::field("temperature", wording::stopped(&e.to_string())))?;
    let caps = case.model.construction.has_caps();
    let watched = match filled(open.pilot.as_ref()).filter(|_| caps) {
        Some(text) => {
            let pilot = text.parse().map_err(|e| ApiError::field("pilot", format!("{e}.")))?;
            if !case.bank.shape.contains(pilot) {
                return Err(ApiError::field("pilot", format!("This bank has no cell {pilot}.")));
            }
            watched(&case.bank.shape, &case.gravities, pilot)
        }
        None if caps => {
            return Err(ApiError::field("pilot", "Choose the pilot: the cell that the run is watched by."));
        }
        None => Vec::new(),
    };
    let instrument = open.instrument.unwrap_or_else(Instrument::hydrometer);
    let instrument =
        instrument.checked().map_err(|e| ApiError::field("instrument", wording::stopped(&e.to_string())))?;
    Ok(NewRun {
        id,
        bank: case.bank.id.clone(),
        visit: String::new(),
        kind: open.kind,
        opened_at: jiff::Timestamp::UNIX_EPOCH,
        zone: String::new(),
        instrument,
        plan: PlannedRun { asked, plan, float: float.to_type, set_to },
        watched,
        person: open.person.trim().to_owned(),
        device: open.device.trim().to_owned(),
        sent: String::new(),
    })
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
    let (now, pace) = (state.clock.now(), state.clock.speed());
    let feeds = std::sync::Arc::clone(&state.feeds);
    let reading = state.db.read(move |db| {
        let case = RunCase::read(db, &id, now)?;
        let wrong = feeds.wrong(&case.bank.id);
        case.page(db, units, (pace, wrong))
    });
    Ok(Json(reading.await?))
}

/// One entry as sent.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct SentRunEntry {
    /// What.
    #[serde(flatten)]
    pub entry: TypedRunEntry,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
}

/// Writes one thing down of a run. The time is the server's: phones go wrong.
#[utoipa::path(
    put, path = "/api/runs/{id}/entries/{entry}", operation_id = "put_run_entry",
    params(("id" = String, Path), ("entry" = String, Path)), request_body = SentRunEntry,
    responses((status = 201, body = SavedEntry), (status = 200, body = SavedEntry), (status = "default", body = Problem))
)]
pub async fn put_entry(
    State(state): State<AppState>,
    Path((id, entry)): Path<(String, String)>,
    Reader(units): Reader,
    Body(sent): Body<SentRunEntry>,
) -> ApiResult<(StatusCode, Json<SavedEntry>)> {
    let id = uuid(&id, "id")?;
    let entry_id = uuid(&entry, "entry")?;
    let (now, pace) = (state.clock.now(), state.clock.speed());
    let outcome: ApiResult<(StatusCode, SavedEntry)> = state
        .write(move |tx| {
            let case = RunCase::read(tx, &id, now)?;
            // What a lost answer sends again is told apart by its body, not by what is possible now.
            let again = RunRow::has_entry(tx, &entry_id)?;
            let understood = if again {
                match case.entries.iter().find(|e| e.id == entry_id) {
                    Some(before) => Ok(UnderstoodRun::Entry(before.entry.clone())),
                    None => return Err(DbError::OtherBody { what: "entry of a run", id: entry_id }),
                }
            } else {
                sent.entry.parse(&case, units, pace)
            };
            let what = match understood {
                Ok(UnderstoodRun::Entry(entry)) => entry,
                Ok(UnderstoodRun::Question(question)) => {
                    return Ok(Ok((StatusCode::OK, SavedEntry { saved: false, question: Some(question) })));
                }
                Err(refused) => return Ok(Err(refused)),
            };
            let stands = case.with(&what, &entry_id).phase;
            let ended = match stands {
                Phase::Ended { why } => Some((case.run.ended_at.unwrap_or(now), why)),
                _ => None,
            };
            let new = RunEntryRow {
                id: entry_id,
                entry: what,
                typed: serde_json::to_string(&sent.entry).ok(),
                person: sent.person.trim().to_owned(),
                device: sent.device.trim().to_owned(),
                at: now,
            };
            let written = case.run.append(tx, &new, ended)?;
            let status = if written == Written::Created { StatusCode::CREATED } else { StatusCode::OK };
            Ok(Ok((status, SavedEntry { saved: true, question: None })))
        })
        .await?;
    let (status, saved) = outcome?;
    Ok((status, Json(saved)))
}

/// A run that is not over, for lists.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunLine {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Where: site and bank.
    pub place: String,
    /// What to do now.
    pub verdict: String,
    /// What the room must hear; none: nothing.
    pub alarm: Option<Alarm>,
    /// Hours on equalize, "3:12".
    pub elapsed: String,
    /// Time of day of the next reading.
    pub reading_at: String,
    /// Who stays with it.
    pub person: String,
}

/// Runs that are not over, in words.
pub fn open_lines(
    db: &Connection,
    now: jiff::Timestamp,
    units: ReaderUnits,
) -> Result<Vec<RunLine>, DbError> {
    let line = |run| {
        let case = RunCase::of(db, run, now)?;
        Ok(RunLine {
            id: case.run.id.clone(),
            bank: case.bank.id.clone(),
            place: words::place(&case.site.name, &case.bank.name),
            verdict: case.verdict(units),
            alarm: case.now.alarm(),
            elapsed: wording::hours_minutes(case.now.elapsed),
            reading_at: case.reading_at(),
            person: case.run.person.clone(),
        })
    };
    RunRow::open(db)?.into_iter().map(line).collect()
}

/// Every run that is not over.
#[utoipa::path(
    get, path = "/api/runs", operation_id = "list_runs",
    responses((status = 200, body = Vec<RunLine>), (status = "default", body = Problem))
)]
pub async fn list(State(state): State<AppState>, Reader(units): Reader) -> ApiResult<Json<Vec<RunLine>>> {
    let now = state.clock.now();
    Ok(Json(state.db.read(move |db| open_lines(db, now, units)).await?))
}

/// Throws a run away that has not begun.
#[utoipa::path(
    delete, path = "/api/runs/{id}", operation_id = "discard_run", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn discard(State(state): State<AppState>, Id(id): Id) -> ApiResult<StatusCode> {
    let now = state.clock.now();
    let outcome: ApiResult<()> = state
        .write(move |tx| {
            let case = RunCase::read(tx, &id, now)?;
            if case.now.phase != Phase::Before {
                return Ok(Err(ApiError::field(
                    "what",
                    "The run has begun; it is stopped, not thrown away.",
                )));
            }
            case.run.discard(tx)?;
            Ok(Ok(()))
        })
        .await?;
    outcome?;
    Ok(StatusCode::NO_CONTENT)
}
