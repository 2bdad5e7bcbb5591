//! Today: what is due on every bank, what to load, what lies ahead; reminders and postponing.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, Reader, written};
use super::state::AppState;
use crate::db::{
    BankListRow, BankRow, DbError, DueRow, ModelRow, NewPostponement, NewReminder, due, reminder_done,
};
use axum::Json;
use axum::extract::{Query, State};
use axum::http::StatusCode;
use axum::response::Response;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::Volume;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Condition;
use rainshadow_core::schedule::{Consequence, Task, Why};
use rainshadow_core::visit::{GearGroup, Trip, van_load};
use rainshadow_core::wording::{self, DueReader, SpokenDue};
use rusqlite::Connection;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use utoipa::{IntoParams, ToSchema};

/// Days of the strip ahead.
const AHEAD: i64 = 31;
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

/// Water for one bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanWater {
    /// Site.
    pub site: String,
    /// In the reader's unit.
    pub said: String,
}

/// A thing in the van.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanThing {
    /// What for.
    pub group: GearGroup,
    /// The thing.
    pub what: String,
    /// Where it is needed; empty: everywhere.
    pub whereto: String,
}

/// A bank that can be driven to.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanTrip {
    /// The bank.
    pub bank: String,
    /// Its site and name.
    pub site: String,
    /// True when it is loaded for.
    pub chosen: bool,
}

/// What to load.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanView {
    /// Water to carry as a figure: "5.0".
    pub water: String,
    /// Its unit: "litres of distilled water".
    pub unit: String,
    /// Water by bank, P90 of its forecast.
    pub by_bank: Vec<VanWater>,
    /// A quarter spare.
    pub spare: String,
    /// Things.
    pub things: Vec<VanThing>,
    /// Banks with something due, chosen or not.
    pub trips: Vec<VanTrip>,
}

/// One mark in the strip of the month.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripMark {
    /// Days from today.
    pub offset: i32,
    /// Its mark.
    pub condition: Condition,
    /// In a word or two.
    pub said: String,
}

/// One line of the strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripLine {
    /// The bank.
    pub bank: String,
    /// Site and name.
    pub site: String,
    /// Marks by day.
    pub marks: Vec<StripMark>,
}

/// Where a month begins in the strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripMonth {
    /// Days from today.
    pub offset: i32,
    /// Its name.
    pub name: String,
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
    /// Weekends in the strip, days from today.
    pub weekends: Vec<i32>,
    /// Days of the strip as written: day of the month.
    pub days: Vec<String>,
    /// Months over the strip.
    pub months: Vec<StripMonth>,
    /// Who looks after banks here.
    pub keepers: Vec<String>,
    /// Regions.
    pub regions: Vec<String>,
    /// Duties.
    pub duties: Vec<String>,
    /// True when there is no bank yet.
    pub empty: bool,
}

