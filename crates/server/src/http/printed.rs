//! Reports, field sheets and the calendar: what leaves the screen.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::state::AppState;
use super::stream::streamed;
use crate::app::fresh::{self, Wanted};
use crate::app::run_case::RunCase;
use crate::app::visit_case::VisitCase;
use crate::calendar::{Entry, calendar};
use crate::db::Connection;
use crate::db::{
    BankRow, DbError, ModelRow, Person, PhotoRow, RoundRow, RunRow, Site, VisitRow, assessments, due,
};
use crate::report::{PHOTO_MARK, RunTold, field_sheet, visit_report};
use crate::{photos, words};
use axum::body::Body;
use axum::extract::{Query, State};
use axum::http::header;
use axum::response::{Html, IntoResponse, Response};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Assessment;
use rainshadow_core::wording::{self, DueReader};
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

fn units_of(db: &Connection, query: &ReaderQuery) -> ReaderUnits {
    let person = query.person.as_deref().and_then(|id| Person::by_id(db, id).ok());
    person.map(|p| p.units).unwrap_or_default()
}

/// The last judged round before this visit.
fn before(db: &Connection, visit: &VisitRow) -> Result<Option<(String, Assessment)>, DbError> {
    let rounds = RoundRow::of_bank(db, &visit.bank_id)?;
    let last = rounds
        .into_iter()
        .find(|r| r.finished_at.is_some() && r.visit_id != visit.id && r.started_at < visit.started_at);
    let Some(round) = last else { return Ok(None) };
    let judged = assessments::derived(db, &round.id)?;
    Ok(judged.map(|judged| (words::day(round.day()), judged)))
}

/// The report of a visit, photographs by their hash.
pub fn rendered(db: &Connection, id: &str, today: Date, units: ReaderUnits) -> Result<String, DbError> {
    let case = VisitCase::read(db, id, today, units)?;
    let photos = PhotoRow::of_visit(db, &case.visit)?;
    let due = case.due(db)?;
    let before = before(db, &case.visit)?;
    let end = case.visit.ended_at.unwrap_or_else(jiff::Timestamp::now);
    let equalized = RunRow::of_visit(db, &case.visit)?
        .into_iter()
        .map(|run| {
            let at = run.ended_at.unwrap_or(end);
            RunTold::read(db, RunCase::of(db, run, at)?, units)
        })
        .collect::<Result<Vec<_>, _>>()?;
    Ok(visit_report(&case, &photos, &due, before.as_ref(), &equalized))
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
    let today = state.clock.today();
    let bank = {
        let id = id.clone();
        state.db.read(move |db| Ok(VisitRow::by_id(db, &id)?.bank_id)).await?
    };
    let folder = state.db.folder().to_owned();
    let read = fresh::read(&state, Wanted::Bank(bank), move |db| {
        let kept = VisitRow::by_id(db, &id)?.report.filter(|r| !r.is_empty());
        let report = match kept {
            Some(report) => report,
            None => rendered(db, &id, today, units_of(db, &query))?,
        };
        Ok((report, PhotoRow::hashes_of_visit(db, &id)?))
    });
    let (report, own) = read.await?;
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
    let html = state
        .db
        .read(move |db| {
            let bank = BankRow::by_id(db, &id)?;
            let site = Site::by_id(db, &bank.site_id)?;
            let model = ModelRow::by_id(db, &bank.model_id)?;
            Ok(field_sheet(&bank, &site, &model))
        })
        .await?;
    Ok(Html(html))
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

fn entries(db: &Connection, query: &CalendarQuery, today: Date) -> Result<String, DbError> {
    let units = units_of(db, &ReaderQuery { person: query.person.clone() });
    let end = today.checked_add(AHEAD.days()).unwrap_or(today);
    let mut rows = due::until(db, end, today)?;
    rows.sort_by_key(|row| row.item.date);
    let banks = BankRow::list(db)?;
    let models = ModelRow::all(db)?;
    let mut list = Vec::new();
    for row in &rows {
        let Some(bank) = banks.iter().find(|b| b.bank.id == row.bank) else { continue };
        let Some(model) = models.iter().find(|m| m.id == bank.bank.model_id) else { continue };
        let other = query.bank.as_ref().is_some_and(|b| *b != row.bank)
            || query.keeper.as_ref().is_some_and(|k| *k != bank.bank.keeper);
        if other {
            continue;
        }
        let reader = DueReader {
            construction: model.model.construction,
            cells: bank.bank.shape.cell_count(),
            today,
            units,
        };
        let name = &bank.bank.name;
        let place =
            if name.is_empty() { bank.site_name.clone() } else { format!("{}, {name}", bank.site_name) };
        list.push(Entry { row, place, said: wording::due(&row.item, &reader) });
    }
    Ok(calendar(&list, today))
}

/// What is due in the year ahead as iCalendar: a feed to subscribe to, or a file.
#[utoipa::path(
    get, path = "/api/calendar.ics", operation_id = "get_calendar", params(CalendarQuery),
    responses((status = 200, body = String, content_type = "text/calendar"), (status = "default", body = Problem))
)]
pub async fn ics(State(state): State<AppState>, Query(query): Query<CalendarQuery>) -> ApiResult<Response> {
    let today = state.clock.today();
    let text = fresh::read(&state, Wanted::All, move |db| entries(db, &query, today)).await?;
    let headers = [
        (header::CONTENT_TYPE, "text/calendar; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "inline; filename=\"rainshadow.ics\""),
    ];
    Ok((headers, text).into_response())
}
