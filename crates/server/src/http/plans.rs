//! Kept plans: in, out, side by side, on paper.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, uuid, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::plans::{
    KeptPlan, PlanBrief, PlansCompared, SentPlan, compare_plans, keep_plan, kept_plan, kept_plans,
    printed_plan, withdraw_plan,
};
use crate::app::refused::AppError;
use crate::formats::plan_file::{PlanFile, parse, plan_file, to_csv};
use crate::report::plan_page;
use axum::Json;
use axum::extract::{Query, State};
use axum::http::{StatusCode, header};
use axum::response::{Html, IntoResponse, Response};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};

/// Of which bank.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct PlansQuery {
    /// The bank; left out: plans of banks that are not on the books.
    pub bank: Option<String>,
}

/// Which two.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ComparedQuery {
    /// The one.
    pub left: String,
    /// The other.
    pub right: String,
}

/// A file with a plan.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentPlanFile {
    /// Its text.
    pub csv: String,
}

/// Kept plans, the last kept first; stale where the bank has new readings.
#[utoipa::path(
    get, path = "/api/plans", operation_id = "list_plans", params(PlansQuery),
    responses((status = 200, body = [PlanBrief]), (status = "default", body = Problem))
)]
pub async fn list(
    State(state): State<AppState>,
    Query(query): Query<PlansQuery>,
) -> ApiResult<Json<Vec<PlanBrief>>> {
    let bank = query.bank.map(|id| uuid(&id, "bank")).transpose()?;
    Ok(Json(kept_plans(&state, bank).await?))
}

/// A kept plan with what it was set to.
#[utoipa::path(
    get, path = "/api/plans/{id}", operation_id = "get_plan", params(("id" = String, Path)),
    responses((status = 200, body = KeptPlan), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Id(id): Id) -> ApiResult<Json<KeptPlan>> {
    Ok(Json(kept_plan(&state, id).await?))
}

/// Keeps a plan under a name.
#[utoipa::path(
    put, path = "/api/plans/{id}", operation_id = "put_plan",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = SentPlan, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(mut sent): Body<SentPlan>,
) -> ApiResult<Response> {
    sent.asked.bank = sent.asked.bank.map(|id| uuid(&id, "bank")).transpose()?;
    sent.visit = sent.visit.map(|id| uuid(&id, "visit")).transpose()?;
    sent.replaces = sent.replaces.map(|id| uuid(&id, "replaces")).transpose()?;
    Ok(written(keep_plan(&state, id, sent, by).await?))
}

/// Throws a plan away.
#[utoipa::path(
    delete, path = "/api/plans/{id}", operation_id = "delete_plan",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn withdraw(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
) -> ApiResult<StatusCode> {
    withdraw_plan(&state, id, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Two kept plans side by side.
#[utoipa::path(
    get, path = "/api/plans/compared", operation_id = "compare_plans", params(ComparedQuery),
    responses((status = 200, body = PlansCompared), (status = "default", body = Problem))
)]
pub async fn compared(
    State(state): State<AppState>,
    Reader(units): Reader,
    Query(query): Query<ComparedQuery>,
) -> ApiResult<Json<PlansCompared>> {
    let ids = [uuid(&query.left, "left")?, uuid(&query.right, "right")?];
    Ok(Json(compare_plans(&state, ids, units).await?))
}

/// A kept plan as a page to give away.
#[utoipa::path(
    get, path = "/api/plans/{id}/printed", operation_id = "print_plan", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/html"), (status = "default", body = Problem))
)]
pub async fn printed(
    State(state): State<AppState>,
    Reader(units): Reader,
    Id(id): Id,
) -> ApiResult<Html<String>> {
    Ok(Html(plan_page(&printed_plan(&state, id, units).await?)))
}

fn file_name(own: &PlanFile, end: &str) -> String {
    let plain: String = own
        .name
        .chars()
        .map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '-' })
        .collect();
    format!("attachment; filename=\"{}.{end}\"", plain.trim_matches('-'))
}

/// A kept plan as a table.
#[utoipa::path(
    get, path = "/api/plans/{id}/plan.csv", operation_id = "plan_csv", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem))
)]
pub async fn csv(
    State(state): State<AppState>,
    _all: WholeShop,
    Reader(units): Reader,
    Id(id): Id,
) -> ApiResult<Response> {
    let own = plan_file(&printed_plan(&state, id, units).await?);
    let headers = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()),
        (header::CONTENT_DISPOSITION, file_name(&own, "csv")),
    ];
    Ok((headers, to_csv(&own)).into_response())
}

/// A kept plan as JSON.
#[utoipa::path(
    get, path = "/api/plans/{id}/plan.json", operation_id = "plan_json", params(("id" = String, Path)),
    responses((status = 200, body = PlanFile), (status = "default", body = Problem))
)]
pub async fn json(
    State(state): State<AppState>,
    _all: WholeShop,
    Reader(units): Reader,
    Id(id): Id,
) -> ApiResult<Response> {
    let own = plan_file(&printed_plan(&state, id, units).await?);
    Ok(([(header::CONTENT_DISPOSITION, file_name(&own, "json"))], Json(own)).into_response())
}

/// Reads a plan from a file, to be looked at, set and kept.
#[utoipa::path(
    post, path = "/api/plans/read", operation_id = "read_plan", request_body = SentPlanFile,
    responses((status = 200, body = PlanFile), (status = "default", body = Problem))
)]
pub async fn read(_all: WholeShop, Body(sent): Body<SentPlanFile>) -> ApiResult<Json<PlanFile>> {
    parse(&sent.csv).map(Json).map_err(|error| ApiError::from(AppError::refused("csv", &error)))
}
