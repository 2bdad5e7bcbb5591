//! Banks: the list, a new one, archiving.

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, written};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::bank_state::bank_state;
use crate::app::fresh::Wanted;
use crate::db::Connection;
use crate::db::{BankEdit, BankListRow, BankRow, DbError, ModelRow, NewBank};
use crate::words;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Plan, PlanBattery};
use rainshadow_core::bank_state::BankState;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{self, DueReader};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;

/// One bank in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankSummary {
    /// Id.
    pub id: String,
    /// Site.
    pub site: String,
    /// What the site is.
    pub site_kind: String,
    /// Name within the site.
    pub name: String,
    /// What it does.
    pub duty: String,
    /// "48 V flooded, 2 strings of 8 six-volt batteries, 420 Ah each".
    pub description: String,
    /// Its condition.
    pub condition: Severity,
    /// The one sentence.
    pub verdict: String,
    /// Day of the last round, as said.
    pub last_day: Option<String>,
    /// Day of the last readings to sort by.
    pub last_date: Option<String>,
    /// Finished rounds.
    pub rounds: u32,
    /// An open round.
    pub open_round: Option<String>,
    /// True when archived.
    pub archived: bool,
    /// Rows of cases for the small plan, each cell's condition.
    pub mini: Vec<Vec<Vec<Severity>>>,
    /// Addresses of its cells, for finding one.
    pub cells: Vec<String>,
    /// True when its rows cannot be read; the sentence says why.
    pub unreadable: bool,
}

/// Rows of cases with the condition of each cell, for the small plan; of a sealed bank one mark a case,
/// for its volts are taken at the posts.
pub fn mini(shape: &BankShape, state: &BankState, has_caps: bool) -> Vec<Vec<Vec<Severity>>> {
    let cells: HashMap<_, _> = state.cells.iter().copied().collect();
    let batteries: HashMap<_, _> = state.batteries.iter().copied().collect();
    let case = |battery: &PlanBattery| -> Vec<Severity> {
        if has_caps {
            battery.cells.iter().map(|cell| cells.get(cell).copied().unwrap_or_default()).collect()
        } else {
            vec![batteries.get(&battery.address).copied().unwrap_or_default()]
        }
    };
    shape.plan().rows.iter().map(|row| row.batteries.iter().map(case).collect()).collect()
}

fn summary(db: &Connection, row: BankListRow, today: Date) -> Result<BankSummary, DbError> {
    let model = ModelRow::by_id(db, &row.bank.model_id)?;
    let state = bank_state(db, &row.bank)?;
    let reader = DueReader {
        construction: model.construction,
        cells: row.bank.shape.cell_count(),
        today,
        units: ReaderUnits::default(),
    };
    Ok(BankSummary {
        description: wording::describe_bank(&row.bank.shape, &model),
        condition: state.condition,
        verdict: wording::bank_verdict(&state, &reader),
        last_day: state.read_on.map(words::day),
        last_date: state.read_on.map(|d| d.to_string()),
        rounds: row.rounds,
        open_round: row.open_round,
        archived: row.bank.archived_at.is_some(),
        mini: mini(&row.bank.shape, &state, model.construction.has_caps()),
        cells: row.bank.shape.cells().map(|c| c.to_string()).collect(),
        site: row.site_name,
        site_kind: row.site_kind,
        name: row.bank.name,
        duty: row.bank.duty,
        id: row.bank.id,
        unreadable: false,
    })
}

/// A bank that cannot be read, as far as it can be named.
fn unreadable(id: String, place: String, why: &DbError) -> BankSummary {
    BankSummary {
        id,
        site: place,
        site_kind: String::new(),
        name: String::new(),
        duty: String::new(),
        description: String::new(),
        condition: Severity::NoReading,
        verdict: crate::app::fresh::said(why),
        last_day: None,
        last_date: None,
        rounds: 0,
        open_round: None,
        archived: false,
        mini: Vec::new(),
        cells: Vec::new(),
        unreadable: true,
    }
}

/// Every bank with its condition, archived ones too; one that cannot be read says so.
#[utoipa::path(get, path = "/api/banks", operation_id = "list_banks", responses((status = 200, body = [BankSummary])))]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Vec<BankSummary>>> {
    let today = state.clock.today();
    let banks = crate::app::fresh::read(&state, Wanted::All, move |db| {
        let mut rest = BankRow::titles(db)?;
        let mut all = Vec::new();
        for row in BankRow::list(db)? {
            let id = row.bank.id.clone();
            let place = rest.remove(&id).unwrap_or_default();
            match summary(db, row, today) {
                Err(error @ DbError::BadRow { .. }) => all.push(unreadable(id, place, &error)),
                other => all.push(other?),
            }
        }
        let bad = DbError::BadRow { what: "description of a bank", why: String::new() };
        all.extend(rest.into_iter().map(|(id, place)| unreadable(id, place, &bad)));
        Ok(all)
    });
    Ok(Json(banks.await?))
}

