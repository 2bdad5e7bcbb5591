//! The page of one bank, in one request.

mod view;

use crate::app::rules::rules_of;
pub use view::BankPage;
pub use view::CellView;
use view::{HistoryLine, VisitLine};

use super::equalize::earlier_runs;
use super::lenses::lenses;
use super::trends::trends;
use crate::app::App;
use crate::app::bank_state::bank_state;
use crate::app::charger::equipment_judged;
use crate::app::due_told::VisitDue;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::app::replacements::changes_told;
use crate::app::standing::standing;
use crate::db::Connection;
use crate::db::came::came_after_volts;
use crate::db::visit_entries::past_visits;
use crate::db::{
    BankRow, DbError, HistoryRow, ModelRow, RoundRow, RunRow, Site, VisitRow, assessments, due, history,
    replacements, visit_entries,
};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::equipment::EquipmentJudged;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::{Assessment, JudgedCell, STEADY_POINTS};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{self};
use std::collections::HashMap;

/// Half-height of the steady band: as the round was judged, or the rule's before one was.
pub fn steady_points(judged: Option<&Assessment>) -> f64 {
    judged.map_or(STEADY_POINTS, |a| a.steady.used.value())
}

/// Three digits of a gravity: 1.263 is 263.
pub fn figure(gravity: rainshadow_core::quantity::SpecificGravity) -> String {
    gravity.to_string().chars().skip(2).collect()
}

/// A judged cell as it is drawn.
pub fn cell_view(cell: &JudgedCell) -> CellView {
    // A round that is kept and not judged still shows what was read.
    let shown = cell.corrected.or(cell.read);
    CellView {
        cell: cell.cell.to_string(),
        condition: cell.condition,
        figure: shown.map(figure).unwrap_or_default(),
        gravity: shown.map(|sg| sg.to_string()),
        deviation: cell.deviation.map(rainshadow_core::quantity::Points::value),
        deviation_text: cell.deviation.map(wording::signed),
        change_text: cell.change.map(wording::signed),
        state_of_charge: cell.state_of_charge.map(|p| format!("{p:.0}")),
        note: cell.off_scale.map(|float| wording::off_scale(float).to_owned()).or_else(|| cell.note.clone()),
    }
}

/// Verdicts of a history in the reader's units; kept are those in the units of the core.
fn in_units_of(
    db: &Connection,
    mut years: Vec<HistoryRow>,
    units: ReaderUnits,
) -> Result<Vec<HistoryRow>, DbError> {
    if units != ReaderUnits::default() {
        for row in &mut years {
            if let Some(judged) = assessments::derived(db, &row.round)? {
                row.verdict = wording::verdict(&judged, units);
            }
        }
    }
    Ok(years)
}

fn history_line(row: HistoryRow, rounds: &HashMap<String, RoundRow>) -> Option<HistoryLine> {
    let round = rounds.get(&row.round)?;
    let date = words::local_day(round.started_at, &round.zone);
    Some(HistoryLine {
        day: words::day(date),
        date: date.to_string(),
        condition: row.condition,
        median: row.centre,
        spread: row.spread,
        lowest_cell: row.lowest,
        lowest: row.lowest_gravity,
        cells: row.cells_judged,
        verdict: row.verdict,
        notebook: round.origin == crate::db::Origin::Notebook,
        person: round.by.initials.clone(),
        round: row.round,
    })
}

/// Whole visits, newest first, with what was done on them.
fn visit_lines(db: &Connection, id: &str) -> Result<Vec<VisitLine>, DbError> {
    let whole = VisitRow::of_bank(db, id)?.into_iter().rev().filter(|v| v.whole);
    let runs = RunRow::of_bank(db, id)?;
    whole
        .map(|v| {
            let sheet = visit_entries::sheet(db, &v)?;
            let mut done: Vec<String> =
                sheet.done().into_iter().map(|(work, _)| wording::work(work).to_owned()).collect();
            if runs.iter().any(|r| r.visit_id == v.id && r.equalized()) {
                done.push("equalized".into());
            }
            if sheet.water_added().any {
                done.push("watered".into());
            }
            done.extend(wording::visit_looks(&sheet).map(ToOwned::to_owned));
            done.extend(wording::found_and_put_right(&sheet.found_and_done()));
            Ok(VisitLine {
                day: words::day(v.day()),
                person: v.by.initials.clone(),
                open: v.ended_at.is_none(),
                done: done.join(", "),
                id: v.id,
            })
        })
        .collect()
}

/// "B5-2 sinks 18 points a year (12 to 25) over 9 rounds": the laggards of RD-6 by name.
fn laggards(judged: Option<&Assessment>) -> String {
    let said: Vec<String> = judged
        .iter()
        .flat_map(|a| a.cells.iter())
        .filter_map(|c| {
            let s = c.sinking?;
            Some(format!(
                "{} sinks {} points a year ({} to {}) over {} rounds",
                c.cell,
                s.points_per_year.abs(),
                s.at_least.abs(),
                s.at_most.abs(),
                s.rounds
            ))
        })
        .collect();
    if said.is_empty() { String::new() } else { format!("{}.", said.join("; ")) }
}

fn due_lines(db: &Connection, bank: &BankRow, reader: &wording::DueReader) -> Result<Vec<VisitDue>, DbError> {
    let rows = due::of_bank(db, &bank.id, reader.today)?;
    Ok(rows.into_iter().map(|row| VisitDue::of(&row, reader)).collect())
}

