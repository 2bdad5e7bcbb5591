//! Today: what is due on every bank, what to load, what lies ahead.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiResult, Problem};
use super::extract::Reader;
use super::state::AppState;
use crate::db::{BankListRow, BankRow, DbError, DueRow, ModelRow, due};
use axum::Json;
use axum::extract::{Query, State};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Condition;
use rainshadow_core::schedule::{Consequence, Task};
use rainshadow_core::wording::{self, DueReader, SpokenDue};
use rusqlite::Connection;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeSet, HashMap};
use strip::{StripCalendar, StripLine};
use utoipa::{IntoParams, ToSchema};
use van::VanView;

mod strip;
mod van;

/// Items on one page.
const PAGE: usize = 60;

/// Works out what is missing, for one bank or for all, before a page is read.
pub async fn refresh_due(state: &AppState, only: Option<String>) -> ApiResult<()> {
    let missing = state.db.read(due::stale).await?;
    let todo: Vec<String> = missing.into_iter().filter(|id| only.as_ref().is_none_or(|o| o == id)).collect();
    for part in todo.chunks(50) {
        let part = part.to_vec();
        state.db.write(move |tx| part.iter().try_for_each(|bank| due::refresh(tx, bank))).await?;
    }
    Ok(())
}

/// Which banks.
#[derive(Debug, Clone, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct Filter {
    /// Who looks after them.
    pub keeper: String,
    /// Region of the site.
    pub region: String,
    /// What they do.
    pub duty: String,
    /// Banks whose visits are loaded for, by id, parted by commas; left out: what is due in three days.
    pub load: Option<String>,
    /// Items to skip.
    pub from: usize,
}

/// One due item in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct DueView {
    /// The bank.
    pub bank: String,
    /// Its site.
    pub site: String,
    /// Name of the bank within the site.
    pub name: String,
    /// What waiting does.
    pub consequence: Consequence,
    /// Its mark.
    pub condition: Condition,
    /// What.
    pub task: Task,
    /// Which one of its kind, for postponing.
    pub about: String,
    /// In words.
    pub said: SpokenDue,
    /// Due day.
    pub date: String,
    /// As said: "today", "Sat 10 Oct", "3 days late".
    pub day: String,
    /// True when it is over.
    pub late: bool,
    /// "4 h 30 min".
    pub minutes: String,
    /// Rows of cases for the small plan.
    pub mini: Vec<Vec<Vec<Condition>>>,
    /// An open visit.
    pub open_visit: Option<String>,
}

/// Today.
#[derive(Debug, Serialize, ToSchema)]
pub struct TodayPage {
    /// The day as said: "Thursday 8 October".
    pub day: String,
    /// The day.
    pub date: String,
    /// The one sentence.
    pub verdict: String,
    /// Banks that are looked after.
    pub banks: usize,
    /// Their cells.
    pub cells: usize,
    /// Items until the end of the strip, most pressing first.
    pub items: Vec<DueView>,
    /// How many there are in all.
    pub total: usize,
    /// What to load.
    pub van: VanView,
    /// The month ahead: at most twenty banks.
    pub strip: Vec<StripLine>,
    /// The days of the strip.
    #[serde(flatten)]
    pub calendar: StripCalendar,
    /// Who looks after banks here.
    pub keepers: Vec<String>,
    /// Regions.
    pub regions: Vec<String>,
    /// Duties.
    pub duties: Vec<String>,
    /// True when there is no bank yet.
    pub empty: bool,
}

/// "today", "tomorrow", "Sat 10 Oct", "3 days late".
fn day_said(day: Date, today: Date) -> String {
    match today.until(day).map_or(0, |s| s.get_days()) {
        0 => "today".into(),
        1 => "tomorrow".into(),
        -1 => "a day late".into(),
        late if late < 0 => {
            let days = -late;
            if days < 60 { format!("{days} days late") } else { format!("{} months late", days / 30) }
        }
        ahead if ahead > 300 => day.strftime("%-d %b %Y").to_string(),
        _ => day.strftime("%a %-d %b").to_string(),
    }
}

struct Known {
    row: BankListRow,
    model: BatteryModel,
    title: String,
}

fn title(row: &BankListRow) -> String {
    if row.bank.name.is_empty() {
        row.site_name.clone()
    } else {
        format!("{}, {}", row.site_name, row.bank.name)
    }
}