fn mark(consequence: Consequence) -> Condition {
    match consequence {
        Consequence::Harm => Condition::Act,
        Consequence::Loss => Condition::Watch,
        Consequence::Routine => Condition::Steady,
    }
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

/// A task in a word or two.
pub fn short_task(task: Task) -> &'static str {
    match task {
        Task::CoverPlates => "cover plates",
        Task::SuspectCell => "suspect cell",
        Task::SeenFinding => "put right",
        Task::Water => "water",
        Task::Round => "round",
        Task::Equalize => "equalize",
        Task::Charge => "charging",
        Task::RetorqueAndClean => "retorque",
        Task::LoadTest => "load test",
        Task::StandbyWet | Task::StandbyFrost => "standby check",
        Task::StorageCheck => "storage check",
        Task::KitInspection => "look behind kit",
        Task::Reminder => "reminder",
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
        condition: mark(consequence),
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

fn van(rows: &[(DueRow, &Known)], filter: &Filter, today: Date, units: ReaderUnits) -> VanView {
    let soon = today.checked_add(3.days()).unwrap_or(today);
    let mut by_bank: BTreeMap<&str, (&Known, Vec<&DueRow>)> = BTreeMap::new();
    for (row, known) in rows {
        by_bank.entry(&row.bank).or_insert((known, Vec::new())).1.push(row);
    }
    let asked: Option<BTreeSet<&str>> =
        filter.load.as_deref().map(|ids| ids.split(',').filter(|id| !id.is_empty()).collect());
    let chosen = |bank: &str, due: &[&DueRow]| match &asked {
        Some(ids) => ids.contains(bank),
        None => due.iter().any(|row| row.item.date <= soon),
    };
    let mut trips = Vec::new();
    let mut waters = Vec::new();
    let mut loaded: Vec<(&Known, Vec<Task>, f64, Vec<String>)> = Vec::new();
    for (bank, (known, due)) in &by_bank {
        let take = chosen(bank, due);
        trips.push(VanTrip { bank: (*bank).to_owned(), site: known.title.clone(), chosen: take });
        if !take {
            continue;
        }
        let tasks: Vec<Task> = due.iter().map(|row| row.item.task).collect();
        let water = due.iter().map(|row| row.water).fold(0.0, f64::max);
        let mut spares: Vec<String> = due
            .iter()
            .filter_map(|row| match &row.item.why {
                Why::Seen { spare, .. } if !spare.is_empty() => Some(spare.clone()),
                _ => None,
            })
            .collect();
        spares.dedup();
        if water > 0.0 {
            let said = Volume::from_millilitres(water.min(100_000.0))
                .map(|v| units.say_volume(v))
                .unwrap_or_default();
            waters.push(VanWater { site: known.title.clone(), said });
        }
        loaded.push((known, tasks, water, spares));
    }
    trips.sort_by(|a, b| a.site.cmp(&b.site));
    let drives: Vec<Trip<'_>> = loaded
        .iter()
        .map(|(known, tasks, water, spares)| Trip {
            site: &known.title,
            construction: known.model.construction,
            tasks,
            water: *water,
            spares,
        })
        .collect();
    let load = van_load(&drives);
    let (figure, unit) = match units.volume {
        rainshadow_core::quantity::units::VolumeUnit::Litre => {
            (format!("{:.1}", (load.water / 500.0).ceil() / 2.0), "litres of distilled water")
        }
        rainshadow_core::quantity::units::VolumeUnit::UsGallon => (
            format!(
                "{:.1}",
                (load.water / rainshadow_core::quantity::units::MILLILITRES_PER_US_GALLON * 10.0).ceil()
                    / 10.0
            ),
            "US gallons of distilled water",
        ),
    };
    VanView {
        water: figure,
        unit: unit.into(),
        by_bank: waters,
        spare: Volume::from_millilitres(load.spare.min(100_000.0))
            .map(|v| units.say_volume(v))
            .unwrap_or_default(),
        things: load
            .gear
            .into_iter()
            .map(|g| VanThing { group: g.group, what: g.what, whereto: g.whereto })
            .collect(),
        trips,
    }
}

fn strip(rows: &[(DueRow, &Known)], today: Date) -> Vec<StripLine> {
    const LINES: usize = 20;
    let mut lines: Vec<StripLine> = Vec::new();
    for (row, known) in rows {
        // What is late stands on today.
        let offset = today.until(row.item.date).map_or(0, |s| s.get_days()).max(0);
        let mark = StripMark {
            offset,
            condition: mark(row.item.consequence_on(today)),
            said: short_task(row.item.task).into(),
        };
        match lines.iter().position(|l| l.bank == row.bank) {
            // One mark a day: the list is in order of consequence, so the first is the worst.
            Some(at) if lines[at].marks.iter().any(|m| m.offset == offset) => {}
            Some(at) => lines[at].marks.push(mark),
            None if lines.len() < LINES => {
                lines.push(StripLine {
                    bank: row.bank.clone(),
                    site: known.title.clone(),
                    marks: vec![mark],
                });
            }
            None => {}
        }
    }
    for line in &mut lines {
        line.marks.sort_by_key(|m| m.offset);
    }
    lines
}

fn read(db: &Connection, filter: &Filter, today: Date, units: ReaderUnits) -> Result<TodayPage, DbError> {
    let banks = known(db)?;
    let end = today.checked_add(AHEAD.days()).unwrap_or(today);
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
    let dates: Vec<Date> = (0..=AHEAD).filter_map(|d| today.checked_add(d.days()).ok()).collect();
    let offsets = |wanted: &dyn Fn(&Date) -> bool| -> Vec<i32> {
        (0i32..).zip(&dates).filter(|(_, d)| wanted(d)).map(|(i, _)| i).collect()
    };
    let weekend =
        |d: &Date| matches!(d.weekday(), jiff::civil::Weekday::Saturday | jiff::civil::Weekday::Sunday);
    let month = |offset: i32, day: Date| StripMonth { offset, name: day.strftime("%B").to_string() };
    let mut months = vec![month(0, today)];
    for i in offsets(&|d| d.day() == 1 && *d != today) {
        let day = dates.get(usize::try_from(i).unwrap_or(0)).copied().unwrap_or(today);
        months.push(month(i, day));
    }
    Ok(TodayPage {
        day: today.strftime("%A %-d %B").to_string(),
        date: today.to_string(),
        verdict: wording::today_verdict(&pressing, next, today),
        banks: shown.len(),
        cells: shown.iter().map(|k| k.row.bank.shape.cell_count()).sum(),
        total: rows.len(),
        van: van(&rows, filter, today, units),
        strip: strip(&rows, today),
        weekends: offsets(&weekend),
        days: dates.iter().map(|d| d.day().to_string()).collect(),
        months,
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

/// A day as typed.
fn day(text: &str, field: &str) -> ApiResult<Date> {
    text.trim().parse().map_err(|_parse| {
        let said = format!("“{text}” is no day; accepted is year, month and day, as 2026-10-08.");
        ApiError::field(field, said)
    })
}

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
    /// Who.
    pub person: String,
}

/// Adds a reminder of one's own.
#[utoipa::path(
    put, path = "/api/reminders/{id}", operation_id = "put_reminder", params(("id" = String, Path)),
    request_body = SentReminder, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn put_reminder(
    State(state): State<AppState>,
    Id(id): Id,
    Body(sent): Body<SentReminder>,
) -> ApiResult<Response> {
    let reminder = NewReminder {
        bank: super::extract::uuid(&sent.bank, "bank")?,
        day: day(&sent.day, "day")?,
        text: said(&sent.text, "text", "A reminder")?,
        person: sent.person.trim().to_owned(),
    };
    Ok(written(state.write(move |tx| reminder.store(tx, &id)).await?))
}

/// Says that a reminder is done.
#[utoipa::path(
    post, path = "/api/reminders/{id}/done", operation_id = "reminder_done", params(("id" = String, Path)),
    request_body = super::rounds::By, responses((status = 204), (status = "default", body = Problem))
)]
pub async fn done(
    State(state): State<AppState>,
    Id(id): Id,
    Body(by): Body<super::rounds::By>,
) -> ApiResult<StatusCode> {
    state.write(move |tx| reminder_done(tx, &id, &by.person)).await?;
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
    /// Who.
    pub person: String,
}

/// Puts something off, with a reason.
#[utoipa::path(
    put, path = "/api/postponements/{id}", operation_id = "put_postponement", params(("id" = String, Path)),
    request_body = SentPostponement, responses((status = 201), (status = 200), (status = "default", body = Problem))
)]
pub async fn postpone(
    State(state): State<AppState>,
    Id(id): Id,
    Body(sent): Body<SentPostponement>,
) -> ApiResult<Response> {
    let (from, until) = (day(&sent.from, "from")?, day(&sent.until, "until")?);
    let today = state.clock.today();
    if until <= today || until <= from {
        return Err(ApiError::field("until", "Put off to a day after today and after the day it is due."));
    }
    if today.until(until).map_or(0, |s| s.get_days()) > 366 {
        return Err(ApiError::field(
            "until",
            "Put off by a year at most; longer than that is a change of the house rules.",
        ));
    }
    let put_off = NewPostponement {
        bank: super::extract::uuid(&sent.bank, "bank")?,
        task: sent.task,
        of: sent.about.clone(),
        from,
        until,
        reason: said(&sent.reason, "reason", "The reason")?,
        person: sent.person.trim().to_owned(),
    };
    Ok(written(state.write(move |tx| put_off.store(tx, &id)).await?))
}
