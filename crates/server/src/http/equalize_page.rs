//! Whether a bank wants an equalize, and what a run of it needs today.

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::{Body, Id};
use super::state::AppState;
use crate::app::pages::equalize::{EqualizePage, PlanAsked, equalize_page};
use axum::Json;
use axum::extract::State;

/// Whether the bank wants an equalize, and the plan of a run.
#[utoipa::path(
    post, path = "/api/banks/{id}/equalize", operation_id = "plan_equalize", params(("id" = String, Path)),
    request_body = PlanAsked, responses((status = 200, body = EqualizePage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Id(id): Id,
    Reader(units): Reader,
    Body(asked): Body<PlanAsked>,
) -> ApiResult<Json<EqualizePage>> {
    Ok(Json(equalize_page(&state, id, &asked, units).await?))
}
