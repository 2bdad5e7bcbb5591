//! Today: what is due on every bank, what to load, what lies ahead.

use super::run_lines::{RunLine, open_lines};
use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::app::unreadable::UnreadableBank;
use crate::db::Connection;
use crate::db::{BankBrief, BankRow, DbError, DueLine, due};
use item::{DueView, Pages};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::Consequence;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeSet, HashMap};
use strip::{StripCalendar, StripLine};
use utoipa::{IntoParams, ToSchema};
use van::VanView;

mod item;
mod strip;
mod van;

/// Items on one page.
const PAGE: usize = 60;

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
    pub cells: u32,
    /// Runs of an equalize that are not over: a stop that is missed harms the bank.
    pub runs: Vec<RunLine>,
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
    /// Banks that cannot be shown, with why.
    pub unreadable: Vec<UnreadableBank>,
}

/// What is due with its bank.
type Line<'a> = (DueLine, &'a BankBrief);

fn fits(filter: &Filter, bank: &BankBrief) -> bool {
    let same = |wanted: &str, own: &str| wanted.is_empty() || wanted == own;
    same(&filter.keeper, &bank.keeper) && same(&filter.region, &bank.region) && same(&filter.duty, &bank.duty)
}

/// What is due until a day on the banks asked for, most pressing first.
fn pressing<'a>(
    db: &Connection,
    banks: &'a HashMap<String, BankBrief>,
    filter: &Filter,
    (today, end): (Date, Date),
) -> Result<Vec<Line<'a>>, DbError> {
    let mut lines: Vec<Line<'a>> = due::lines(db, end, today)?
        .into_iter()
        .filter_map(|line| {
            let bank = banks.get(&line.bank).filter(|b| fits(filter, b))?;
            Some((line, bank))
        })
        .collect();
    // Overdue first within a consequence, then by date, then by the size of the bank.
    lines.sort_by(|(a, _), (b, _)| {
        (a.consequence, a.date)
            .cmp(&(b.consequence, b.date))
            .then(b.kwh.total_cmp(&a.kwh))
            .then_with(|| (&a.bank, a.place).cmp(&(&b.bank, b.place)))
    });
    Ok(lines)
}

fn read(
    db: &Connection,
    filter: &Filter,
    (today, now): (Date, jiff::Timestamp),
    units: ReaderUnits,
) -> Result<TodayPage, DbError> {
    let banks = BankRow::brief(db)?;
    let end = today.checked_add(strip::AHEAD.days()).unwrap_or(today);
    let lines = pressing(db, &banks, filter, (today, end))?;
    let said: Vec<(&str, Consequence, Date)> =
        lines.iter().map(|(line, bank)| (bank.title.as_str(), line.consequence, line.date)).collect();
    let next = due::next_after(db, today)?;
    let shown_lines = lines.get(filter.from.min(lines.len())..).unwrap_or_default();
    let shown_lines = shown_lines.get(..PAGE.min(shown_lines.len())).unwrap_or_default();
    let trips = van::trips(&lines, filter.load.as_deref(), today);
    let whole: BTreeSet<&str> = shown_lines
        .iter()
        .map(|(line, _)| line.bank.as_str())
        .chain(trips.iter().filter(|t| t.chosen).map(|t| t.bank.as_str()))
        .collect();
    let rows = due::items(db, &whole, end, today)?;
    let mut pages = Pages::new(db, today, units);
    let items = shown_lines
        .iter()
        .filter_map(|(line, _)| rows.get(&(line.bank.clone(), line.place)))
        .map(|row| pages.view(row))
        .collect::<Result<Vec<_>, _>>()?;
    let names = |pick: fn(&BankBrief) -> &str| -> Vec<String> {
        let all: BTreeSet<&str> = banks.values().map(pick).filter(|n| !n.is_empty()).collect();
        all.into_iter().map(ToOwned::to_owned).collect()
    };
    let shown: Vec<&BankBrief> = banks.values().filter(|b| fits(filter, b)).collect();
    Ok(TodayPage {
        runs: open_lines(db, now, units)?,
        day: today.strftime("%A %-d %B").to_string(),
        date: today.to_string(),
        verdict: wording::today_verdict(&said, next, today),
        banks: shown.len(),
        cells: shown.iter().map(|b| b.cells).sum(),
        total: lines.len(),
        van: van::van(db, trips, &rows, &banks, units)?,
        strip: strip::strip(&lines, today),
        calendar: StripCalendar::of(today),
        items,
        keepers: names(|b| &b.keeper),
        regions: names(|b| &b.region),
        duties: names(|b| &b.duty),
        empty: banks.is_empty(),
        unreadable: Vec::new(),
    })
}

/// Reads what is due on every bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn today_page(app: &App, filter: Filter, units: ReaderUnits) -> AppResult<TodayPage> {
    let at = (app.clock.today(), app.clock.now());
    let shared = app.clone();
    let page = fresh::read(app, Wanted::All, move |db| {
        let page = read(db, &filter, at, units)?;
        Ok(TodayPage { unreadable: shared.unreadable.told(db)?, ..page })
    });
    Ok(page.await?)
}
