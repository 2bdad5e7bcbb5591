//! Battery models and house rule sets.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, written};
use super::state::AppState;
use crate::db::{ModelRow, house_rules as rules};
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;

/// All battery models, the shop's own first.
#[utoipa::path(get, path = "/api/models", operation_id = "list_models", responses((status = 200, body = [ModelRow])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<ModelRow>>> {
    Ok(Json(state.db.read(ModelRow::all).await?))
}

/// A new battery model.
#[utoipa::path(
    put, path = "/api/models/{id}", operation_id = "put_model", params(("id" = String, Path)),
    request_body = BatteryModel, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(model): Body<BatteryModel>,
) -> ApiResult<Response> {
    let model = model.checked().map_err(|e| ApiError::field("model", e.to_string()))?;
    let now = state.clock.now();
    Ok(written(state.write(move |tx| ModelRow::create(tx, &id, &model, now)).await?))
}

/// The house rule sets.
#[utoipa::path(
    get, path = "/api/house-rules", operation_id = "list_house_rules", responses((status = 200, body = [HouseRules]))
)]
pub async fn house_rules(State(state): State<AppState>) -> ApiResult<Json<Vec<HouseRules>>> {
    Ok(Json(state.db.read(rules::latest).await?))
}
