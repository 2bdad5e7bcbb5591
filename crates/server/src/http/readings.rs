//! One reading: typed, answered with what became of it.

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, uuid};
use super::rounds::instant;
use super::state::AppState;
use crate::app::readings::write_reading;
use crate::app::typed::conditions::TypedTemperature;
use crate::db::Written;
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::quantity::typed;
use rainshadow_core::round::{ReadingKind, RoundEntry};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
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

impl TypedReading {
    /// The entry, text turned into quantities.
    fn entry(&self, id: String, by: Actor) -> ApiResult<RoundEntry> {
        let cell: CellAddress = self.cell.parse().map_err(|e| ApiError::field("cell", format!("{e}.")))?;
        let gravity = (self.kind == ReadingKind::Gravity)
            .then(|| typed::gravity(self.typed.as_deref().unwrap_or_default()))
            .transpose()
            .map_err(|e| ApiError::field("typed", format!("{cell}: {e}.")))?;
        let temperature = self
            .temperature
            .as_ref()
            .map(|t| typed::temperature(&t.typed, t.unit))
            .transpose()
            .map_err(|e| ApiError::field("temperature", format!("{cell}: {e}.")))?;
        Ok(RoundEntry {
            id,
            cell,
            kind: self.kind,
            gravity,
            typed: self.typed.clone(),
            temperature,
            temperature_typed: self.temperature.as_ref().map(|t| (t.typed.clone(), t.unit)),
            reason: self.reason.as_ref().map(|r| r.trim().to_owned()).filter(|r| !r.is_empty()),
            stands: self.stands,
            supersedes: self.supersedes.as_deref().map(|s| uuid(s, "supersedes")).transpose()?,
            by,
            taken_at: instant(&self.taken_at, "taken_at")?,
            standing: true,
        })
    }
}

/// Records one cell. When this answers, the reading is on disk.
#[utoipa::path(
    put, path = "/api/rounds/{id}/readings/{reading}", operation_id = "put_reading",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("reading" = String, Path)), request_body = TypedReading,
    responses((status = 201, body = Saved), (status = 200, body = Saved), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Path((round, reading)): Path<(String, String)>,
    Acting(by): Acting,
    Body(sent): Body<TypedReading>,
) -> ApiResult<(StatusCode, Json<Saved>)> {
    let round = uuid(&round, "id")?;
    let entry = sent.entry(uuid(&reading, "reading")?, by)?;
    let (accepted, written) = write_reading(&state, &round, entry).await?;
    let saved = Saved {
        id: accepted.entry.id,
        cell: accepted.entry.cell.to_string(),
        question: accepted.question.map(|q| wording::question(&q)),
        confirmed: accepted.confirmed,
    };
    let status = if written == Written::Created { StatusCode::CREATED } else { StatusCode::OK };
    Ok((status, Json(saved)))
}
