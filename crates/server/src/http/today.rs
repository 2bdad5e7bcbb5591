//! What is due, what to load, and the month ahead.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::state::AppState;
use crate::app::pages::today::{Filter, TodayPage, today_page};
use axum::Json;
use axum::extract::{Query, State};

/// What is due, what to load, and the month ahead.
#[utoipa::path(
    get, path = "/api/today", operation_id = "get_today", params(Filter),
    responses((status = 200, body = TodayPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Query(filter): Query<Filter>,
    Reader(units): Reader,
) -> ApiResult<Json<TodayPage>> {
    Ok(Json(today_page(&state, filter, units).await?))
}
