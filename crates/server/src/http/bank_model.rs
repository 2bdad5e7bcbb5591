//! What a bank is made of: exchanged because it was always wrong, or from a day on.

use super::acting::Acting;
use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::bank_models::{exchange_model, model_of_bank, supersede_model};
use crate::app::typed::battery_model::TypedModel;
use crate::app::typed::day::day;
use crate::words;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A model by its name.
#[derive(Debug, Serialize, ToSchema)]
pub struct ModelChoice {
    /// Id.
    pub id: String,
    /// Name.
    pub name: String,
}

/// A model the bank had before.
#[derive(Debug, Serialize, ToSchema)]
pub struct FormerModelView {
    /// Name.
    pub name: String,
    /// "until 8 Oct 2026", "no longer counts", with who said so.
    pub said: String,
}

/// What a bank is made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankModelView {
    /// For If-Match.
    pub version: i64,
    /// The model it stands on.
    pub model: String,
    /// Models that fit it as it is described, that one among them.
    pub fitting: Vec<ModelChoice>,
    /// What it had before.
    pub former: Vec<FormerModelView>,
}

/// What a bank is made of, and was said to be made of before.
#[utoipa::path(
    get, path = "/api/banks/{id}/model", operation_id = "get_bank_model", params(("id" = String, Path)),
    responses((status = 200, body = BankModelView), (status = "default", body = Problem))
)]
pub async fn get(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
) -> ApiResult<Json<BankModelView>> {
    let own = model_of_bank(&state, id).await?;
    let former = own.former.into_iter().map(|former| {
        let until =
            former.until.map_or("no longer counts".into(), |day| format!("until {}", words::day(day)));
        let on = words::day(words::local_day(former.at, "UTC"));
        let said = format!("{until}; exchanged on {on} by {}", former.by.initials);
        FormerModelView { name: former.model.model.name, said: said.trim_end_matches(" by ").to_owned() }
    });
    let fitting = own.fitting.into_iter().map(|row| ModelChoice { id: row.id, name: row.model.name });
    Ok(Json(BankModelView {
        version: own.bank.version,
        model: own.bank.model_id,
        fitting: fitting.collect(),
        former: former.collect(),
    }))
}

/// Another model for a bank.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ModelExchange {
    /// The model.
    pub model: String,
    /// First day of it, as 2026-10-08; none: it was always this one.
    #[serde(default)]
    pub from: Option<String>,
}

/// Gives a bank another model; what lies on its days is judged anew.
#[utoipa::path(
    post, path = "/api/banks/{id}/model", operation_id = "exchange_bank_model", security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = ModelExchange,
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn exchange(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Acting(by): Acting,
    Body(asked): Body<ModelExchange>,
) -> ApiResult<StatusCode> {
    let from = asked.from.as_deref().map(|text| day(text, "from")).transpose()?;
    exchange_model(&state, (id, version), (asked.model, from), by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Figures of a model from a day on.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ModelFromADay {
    /// Id of the model that the figures make, by the device.
    pub id: String,
    /// First day, as 2026-10-08.
    pub from: String,
    /// The figures.
    pub model: TypedModel,
}

/// New figures for a model of the shop's own from a day on: a model that every bank on it stands on from then,
/// while what lies before is judged by the old one.
#[utoipa::path(
    post, path = "/api/models/{id}/successor", operation_id = "supersede_model",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)), request_body = ModelFromADay,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn supersede(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    Acting(by): Acting,
    Body(asked): Body<ModelFromADay>,
) -> ApiResult<Response> {
    let new = super::extract::uuid(&asked.id, "id")?;
    let (from, model) = (day(&asked.from, "from")?, asked.model.canonical()?);
    let typed = serde_json::to_string(&asked.model).ok();
    Ok(written(supersede_model(&state, (id, new), (model, typed), from, by).await?))
}
