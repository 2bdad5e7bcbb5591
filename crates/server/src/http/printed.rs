//! Reports, field sheets and the calendar: what leaves the screen.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiResult, Problem};
use super::extract::Id;
use super::run_case::RunCase;
use super::state::AppState;
use super::visit_case::VisitCase;
use crate::calendar::{Entry, calendar};
use crate::db::{
    BankRow, DbError, ModelRow, Person, PhotoRow, RoundRow, RunRow, Site, VisitRow, assessments, due,
};
use crate::report::{PHOTO_MARK, RunTold, field_sheet, visit_report};
use crate::{photos, words};
use axum::extract::{Query, State};
use axum::http::header;
use axum::response::{Html, IntoResponse, Response};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Assessment;
use rainshadow_core::wording::{self, DueReader};
use rusqlite::Connection;
use serde::Deserialize;
use std::path::Path;
use utoipa::IntoParams;

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
    Ok(judged.map(|d| (words::day(round.day()), d.assessment)))
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

/// Photographs put in where their hashes stand.
fn with_photos(report: &str, folder: &Path) -> String {
    let mut out = String::with_capacity(report.len());
    let mut rest = report;
    while let Some(at) = rest.find(PHOTO_MARK) {
        let (head, tail) = rest.split_at(at);
        out.push_str(head);
        let tail = &tail[PHOTO_MARK.len()..];
        let Some((hash, after)) = tail.split_once('}') else { break };
        let named = hash.len() == 64 && hash.bytes().all(|b| b.is_ascii_hexdigit());
        let bytes = named.then(|| std::fs::read(photos::file_of(folder, hash)).ok()).flatten();
        if let Some(bytes) = bytes {
            out.push_str("data:image/jpeg;base64,");
            STANDARD.encode_string(bytes, &mut out);
        }
        rest = after;
    }
    out.push_str(rest);
    out
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
) -> ApiResult<Html<String>> {
    let today = state.clock.today();
    let bank = {
        let id = id.clone();
        state.db.read(move |db| Ok(VisitRow::by_id(db, &id)?.bank_id)).await?
    };
    super::today::refresh_due(&state, Some(bank)).await?;
    let folder = state.db.folder().to_owned();
    let html = state
        .db
        .read(move |db| {
            let kept = VisitRow::by_id(db, &id)?.report.filter(|r| !r.is_empty());
            let report = match kept {
                Some(report) => report,
                None => rendered(db, &id, today, units_of(db, &query))?,
            };
            Ok(with_photos(&report, &folder))
        })
        .await?;
    Ok(Html(html))
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
    super::today::refresh_due(&state, None).await?;
    let today = state.clock.today();
    let text = state.db.read(move |db| entries(db, &query, today)).await?;
    let headers = [
        (header::CONTENT_TYPE, "text/calendar; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "inline; filename=\"rainshadow.ics\""),
    ];
    Ok((headers, text).into_response())
}
