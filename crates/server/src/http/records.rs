//! Records of monitors, controllers and inverters: looked at, read to their end, taken out, shown by year.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

mod reading;

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, FieldError, Problem};
use super::extract::{Id, Raw, from_json, uuid};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::pages::record::{RecordPage, page_of_file, record_page};
use crate::app::records::being_read::RecordProgress;
use crate::app::records::{
    DescribedBank, ReadAgainst, RecordAsked, bank_of_record, begin_record, brought_by, described_bank,
    finish_record, remembered_source, withdraw_record,
};
use crate::formats::record_csv::{
    Against, HEAD, LineFault, LookedAt, RecordColumn, RecordCsvError, RecordSource, look, understood,
};
use axum::Json;
use axum::body::Body;
use axum::extract::{Path, Query, State};
use axum::http::StatusCode;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use rainshadow_core::charging_record::ReadToEnd;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// A first piece of a file, with what is told of its source.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct LookQuery {
    /// The bank that it is of.
    pub bank: Option<String>,
    /// How its source writes, as JSON; left out: as the file tells itself, or as another one with the same columns did.
    pub source: Option<String>,
    /// IANA zone of the local times of a file of no bank; universal time when left out.
    pub zone: Option<String>,
}

/// A file to be read to its end.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ReadQuery {
    /// How its source writes, as JSON.
    pub source: String,
    /// Name of the file.
    #[serde(default)]
    pub file: String,
}

/// A bank that is not on the books, and the file of its monitor.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct JudgeQuery {
    /// How its source writes, as JSON.
    pub source: String,
    /// Id of its battery model.
    pub model: String,
    /// V of the bank.
    pub system_voltage: u16,
    /// Strings in parallel.
    pub strings: u8,
    /// True where it stands on float day and night.
    #[serde(default)]
    pub standby: bool,
    /// IANA zone that its local times are of; universal time when left out.
    #[serde(default)]
    pub zone: Option<String>,
}

/// Which year.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct YearQuery {
    /// The day that it ends with; left out: the last on record.
    pub until: Option<String>,
}

/// Something that has to be told before a file can be read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RecordQuestion {
    /// The field of the source that answers it.
    pub field: &'static str,
    /// As asked.
    pub said: String,
}

/// A row as it is understood.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct UnderstoodRow {
    /// When, at the site.
    pub at: String,
    /// Volts; empty: none.
    pub volts: String,
    /// Amperes into the bank; empty: none.
    pub amperes: String,
    /// Temperature in the reader's unit; empty: none.
    pub temperature: String,
    /// What the source does; empty: not told.
    pub state: String,
}

/// A first look at a file.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecordLook {
    /// How it is taken to be written.
    pub source: RecordSource,
    /// The words over its columns; empty: it has none.
    pub header: Vec<String>,
    /// Its first lines as they stand there.
    pub lines: Vec<Vec<String>>,
    /// What has to be told.
    pub asks: Vec<RecordQuestion>,
    /// Its first rows as they are understood; empty while something has to be told.
    pub understood: Vec<UnderstoodRow>,
    /// What of its first lines is not understood.
    pub faults: Vec<String>,
    /// True where another file with these columns was read before, and its source is remembered.
    pub remembered: bool,
}

/// What a file brought.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecordTaken {
    /// In one sentence.
    pub said: String,
    /// What of it was odd, and what was made of it.
    pub lines: Vec<String>,
    /// What was not taken, the first two hundred.
    pub faults: Vec<String>,
    /// How many more.
    pub faults_more: u64,
}

/// A file of a bank that is not on the books, judged.
#[derive(Debug, Serialize, ToSchema)]
pub struct JudgedFile {
    /// What the file brought.
    pub taken: RecordTaken,
    /// Its last year.
    pub page: RecordPage,
}

fn fault_said(own: &LineFault) -> String {
    format!("Line {}: \u{201c}{}\u{201d} {}.", own.line, own.found, own.why)
}

fn refused(error: &RecordCsvError) -> ApiError {
    ApiError::fields(vec![FieldError {
        field: error.field().into(),
        message: wording::sentence(&wording::stopped(&error.to_string())),
    }])
}

/// A zone as it is named; universal time where none is.
fn zone_of(name: Option<&str>) -> ApiResult<TimeZone> {
    let Some(name) = name.filter(|own| !own.is_empty()) else { return Ok(TimeZone::UTC) };
    crate::app::sites::zone(name)?;
    TimeZone::get(name).map_err(|e| ApiError::field("zone", wording::sentence(&format!("{e}."))))
}

