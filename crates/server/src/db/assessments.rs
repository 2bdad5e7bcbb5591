//! Derived rows: the judgement of every finished round by the revision of the rules, forgotten when an
//! input changes and derived anew when somebody asks.

use super::bank_lists::TITLE;
use super::derived::{bad, from_kept};
use super::error::{from_json, to_json};
use super::{BankRow, DbError, RoundRow, VisitRow, visit_entries};
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::quantity::{Points, SpecificGravity};
use rainshadow_core::revision::RULES_REVISION;
use rainshadow_core::round::{Assessment, PastCell, PastRound};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::Work;
use rusqlite::{Connection, OptionalExtension, Transaction};
use std::collections::HashMap;

/// One line of a bank's history.
#[derive(Debug, Clone, PartialEq)]
pub struct HistoryRow {
    /// The round.
    pub round: String,
    /// Condition of the bank then.
    pub condition: Severity,
    /// Median.
    pub centre: Option<f64>,
    /// Spread, points.
    pub spread: Option<f64>,
    /// Lowest cell.
    pub lowest: Option<String>,
    /// Its gravity.
    pub lowest_gravity: Option<f64>,
    /// Cells judged.
    pub cells_judged: u32,
    /// The sentence.
    pub verdict: String,
}

/// When the bank was equalized before an instant: by a run, or as noted on a visit.
fn equalizes_before(
    db: &Connection,
    bank: &str,
    before: jiff::Timestamp,
) -> Result<Vec<jiff::Timestamp>, DbError> {
    let mut runs = db.prepare_cached("SELECT ended_at FROM run WHERE bank_id = ?1 AND ended_at < ?2")?;
    let mut all = runs
        .query_map((bank, before.to_string()), |row| row.get::<_, String>(0))?
        .map(|row| super::error::instant(&row?))
        .collect::<Result<Vec<_>, _>>()?;
    let mut noted = db.prepare_cached(
        "SELECT DISTINCT v.id FROM visit_entry e JOIN visit v ON v.id = e.visit_id \
         WHERE v.bank_id = ?1 AND e.kind = 'done' AND json_extract(e.body, '$.work') = 'equalized'",
    )?;
    let visits = noted.query_map([bank], |row| row.get::<_, String>(0))?.collect::<Result<Vec<_>, _>>()?;
    for visit in visits {
        let sheet = visit_entries::sheet(db, &VisitRow::by_id(db, &visit)?)?;
        let stands = sheet.standing().filter(|e| e.entry.does(Work::Equalized) && e.taken_at < before);
        all.extend(stands.map(|e| e.taken_at));
    }
    Ok(all)
}

/// Earlier judged rounds of the bank without readings that were left in question, newest first, mapped to the places their blocks have now.
pub(crate) fn past(db: &Connection, bank: &BankRow, round: &RoundRow) -> Result<Vec<PastRound>, DbError> {
    let places: HashMap<String, BatteryAddress> =
        BankRow::placements(db, &bank.id)?.into_iter().map(|(place, block)| (block, place)).collect();
    let equalized = equalizes_before(db, &bank.id, round.started_at)?;
    let mut query = db.prepare_cached(
        "SELECT r.id, r.started_at, i.body, j.block_id, j.cell, j.corrected, j.deviation \
         FROM round r JOIN instrument i ON i.id = r.instrument_id JOIN judged_cell j ON j.round_id = r.id \
         WHERE r.bank_id = ?1 AND r.finished_at IS NOT NULL AND r.started_at < ?2 AND j.condition <> 're-read' \
         ORDER BY r.started_at DESC, r.id DESC",
    )?;
    let mut rows = query.query((&bank.id, round.started_at.to_string()))?;
    let mut all: Vec<PastRound> = Vec::new();
    let mut current = String::new();
    while let Some(row) = rows.next()? {
        let id = row.get_ref(0)?.as_str().unwrap_or_default();
        if id != current {
            id.clone_into(&mut current);
            let started = super::error::instant(&row.get::<_, String>(1)?)?;
            let instrument: rainshadow_core::instrument::Instrument =
                from_json("instrument", &row.get::<_, String>(2)?)?;
            all.push(PastRound {
                days_before: crate::words::days_between(started, round.started_at),
                instrument: instrument.kind,
                before_equalize: equalized.iter().any(|at| *at >= started),
                cells: Vec::with_capacity(bank.shape.cell_count()),
            });
        }
        let Some(battery) = places.get(row.get_ref(3)?.as_str().unwrap_or_default()) else { continue };
        let corrected =
            SpecificGravity::try_from(row.get::<_, f64>(5)?).map_err(|e| bad("judged cell", &bank.id, &e))?;
        if let Some(last) = all.last_mut() {
            last.cells.push(PastCell {
                cell: CellAddress { battery: *battery, cell: row.get(4)? },
                corrected,
                deviation: Points::new(row.get(6)?),
            });
        }
    }
    Ok(all)
}

