//! One reading: typed, judged, on disk.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, uuid};
use super::live_rounds::LiveRound;
use super::rounds::instant;
use super::state::AppState;
use super::typed_conditions::TypedTemperature;
use crate::clock::Clock;
use crate::db::Transaction;
use crate::db::{DbError, NewReading, ReadingKind, StoredReading, Written};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::quantity::SpecificGravity;
use rainshadow_core::quantity::typed;
use rainshadow_core::round::{RoundToJudge, RunningRound, Usability, confirms};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use utoipa::ToSchema;

/// An entry as typed.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct TypedReading {
    /// The cell: "A3-2".
    pub cell: String,
    /// What is recorded.
    pub kind: ReadingKind,
    /// The gravity as typed, for a gravity.
    #[serde(default)]
    pub typed: Option<String>,
    /// Temperature taken at this cell.
    #[serde(default)]
    pub temperature: Option<TypedTemperature>,
    /// Why it was not read.
    #[serde(default)]
    pub reason: Option<String>,
    /// True when the technician was asked and says that it stands.
    #[serde(default)]
    pub stands: bool,
    /// The entry it takes the place of, or takes back.
    #[serde(default)]
    pub supersedes: Option<String>,
    /// Who: initials.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When, by the device.
    pub taken_at: String,
}

/// What became of an entry: it is on disk.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Saved {
    /// Its id.
    pub id: String,
    /// The cell.
    pub cell: String,
    /// Why it is in question, as the screen asks; none when it is not.
    pub question: Option<String>,
    /// True when it bears out the reading it replaced, so that it stands without asking again.
    pub confirmed: bool,
}

fn canonical(sent: &TypedReading, id: String, clock: &Clock) -> ApiResult<NewReading> {
    let cell: CellAddress = sent.cell.parse().map_err(|e| ApiError::field("cell", format!("{e}.")))?;
    let gravity: Option<SpecificGravity> = if sent.kind == ReadingKind::Gravity {
        let text = sent.typed.as_deref().unwrap_or_default();
        Some(typed::gravity(text).map_err(|e| ApiError::field("typed", format!("{cell}: {e}.")))?)
    } else {
        None
    };
    let temperature = sent
        .temperature
        .as_ref()
        .map(|t| typed::temperature(&t.typed, t.unit))
        .transpose()
        .map_err(|e| ApiError::field("temperature", format!("{cell}: {e}.")))?;
    if sent.kind == ReadingKind::Withdrawn && sent.supersedes.is_none() {
        return Err(ApiError::field("supersedes", "Name the entry that is taken back."));
    }
    let mut new = NewReading {
        id,
        cell,
        kind: sent.kind,
        gravity,
        typed: sent.typed.clone(),
        temperature,
        temperature_typed: sent.temperature.as_ref().map(|t| (t.typed.clone(), t.unit)),
        reason: sent.reason.as_ref().map(|r| r.trim().to_owned()).filter(|r| !r.is_empty()),
        stands: sent.stands,
        supersedes: sent.supersedes.as_deref().map(|s| uuid(s, "supersedes")).transpose()?,
        person: sent.person.trim().to_owned(),
        device: sent.device.trim().to_owned(),
        taken_at: instant(&sent.taken_at, "taken_at", clock)?,
        sent: String::new(),
    };
    new.sent = new.fingerprint();
    Ok(new)
}

/// A second reading of a questioned cell that agrees with the first stands by itself.
fn bears_out(before: &[StoredReading], new: &NewReading, context: &RoundToJudge) -> bool {
    let replaced = new.supersedes.as_ref().and_then(|id| before.iter().find(|r| r.id == *id));
    let Some((first, second)) =
        replaced.filter(|r| r.cell == new.cell).and_then(|r| r.gravity).zip(new.gravity)
    else {
        return false;
    };
    confirms(first, second, context.uncertainty().deviation)
}

fn append(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    mut new: NewReading,
    now: jiff::Timestamp,
) -> Result<(Saved, Written), DbError> {
    let context = Arc::clone(&live.context);
    let again = live.entries().iter().find(|r| r.id == new.id);
    // An entry sent again is asked about as it was stored.
    let stood = again.is_some_and(|r| r.stands);
    let confirmed = !new.stands && bears_out(live.entries(), &new, &context);
    let stands = if again.is_some() { stood } else { new.stands || confirmed };
    new.stands |= confirmed;
    let question = new
        .gravity
        .filter(|_| !stands && Usability::of(&context.conditions, context.instrument).judged())
        .and_then(|read| {
            let corrected = context.correct(new.cell, read, new.temperature);
            RunningRound::with(&context, live.records()).question(new.cell, read, corrected)
        });
    let written = live.append(tx, &new, now)?;
    let question = question.map(|q| wording::question(&q));
    Ok((Saved { id: new.id, cell: new.cell.to_string(), question, confirmed }, written))
}

/// Records one cell. When this answers, the reading is on disk.
#[utoipa::path(
    put, path = "/api/rounds/{id}/readings/{reading}", operation_id = "put_reading",
    params(("id" = String, Path), ("reading" = String, Path)), request_body = TypedReading,
    responses((status = 201, body = Saved), (status = 200, body = Saved), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Path((round, reading)): Path<(String, String)>,
    Body(sent): Body<TypedReading>,
) -> ApiResult<(StatusCode, Json<Saved>)> {
    let round = uuid(&round, "id")?;
    let now = state.clock.now();
    let new = canonical(&sent, uuid(&reading, "reading")?, &state.clock)?;
    let (shared, id) = (state.clone(), round.clone());
    let outcome = state
        .db
        .write_row(move |tx| {
            shared.with_live_round(tx, &id, |live| {
                let (saved, written) = append(tx, live, new, now)?;
                Ok((saved, written, live.row.finished_at.is_some()))
            })
        })
        .await;
    if outcome.is_err() {
        state.forget_live_round(&round);
    }
    let (saved, written, finished) = outcome?;
    if finished {
        // A late reading changes what later rounds are compared with.
        state.changed();
    }
    let status = if written == Written::Created { StatusCode::CREATED } else { StatusCode::OK };
    Ok((status, Json(saved)))
}
