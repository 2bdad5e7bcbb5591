//! Banks: the list, a new one, archiving.

use super::acting::Acting;
use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::banks::{archive_bank, create_bank, delete_bank, drafted_bank, edit_bank, hold_to_rules};
use crate::app::pages::bank_list::{BankSummary, bank_list};
use crate::db::{BankEdit, NewBank};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::bank::{BankShape, Plan};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Every bank with its condition, archived ones too; one that cannot be read says so.
#[utoipa::path(get, path = "/api/banks", operation_id = "list_banks", responses((status = 200, body = [BankSummary])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<BankSummary>>> {
    Ok(Json(bank_list(&state).await?))
}

/// A bank while it is being described.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BankDraft {
    /// Battery model.
    pub model: String,
    /// Shape as far as it is typed.
    pub shape: BankShape,
}

/// A drawn draft.
#[derive(Debug, Serialize, ToSchema)]
pub struct DraftPlan {
    /// The bank from above.
    pub plan: Plan,
    /// In words.
    pub description: String,
    /// Cells.
    pub cells: usize,
}

/// A bank as it would stand, or why it cannot.
#[utoipa::path(
    post, path = "/api/banks/preview", operation_id = "preview_bank", request_body = BankDraft,
    responses((status = 200, body = DraftPlan), (status = "default", body = Problem))
)]
pub async fn preview(
    State(state): State<AppState>,
    Body(draft): Body<BankDraft>,
) -> ApiResult<Json<DraftPlan>> {
    let (shape, model) = drafted_bank(&state, draft.model, draft.shape).await?;
    Ok(Json(DraftPlan {
        description: wording::describe_bank(&shape, &model),
        cells: shape.cell_count(),
        plan: shape.plan(),
    }))
}

/// A new bank.
#[utoipa::path(
    put, path = "/api/banks/{id}", operation_id = "put_bank", params(("id" = String, Path)), request_body = NewBank,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    Body(bank): Body<NewBank>,
) -> ApiResult<Response> {
    Ok(written(create_bank(&state, id, bank).await?))
}

/// Puts the description of a bank right: names, duty, day in service, how it stands.
#[utoipa::path(
    post, path = "/api/banks/{id}/description", operation_id = "edit_bank",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = BankEdit,
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn edit(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(edit): Body<BankEdit>,
) -> ApiResult<StatusCode> {
    edit_bank(&state, id, version, edit).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Deletes a bank of which nothing is written down; any other is archived.
#[utoipa::path(
    delete, path = "/api/banks/{id}", operation_id = "delete_bank",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn delete(
    State(state): State<AppState>,
    _all: WholeShop,
    Acting(by): Acting,
    Id(id): Id,
) -> ApiResult<StatusCode> {
    delete_bank(&state, id, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Archives a bank.
#[utoipa::path(
    post, path = "/api/banks/{id}/archive", operation_id = "archive_bank",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn archive(
    State(state): State<AppState>,
    _all: WholeShop,
    Acting(by): Acting,
    Id(id): Id,
) -> ApiResult<StatusCode> {
    archive_bank(&state, id, true, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Brings an archived bank back.
#[utoipa::path(
    post, path = "/api/banks/{id}/restore", operation_id = "restore_bank",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn restore(
    State(state): State<AppState>,
    _all: WholeShop,
    Acting(by): Acting,
    Id(id): Id,
) -> ApiResult<StatusCode> {
    archive_bank(&state, id, false, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The house rule set a bank is to be judged by.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RulesChoice {
    /// Key of the set.
    pub rules: String,
}

/// Judges a bank by another house rule set from now on.
#[utoipa::path(
    put, path = "/api/banks/{id}/house-rules", operation_id = "put_bank_rules",
    params(("id" = String, Path), ("If-Match" = String, Header)),
    request_body = RulesChoice, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn set_rules(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(choice): Body<RulesChoice>,
) -> ApiResult<StatusCode> {
    hold_to_rules(&state, id, version, choice.rules).await?;
    Ok(StatusCode::NO_CONTENT)
}
