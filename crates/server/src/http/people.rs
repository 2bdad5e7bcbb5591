//! People who work here.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, SeenVersion, etag};
use super::state::AppState;
use crate::app::people::{all_people, person_of, save_person};
use crate::db::{Person, Theme};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::Tool;
use serde::Deserialize;
use utoipa::ToSchema;

/// A person as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PersonBody {
    /// Initials, one to four letters.
    pub initials: String,
    /// Units.
    #[serde(default)]
    pub units: ReaderUnits,
    /// Theme.
    #[serde(default)]
    pub theme: Theme,
    /// False when single-key shortcuts are switched off.
    pub single_keys: bool,
    /// Instruments the person has not.
    #[serde(default)]
    pub without: Vec<Tool>,
}

/// Everybody.
#[utoipa::path(get, path = "/api/people", operation_id = "list_people", responses((status = 200, body = [Person])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<Person>>> {
    Ok(Json(all_people(&state).await?))
}

/// One person.
#[utoipa::path(
    get, path = "/api/people/{id}", operation_id = "get_person", params(("id" = String, Path)),
    responses((status = 200, body = Person), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Id(id): Id) -> ApiResult<Response> {
    let person = person_of(&state, id).await?;
    Ok((etag(person.version), Json(person)).into_response())
}

/// A person, new or changed; a change says which version was seen.
#[utoipa::path(
    put, path = "/api/people/{id}", operation_id = "put_person",
    params(("id" = String, Path), ("If-Match" = Option<String>, Header)),
    request_body = PersonBody, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    SeenVersion(seen): SeenVersion,
    Body(body): Body<PersonBody>,
) -> ApiResult<Response> {
    let initials = body.initials.trim().to_uppercase();
    let letters = initials.chars().count();
    if !(1..=4).contains(&letters) || !initials.chars().all(char::is_alphanumeric) {
        let said = format!("Initials “{}” are not accepted; one to four letters are.", body.initials);
        return Err(ApiError::field("initials", said));
    }
    let person = Person {
        id,
        initials,
        units: body.units,
        theme: body.theme,
        single_keys: body.single_keys,
        without: body.without,
        version: 0,
    };
    let version = save_person(&state, person, seen).await?;
    Ok((StatusCode::NO_CONTENT, etag(version)).into_response())
}