fn source_of(text: &str) -> ApiResult<RecordSource> {
    let mut own: RecordSource = from_json(text.as_bytes())?;
    own.name = own.name.trim().to_owned();
    if own.lines_before > 1000 {
        return Err(ApiError::field("lines_before", "Up to 1000 lines stand above the columns."));
    }
    Ok(own)
}

/// The words over the columns, by which another file of the same source is known.
fn known_by(looked: &LookedAt) -> String {
    looked.header.join(" | ").chars().take(2000).collect()
}

/// A first look at a file: the first 64 kB of it are enough.
#[utoipa::path(
    post, path = "/api/records/look", operation_id = "look_at_record", params(LookQuery),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = RecordLook), (status = "default", body = Problem))
)]
pub async fn look_at(
    State(state): State<AppState>,
    Reader(units): Reader,
    Query(query): Query<LookQuery>,
    Raw(bytes): Raw,
) -> ApiResult<Json<RecordLook>> {
    let told = query.source.as_deref().map(source_of).transpose()?;
    let head = &bytes[..bytes.len().min(HEAD)];
    let mut looked = look(head, told.as_ref()).map_err(|e| refused(&e))?;
    let mut remembered = false;
    if told.is_none()
        && !looked.header.is_empty()
        && let Some(text) = remembered_source(&state, known_by(&looked)).await?
        && let Ok(source) = serde_json::from_str::<RecordSource>(&text)
        // The order of lines and the year are of a file, not of its source.
        && let Ok(again) = look(head, Some(&RecordSource { newest_first: looked.source.newest_first, year: None, ..source }))
    {
        (looked, remembered) = (again, true);
    }
    let (zone, c20) = match query.bank.map(|id| uuid(&id, "bank")).transpose()? {
        Some(bank) => bank_of_record(&state, bank).await.map(|(bank, zone)| (zone, bank.c20))?,
        None => (zone_of(query.zone.as_deref())?, 1e6),
    };
    let against = Against { zone: &zone, c20, now: state.clock.now() };
    let (rows, faults) = if looked.asks.is_empty() {
        // What is wrong with its first lines is said; the rest may be right.
        match understood(head, &looked.source, against) {
            Ok((rows, faults)) => (rows, faults.iter().map(fault_said).collect()),
            Err(error) => (Vec::new(), vec![wording::sentence(&wording::stopped(&error.to_string()))]),
        }
    } else {
        (Vec::new(), Vec::new())
    };
    let figure = |own: Option<f64>, unit: &str| own.map_or(String::new(), |own| format!("{own:.2} {unit}"));
    let shown = rows.iter().map(|row| UnderstoodRow {
        at: wording::minute_on_record(row.minute, &zone),
        volts: figure(row.volts, "V"),
        amperes: figure(row.amperes, "A"),
        temperature: row
            .celsius
            .and_then(|own| rainshadow_core::quantity::Temperature::from_celsius(own).ok())
            .map_or(String::new(), |own| units.say_temperature(own)),
        state: row.state.map_or(String::new(), |own| own.word().into()),
    });
    Ok(Json(RecordLook {
        understood: shown.collect(),
        faults,
        asks: looked
            .asks
            .iter()
            .map(|own| RecordQuestion {
                field: own.field(),
                said: wording::sentence(&wording::stopped(own.said())),
            })
            .collect(),
        header: looked.header,
        lines: looked.lines,
        source: looked.source,
        remembered,
    }))
}

fn taken(brought: &ReadToEnd, faults: &[LineFault], zone: &TimeZone) -> RecordTaken {
    let told = u64::try_from(faults.len()).unwrap_or(0);
    RecordTaken {
        said: wording::read_to_end_verdict(brought, zone),
        lines: wording::read_to_end_lines(brought, zone),
        faults: faults.iter().map(fault_said).collect(),
        faults_more: brought.not_taken.saturating_sub(told),
    }
}

