//! Opening, editing and finishing a round.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, Reader, uuid, written};
use super::round_page::{RoundPage, read_page};
use super::state::AppState;
use super::typed_conditions::canonical;
use super::typed_round::OpenRound;
use crate::app::judge_rounds::derive_missing;
use crate::clock::Clock;
use crate::db::{BankRow, FinishOutcome, ModelRow, NewRound, Origin, RoundRow, Site};
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use jiff::Timestamp;
use rainshadow_core::quantity::units::ReaderUnits;
use serde::Deserialize;
use utoipa::ToSchema;

/// Who asks, on which device.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct By {
    /// Initials.
    pub person: String,
    /// Device.
    pub device: String,
}

/// A time sent by a device.
pub fn instant(text: &str, field: &str, clock: &Clock) -> ApiResult<Timestamp> {
    let at: Timestamp = text.parse().map_err(|_parse| {
        ApiError::field(field, format!("“{text}” is no time; accepted is RFC 3339, as 2026-10-08T09:30:00Z."))
    })?;
    // A day of grace, for devices with a wrong zone; on a fixed day devices still run on real time.
    let latest = clock.latest();
    if crate::words::days_between(latest, at) > 1.0 {
        // Which of the two is wrong nobody can say from here.
        let said = format!(
            "{text} lies in the future by the clock of the machine that Rainshadow runs on, which shows {latest:.0}; set whichever of the two is wrong."
        );
        return Err(ApiError::field(field, said));
    }
    if at.to_zoned_datetime(jiff::tz::TimeZone::UTC).year() < 1950 {
        let said = format!("{text} cannot be; accepted is 1950 to now.");
        return Err(ApiError::field(field, said));
    }
    Ok(at)
}

async fn canonical_round(state: &AppState, id: String, open: OpenRound) -> ApiResult<NewRound> {
    let bank_id = uuid(&open.bank, "bank")?;
    let (bank, site, model) = state
        .db
        .read(move |db| {
            let bank = BankRow::by_id(db, &bank_id)?;
            let site = Site::by_id(db, &bank.site_id)?;
            let model = ModelRow::by_id(db, &bank.model_id)?;
            Ok((bank, site, model))
        })
        .await?;
    if !model.construction.has_caps() {
        let said = "This bank is sealed: it has no caps and no gravity to read. Nobody opens it.";
        return Err(ApiError::field("bank", said));
    }
    let now = state.clock.now();
    let started_at =
        open.started_at.as_deref().map_or(Ok(now), |t| instant(t, "started_at", &state.clock))?;
    Ok(NewRound {
        id,
        bank: bank.id,
        visit: None,
        origin: Origin::Walked,
        started_at,
        finished_at: None,
        zone: site.zone,
        conditions: canonical(&open.conditions, open.instrument)?,
        instrument: open.instrument,
        reversed: open.reversed,
        person: open.person.trim().to_owned(),
        device: open.device.trim().to_owned(),
        typed: serde_json::to_string(&open).ok(),
        sent: serde_json::to_string(&open).unwrap_or_default(),
    })
}

/// Opens a round.
#[utoipa::path(
    put, path = "/api/rounds/{id}", operation_id = "put_round", params(("id" = String, Path)),
    request_body = OpenRound, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    Body(open): Body<OpenRound>,
) -> ApiResult<Response> {
    let round = canonical_round(&state, id, open).await?;
    Ok(written(state.write(move |tx| RoundRow::create(tx, &round)).await?))
}

async fn answer(
    state: &AppState,
    outcome: FinishOutcome,
    device: String,
    units: ReaderUnits,
    doing: &str,
) -> ApiResult<Json<RoundPage>> {
    let (row, changed) = match outcome {
        FinishOutcome::Finished(row) => (row, false),
        FinishOutcome::Changed(row) => (row, true),
    };
    let page = read_page(state, row.id.clone(), device, units).await?;
    if changed {
        let by = row.finished_by.as_deref().map_or_else(|| "somebody".to_owned(), ToOwned::to_owned);
        let what = if row.finished_at.is_some() { "finished" } else { "changed" };
        let said = format!(
            "{by} {what} this round while you were {doing} it. Both of you kept every reading; look at it as it stands now."
        );
        let theirs = serde_json::to_value(&page).unwrap_or_default();
        return Err(ApiError::changed_since(said, theirs));
    }
    Ok(Json(page))
}

/// Changes the conditions, the instrument or the direction of a round.
#[utoipa::path(
    post, path = "/api/rounds/{id}/conditions", operation_id = "edit_round",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = OpenRound,
    responses((status = 200, body = RoundPage), (status = "default", body = Problem))
)]
pub async fn edit(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Body(open): Body<OpenRound>,
) -> ApiResult<Json<RoundPage>> {
    let device = open.device.clone();
    let change = canonical_round(&state, id.clone(), open).await?;
    let outcome = state.write(move |tx| RoundRow::edit(tx, &id, version, &change)).await?;
    answer(&state, outcome, device, units, "editing").await
}

/// Finishes a round; it is judged and joins the history.
#[utoipa::path(
    post, path = "/api/rounds/{id}/finish", operation_id = "finish_round",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = By,
    responses((status = 200, body = RoundPage), (status = "default", body = Problem))
)]
pub async fn finish(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Body(by): Body<By>,
) -> ApiResult<Json<RoundPage>> {
    let now = state.clock.now();
    let name = format!("{} on {}", by.person, by.device);
    let outcome = state
        .write(move |tx| {
            let outcome = RoundRow::finish(tx, &id, version, &name, now)?;
            if let FinishOutcome::Finished(row) = &outcome {
                derive_missing(tx, &row.bank_id)?;
            }
            Ok(outcome)
        })
        .await?;
    answer(&state, outcome, by.device, units, "finishing").await
}