fn read(db: &Connection, id: &str, today: Date, units: ReaderUnits) -> Result<BankPage, DbError> {
    let bank = BankRow::by_id(db, id)?;
    let site = Site::by_id(db, &bank.site_id)?;
    let model = ModelRow::by_id(db, &bank.model_id)?;
    let rules = rules_of(db, &bank)?;
    let rounds = RoundRow::of_bank(db, id)?;
    let visits = past_visits(db, &bank)?;
    let open_round = rounds.iter().find(|r| r.finished_at.is_none()).map(|r| r.id.clone());
    let last = rounds.iter().find(|r| r.finished_at.is_some()).cloned();
    let stands = last.as_ref().map(|r| standing(db, r)).transpose()?.flatten();
    let evidence = match (&last, &stands) {
        (Some(round), Some(s)) => wording::evidence(&s.assessment, &s.input(db, round)?, units),
        _ => Vec::new(),
    };
    let came = match &stands {
        Some(s) => s.came.clone(),
        None => came_after_volts(db, id)?,
    };
    let came: Vec<String> = came.into_iter().map(came_said).collect();
    let judged: Option<Assessment> = stands.map(|s| s.assessment);
    let cells = match &judged {
        Some(assessment) => assessment.cells.iter().map(cell_view).collect(),
        None => bank.shape.cells().map(|cell| unread(&cell.to_string())).collect(),
    };
    let caps = model.construction.has_caps();
    let known = bank_state(db, &bank)?;
    let reader =
        wording::DueReader { construction: model.construction, cells: bank.shape.cell_count(), today, units };
    let audited = equipment_judged(db, &bank, &model)?;
    let by_id: HashMap<String, RoundRow> = rounds.into_iter().map(|r| (r.id.clone(), r)).collect();
    let years = in_units_of(db, history(db, id)?, units)?;
    let trends = trends(&years, &by_id, &visits, &bank, (&model, &rules), units);
    Ok(BankPage {
        description: wording::describe_bank(&bank.shape, &model),
        condition: known.condition,
        verdict: wording::bank_verdict(&known, &reader),
        evidence,
        corrected: judged.as_ref().map(|a| wording::correction_line(a, units)).unwrap_or_default(),
        doubts: judged
            .iter()
            .flat_map(|a| a.usability.doubts.iter().map(|d| wording::doubt(*d).to_owned()))
            .chain(came)
            .collect(),
        round_day: last.as_ref().map(|r| words::day(words::local_day(r.started_at, &r.zone))),
        round: last.map(|r| r.id),
        plan: bank.shape.plan(),
        cells,
        median_figure: judged.as_ref().and_then(|a| a.centre).map(|c| format!(".{}", figure(c))),
        steady_points: steady_points(judged.as_ref()),
        cell_doubt: judged.as_ref().filter(|a| a.centre.is_some()).map(|a| {
            let doubt = rainshadow_core::quantity::Points::new(2.0 * a.uncertainty.gravity.value());
            format!("±{doubt} points")
        }),
        findings: wording::speak_all(&known.findings, units),
        trends,
        laggards: laggards(judged.as_ref()),
        lenses: lenses(&visits, &bank, (&model, &rules), judged.as_ref(), units),
        stood: replacements::stood(db, id)?,
        changes: changes_told(db, &bank)?,
        visits: visit_lines(db, id)?,
        open_visit: VisitRow::open_of(db, id)?.map(|v| v.id),
        open_run: RunRow::open_of(db, id)?.map(|r| r.id),
        runs: earlier_runs(db, &bank)?,
        equalizes: model.setpoints.equalize.is_some(),
        charger: audited.as_ref().map(wording::equipment_verdict).unwrap_or_default(),
        charger_condition: audited.as_ref().map_or(Severity::NoReading, EquipmentJudged::condition),
        due: due_lines(db, &bank, &reader)?,
        history: years.into_iter().filter_map(|row| history_line(row, &by_id)).collect(),
        spread_limit: rules.balance_limits(&model).equalize.value(),
        house: rules.name,
        open_round,
        has_caps: caps,
        fill_mark: model.fill_mark.clone(),
        model_source: model.source.clone(),
        model_name: model.name.clone(),
        deletable: bank.archived_at.is_none() && BankRow::written_down(db, &bank.id)?.is_empty(),
        bank,
        site,
    })
}

/// A battery that came after the last round.
fn came_said((battery, day): (rainshadow_core::bank::BatteryAddress, Date)) -> String {
    format!("{battery} came on {}, after these readings, and has not been read yet.", words::day(day))
}

fn unread(cell: &str) -> CellView {
    CellView {
        cell: cell.to_owned(),
        condition: Severity::NoReading,
        figure: String::new(),
        gravity: None,
        deviation: None,
        deviation_text: None,
        change_text: None,
        state_of_charge: None,
        note: None,
    }
}

/// What a page of a bank is made of beside what is stored: the bank, the reader's units, the day.
pub type BankKey = (String, ReaderUnits, Date);

/// The page of a bank as text, made once for all who look.
pub struct BankPageText {
    /// Version of the bank, for If-Match.
    pub version: i64,
    /// Commits that there were before the first look at the database: what is committed meanwhile makes
    /// it stale.
    pub commits: u64,
    /// JSON.
    pub json: Vec<u8>,
}

/// Reads the page of a bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn bank_page(app: &App, key: BankKey) -> AppResult<BankPageText> {
    let shared = app.clone();
    let page = fresh::read(app, Wanted::Bank(key.0.clone()), move |db| {
        let commits = shared.db.commits();
        let (bank, units, today) = &key;
        let page = read(db, bank, *today, *units)?;
        let json =
            serde_json::to_vec(&page).map_err(|e| DbError::BadRow { what: "page", why: e.to_string() })?;
        Ok(BankPageText { version: page.bank.version, commits, json })
    });
    Ok(page.await?)
}
