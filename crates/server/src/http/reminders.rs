//! Reminders of one's own, and putting off what is due.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, written};
use super::state::AppState;
use crate::app::reminders::{postpone as put_off_task, reminder_done, set_reminder};
use crate::app::typed::day::day;
use crate::db::{NewPostponement, NewReminder};
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use rainshadow_core::schedule::Task;
use rainshadow_core::visit::Job;
use serde::Deserialize;
use utoipa::ToSchema;

fn said(text: &str, field: &str, what: &str) -> ApiResult<String> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > 200 {
        return Err(ApiError::field(field, format!("{what} has 1 to 200 characters.")));
    }
    Ok(text.to_owned())
}

/// A reminder as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentReminder {
    /// Its bank.
    pub bank: String,
    /// Its day.
    pub day: String,
    /// What.
    pub text: String,
    /// The job that it is of; none when left out.
    #[serde(default)]
    pub job: Option<Job>,
}

/// Adds a reminder of one's own.
#[utoipa::path(
    put, path = "/api/reminders/{id}", operation_id = "put_reminder",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = SentReminder, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put_reminder(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(sent): Body<SentReminder>,
) -> ApiResult<Response> {
    let reminder = NewReminder {
        bank: super::extract::uuid(&sent.bank, "bank")?,
        day: day(&sent.day, "day")?,
        text: said(&sent.text, "text", "A reminder")?,
        job: sent.job,
        by,
    };
    Ok(written(set_reminder(&state, id, reminder).await?))
}

/// Says that a reminder is done.
#[utoipa::path(
    post, path = "/api/reminders/{id}/done", operation_id = "reminder_done",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn done(State(state): State<AppState>, Id(id): Id, Acting(by): Acting) -> ApiResult<StatusCode> {
    reminder_done(&state, id, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A postponement as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentPostponement {
    /// Its bank.
    pub bank: String,
    /// What.
    pub task: Task,
    /// Which one of its kind.
    #[serde(default)]
    pub about: String,
    /// The due day it is put off from.
    pub from: String,
    /// Until.
    pub until: String,
    /// Why.
    pub reason: String,
}

/// Puts something off, with a reason.
#[utoipa::path(
    put, path = "/api/postponements/{id}", operation_id = "put_postponement",
    security(("person" = [], "acting_device" = [])), params(("id" = String, Path)),
    request_body = SentPostponement, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn postpone(
    State(state): State<AppState>,
    Id(id): Id,
    Acting(by): Acting,
    Body(sent): Body<SentPostponement>,
) -> ApiResult<Response> {
    let (from, until) = (day(&sent.from, "from")?, day(&sent.until, "until")?);
    let put_off = NewPostponement {
        bank: super::extract::uuid(&sent.bank, "bank")?,
        task: sent.task,
        of: sent.about.clone(),
        from,
        until,
        reason: said(&sent.reason, "reason", "The reason")?,
        by,
    };
    Ok(written(put_off_task(&state, id, put_off).await?))
}