fn known(db: &Connection) -> Result<HashMap<String, Known>, DbError> {
    let models: HashMap<String, BatteryModel> =
        ModelRow::all(db)?.into_iter().map(|m| (m.id, m.model)).collect();
    let mut all = HashMap::new();
    for row in BankRow::list(db)?.into_iter().filter(|r| r.bank.archived_at.is_none()) {
        let Some(model) = models.get(&row.bank.model_id).cloned() else { continue };
        all.insert(row.bank.id.clone(), Known { title: title(&row), row, model });
    }
    Ok(all)
}

fn fits(filter: &Filter, known: &Known) -> bool {
    let same = |wanted: &str, own: &str| wanted.is_empty() || wanted == own;
    same(&filter.keeper, &known.row.bank.keeper)
        && same(&filter.region, &known.row.site_region)
        && same(&filter.duty, &known.row.bank.duty)
}

fn view(
    db: &Connection,
    row: &DueRow,
    known: &Known,
    today: Date,
    units: ReaderUnits,
) -> Result<DueView, DbError> {
    let reader = DueReader {
        construction: known.model.construction,
        cells: known.row.bank.shape.cell_count(),
        today,
        units,
    };
    let consequence = row.item.consequence_on(today);
    let sealed = if known.model.construction.has_caps() {
        None
    } else {
        super::sealed::sealed_state(db, &known.row.bank, today, units)?
    };
    Ok(DueView {
        bank: row.bank.clone(),
        site: known.row.site_name.clone(),
        name: known.row.bank.name.clone(),
        consequence,
        condition: consequence.condition(),
        task: row.item.task,
        about: row.item.about(),
        said: wording::due(&row.item, &reader),
        date: row.item.date.to_string(),
        day: day_said(row.item.date, today),
        late: row.item.date < today,
        minutes: wording::minutes(row.item.minutes),
        mini: super::banks::mini(db, &known.row, sealed.as_ref())?,
        open_visit: known.row.open_visit.clone(),
    })
}

fn read(db: &Connection, filter: &Filter, today: Date, units: ReaderUnits) -> Result<TodayPage, DbError> {
    let banks = known(db)?;
    let end = today.checked_add(strip::AHEAD.days()).unwrap_or(today);
    let mut rows: Vec<(DueRow, &Known)> = due::until(db, end, today)?
        .into_iter()
        .filter_map(|row| {
            let known = banks.get(&row.bank).filter(|k| fits(filter, k))?;
            Some((row, known))
        })
        .collect();
    // Overdue first within a consequence, then by date, then by the size of the bank.
    rows.sort_by(|(a, _), (b, _)| {
        let key = |row: &DueRow| (row.item.consequence_on(today), row.item.date);
        key(a).cmp(&key(b)).then(b.kwh.total_cmp(&a.kwh))
    });
    let pressing: Vec<(String, Consequence, Date)> = rows
        .iter()
        .map(|(row, k)| (k.title.clone(), row.item.consequence_on(today), row.item.date))
        .collect();
    let next = due::next_after(db, today)?;
    let items = rows
        .iter()
        .skip(filter.from)
        .take(PAGE)
        .map(|(row, known)| view(db, row, known, today, units))
        .collect::<Result<Vec<_>, _>>()?;
    let names = |pick: fn(&Known) -> &str| -> Vec<String> {
        let all: BTreeSet<&str> = banks.values().map(pick).filter(|n| !n.is_empty()).collect();
        all.into_iter().map(ToOwned::to_owned).collect()
    };
    let shown: Vec<&Known> = banks.values().filter(|k| fits(filter, k)).collect();
    Ok(TodayPage {
        day: today.strftime("%A %-d %B").to_string(),
        date: today.to_string(),
        verdict: wording::today_verdict(&pressing, next, today),
        banks: shown.len(),
        cells: shown.iter().map(|k| k.row.bank.shape.cell_count()).sum(),
        total: rows.len(),
        van: van::van(&rows, filter.load.as_deref(), today, units),
        strip: strip::strip(&rows, today),
        calendar: StripCalendar::of(today),
        items,
        keepers: names(|k| &k.row.bank.keeper),
        regions: names(|k| &k.row.site_region),
        duties: names(|k| &k.row.bank.duty),
        empty: banks.is_empty(),
    })
}

/// What is due, what to load, and the month ahead.
#[utoipa::path(
    get, path = "/api/today", operation_id = "get_today", params(Filter),
    responses((status = 200, body = TodayPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Query(filter): Query<Filter>,
    Reader(units): Reader,
) -> ApiResult<Json<TodayPage>> {
    refresh_due(&state, None).await?;
    let today = state.clock.today();
    Ok(Json(state.db.read(move |db| read(db, &filter, today, units)).await?))
}
