//! Calendar feeds: a calendar program sends no cookie, so each person has an address of his own.

use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::state::AppState;
use crate::app::devices::{calendar_since, close_calendar, open_calendar};
use crate::pairing::{hash_of, random_hex};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::Serialize;
use utoipa::ToSchema;

/// A calendar feed of a person.
#[derive(Debug, Serialize, ToSchema)]
pub struct CalendarFeed {
    /// Since when there is one; none: there is none.
    pub since: Option<String>,
    /// Address to subscribe to, told once when it is made; whoever has it reads what is due.
    pub address: Option<String>,
}

/// Whether a person has a calendar feed.
#[utoipa::path(
    get, path = "/api/people/{id}/calendar", operation_id = "get_calendar_feed", params(("id" = String, Path)),
    responses((status = 200, body = CalendarFeed), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Id(id): Id) -> ApiResult<Json<CalendarFeed>> {
    let since = calendar_since(&state, id).await?;
    Ok(Json(CalendarFeed { since, address: None }))
}

/// Makes the calendar feed of a person; an address made before ends.
#[utoipa::path(
    post, path = "/api/people/{id}/calendar", operation_id = "open_calendar_feed", params(("id" = String, Path)),
    responses((status = 201, body = CalendarFeed), (status = "default", body = Problem))
)]
pub async fn open(State(state): State<AppState>, Id(id): Id) -> ApiResult<(StatusCode, Json<CalendarFeed>)> {
    let token = random_hex(32);
    let now = open_calendar(&state, id.clone(), hash_of(&token)).await?;
    let scheme = if state.reach.secure { "https" } else { "http" };
    let base =
        state.reach.phone_address().unwrap_or_else(|| format!("{scheme}://127.0.0.1:{}", state.reach.port));
    let address = format!("{base}/api/calendar.ics?person={id}&token={token}");
    Ok((StatusCode::CREATED, Json(CalendarFeed { since: Some(now.to_string()), address: Some(address) })))
}

/// Ends the calendar feed of a person: whoever has its address reads nothing any more.
#[utoipa::path(
    delete, path = "/api/people/{id}/calendar", operation_id = "close_calendar_feed", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn close(State(state): State<AppState>, Id(id): Id) -> ApiResult<StatusCode> {
    close_calendar(&state, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
