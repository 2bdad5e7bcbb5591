//! Banks and rounds as files, in and out.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Id, Raw, from_json};
use super::state::AppState;
use crate::db::{
    BankBundle, BankRow, DbError, NewReading, NewRound, ReadingKind, RoundRow, StoredReading, Written,
};
use crate::formats::bank_file::{BankFile, File, RoundFile};
use crate::formats::notebook::{Column, Field, TypedTemperature, write};
use crate::{photos, words};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use rainshadow_core::round::RoundTemperature;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::path::Path;
use utoipa::ToSchema;

fn download(kind: &'static str, name: &str, body: String) -> Response {
    let name: String = name.chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect();
    let ending = if kind.starts_with("text/csv") { "csv" } else { "json" };
    let disposition = format!("attachment; filename=\"{}.{ending}\"", name.to_lowercase());
    ([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)], body)
        .into_response()
}

fn json_text<T: Serialize>(file: &T) -> ApiResult<String> {
    serde_json::to_string_pretty(file)
        .map_err(|e| ApiError::from(DbError::BadRow { what: "export", why: e.to_string() }))
}

/// What a column of the notebook table says of a round.
fn column(round: &NewRound, readings: &[NewReading], standing: &[String]) -> Column {
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
                let stored = StoredReading::of_round(db, &RoundRow::by_id(db, &round.id)?)?;
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

/// A bank with everything it has.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.json", operation_id = "export_bank", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn bank_json(State(state): State<AppState>, Id(id): Id) -> ApiResult<Response> {
    let folder = state.db.folder().to_owned();
    let (name, text) = state
        .db
        .read(move |db| {
            let bundle = BankBundle::of(db, &id)?;
            let name = format!("{} {}", bundle.site.1.name, bundle.bank.1.name);
            let mut file = BankFile::from(bundle);
            file.pictures = pictures(&file, &folder);
            let text = serde_json::to_string_pretty(&File::Bank(Box::new(file)))
                .map_err(|e| DbError::BadRow { what: "export", why: e.to_string() })?;
            Ok((name, text))
        })
        .await?;
    Ok(download("application/json", name.trim(), text))
}

/// All rounds of a bank, one column per date.
#[utoipa::path(
    get, path = "/api/banks/{id}/export.csv", operation_id = "export_bank_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn bank_csv(State(state): State<AppState>, Id(id): Id) -> ApiResult<Response> {
    table(&state, id, None).await
}

/// One round as a table with one column.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.csv", operation_id = "export_round_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn round_csv(State(state): State<AppState>, Id(id): Id) -> ApiResult<Response> {
    let round = id.clone();
    let bank = state.db.read(move |db| Ok(RoundRow::by_id(db, &round)?.bank_id)).await?;
    table(&state, bank, Some(id)).await
}

