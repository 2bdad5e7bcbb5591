//! Banks and rounds as files, in and out.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::Id;
use super::guard::WholeShop;
use super::state::AppState;
use super::stream::streamed;
use crate::app::bank_files::{bank_with_state, whole_bank, whole_round};
use crate::db::{BankBundle, DbError, NewRound, WholeVisit};
use crate::formats::bank_file::{BankFile, File, RoundFile};
use crate::formats::notebook::{Column, Field, Figure, TypedTemperature, write};
use crate::{photos, words};
use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rainshadow_core::rest::VoltsState;
use rainshadow_core::round::RoundTemperature;
use rainshadow_core::round::{ReadingKind, RoundEntry};
use rainshadow_core::visit::{Entry, Place, VisitSheet};
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use std::path::PathBuf;
use tokio::io::AsyncWriteExt as _;
use tokio_stream::StreamExt as _;
use utoipa::ToSchema;

mod import;

fn download(kind: &'static str, name: &str, body: impl Into<Body>) -> Response {
    let name: String = name.chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect();
    let ending = if kind.starts_with("text/csv") { "csv" } else { "json" };
    let disposition = format!("attachment; filename=\"{}.{ending}\"", name.to_lowercase());
    let headers = [(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)];
    (headers, body.into()).into_response()
}

fn json_text<T: Serialize>(file: &T) -> ApiResult<String> {
    serde_json::to_string_pretty(file)
        .map_err(|e| ApiError::from(DbError::BadRow { what: "export", why: e.to_string() }))
}

/// What a column of the notebook table says of a round.
fn column(round: &NewRound, readings: &[RoundEntry]) -> Column {
    let mut cells = BTreeMap::new();
    for reading in readings.iter().filter(|r| r.standing) {
        let field = match (reading.kind, reading.gravity) {
            (ReadingKind::Gravity, Some(sg)) => Field::Gravity(sg, sg.to_string()),
            (ReadingKind::BelowScale, _) => Field::Below,
            (ReadingKind::AboveScale, _) => Field::Above,
            (ReadingKind::NotRead, _) => Field::NotRead(reading.reason.clone().unwrap_or_default()),
            _ => continue,
        };
        cells.insert(reading.cell, field);
    }
    let temperature = match &round.conditions.temperature {
        RoundTemperature::OneForAll { temperature } => Some(TypedTemperature {
            temperature: *temperature,
            typed: format!("{}", (temperature.celsius() * 1e6).round() / 1e6),
            unit: rainshadow_core::quantity::units::TemperatureUnit::Celsius,
        }),
        _ => None,
    };
    let began = words::local_minute(round.started_at, &round.zone);
    // Noon sharp is what a day without an hour is stored as.
    let time = Some(began.time()).filter(|t| *t != jiff::civil::time(12, 0, 0, 0));
    Column { date: began.date(), time, temperature, volts: None, water: None, cells }
}

/// What a visit says of the whole bank: its volts at rest, and what it was filled with to the mark.
fn of_bank(visit: &WholeVisit) -> (Option<Figure>, Option<Figure>) {
    let sheet = VisitSheet::new(visit.entries.clone());
    let figure = |typed: String, unit| Figure { line: 0, typed, unit };
    let rested = sheet.standing().filter_map(|written| match &written.entry {
        Entry::StateVolts { state: VoltsState::AtRest, volts, .. } if written.place == Place::Bank => {
            Some(*volts)
        }
        _ => None,
    });
    let poured = sheet.standing().filter_map(|written| match &written.entry {
        Entry::Water { millilitres, to_mark: true, .. } => Some(*millilitres),
        _ => None,
    });
    let millilitres = poured.reduce(|a, b| a + b).filter(|water| *water > 0.0);
    let volts = rested.last().map(|volts| figure(format!("{}", (volts * 1e3).round() / 1e3), ""));
    (volts, millilitres.map(|water| figure(format!("{}", (water * 10.0).round() / 1e4), "L")))
}

/// Rounds, with what their visits say of the whole bank, and visits that say so without a round.
fn columns(bundle: &BankBundle) -> Vec<Column> {
    let mut columns: Vec<Column> = bundle.rounds.iter().map(|(r, _, readings)| column(r, readings)).collect();
    for visit in &bundle.visits {
        let (volts, water) = of_bank(visit);
        if volts.is_none() && water.is_none() {
            continue;
        }
        let own = bundle.rounds.iter().position(|(r, _, _)| r.visit.as_ref() == Some(&visit.visit.id));
        if let Some(at) = own {
            columns[at] = Column { volts, water, ..columns[at].clone() };
            continue;
        }
        let began = words::local_minute(visit.visit.started_at, &visit.visit.zone);
        let time = Some(began.time()).filter(|t| *t != jiff::civil::time(12, 0, 0, 0));
        let cells = BTreeMap::new();
        columns.push(Column { date: began.date(), time, temperature: None, volts, water, cells });
    }
    columns.sort_by_key(|c| (c.date, c.time));
    columns
}

