//! Sites.

use super::error::{ApiResult, Problem};
use super::extract::{Body, Id, written};
use super::state::AppState;
use crate::app::sites::{all_sites, create_site};
use crate::db::{NewSite, Site};
use axum::Json;
use axum::extract::State;
use axum::response::Response;

/// All sites by name.
#[utoipa::path(get, path = "/api/sites", operation_id = "list_sites", responses((status = 200, body = [Site])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<Site>>> {
    Ok(Json(all_sites(&state).await?))
}

/// A new site.
#[utoipa::path(
    put, path = "/api/sites/{id}", operation_id = "put_site", params(("id" = String, Path)), request_body = NewSite,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(site): Body<NewSite>,
) -> ApiResult<Response> {
    Ok(written(create_site(&state, id, site).await?))
}