/// The judgement of a finished round, if it is derived.
pub(crate) fn derived(db: &Connection, round: &str) -> Result<Option<Assessment>, DbError> {
    let kept: Option<(String, String)> = db
        .prepare_cached("SELECT bank_id, body FROM assessment WHERE round_id = ? AND rules_revision = ?")?
        .query_row((round, RULES_REVISION), |row| Ok((row.get(0)?, row.get(1)?)))
        .optional()?;
    kept.map(|(bank, body)| from_kept("judgement", &bank, &body)).transpose()
}

/// Deviations by block and cell.
pub(crate) type Deviations = HashMap<(String, u8), Points>;

/// Deviations of a judged round, cells in question left out.
pub(crate) fn deviations(db: &Connection, round: &str) -> Result<Deviations, DbError> {
    let mut query = db.prepare_cached(
        "SELECT block_id, cell, deviation FROM judged_cell WHERE round_id = ? AND condition <> 're-read'",
    )?;
    let rows = query.query_map([round], |row| Ok(((row.get(0)?, row.get(1)?), Points::new(row.get(2)?))))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Finished rounds of a bank whose judgement is missing, oldest first.
pub(crate) fn missing(db: &Connection, bank: &str) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT r.id FROM round r LEFT JOIN assessment a ON a.round_id = r.id AND a.rules_revision = ?2 \
         WHERE r.bank_id = ?1 AND r.finished_at IS NOT NULL AND a.round_id IS NULL ORDER BY r.started_at, r.id",
    )?;
    let rows = query.query_map((bank, RULES_REVISION), |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// The blocks that were read on a round, by the place they stood at.
fn blocks_read(db: &Connection, round: &RoundRow) -> Result<HashMap<BatteryAddress, String>, DbError> {
    let mut blocks: HashMap<BatteryAddress, String> =
        BankRow::placements_on(db, &round.bank_id, round.day())?.into_iter().collect();
    let stood = BankRow::blocks_on(db, &round.bank_id, round.day())?;
    let mut query = db.prepare_cached("SELECT DISTINCT block_id FROM reading WHERE round_id = ?")?;
    for block in query.query_map([&round.id], |row| row.get::<_, String>(0))? {
        let block = block?;
        // Read and swapped on one day: the reading belongs to the block that was read.
        if let Some(place) = stood.get(&block) {
            blocks.insert(*place, block);
        }
    }
    Ok(blocks)
}

/// Keeps the judgement of a finished round with its sentence.
pub(crate) fn keep(
    tx: &Transaction<'_>,
    round: &RoundRow,
    assessment: &Assessment,
    verdict: &str,
) -> Result<(), DbError> {
    let blocks = blocks_read(tx, round)?;
    tx.prepare_cached("DELETE FROM assessment WHERE round_id = ?")?.execute([&round.id])?;
    tx.prepare_cached(
        "INSERT INTO assessment (round_id, bank_id, rules_revision, condition, centre, spread, lowest, \
         lowest_gravity, cells_judged, verdict, body) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )?
    .execute((
        &round.id,
        &round.bank_id,
        RULES_REVISION,
        to_json("assessment", &assessment.condition)?,
        assessment.centre.map(SpecificGravity::value),
        assessment.spread.map(|s| s.points.value()),
        assessment.spread.map(|s| s.lowest.to_string()),
        assessment.spread.map(|s| s.lowest_gravity.value()),
        u32::try_from(assessment.cells_judged).unwrap_or(u32::MAX),
        verdict,
        to_json("assessment", assessment)?,
    ))?;
    let mut insert = tx.prepare_cached(
        "INSERT INTO judged_cell (round_id, block_id, cell, corrected, deviation, condition) VALUES (?, ?, ?, ?, ?, ?)",
    )?;
    for cell in &assessment.cells {
        let (Some(corrected), Some(deviation)) = (cell.corrected, cell.deviation) else { continue };
        let Some(block) = blocks.get(&cell.cell.battery) else { continue };
        insert.execute((
            &round.id,
            block,
            cell.cell.cell,
            corrected.value(),
            deviation.value(),
            cell.condition.word(),
        ))?;
    }
    Ok(())
}

/// Forgets every judgement.
pub(crate) fn forget_all(tx: &Transaction<'_>) -> Result<(), DbError> {
    tx.execute("DELETE FROM assessment", [])?;
    Ok(())
}

/// Forgets what older rules derived.
pub(crate) fn forget_older(db: &Connection) -> Result<(), DbError> {
    db.execute("DELETE FROM assessment WHERE rules_revision <> ?", [RULES_REVISION])?;
    Ok(())
}

/// The history of a bank, newest first.
pub fn history(db: &Connection, bank: &str) -> Result<Vec<HistoryRow>, DbError> {
    db.prepare_cached(
        "SELECT a.round_id, a.condition, a.centre, a.spread, a.lowest, a.lowest_gravity, a.cells_judged, a.verdict \
         FROM assessment a JOIN round r ON r.id = a.round_id WHERE a.bank_id = ? ORDER BY r.started_at DESC, r.id DESC",
    )?
    .query_map([bank], |row| {
        let condition: String = row.get(1)?;
        Ok((
            condition,
            HistoryRow {
                round: row.get(0)?,
                condition: Severity::NoReading,
                centre: row.get(2)?,
                spread: row.get(3)?,
                lowest: row.get(4)?,
                lowest_gravity: row.get(5)?,
                cells_judged: row.get(6)?,
                verdict: row.get(7)?,
            },
        ))
    })?
    .map(|row| {
        let (condition, row) = row?;
        Ok(HistoryRow { condition: from_kept("judgement", bank, &condition)?, ..row })
    })
    .collect()
}

/// One cell on one judged round.
pub(crate) struct CellRound {
    /// The round.
    pub round: RoundRow,
    /// Corrected gravity.
    pub corrected: f64,
    /// Deviation from the median, points.
    pub deviation: f64,
    /// Condition word.
    pub condition: String,
    /// Median of the bank then.
    pub centre: Option<f64>,
    /// Site and name of the bank, where the block stood in another one.
    pub elsewhere: Option<String>,
}

/// One cell of a block by round, oldest first, in whatever bank the block stood then.
pub(crate) fn cell_line(
    db: &Connection,
    block: &str,
    cell: u8,
    here: &str,
) -> Result<Vec<CellRound>, DbError> {
    let mut query = db.prepare_cached(&format!(
        "SELECT j.round_id, j.corrected, j.deviation, j.condition, a.centre, \
         CASE WHEN r.bank_id = ?3 THEN NULL ELSE {TITLE} END \
         FROM judged_cell j JOIN round r ON r.id = j.round_id LEFT JOIN assessment a ON a.round_id = r.id \
         JOIN bank b ON b.id = r.bank_id JOIN site s ON s.id = b.site_id \
         WHERE j.block_id = ?1 AND j.cell = ?2 ORDER BY r.started_at",
    ))?;
    let mut found = query.query((block, cell, here))?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        all.push(CellRound {
            round: RoundRow::by_id(db, &row.get::<_, String>(0)?)?,
            corrected: row.get(1)?,
            deviation: row.get(2)?,
            condition: row.get(3)?,
            centre: row.get(4)?,
            elsewhere: row.get(5)?,
        });
    }
    Ok(all)
}
