//! Notebook years: checked first, then the good rounds are taken.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

mod check;
mod of_bank;

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Raw, uuid};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::notebook::{NotebookBank, NotebookDay, bank_of_notebook, take_notebook};
use crate::app::refused::AppResult;
use crate::app::typed::conditions::{TypedConditions, TypedRoundTemperature};
use crate::app::typed::round::OpenRound;
use crate::db::{BankRow, NewRound, Origin, RoundRow, Site};
use crate::formats::notebook::{Against, Column, Field, Notebook, parse};
use crate::formats::text;
use crate::words;
use axum::Json;
use axum::body::Bytes;
use axum::extract::{Path, Query, State};
use jiff::Timestamp;
use jiff::civil::{Date, DateTime};
use jiff::tz::TimeZone;
use rainshadow_core::actor::Actor;
use rainshadow_core::instrument::{Instrument, InstrumentKind};
use rainshadow_core::quantity::units::{TemperatureUnit, VolumeUnit};
use rainshadow_core::round::{Conditions, ReadingKind, RoundEntry, RoundTemperature};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::collections::BTreeSet;
use utoipa::{IntoParams, ToSchema};

/// Questions that are told; the others are counted.
const TOLD: usize = 200;

/// How the notebook was kept.
#[derive(Debug, Clone, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct NotebookQuery {
    /// Unit of temperatures written without one.
    #[serde(default)]
    pub unit: TemperatureUnit,
    /// Unit of water written without one.
    #[serde(default)]
    pub volume: VolumeUnit,
    /// What read the cells; a hydrometer when left out.
    #[serde(default)]
    pub instrument: Option<InstrumentKind>,
}

/// A dated round that would be taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct NotebookRound {
    /// Day as said.
    pub day: String,
    /// Date.
    pub date: String,
    /// Cells with a reading.
    pub cells: usize,
    /// Temperature as typed, or none.
    pub temperature: Option<String>,
    /// Volts at rest as written, or none.
    pub volts: Option<String>,
    /// Water as written, or none.
    pub water: Option<String>,
}

/// A line or field that would not be taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct RefusedLine {
    /// Line in the file.
    pub line: usize,
    /// Date of the column, for one field.
    pub date: Option<String>,
    /// What was found.
    pub found: String,
    /// Why, and what is accepted.
    pub why: String,
}

/// A figure that would be taken, and is unlikely: worth a second look at the page it stands on.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskedField {
    /// Heading of its column.
    pub date: String,
    /// The cell, or what of the bank it is.
    pub cell: String,
    /// As understood.
    pub found: String,
    /// Why it is asked about.
    pub why: String,
}

/// What a notebook brings.
#[derive(Debug, Serialize, ToSchema)]
pub struct NotebookCheck {
    /// Rounds that would be taken, or were.
    pub rounds: Vec<NotebookRound>,
    /// What would not, the first two hundred.
    pub refused: Vec<RefusedLine>,
    /// How many more there are.
    pub refused_more: usize,
    /// What would be taken and is unlikely, the first two hundred.
    pub asked: Vec<AskedField>,
    /// How many more there are.
    pub asked_more: usize,
    /// Cells of the bank.
    pub cells_in_bank: usize,
}

/// A table against its bank, off the threads that answer: a large one takes a while.
async fn read(
    state: &AppState,
    bank: String,
    bytes: Bytes,
    kept: NotebookQuery,
    own: Option<String>,
) -> ApiResult<(NotebookBank, Notebook, NotebookCheck)> {
    let bank = bank_of_notebook(state, bank).await?;
    // The rounds and visits of this very import do not stand in its own way when it is sent again; what was
    // written down on another visit of that day stands there already.
    let began = |r: &RoundRow| words::local_minute(r.started_at, &r.zone);
    let of_import = |at: DateTime, id: &str, made: fn(&str, &str) -> String| {
        let headings = [at.date().to_string(), at.strftime("%Y-%m-%d %H:%M").to_string()];
        own.as_ref().is_some_and(|import| headings.iter().any(|heading| made(import, heading) == id))
    };
    let others = bank.rounds.iter().filter(|r| !of_import(began(r), &r.id, round_id));
    let taken: BTreeSet<DateTime> = others.map(began).collect();
    let visits = bank.visits.iter().filter(|v| v.whole).filter_map(|v| {
        let at = words::local_minute(v.started_at, &v.zone);
        (!of_import(at, &v.id, visit_id)).then(|| at.date())
    });
    let visited: BTreeSet<Date> = visits.collect();
    let (today, turn) = (state.clock.today(), state.imports.clone().acquire_owned().await.ok());
    let work = move || {
        let _turn = turn;
        let text = text::decode(&bytes).map_err(|e| ApiError::field("file", format!("{e}.")))?;
        drop(bytes);
        let against = Against { shape: &bank.row.shape, taken: &taken, today, unit: kept.unit };
        let mut notebook = parse(&text, against).map_err(|e| ApiError::field("file", format!("{e}.")))?;
        check::refuse_of_bank(&mut notebook, &bank, &kept, &visited);
        let shown = check::view(&notebook, &bank, &kept);
        Ok((bank, notebook, shown))
    };
    tokio::task::spawn_blocking(work).await.map_err(|_join| ApiError::from(crate::db::DbError::Crashed))?
}

fn visit_id(import: &str, heading: &str) -> String {
    derived_id(&format!("{import} {heading} visit"))
}

