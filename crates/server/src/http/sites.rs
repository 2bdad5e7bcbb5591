//! Sites.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, written};
use super::state::AppState;
use crate::db::{NewSite, Site};
use axum::Json;
use axum::extract::State;
use axum::response::Response;

/// All sites by name.
#[utoipa::path(get, path = "/api/sites", operation_id = "list_sites", responses((status = 200, body = [Site])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<Site>>> {
    Ok(Json(state.db.read(Site::all).await?))
}

/// A name a person can find again.
pub fn name(text: &str, field: &str, what: &str) -> ApiResult<String> {
    let name = text.trim();
    let most = rainshadow_core::quantity::bounds::longest("name");
    if name.is_empty() || name.chars().count() > most {
        return Err(ApiError::field(field, format!("{what} needs a name of 1 to {most} characters.")));
    }
    Ok(name.to_owned())
}

/// A time zone this machine knows.
pub fn zone(text: &str) -> ApiResult<()> {
    if jiff::tz::TimeZone::get(text).is_err() {
        let said = format!("“{text}” is no time zone; accepted is an IANA name, as UTC or Etc/GMT+7.");
        return Err(ApiError::field("zone", said));
    }
    Ok(())
}

/// A new site.
#[utoipa::path(
    put, path = "/api/sites/{id}", operation_id = "put_site", params(("id" = String, Path)), request_body = NewSite,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(mut site): Body<NewSite>,
) -> ApiResult<Response> {
    site.name = name(&site.name, "name", "The site")?;
    zone(&site.zone)?;
    let now = state.clock.now();
    Ok(written(state.write(move |tx| Site::create(tx, &id, &site, now)).await?))
}