/// One round with every entry.
#[utoipa::path(
    get, path = "/api/rounds/{id}/export.json", operation_id = "export_round", params(("id" = String, Path)),
    responses((status = 200, body = File), (status = "default", body = Problem))
)]
pub async fn round_json(State(state): State<AppState>, Id(id): Id) -> ApiResult<Response> {
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

/// The bytes of every photograph of a bank, small copies too.
fn pictures(file: &BankFile, folder: &Path) -> BTreeMap<String, String> {
    let named = file.visits.iter().flat_map(|v| &v.photographs).flat_map(|p| [&p.hash, &p.small_hash]);
    named
        .filter_map(|hash| {
            let bytes = std::fs::read(photos::file_of(folder, hash)).ok()?;
            Some((hash.clone(), STANDARD.encode(bytes)))
        })
        .collect()
}

/// Writes the photographs of a file before their rows; each must be what its hash says.
fn take_pictures(file: &BankFile, folder: &Path) -> ApiResult<()> {
    for (hash, text) in &file.pictures {
        let field = format!("pictures.{}", hash.chars().take(12).collect::<String>());
        let bytes = STANDARD
            .decode(text)
            .map_err(|_base64| ApiError::field(&field, "The photograph is not base64 of a JPEG."))?;
        let kept = photos::take_back(folder, &bytes)?;
        if kept != *hash {
            return Err(ApiError::field(&field, "The photograph is not the one its hash names."));
        }
    }
    let there = |hash: &String| photos::file_of(folder, hash).exists();
    let missing =
        file.visits.iter().flat_map(|v| &v.photographs).find(|p| !there(&p.hash) || !there(&p.small_hash));
    match missing {
        Some(photo) => {
            let said = format!("The photograph {} stands in a visit, and its bytes are missing.", photo.id);
            Err(ApiError::field("pictures", said))
        }
        None => Ok(()),
    }
}

/// What an import brought.
#[derive(Debug, Serialize, ToSchema)]
pub struct Imported {
    /// The bank it belongs to.
    pub bank: String,
    /// False when everything was there already.
    pub new: bool,
}

/// What kind of file it is.
#[derive(Deserialize)]
struct Kind {
    format: String,
}

/// Reads the kind first: told apart by its contents, a fault inside could not be named by its field.
fn file_of(bytes: &[u8]) -> ApiResult<File> {
    let Kind { format } = from_json(bytes)?;
    match format.as_str() {
        "rainshadow-bank/1" => Ok(File::Bank(Box::new(from_json(bytes)?))),
        "rainshadow-round/1" => Ok(File::Round(Box::new(from_json(bytes)?))),
        _ => Err(ApiError::field(
            "format",
            format!(
                "“{format}” is no format that is read here; accepted is rainshadow-bank/1 or rainshadow-round/1."
            ),
        )),
    }
}

/// Takes in a bank or a round that was exported; the same file again changes nothing.
#[utoipa::path(
    post, path = "/api/import", operation_id = "import_file", request_body = File,
    responses((status = 200, body = Imported), (status = "default", body = Problem))
)]
pub async fn import(State(state): State<AppState>, Raw(bytes): Raw) -> ApiResult<Json<Imported>> {
    if bytes.iter().all(u8::is_ascii_whitespace) {
        return Err(ApiError::field(
            "file",
            "The file is empty; a bank or round exported as JSON is expected.",
        ));
    }
    let file = file_of(&bytes)?;
    let now = state.clock.now();
    let (bank, written) = match file {
        File::Bank(file) => {
            take_pictures(&file, state.db.folder())?;
            let bundle = BankBundle::from(*file);
            checked(&bundle)?;
            let bank = bundle.bank.0.clone();
            (bank, state.write(move |tx| bundle.take_in(tx, now)).await?)
        }
        File::Round(file) => {
            let bank = file.bank.clone();
            let (round, finished_by, readings) = (*file).into();
            let written = state
                .write(move |tx| {
                    let bundle = BankBundle::of(tx, &round.bank)?;
                    BankBundle { rounds: vec![(round, finished_by, readings)], ..bundle }.take_in(tx, now)
                })
                .await?;
            (bank, written)
        }
    };
    Ok(Json(Imported { bank, new: written == Written::Created }))
}

/// What the database takes on trust must be possible.
fn checked(bundle: &BankBundle) -> ApiResult<()> {
    bundle
        .model
        .model
        .clone()
        .checked()
        .map_err(|e| ApiError::field(&format!("model.figures.{}", e.field()), format!("{e}.")))?;
    bundle.bank.1.shape.clone().checked().map_err(|e| ApiError::field("bank.shape", format!("{e}.")))?;
    let standing: Vec<_> = bundle.blocks.iter().filter(|b| b.to.is_none()).map(|b| b.battery).collect();
    let places: std::collections::BTreeSet<_> = standing.iter().copied().collect();
    if places != bundle.bank.1.shape.batteries().collect() || places.len() != standing.len() {
        return Err(ApiError::field("blocks", "Every battery of the bank needs one block, and no other."));
    }
    Ok(())
}
