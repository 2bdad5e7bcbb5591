//! House rule sets of the shop's own, and single choices of one bank.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, SeenVersion, etag, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::db::{BankRow, house_rules as rules};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rainshadow_core::house_rules::{CHOICES, Choice, ChoiceError, HouseRules, Overrides, overridden};
use rainshadow_core::wording;
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

/// The house rule sets, default first.
#[utoipa::path(
    get, path = "/api/house-rules", operation_id = "list_house_rules", responses((status = 200, body = [HouseRulesView]))
)]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<HouseRulesView>>> {
    let views = |db: &crate::db::Connection| {
        let view = |rules: HouseRules| {
            let version = rules::latest_version(db, &rules.key)?;
            Ok(HouseRulesView { shipped: rules.is_shipped(), version, rules })
        };
        rules::latest(db)?.into_iter().map(view).collect::<Result<Vec<_>, crate::db::DbError>>()
    };
    Ok(Json(state.db.read(views).await?))
}

/// One house rule set.
#[utoipa::path(
    get, path = "/api/house-rules/{key}", operation_id = "get_house_rules", params(("key" = String, Path)),
    responses((status = 200, body = HouseRulesView), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Path(key): Path<String>) -> ApiResult<Response> {
    let view = state
        .db
        .read(move |db| {
            let version = rules::latest_version(db, &key)?;
            let rules = rules::by_version(db, &key, version)?;
            Ok(HouseRulesView { shipped: rules.is_shipped(), version, rules })
        })
        .await?;
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

fn refused<T>(result: Result<T, ChoiceError>) -> ApiResult<T> {
    result.map_err(|e| ApiError::field(e.field(), wording::stopped(&e.to_string())))
}

/// Every choice with its unit, range, source, and its numbers in the sets.
#[utoipa::path(
    get, path = "/api/house-rules/choices", operation_id = "list_choices", responses((status = 200, body = [ChoiceView]))
)]
pub async fn choices(State(state): State<AppState>) -> ApiResult<Json<Vec<ChoiceView>>> {
    let sets = state.db.read(rules::latest).await?;
    let of = |key: &str| {
        let number =
            |set: &HouseRules| Some((set.key.clone(), rainshadow_core::house_rules::value(set, key)?));
        sets.iter().filter_map(number).collect()
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
    let known = key.len() <= 64 && key.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-' || b == b'_');
    if key.is_empty() || !known {
        return Err(ApiError::field("key", "A key has 1 to 64 letters, digits, - or _."));
    }
    let from = sent.from.clone();
    let base =
        state.db.read(move |db| rules::by_version(db, &from, rules::latest_version(db, &from)?)).await?;
    let mut own = refused(overridden(&base, &sent.choices))?;
    own.key = key;
    own.name = sent.name.trim().to_owned();
    own.suits = sent.suits.trim().to_owned();
    own.maker_limits_win = sent.maker_limits_win;
    let own = refused(own.checked())?;
    Ok(written(state.write(move |tx| rules::save(tx, &own, seen)).await?))
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
    let bank_id = id.clone();
    let base = state
        .db
        .read(move |db| {
            let bank = BankRow::by_id(db, &bank_id)?;
            rules::by_version(db, &bank.rules_key, bank.rules_version)
        })
        .await?;
    refused(overridden(&base, &sent.choices))?;
    state
        .write(move |tx| {
            BankRow::as_seen(tx, &id, version)?;
            BankRow::set_overrides(tx, &id, &sent.choices)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