/// A bank while it is being described.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BankDraft {
    /// Battery model.
    pub model: String,
    /// Shape as far as it is typed.
    pub shape: BankShape,
}

/// A drawn draft.
#[derive(Debug, Serialize, ToSchema)]
pub struct DraftPlan {
    /// The bank from above.
    pub plan: Plan,
    /// In words.
    pub description: String,
    /// Cells.
    pub cells: usize,
}

/// A bank as it would stand, or why it cannot.
#[utoipa::path(
    post, path = "/api/banks/preview", operation_id = "preview_bank", request_body = BankDraft,
    responses((status = 200, body = DraftPlan), (status = "default", body = Problem))
)]
pub async fn preview(
    State(state): State<AppState>,
    Body(draft): Body<BankDraft>,
) -> ApiResult<Json<DraftPlan>> {
    let model_id = draft.model.clone();
    let model = state.db.read(move |db| ModelRow::by_id(db, &model_id)).await?;
    let shape = fitting(draft.shape, model.cells)?;
    Ok(Json(DraftPlan {
        description: wording::describe_bank(&shape, &model),
        cells: shape.cell_count(),
        plan: shape.plan(),
    }))
}

fn fitting(mut shape: BankShape, cells: u8) -> ApiResult<BankShape> {
    shape.cells_per_battery = cells;
    shape.checked().map_err(|e| ApiError::field("shape", format!("{e}.")))
}

fn in_service(text: Option<String>, today: Date) -> ApiResult<Option<String>> {
    let day = text.map(|d| d.trim().to_owned()).filter(|d| !d.is_empty());
    match day {
        Some(day) if !words::is_remembered_day(&day, today) => {
            let said = format!(
                "“{day}” is no date in service; accepted is 2021, 2021-05, 2021-05-03, or nothing, from 1950 to today."
            );
            Err(ApiError::field("in_service", said))
        }
        day => Ok(day),
    }
}

/// A new bank.
#[utoipa::path(
    put, path = "/api/banks/{id}", operation_id = "put_bank", params(("id" = String, Path)), request_body = NewBank,
    responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    Body(mut bank): Body<NewBank>,
) -> ApiResult<Response> {
    let model_id = bank.model.clone();
    let model = state.db.read(move |db| ModelRow::by_id(db, &model_id)).await?;
    bank.shape = fitting(bank.shape, model.cells)?;
    bank.in_service = in_service(bank.in_service, state.clock.today())?;
    let now = state.clock.now();
    Ok(written(state.write(move |tx| BankRow::create(tx, &id, &bank, now)).await?))
}

/// Puts the description of a bank right: names, duty, day in service, how it stands.
#[utoipa::path(
    post, path = "/api/banks/{id}/description", operation_id = "edit_bank",
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = BankEdit,
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn edit(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(mut edit): Body<BankEdit>,
) -> ApiResult<StatusCode> {
    let (today, now) = (state.clock.today(), state.clock.now());
    edit.site_name = super::sites::name(&edit.site_name, "site_name", "The site")?;
    super::sites::zone(&edit.zone)?;
    edit.in_service = in_service(edit.in_service, today)?;
    let (bank_id, layout) = (id.clone(), edit.layout.clone());
    let bank = state.db.read(move |db| BankRow::by_id(db, &bank_id)).await?;
    fitting(BankShape { layout, ..bank.shape.clone() }, bank.shape.cells_per_battery)?;
    state.write(move |tx| BankRow::edit(tx, &id, version, &edit, today, now)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Deletes a bank that has no reading; any other is archived.
#[utoipa::path(
    delete, path = "/api/banks/{id}", operation_id = "delete_bank", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn delete(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<StatusCode> {
    let now = state.clock.now();
    state.write(move |tx| BankRow::delete(tx, &id, now)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Archives a bank.
#[utoipa::path(
    post, path = "/api/banks/{id}/archive", operation_id = "archive_bank", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn archive(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<StatusCode> {
    let now = state.clock.now();
    state.write(move |tx| BankRow::set_archived(tx, &id, Some(now), now)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Brings an archived bank back.
#[utoipa::path(
    post, path = "/api/banks/{id}/restore", operation_id = "restore_bank", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn restore(State(state): State<AppState>, _all: WholeShop, Id(id): Id) -> ApiResult<StatusCode> {
    let now = state.clock.now();
    state.write(move |tx| BankRow::set_archived(tx, &id, None, now)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The house rule set a bank is to be judged by.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RulesChoice {
    /// Key of the set.
    pub rules: String,
}

/// Judges a bank by another house rule set from now on.
#[utoipa::path(
    put, path = "/api/banks/{id}/house-rules", operation_id = "put_bank_rules",
    params(("id" = String, Path), ("If-Match" = String, Header)),
    request_body = RulesChoice, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn set_rules(
    State(state): State<AppState>,
    _all: WholeShop,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Body(choice): Body<RulesChoice>,
) -> ApiResult<StatusCode> {
    state
        .write(move |tx| {
            BankRow::as_seen(tx, &id, version)?;
            BankRow::set_rules(tx, &id, &choice.rules)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
