//! What a bank may have, and what is left of it.

use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::state::AppState;
use crate::app::pages::diagnosis::{DiagnosisPage, diagnosis_page};
use axum::Json;
use axum::extract::State;

/// The diagnosis of a bank by everything on record, with its capacity over the years.
#[utoipa::path(
    get, path = "/api/banks/{id}/diagnosis", operation_id = "get_diagnosis", params(("id" = String, Path)),
    responses((status = 200, body = DiagnosisPage), (status = "default", body = Problem))
)]
pub async fn diagnosis(State(state): State<AppState>, Id(id): Id) -> ApiResult<Json<DiagnosisPage>> {
    Ok(Json(diagnosis_page(&state, id, state.clock.today()).await?))
}
