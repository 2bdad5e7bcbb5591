//! A round while it is taken, and what a typed figure would mean.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

mod entry;

pub use entry::EntryView;
use entry::entry_view;

use super::bank::{CellView, cell_view};
use crate::app::App;
use crate::app::refused::AppResult;
use crate::app::typed::round::OpenRound;
use crate::db::Connection;
use crate::db::{BankRow, DbError, RoundRow, Site, readings};
use crate::words;
use rainshadow_core::bank::{CellAddress, Plan, walk};
use rainshadow_core::quantity::typed;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::round::{RoundEntry, RoundToJudge, RunningRound, judge};
use rainshadow_core::wording::signed;
use rainshadow_core::wording::{self, Evidence, SpokenFinding};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::{IntoParams, ToSchema};

/// One cell of a round.
#[derive(Debug, Serialize, ToSchema)]
pub struct RoundCell {
    /// As drawn.
    pub view: CellView,
    /// Where it is, for a person at the bank.
    pub place: String,
    /// "electrolyte 22 °C": what corrects a reading here.
    pub temperature: String,
    /// The entry that stands, if the cell has one.
    pub entry: Option<EntryView>,
    /// All entries, oldest first: nothing is overwritten.
    pub entries: Vec<EntryView>,
    /// Why it is in question.
    pub question: Option<String>,
    /// Lowest reading as shown that would raise no question.
    pub unquestioned_low: f64,
    /// Highest reading as shown that would raise no question.
    pub unquestioned_high: f64,
}

/// A round.
#[derive(Debug, Serialize, ToSchema)]
pub struct RoundPage {
    /// Id.
    pub id: String,
    /// Bank.
    pub bank: String,
    /// The whole visit it was taken on; none for a round taken by itself.
    pub visit: Option<String>,
    /// Site.
    pub site: String,
    /// Bank's name.
    pub name: String,
    /// In words.
    pub description: String,
    /// Day as said.
    pub day: String,
    /// Version, for If-Match.
    pub version: i64,
    /// True when finished.
    pub finished: bool,
    /// By whom.
    pub finished_by: Option<String>,
    /// The opening as typed, for editing; none for a notebook round.
    pub opened: Option<OpenRound>,
    /// Over the round: "13 of 24 read, all steady so far."
    pub progress: String,
    /// The verdict as it stands.
    pub verdict: String,
    /// Cells with an entry.
    pub read: usize,
    /// "corrected to 25 °C".
    pub corrected: String,
    /// Figures.
    pub evidence: Vec<Evidence>,
    /// What is not known, as sentences.
    pub doubts: Vec<String>,
    /// The bank from above.
    pub plan: Plan,
    /// Cells along the path.
    pub path: Vec<String>,
    /// Cells by address in electrical order.
    pub cells: Vec<RoundCell>,
    /// Median as drawn: ".258".
    pub median_figure: Option<String>,
    /// Half-height of the steady band, points.
    pub steady_points: f64,
    /// What was found so far.
    pub findings: Vec<SpokenFinding>,
    /// The last entry of the asking device that can be taken back.
    pub undo: Option<EntryView>,
    /// Its cell.
    pub undo_cell: Option<String>,
}

fn build(
    db: &Connection,
    app: &App,
    id: &str,
    device: &str,
    units: ReaderUnits,
) -> Result<RoundPage, DbError> {
    let row = RoundRow::by_id(db, id)?;
    let bank = BankRow::by_id(db, &row.bank_id)?;
    let site = Site::by_id(db, &bank.site_id)?;
    let model = bank.model_on(db, row.day())?;
    let rows = readings::of_round(db, &row)?;
    let mut round = RoundToJudge::clone(&*app.context(db, &row)?);
    round.readings = RoundEntry::records(&rows);
    let assessment = judge(&round);
    let running = RunningRound::new(&round);
    let mut by_cell: HashMap<CellAddress, Vec<EntryView>> = HashMap::new();
    for entry in &rows {
        by_cell.entry(entry.cell).or_default().push(entry_view(entry));
    }
    let cells = assessment
        .cells
        .iter()
        .map(|cell| {
            let entries = by_cell.remove(&cell.cell).unwrap_or_default();
            let range = running.unquestioned(cell.cell);
            RoundCell {
                view: cell_view(cell),
                place: wording::place(cell.cell, &round.shape),
                temperature: wording::electrolyte(&round, cell.cell, units),
                entry: entries.iter().rev().find(|e| e.standing).cloned(),
                entries,
                question: cell.question.as_ref().map(wording::question),
                unquestioned_low: range.low.value(),
                unquestioned_high: range.high.value(),
            }
        })
        .collect();
    let plan = round.shape.plan();
    let undo = rows.iter().rev().find(|r| r.standing && r.by.device == device);
    Ok(RoundPage {
        visit: Some(row.visit_id.clone()).filter(|v| *v != row.id),
        description: wording::describe_bank(&bank.shape, &model),
        day: words::day(words::local_day(row.started_at, &row.zone)),
        version: row.version,
        finished: row.finished_at.is_some(),
        finished_by: row.finished_by.clone(),
        opened: row.typed.as_deref().and_then(|typed| serde_json::from_str(typed).ok()),
        progress: wording::progress(&assessment, round.readings.len()),
        verdict: wording::verdict(&assessment, units),
        read: round.readings.len(),
        corrected: wording::correction_line(&assessment, units),
        evidence: wording::evidence(&assessment, &round, units),
        doubts: assessment.usability.doubts.iter().map(|d| wording::doubt(*d).to_owned()).collect(),
        path: walk(&plan, row.reversed).iter().map(ToString::to_string).collect(),
        plan,
        cells,
        median_figure: assessment.centre.map(|c| format!(".{}", super::bank::figure(c))),
        steady_points: super::bank::steady_points(Some(&assessment)),
        findings: assessment.findings.iter().map(|f| wording::speak(f, units)).collect(),
        undo: undo.map(entry_view),
        undo_cell: undo.map(|r| r.cell.to_string()),
        id: row.id,
        bank: bank.id,
        site: site.name,
        name: bank.name,
    })
}

