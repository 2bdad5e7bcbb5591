//! House rule sets of the shop's own, and single choices of one bank.

use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, SeenVersion, etag, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::banks::own_choices;
use crate::app::house_rules::{OwnRules, Versioned, all_house_rules, house_rules_of, save_house_rules};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rainshadow_core::diagnosis::HouseWeights;
use rainshadow_core::house_rules::{CHOICES, Choice, HouseRules, Overrides};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A set of house rules.
#[derive(Debug, Serialize, ToSchema)]
pub struct HouseRulesView {
    /// The set.
    #[serde(flatten)]
    pub rules: HouseRules,
    /// True for a set that ships: it is copied, never edited.
    pub shipped: bool,
    /// Counts changes, for If-Match.
    pub version: i64,
}

impl HouseRulesView {
    fn of((rules, version): Versioned) -> Self {
        Self { shipped: rules.is_shipped(), version, rules }
    }
}

/// The house rule sets, default first.
#[utoipa::path(
    get, path = "/api/house-rules", operation_id = "list_house_rules", responses((status = 200, body = [HouseRulesView]))
)]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<HouseRulesView>>> {
    let all = all_house_rules(&state).await?;
    Ok(Json(all.into_iter().map(HouseRulesView::of).collect()))
}

/// One house rule set.
#[utoipa::path(
    get, path = "/api/house-rules/{key}", operation_id = "get_house_rules", params(("key" = String, Path)),
    responses((status = 200, body = HouseRulesView), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Path(key): Path<String>) -> ApiResult<Response> {
    let view = HouseRulesView::of(house_rules_of(&state, key).await?);
    Ok((etag(view.version), Json(view)).into_response())
}

/// One choice, and its number in every set.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChoiceView {
    /// The choice.
    #[serde(flatten)]
    pub choice: Choice,
    /// Its numbers by key of the set; left out where it is empty.
    pub values: std::collections::BTreeMap<String, f64>,
}

/// Every choice with its unit, range, source, and its numbers in the sets.
#[utoipa::path(
    get, path = "/api/house-rules/choices", operation_id = "list_choices", responses((status = 200, body = [ChoiceView]))
)]
pub async fn choices(State(state): State<AppState>) -> ApiResult<Json<Vec<ChoiceView>>> {
    let sets = all_house_rules(&state).await?;
    let of = |key: &str| {
        let number =
            |set: &HouseRules| Some((set.key.clone(), rainshadow_core::house_rules::value(set, key)?));
        sets.iter().filter_map(|(set, _)| number(set)).collect()
    };
    Ok(Json(CHOICES.iter().map(|choice| ChoiceView { choice: *choice, values: of(choice.key) }).collect()))
}

/// A set as sent: copied from another, with its own choices.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentRules {
    /// Key of the set it was copied from.
    pub from: String,
    /// Its name.
    pub name: String,
    /// What it suits.
    #[serde(default)]
    pub suits: String,
    /// True when the maker's own limits win over this set's.
    pub maker_limits_win: bool,
    /// Its choices by name; what is left out is as in the set it was copied from.
    pub choices: Overrides,
    /// Weights of the diagnosis that it takes otherwise, by sign and code of the hypothesis; left out: as in the set it was
    /// copied from.
    #[serde(default)]
    #[schema(value_type = Option<std::collections::BTreeMap<String, std::collections::BTreeMap<String, i8>>>)]
    pub weights: Option<HouseWeights>,
}

/// Keeps a set of the shop's own, new or changed; banks that hold to it are judged by it from now on.
#[utoipa::path(
    put, path = "/api/house-rules/{key}", operation_id = "put_house_rules",
    params(("key" = String, Path), ("If-Match" = Option<String>, Header)),
    request_body = SentRules, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    _all: WholeShop,
    Path(key): Path<String>,
    SeenVersion(seen): SeenVersion,
    Body(sent): Body<SentRules>,
) -> ApiResult<Response> {
    let own = OwnRules {
        key,
        from: sent.from,
        name: sent.name,
        suits: sent.suits,
        maker_limits_win: sent.maker_limits_win,
        choices: sent.choices,
        weights: sent.weights,
    };
    Ok(written(save_house_rules(&state, own, seen).await?))
}

/// Single choices of one bank.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentOverrides {
    /// By name; an empty list holds to the set.
    pub choices: Overrides,
}

/// Lets one bank take single choices otherwise than its set.
#[utoipa::path(
    put, path = "/api/banks/{id}/overrides", operation_id = "put_overrides",
    params(("id" = String, Path), ("If-Match" = String, Header)),
    request_body = SentOverrides, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn overrides(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(sent): Body<SentOverrides>,
) -> ApiResult<StatusCode> {
    own_choices(&state, id, version, sent.choices).await?;
    Ok(StatusCode::NO_CONTENT)
}
