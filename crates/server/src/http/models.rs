//! Battery models.

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, SeenVersion, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::battery_models::{all_models, save_model};
use crate::app::typed::battery_model::TypedModel;
use crate::db::ModelRow;
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::ReaderUnits;
use serde::Serialize;
use utoipa::ToSchema;

/// A battery model as it is shown, and as a copy of it begins.
#[derive(Debug, Serialize, ToSchema)]
pub struct ModelView {
    /// Id.
    pub id: String,
    /// True for the generic models that ship: read-only, every figure to be replaced by the maker's.
    pub shipped: bool,
    /// Its figures.
    pub model: BatteryModel,
    /// Volts it is called by, 2 V a cell: how many make a system voltage.
    pub nominal_volts: u16,
    /// "flooded tubular".
    pub kind: String,
    /// Reference temperature in the reader's unit: "25 °C".
    pub reference: String,
    /// Electrolyte in one cell in the reader's unit; none: not published.
    pub acid: Option<String>,
    /// Height of the fill mark over the plates in the reader's unit; none: not published.
    pub mark_height: Option<String>,
    /// The figures as typed, else as this reader would type them.
    pub typed: TypedModel,
    /// For If-Match, where it is put right.
    pub version: i64,
    /// Banks that stand on it.
    pub banks: u32,
}

fn view(row: ModelRow, units: ReaderUnits) -> ModelView {
    let as_typed = row.typed.as_deref().and_then(|typed| serde_json::from_str(typed).ok());
    ModelView {
        nominal_volts: row.model.nominal_volts(),
        kind: row.model.construction.word().into(),
        reference: units.say_temperature(row.model.reference_temperature),
        acid: row.model.acid_volume.map(|v| units.say_volume(v)),
        mark_height: row.model.fill_mark_above_plates.map(|l| units.say_length(l)),
        typed: as_typed.unwrap_or_else(|| TypedModel::of(&row.model, units)),
        version: row.version,
        banks: row.banks,
        id: row.id,
        shipped: row.shipped,
        model: row.model,
    }
}

/// All battery models, the shop's own first.
#[utoipa::path(get, path = "/api/models", operation_id = "list_models", responses((status = 200, body = [ModelView])))]
pub async fn list(State(state): State<AppState>, Reader(units): Reader) -> ApiResult<Json<Vec<ModelView>>> {
    let rows = all_models(&state).await?;
    Ok(Json(rows.into_iter().map(|row| view(row, units)).collect()))
}

/// A new battery model, as typed from the maker's sheet; with the version that was seen, one of the shop's own
/// that is put right: what was judged by it is judged anew.
#[utoipa::path(
    put, path = "/api/models/{id}", operation_id = "put_model",
    params(("id" = String, Path), ("If-Match" = Option<String>, Header)),
    request_body = TypedModel, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    SeenVersion(seen): SeenVersion,
    Body(typed): Body<TypedModel>,
) -> ApiResult<Response> {
    let model = typed.canonical()?;
    let typed = serde_json::to_string(&typed).ok();
    Ok(written(save_model(&state, id, model, typed, seen).await?))
}
