//! Planners: what they begin with, and what they answer.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::Body;
use super::state::AppState;
use crate::app::planners::answer::PlanAnswer;
use crate::app::planners::{Planner, PlannerAsked, PlannerForm, plan, planner_form};
use axum::Json;
use axum::extract::{Path, Query, State};
use rainshadow_core::quantity::units::TemperatureUnit;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// A planner that there is.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlannerView {
    /// Which.
    pub planner: Planner,
    /// Its name.
    pub name: &'static str,
    /// What it is for.
    pub purpose: &'static str,
}

/// For which bank, and in which unit.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct PlannerQuery {
    /// The bank; left out: one that is not on the books.
    pub bank: Option<String>,
    /// Model of a bank that is not on the books.
    pub model: Option<String>,
    /// Its volts.
    pub system_voltage: Option<String>,
    /// Its strings.
    pub strings: Option<String>,
    /// Years it is in service.
    pub years: Option<String>,
    /// Unit of temperatures; left out: the reader's.
    pub unit: Option<TemperatureUnit>,
}

/// The planners there are.
#[utoipa::path(get, path = "/api/planners", operation_id = "list_planners", responses((status = 200, body = [PlannerView])))]
pub async fn list() -> Json<Vec<PlannerView>> {
    let view = |planner: Planner| PlannerView { planner, name: planner.name(), purpose: planner.purpose() };
    Json(Planner::ALL.into_iter().map(view).collect())
}

/// What a planner begins with: every assumption as a control, with where its value comes from.
#[utoipa::path(
    get, path = "/api/planners/{planner}", operation_id = "get_planner",
    params(("planner" = Planner, Path), PlannerQuery),
    responses((status = 200, body = PlannerForm), (status = "default", body = Problem))
)]
pub async fn get(
    State(state): State<AppState>,
    Reader(units): Reader,
    Path(planner): Path<Planner>,
    Query(query): Query<PlannerQuery>,
) -> ApiResult<Json<PlannerForm>> {
    let bank = query.bank.map(|id| super::extract::uuid(&id, "bank")).transpose()?;
    let unit = query.unit.unwrap_or(units.temperature);
    let typed = [
        ("model", query.model),
        ("system_voltage", query.system_voltage),
        ("strings", query.strings),
        ("years", query.years),
    ];
    let described = typed.into_iter().filter_map(|(key, own)| Some((key.to_owned(), own?))).collect();
    Ok(Json(planner_form(&state, planner, bank, described, unit).await?))
}

/// What a planner answers to what is set.
#[utoipa::path(
    post, path = "/api/planners/{planner}", operation_id = "run_planner",
    params(("planner" = Planner, Path)), request_body = PlannerAsked,
    responses((status = 200, body = PlanAnswer), (status = "default", body = Problem))
)]
pub async fn run(
    State(state): State<AppState>,
    Reader(units): Reader,
    Path(planner): Path<Planner>,
    Body(asked): Body<PlannerAsked>,
) -> ApiResult<Json<PlanAnswer>> {
    Ok(Json(plan(&state, planner, asked, units).await?))
}