/// The id of a round of an import: the same import again makes the same rounds.
fn round_id(import: &str, heading: &str) -> String {
    derived_id(&format!("{import} {heading}"))
}

fn derived_id(of: &str) -> String {
    let mut bytes = [0u8; 16];
    bytes.copy_from_slice(&Sha256::digest(of.as_bytes())[..16]);
    uuid::Builder::from_random_bytes(bytes).into_uuid().to_string()
}

/// When the round of a column began.
fn began(column: &Column, site: &Site) -> Timestamp {
    // Where nobody noted the hour: noon at the site keeps the day right in every zone.
    column
        .date
        .to_datetime(column.time.unwrap_or(jiff::civil::time(12, 0, 0, 0)))
        .to_zoned_datetime(TimeZone::get(&site.zone).unwrap_or(TimeZone::UTC))
        .map(|z| z.timestamp())
        .unwrap_or_default()
}

fn round_of(
    bank: &BankRow,
    site: &Site,
    import: &str,
    column: &Column,
    (kept, by): (&NotebookQuery, &Actor),
) -> NewRound {
    let began = began(column, site);
    let instrument = kept.instrument.map_or_else(Instrument::hydrometer, Instrument::of);
    let typed = OpenRound {
        bank: bank.id.clone(),
        started_at: Some(began.to_string()),
        conditions: TypedConditions {
            temperature: column.temperature.as_ref().map_or(TypedRoundTemperature::Unknown, |t| {
                TypedRoundTemperature::OneForAll { typed: t.typed.clone(), unit: t.unit }
            }),
            ..TypedConditions::default()
        },
        instrument: instrument.into(),
        reversed: false,
    };
    NewRound {
        visit: column.is_visit().then(|| visit_id(import, &column.heading())),
        id: round_id(import, &column.heading()),
        bank: bank.id.clone(),
        origin: Origin::Notebook,
        started_at: began,
        finished_at: Some(began),
        zone: site.zone.clone(),
        instrument,
        conditions: Conditions {
            temperature: column.temperature.as_ref().map_or(RoundTemperature::Unknown, |t| {
                RoundTemperature::OneForAll { temperature: t.temperature }
            }),
            ..Conditions::default()
        },
        reversed: false,
        by: by.clone(),
        typed: serde_json::to_string(&typed).ok(),
        sent: format!("notebook {import} {}", column.heading()),
    }
}

fn readings_of(round: &NewRound, column: &Column) -> Vec<RoundEntry> {
    column
        .cells
        .iter()
        .map(|(cell, field)| {
            let (kind, gravity, typed) = match field {
                Field::Gravity(sg, typed) => (ReadingKind::Gravity, Some(*sg), Some(typed.clone())),
                Field::Below => (ReadingKind::BelowScale, None, None),
                Field::Above => (ReadingKind::AboveScale, None, None),
                Field::NotRead(_) => (ReadingKind::NotRead, None, None),
            };
            let reason = match field {
                Field::NotRead(reason) if !reason.is_empty() => Some(reason.clone()),
                _ => None,
            };
            RoundEntry {
                id: derived_id(&format!("{} {cell}", round.id)),
                cell: *cell,
                kind,
                gravity,
                typed,
                temperature: None,
                temperature_typed: column.temperature.as_ref().map(|t| (t.typed.clone(), t.unit)),
                reason,
                // Nobody can walk back into a year ago and re-read.
                stands: true,
                supersedes: None,
                by: round.by.clone(),
                taken_at: round.started_at,
                standing: true,
            }
        })
        .collect()
}

/// What a notebook would bring; nothing is stored.
#[utoipa::path(
    post, path = "/api/banks/{id}/notebook", operation_id = "check_notebook", params(("id" = String, Path), NotebookQuery),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = NotebookCheck), (status = "default", body = Problem))
)]
pub async fn check(
    State(state): State<AppState>,
    _all: WholeShop,
    Path(id): Path<String>,
    Query(kept): Query<NotebookQuery>,
    Raw(bytes): Raw,
) -> ApiResult<Json<NotebookCheck>> {
    let (_, _, shown) = read(&state, uuid(&id, "id")?, bytes, kept, None).await?;
    Ok(Json(shown))
}

/// Takes the good columns of a notebook.
#[utoipa::path(
    put, path = "/api/banks/{id}/notebook/{import}", operation_id = "take_notebook",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("import" = String, Path), NotebookQuery),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = NotebookCheck), (status = "default", body = Problem))
)]
pub async fn take(
    State(state): State<AppState>,
    _all: WholeShop,
    Path((id, import)): Path<(String, String)>,
    Query(kept): Query<NotebookQuery>,
    Acting(by): Acting,
    Raw(bytes): Raw,
) -> ApiResult<Json<NotebookCheck>> {
    let import = uuid(&import, "import")?;
    let (bank, notebook, shown) =
        read(&state, uuid(&id, "id")?, bytes, kept.clone(), Some(import.clone())).await?;
    let now = state.clock.now();
    let days = notebook.columns.iter().map(|column| {
        let at = began(column, &bank.site);
        let visit = of_bank::visit(&bank, (&import, column), at, (&kept, &by, now))?;
        let round = (!column.cells.is_empty()).then(|| {
            let round = round_of(&bank.row, &bank.site, &import, column, (&kept, &by));
            let entries = readings_of(&round, column);
            (round, entries)
        });
        Ok(NotebookDay { visit, round })
    });
    let days = days.collect::<AppResult<_>>()?;
    take_notebook(&state, bank.row.id.clone(), days).await?;
    Ok(Json(shown))
}