/// Reads the page of a round.
pub async fn round_page(app: &App, id: String, device: String, units: ReaderUnits) -> AppResult<RoundPage> {
    let shared = app.clone();
    Ok(app.db.read(move |db| build(db, &shared, &id, &device, units)).await?)
}

/// A figure being typed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Typing {
    /// The cell.
    pub cell: String,
    /// As typed so far.
    pub typed: String,
    /// Temperature taken at this cell, as typed.
    #[serde(default)]
    pub temperature: Option<String>,
    /// Its unit.
    #[serde(default)]
    pub unit: TemperatureUnit,
}

/// One earlier value of a cell.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastValue {
    /// Days ago.
    pub days: f64,
    /// Its day as said.
    pub day: String,
    /// Corrected then.
    pub gravity: f64,
}

/// What a figure being typed would mean.
#[derive(Debug, Serialize, ToSchema)]
pub struct PreviewView {
    /// As understood: "1.241".
    pub read: Option<String>,
    /// What is wrong with it, when it is not understood.
    pub error: Option<String>,
    /// Corrected: "1.239".
    pub corrected: Option<String>,
    /// Corrected, as a number for drawing.
    pub corrected_value: Option<f64>,
    /// What correction added: "−2".
    pub correction: Option<String>,
    /// Median of the mates so far.
    pub median: Option<String>,
    /// Deviation from it: "−19".
    pub deviation: Option<String>,
    /// Deviation, points, for drawing.
    pub deviation_value: Option<f64>,
    /// This cell's last gravity.
    pub last: Option<String>,
    /// Its day as said: "24 Sep 2026".
    pub last_day: Option<String>,
    /// Change since then: "−17".
    pub change: Option<String>,
    /// Its last rounds, oldest first.
    pub past: Vec<PastValue>,
    /// Spread so far without this cell: "13".
    pub spread_without: Option<String>,
    /// Spread with it: "25".
    pub spread: Option<String>,
    /// Lowest with it: "1.239 at A4-2".
    pub lowest: Option<String>,
    /// Why it would be questioned.
    pub question: Option<String>,
}

/// Rounds shown in a cell's small line.
const PAST_SHOWN: usize = 6;

fn preview_of(row: &RoundRow, round: &RoundToJudge, cell: CellAddress, typing: &Typing) -> PreviewView {
    let day_before = |days: f64| words::day(words::day_before(row.started_at, days, &row.zone));
    let mut past: Vec<PastValue> = round
        .past
        .iter()
        .filter_map(|r| {
            r.cell(cell).map(|c| PastValue {
                days: r.days_before,
                day: day_before(r.days_before),
                gravity: c.corrected.value(),
            })
        })
        .take(PAST_SHOWN)
        .collect();
    past.reverse();
    let last = round.past.iter().find_map(|r| r.cell(cell).map(|c| (r.days_before, c.corrected)));
    let mut view = PreviewView {
        read: None,
        error: None,
        corrected: None,
        corrected_value: None,
        correction: None,
        median: None,
        deviation: None,
        deviation_value: None,
        last: last.map(|(_, sg)| sg.to_string()),
        last_day: last.map(|(days, _)| day_before(days)),
        change: None,
        past,
        spread_without: None,
        spread: None,
        lowest: None,
        question: None,
    };
    let temperature = typing.temperature.as_deref().filter(|t| !t.trim().is_empty());
    let temperature = match temperature.map(|t| typed::temperature(t, typing.unit)).transpose() {
        Ok(t) => t,
        Err(error) => {
            view.error = Some(format!("{error}."));
            return view;
        }
    };
    let read = match typed::gravity(&typing.typed) {
        Ok(read) => read,
        // Digits still being typed are not yet wrong.
        Err(typed::EntryError::TooShort { .. } | typed::EntryError::Empty { .. }) => return view,
        Err(error) => {
            view.error = Some(format!("{error}."));
            return view;
        }
    };
    let p = RunningRound::new(round).preview(cell, read, temperature);
    view.read = Some(read.to_string());
    view.corrected = Some(p.corrected.to_string());
    view.corrected_value = Some(p.corrected.value());
    view.correction = Some(signed(p.correction));
    view.median = p.median.map(|m| m.to_string());
    view.deviation = p.deviation.map(signed);
    view.deviation_value = p.deviation.map(rainshadow_core::quantity::Points::value);
    view.change = last.map(|(_, sg)| signed(p.corrected - sg));
    view.spread_without = p.spread_without.map(|s| s.points.to_string());
    view.spread = p.spread.map(|s| s.points.to_string());
    view.lowest = p.spread.map(|s| format!("{} at {}", s.lowest_gravity, s.lowest));
    view.question = p.question.as_ref().map(wording::question);
    view
}

/// What a figure being typed would mean; nothing is stored.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn preview_reading(
    app: &App,
    id: String,
    cell: CellAddress,
    typing: Typing,
) -> AppResult<PreviewView> {
    let shared = app.clone();
    let preview = app.db.read(move |db| {
        let row = RoundRow::by_id(db, &id)?;
        let mut round = RoundToJudge::clone(&*shared.context(db, &row)?);
        round.readings = readings::records_of(db, &row)?;
        Ok(preview_of(&row, &round, cell, &typing))
    });
    Ok(preview.await?)
}
