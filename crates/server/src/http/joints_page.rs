//! Joints and strings of a bank.

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::state::AppState;
use crate::app::pages::joints::{JointsPage, joints_page};
use axum::Json;
use axum::extract::State;

/// The joints of a bank as they were read last, and how its strings share a current.
#[utoipa::path(
    get, path = "/api/banks/{id}/joints", operation_id = "get_joints", params(("id" = String, Path)),
    responses((status = 200, body = JointsPage), (status = "default", body = Problem))
)]
pub async fn joints(
    State(state): State<AppState>,
    Id(id): Id,
    Reader(units): Reader,
) -> ApiResult<Json<JointsPage>> {
    Ok(Json(joints_page(&state, id, units).await?))
}