/// The notebook table, one column per date.
fn table(bundle: &BankBundle, columns: &[Column]) -> ApiResult<Response> {
    let text = write(&bundle.bank.1.shape, columns)
        .map_err(|e| DbError::BadRow { what: "table", why: e.to_string() })?;
    let name = format!("{} {}", bundle.site.1.name, bundle.bank.1.name);
    Ok(download("text/csv; charset=utf-8", name.trim(), text))
}

/// A bank with everything it has; its photographs are sent one after the other.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.json", operation_id = "export_bank", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn bank_json(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let (bundle, stands) = bank_with_state(&state, id).await?;
    let name = format!("{} {}", bundle.site.1.name, bundle.bank.1.name);
    // A bank of many years takes a while to write: off the threads that answer.
    let written = tokio::task::spawn_blocking(move || {
        let file = BankFile { state: Some(stands), ..BankFile::from(bundle) };
        let named = file.visits.iter().flat_map(|v| &v.photographs).flat_map(|p| [&p.hash, &p.small_hash]);
        let hashes: BTreeSet<String> = named.cloned().collect();
        (json_text(&File::Bank(Box::new(file))), hashes)
    });
    let (text, hashes) = written.await.map_err(|_join| ApiError::from(DbError::Crashed))?;
    let text = text?;
    let folder = state.db.folder().to_owned();
    Ok(download("application/json", name.trim(), with_pictures(text, hashes, folder)))
}

/// The text of a file with its photographs put in before its end, as it is sent.
fn with_pictures(mut text: String, hashes: BTreeSet<String>, folder: PathBuf) -> Body {
    if hashes.is_empty() {
        return Body::from(text);
    }
    text.truncate(text.trim_end().trim_end_matches('}').trim_end().len());
    text.push_str(",\n  \"pictures\": {");
    streamed(move |pieces| {
        if !pieces.send(text) {
            return;
        }
        let mut between = "";
        for hash in hashes {
            let Ok(bytes) = photos::read(&folder, &hash) else {
                tracing::error!(hash, "a photograph is missing from an export");
                continue;
            };
            let begun = pieces.send(format!("{between}\n    \"{hash}\": \""));
            if !(begun && pieces.send_base64(&bytes) && pieces.send("\"")) {
                return;
            }
            between = ",";
        }
        pieces.send("\n  }\n}");
    })
}

/// All rounds of a bank with its volts at rest and its water, one column per date.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.csv", operation_id = "export_bank_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn bank_csv(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let bundle = whole_bank(&state, id).await?;
    table(&bundle, &columns(&bundle))
}

/// One round as a table with one column.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.csv", operation_id = "export_round_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn round_csv(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let (round, bank) = whole_round(&state, id).await?;
    table(&whole_bank(&state, bank).await?, &[column(&round.0, &round.2)])
}

/// One round with every entry.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.json", operation_id = "export_round", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn round_json(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let (round, _) = whole_round(&state, id).await?;
    let file = File::Round(Box::new(RoundFile::from(round)));
    Ok(download("application/json", "round", json_text(&file)?))
}

/// What an import brought.
#[derive(Debug, Serialize, ToSchema)]
pub struct Imported {
    /// The bank it belongs to.
    pub bank: String,
    /// False when everything was there already.
    pub new: bool,
}

/// Takes in a bank or a round that was exported; the same file again changes nothing. A file is a
/// stranger: everything in it passes what typing passes.
#[utoipa::path(
    post, path = "/api/import", operation_id = "import_file", request_body = File,
    responses((status = 200, body = Imported), (status = "default", body = Problem))
)]
pub async fn import(State(state): State<AppState>, _all: WholeShop, body: Body) -> ApiResult<Json<Imported>> {
    let file = spooled(body, &state).await?;
    let _one = state.imports.acquire().await;
    let shared = state.clone();
    let done = tokio::task::spawn_blocking(move || import::take(&shared, file)).await;
    let imported = done.map_err(|_join| ApiError::from(DbError::Crashed))??;
    // What rounds are judged by may have changed.
    state.changed();
    Ok(Json(imported))
}

/// The body in a file without a name, so that no import is held in memory.
async fn spooled(body: Body, state: &AppState) -> ApiResult<std::fs::File> {
    let file = tempfile::tempfile_in(state.db.folder()).map_err(DbError::from)?;
    let mut file = tokio::fs::File::from_std(file);
    let mut pieces = body.into_data_stream();
    let mut size = 0;
    while let Some(piece) = pieces.next().await {
        let piece = piece.map_err(|e| {
            ApiError::new(StatusCode::BAD_REQUEST, "broken-body", "Broken request", e.to_string())
        })?;
        size += piece.len();
        if size > super::IMPORT_LIMIT {
            let most = super::IMPORT_LIMIT / 1024 / 1024;
            let said = format!("The file is larger than {most} MB; split it by years.");
            return Err(ApiError::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "File too large", said));
        }
        file.write_all(&piece).await.map_err(DbError::from)?;
    }
    file.flush().await.map_err(DbError::from)?;
    Ok(file.into_std().await)
}