/// Reads a file to its end and keeps its minutes; the same file again changes nothing.
#[utoipa::path(
    put, path = "/api/banks/{id}/records/{record}", operation_id = "read_record",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("record" = String, Path), ReadQuery),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = RecordTaken), (status = "default", body = Problem))
)]
pub async fn read(
    State(state): State<AppState>,
    _all: WholeShop,
    Path((bank, record)): Path<(String, String)>,
    Query(query): Query<ReadQuery>,
    Acting(by): Acting,
    body: Body,
) -> ApiResult<Json<RecordTaken>> {
    let (id, record) = (uuid(&bank, "id")?, uuid(&record, "record")?);
    let source = source_of(&query.source)?;
    let (head, mut file) = reading::begun(body).await?;
    let looked = match look(&head, Some(&source)) {
        Ok(looked) => looked,
        Err(error) => {
            reading::let_go(&mut file).await;
            return Err(refused(&error));
        }
    };
    let own = reading::taken_up(&state, &record, &mut file).await?;
    let net =
        [RecordColumn::Amperes, RecordColumn::AmpereHours].iter().any(|own| source.place(*own).is_some())
            && source.positive != Some(crate::formats::record_csv::PositiveCurrent::OfCharger);
    let asked = RecordAsked {
        id: record.clone(),
        bank: id.clone(),
        source_name: source.name.clone(),
        source: serde_json::to_string(&source).unwrap_or_default(),
        header: known_by(&looked),
        file: query.file,
        net,
    };
    let begun = begin_record(&state, asked, by).await;
    if !begun.as_ref().is_ok_and(|own| own.new) {
        reading::let_go(&mut file).await;
    }
    let ReadAgainst { bank, zone, new } = begun?;
    if !new {
        let brought = brought_by(&state, record).await?;
        return Ok(Json(taken(&brought, &[], &zone)));
    }
    let read = reading::to_its_end(&state, &own, file, (source, bank, zone.clone())).await?;
    finish_record(&state, record, id, read.brought.clone()).await?;
    Ok(Json(taken(&read.brought, &read.faults, &zone)))
}

/// Judges a file of a bank that is not on the books, its last year; nothing is stored.
#[utoipa::path(
    post, path = "/api/records/judged", operation_id = "judge_record", params(JudgeQuery),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = JudgedFile), (status = "default", body = Problem))
)]
pub async fn judged(
    State(state): State<AppState>,
    _all: WholeShop,
    Reader(units): Reader,
    Query(query): Query<JudgeQuery>,
    body: Body,
) -> ApiResult<Json<JudgedFile>> {
    let source = source_of(&query.source)?;
    let JudgeQuery { model, system_voltage, strings, standby, zone, .. } = query;
    let zone = zone_of(zone.as_deref())?;
    let described = DescribedBank { model, system_voltage, strings, standby };
    let bank = described_bank(&state, described).await?;
    let (_, file) = reading::begun(body).await?;
    let (read, rows) = reading::last_year(&state, file, (source, bank.clone(), zone.clone()))
        .await
        .map_err(|e| refused(&e))?;
    let page = page_of_file(&rows, &bank, &zone, units)
        .map_err(|e| ApiError::field("file", wording::sentence(&wording::stopped(&e.to_string()))))?;
    Ok(Json(JudgedFile { taken: taken(&read.brought, &read.faults, &zone), page }))
}

/// How far the reading of a file is.
#[utoipa::path(
    get, path = "/api/records/{id}/progress", operation_id = "get_record_progress", params(("id" = String, Path)),
    responses((status = 200, body = RecordProgress), (status = "default", body = Problem))
)]
pub async fn progress(State(state): State<AppState>, Id(id): Id) -> ApiResult<Json<RecordProgress>> {
    Ok(Json(state.records.of(&id)))
}

/// Takes a file out of the record of its bank; it can be put back.
#[utoipa::path(
    delete, path = "/api/records/{id}", operation_id = "take_record_out",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn take_out(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    Acting(by): Acting,
) -> ApiResult<StatusCode> {
    withdraw_record(&state, id, true, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a file back into the record of its bank.
#[utoipa::path(
    post, path = "/api/records/{id}/put-back", operation_id = "put_record_back",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put_back(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    Acting(by): Acting,
) -> ApiResult<StatusCode> {
    withdraw_record(&state, id, false, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The record of the charging of a bank, a year at a time.
#[utoipa::path(
    get, path = "/api/banks/{id}/record", operation_id = "get_record", params(("id" = String, Path), YearQuery),
    responses((status = 200, body = RecordPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Id(id): Id,
    Reader(units): Reader,
    Query(query): Query<YearQuery>,
) -> ApiResult<Json<RecordPage>> {
    let odd = |text: &str| format!("\u{201c}{text}\u{201d} is no day; accepted is 2026-03-14.");
    let until =
        query.until.map(|text| text.parse::<Date>().map_err(|_e| ApiError::field("until", odd(&text))));
    Ok(Json(record_page(&state, id, until.transpose()?, units).await?))
}
