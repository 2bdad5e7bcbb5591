//! Banks and rounds as files, in and out.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::Id;
use super::guard::WholeShop;
use super::state::AppState;
use super::stream::streamed;
use crate::db::{BankBundle, BankRow, DbError, NewRound, RoundRow, readings};
use crate::formats::bank_file::{BankFile, File, RoundFile};
use crate::formats::notebook::{Column, Field, TypedTemperature, write};
use crate::{photos, words};
use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rainshadow_core::round::RoundTemperature;
use rainshadow_core::round::{ReadingKind, RoundEntry};
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
fn column(round: &NewRound, readings: &[RoundEntry], standing: &[String]) -> Column {
    let mut cells = BTreeMap::new();
    for reading in readings.iter().filter(|r| standing.contains(&r.id)) {
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
    Column { date: began.date(), time, temperature, cells }
}

async fn table(state: &AppState, bank: String, only: Option<String>) -> ApiResult<Response> {
    let (name, text) = state
        .db
        .read(move |db| {
            let row = BankRow::by_id(db, &bank)?;
            let bundle = BankBundle::of(db, &bank)?;
            let mut columns = Vec::new();
            for (round, _, readings) in &bundle.rounds {
                if only.as_ref().is_some_and(|id| *id != round.id) {
                    continue;
                }
                let stored = readings::of_round(db, &RoundRow::by_id(db, &round.id)?)?;
                let standing: Vec<String> = stored.into_iter().filter(|r| r.standing).map(|r| r.id).collect();
                columns.push(column(round, readings, &standing));
            }
            let name = format!("{} {}", bundle.site.1.name, row.name);
            let table = write(&row.shape, &columns)
                .map_err(|e| DbError::BadRow { what: "table", why: e.to_string() })?;
            Ok((name.trim().to_owned(), table))
        })
        .await?;
    Ok(download("text/csv; charset=utf-8", &name, text))
}

/// A bank with everything it has; its photographs are sent one after the other.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.json", operation_id = "export_bank", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn bank_json(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let (name, text, hashes) = state
        .db
        .read(move |db| {
            let bundle = BankBundle::of(db, &id)?;
            let name = format!("{} {}", bundle.site.1.name, bundle.bank.1.name);
            let file = BankFile::from(bundle);
            let named =
                file.visits.iter().flat_map(|v| &v.photographs).flat_map(|p| [&p.hash, &p.small_hash]);
            let hashes: BTreeSet<String> = named.cloned().collect();
            let text = serde_json::to_string_pretty(&File::Bank(Box::new(file)))
                .map_err(|e| DbError::BadRow { what: "export", why: e.to_string() })?;
            Ok((name, text, hashes))
        })
        .await?;
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

/// All rounds of a bank, one column per date.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.csv", operation_id = "export_bank_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn bank_csv(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    table(&state, id, None).await
}

/// One round as a table with one column.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.csv", operation_id = "export_round_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn round_csv(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let round = id.clone();
    let bank = state.db.read(move |db| Ok(RoundRow::by_id(db, &round)?.bank_id)).await?;
    table(&state, bank, Some(id)).await
}

/// One round with every entry.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.json", operation_id = "export_round", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn round_json(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<Response> {
    let round = state
        .db
        .read(move |db| {
            let bank = RoundRow::by_id(db, &id)?.bank_id;
            let bundle = BankBundle::of(db, &bank)?;
            let round = bundle.rounds.into_iter().find(|(r, _, _)| r.id == id);
            round.ok_or_else(|| DbError::NotFound { what: "round", id: id.clone() })
        })
        .await?;
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
