//! What a notebook would bring: what is taken, what is refused, what is asked about.

use super::{
    AskedField, NotebookCheck, NotebookQuery, NotebookRound, RefusedLine, TOLD, of_bank, readings_of,
    round_of,
};
use crate::app::notebook::NotebookBank;
use crate::formats::notebook::{Field, Notebook, OfBank};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit, VolumeUnit};
use rainshadow_core::round::{CellReading, CellRecord, RoundToJudge, RunningRound};
use rainshadow_core::wording;
use std::collections::BTreeSet;

/// RD-3 on every column by itself: what stands far from its mates, or outside the usual.
fn asked(notebook: &Notebook, bank: &NotebookBank, kept: &NotebookQuery) -> Vec<AskedField> {
    let mut all = Vec::new();
    let units = ReaderUnits { volume: kept.volume, ..ReaderUnits::default() };
    for column in &notebook.columns {
        for (what, figure) in of_bank::figures(column) {
            if let Ok(Some(question)) = of_bank::judged(what, figure, bank, kept) {
                all.push(AskedField {
                    date: column.heading(),
                    cell: format!("{what:?}").to_lowercase(),
                    found: figure.said(),
                    why: wording::entry_question(&question, units),
                });
            }
        }
        let round = round_of(&bank.row, &bank.site, "", column, (kept, &Actor::default()));
        let records = readings_of(&round, column).into_iter().filter_map(|r| {
            let reading = CellReading::Gravity { read: r.gravity? };
            Some(CellRecord { cell: r.cell, reading, temperature: None, stands: false })
        });
        let judged = RoundToJudge {
            shape: bank.row.shape.clone(),
            model: bank.model.clone(),
            rules: bank.rules.clone(),
            other_rules: Vec::new(),
            instrument: round.instrument,
            conditions: round.conditions,
            readings: records.collect(),
            past: Vec::new(),
            low_levels: Vec::new(),
        };
        for (cell, question) in RunningRound::new(&judged).open_questions() {
            let found = match column.cells.get(&cell) {
                Some(Field::Gravity(sg, _)) => sg.to_string(),
                _ => String::new(),
            };
            let why = wording::question(&question);
            all.push(AskedField { date: column.heading(), cell: cell.to_string(), found, why });
        }
    }
    all
}

/// What a table brings.
pub(super) fn view(notebook: &Notebook, bank: &NotebookBank, kept: &NotebookQuery) -> NotebookCheck {
    let asked = asked(notebook, bank, kept);
    NotebookCheck {
        rounds: notebook
            .columns
            .iter()
            .map(|c| NotebookRound {
                day: c.time.map_or_else(
                    || words::day(c.date),
                    |t| format!("{}, {}", words::day(c.date), t.strftime("%H:%M")),
                ),
                date: c.heading(),
                cells: c.cells.len(),
                temperature: c.temperature.as_ref().map(|t| {
                    let unit = if t.unit == TemperatureUnit::Fahrenheit { "°F" } else { "°C" };
                    format!("{} {unit}", t.typed)
                }),
                volts: c.volts.as_ref().map(|v| format!("{} V", v.typed)),
                water: c.water.as_ref().map(|w| match (w.unit, kept.volume) {
                    ("", VolumeUnit::Litre) => format!("{} L", w.typed),
                    ("", VolumeUnit::UsGallon) => format!("{} US gal", w.typed),
                    _ => w.said(),
                }),
            })
            .collect(),
        refused: notebook
            .refused
            .iter()
            .map(|r| RefusedLine {
                line: r.line,
                date: r.date.clone(),
                found: r.found.clone(),
                why: wording::stopped(&r.why),
            })
            .collect(),
        refused_more: notebook.more,
        asked_more: asked.len().saturating_sub(TOLD),
        asked: asked.into_iter().take(TOLD).collect(),
        cells_in_bank: bank.row.shape.cell_count(),
    }
}

/// Refuses volts and water that cannot be, and those of a day whose visit is here already.
pub(super) fn refuse_of_bank(
    notebook: &mut Notebook,
    bank: &NotebookBank,
    kept: &NotebookQuery,
    visited: &BTreeSet<Date>,
) {
    let mut refused: Vec<(String, OfBank, String)> = Vec::new();
    for column in &notebook.columns {
        for (what, figure) in of_bank::figures(column) {
            let why = if visited.contains(&column.date) {
                Some("this bank has a visit on that day already; write it down there".to_owned())
            } else {
                let judged = of_bank::judged(what, figure, bank, kept);
                judged.err().map(|e| e.faults().first().map_or_else(|| e.to_string(), |f| f.1.clone()))
            };
            let why = why.map(|why| why.trim_end_matches('.').to_owned());
            refused.extend(why.map(|why| (column.heading(), what, why)));
        }
    }
    for (heading, what, why) in refused {
        notebook.refuse_of_bank(&heading, what, why);
    }
}
