//! Reports, field sheets and the calendar: what leaves the screen.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::state::AppState;
use super::stream::streamed;
use crate::app::banks::described_bank;
use crate::app::due_calendar::{CalendarOf, due_until};
use crate::app::equipment::equipment_of;
use crate::app::people::known_person;
use crate::app::report_context::report_of_visit;
use crate::calendar::calendar;
use crate::photos;
use crate::report::{PHOTO_MARK, field_sheet, visit_report};
use axum::body::Body;
use axum::extract::{Query, State};
use axum::http::header;
use axum::response::{Html, IntoResponse, Response};
use jiff::ToSpan;
use rainshadow_core::quantity::units::ReaderUnits;
use serde::Deserialize;
use std::path::PathBuf;
use utoipa::IntoParams;

/// A report is text, styles and pictures of its own.
const REPORT_POLICY: &str = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:; \
    base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
/// Days ahead in the calendar.
const AHEAD: i64 = 366;

/// Who reads: a link carries no header.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct ReaderQuery {
    /// The person, for units.
    pub person: Option<String>,
}

async fn units_of(state: &AppState, person: Option<&str>) -> ApiResult<ReaderUnits> {
    let Some(id) = person else { return Ok(ReaderUnits::default()) };
    let person = known_person(state, id).await?;
    Ok(person.map(|p| p.units).unwrap_or_default())
}

/// A report with the photographs put in where their hashes stand, as it is sent. Somebody may have
/// written such a mark into a note: it reaches this visit's own pictures alone.
fn with_photos(report: String, folder: PathBuf, own: Vec<String>) -> Body {
    streamed(move |pieces| {
        let mut rest = report.as_str();
        while let Some((head, tail)) = rest.split_once(PHOTO_MARK) {
            let mut piece = head.to_owned();
            match tail.split_at_checked(64).and_then(|(hash, after)| Some((hash, after.strip_prefix('}')?))) {
                Some((hash, after)) if photos::is_hash(hash) => {
                    let known = own.iter().find(|o| *o == hash);
                    if let Some(bytes) = known.and_then(|own| photos::read(&folder, own).ok()) {
                        piece.push_str("data:image/jpeg;base64,");
                        if !(pieces.send(std::mem::take(&mut piece)) && pieces.send_base64(&bytes)) {
                            return;
                        }
                    }
                    rest = after;
                }
                // No mark, only text that begins like one.
                _ => {
                    piece.push_str(PHOTO_MARK);
                    rest = tail;
                }
            }
            if !pieces.send(piece) {
                return;
            }
        }
        pieces.send(rest.to_owned());
    })
}

/// The report of a visit as one self-contained page; a closed visit keeps what it was closed with.
#[utoipa::path(
    get, path = "/api/visits/{id}/report", operation_id = "get_report", params(("id" = String, Path), ReaderQuery),
    responses((status = 200, body = String, content_type = "text/html"), (status = "default", body = Problem))
)]
pub async fn report(
    State(state): State<AppState>,
    Id(id): Id,
    Query(query): Query<ReaderQuery>,
) -> ApiResult<Response> {
    let units = units_of(&state, query.person.as_deref()).await?;
    let folder = state.db.folder().to_owned();
    let (report, own) = report_of_visit(&state, id, units, visit_report).await?;
    let headers = [
        (header::CONTENT_TYPE, "text/html; charset=utf-8"),
        // Nothing in a report runs, whatever stands in it.
        (header::CONTENT_SECURITY_POLICY, REPORT_POLICY),
    ];
    Ok((headers, with_photos(report, folder, own)).into_response())
}

/// A blank field sheet of a bank.
#[utoipa::path(
    get, path = "/api/banks/{id}/field-sheet", operation_id = "get_field_sheet", params(("id" = String, Path)),
    responses((status = 200, body = String, content_type = "text/html"), (status = "default", body = Problem))
)]
pub async fn sheet(State(state): State<AppState>, Id(id): Id) -> ApiResult<Html<String>> {
    let (bank, site, model) = described_bank(&state, id.clone()).await?;
    let equipment = equipment_of(&state, id).await?.equipment.fitted.equipment;
    Ok(Html(field_sheet(&bank, &site, &model, &equipment)))
}

/// Which banks, and who reads.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct CalendarQuery {
    /// Only this bank.
    pub bank: Option<String>,
    /// Only banks looked after by these initials.
    pub keeper: Option<String>,
    /// The person, for units.
    pub person: Option<String>,
    /// What lets a calendar program in that sends no cookie.
    pub token: Option<String>,
}

/// What is due in the year ahead as iCalendar: a feed to subscribe to, or a file.
#[utoipa::path(
    get, path = "/api/calendar.ics", operation_id = "get_calendar", params(CalendarQuery),
    responses((status = 200, body = String, content_type = "text/calendar"), (status = "default", body = Problem))
)]
pub async fn ics(State(state): State<AppState>, Query(query): Query<CalendarQuery>) -> ApiResult<Response> {
    let today = state.clock.today();
    let units = units_of(&state, query.person.as_deref()).await?;
    let end = today.checked_add(AHEAD.days()).unwrap_or(today);
    let of = CalendarOf { bank: query.bank, keeper: query.keeper };
    let text = calendar(&due_until(&state, of, end, units).await?, today);
    let headers = [
        (header::CONTENT_TYPE, "text/calendar; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "inline; filename=\"rainshadow.ics\""),
    ];
    Ok((headers, text).into_response())
}
