//! Runs, equipment and the feed of a bank as they travel in a file.

use super::error::{from_json, to_json};
use super::{DbError, Fitted, PlannedRun, RunEntryRow, RunRow, Written};
use rainshadow_core::equalize::{EndWhy, RunEntry, RunKind};
use rainshadow_core::instrument::Instrument;
use rusqlite::{Connection, Transaction};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A version of the equipment of a bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct EquipmentRecord {
    /// Which version.
    pub version: i64,
    /// What it is.
    pub fitted: Fitted,
    /// As typed, JSON.
    pub typed: String,
    /// Who told it.
    pub person: String,
    /// When.
    pub at: String,
}

/// One entry of a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RunEntryRecord {
    /// Id.
    pub id: String,
    /// What.
    pub entry: RunEntry,
    /// As typed, JSON.
    pub typed: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When.
    pub at: String,
}

/// A watched cell by its block.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct WatchedRecord {
    /// The block.
    pub block: String,
    /// The cell in it.
    pub cell: u8,
}

/// A minute of the feed during a run: its columns in the order of the database.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FeedRecord {
    /// Minutes since 1970.
    pub minute: i64,
    /// Samples, marked, then low, sum and high of volts, amperes and temperature, and samples of that.
    pub columns: Vec<Option<f64>>,
}

/// A run with all that was written down.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RunRecord {
    /// Id.
    pub id: String,
    /// Its visit.
    pub visit: String,
    /// What it was for.
    pub kind: RunKind,
    /// When it was opened.
    pub opened_at: String,
    /// Zone of the site then.
    pub zone: String,
    /// What read the cells.
    pub instrument: Instrument,
    /// What it was planned with.
    pub plan: PlannedRun,
    /// Cells it was watched by, pilot first.
    pub watched: Vec<WatchedRecord>,
    /// Who stayed with it.
    pub person: String,
    /// On which device it was opened.
    pub device: String,
    /// When it was over.
    pub ended_at: Option<String>,
    /// Why.
    pub ended_why: Option<EndWhy>,
    /// The request as sent.
    pub sent: String,
    /// Entries in order.
    pub entries: Vec<RunEntryRecord>,
    /// The feed while it ran, by the minute.
    #[serde(default)]
    pub feed: Vec<FeedRecord>,
}

const FEED: &str = "samples, marked, volts_low, volts_sum, volts_high, amperes_low, amperes_sum, amperes_high, \
    celsius_low, celsius_sum, celsius_high, celsius_samples";

/// Every version of the equipment of a bank.
pub(super) fn equipment_records(db: &Connection, bank: &str) -> Result<Vec<EquipmentRecord>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT version, body, typed, person, at FROM equipment WHERE bank_id = ? ORDER BY version",
    )?;
    let rows = query.query_map([bank], |row| {
        let texts: [String; 4] = [row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?];
        Ok((row.get(0)?, texts))
    })?;
    rows.map(|row| {
        let (version, [body, typed, person, at]) = row?;
        Ok(EquipmentRecord { version, fitted: from_json("equipment", &body)?, typed, person, at })
    })
    .collect()
}

fn feed_of(db: &Connection, run: &RunRow) -> Result<Vec<FeedRecord>, DbError> {
    let minute = |at: jiff::Timestamp| at.as_millisecond().div_euclid(60_000);
    let last = run.ended_at.map_or(i64::MAX, minute);
    let sql = format!("SELECT minute, {FEED} FROM feed_minute WHERE bank_id = ? AND minute BETWEEN ? AND ?");
    db.prepare_cached(&sql)?
        .query_map((&run.bank_id, minute(run.opened_at), last), |row| {
            let columns = (1..13).map(|i| row.get(i)).collect::<Result<_, _>>()?;
            Ok(FeedRecord { minute: row.get(0)?, columns })
        })?
        .map(|row| Ok(row?))
        .collect()
}

/// Every run of a bank.
pub(super) fn run_records(db: &Connection, bank: &str) -> Result<Vec<RunRecord>, DbError> {
    RunRow::of_bank(db, bank)?
        .into_iter()
        .map(|run| {
            let entry = |e: RunEntryRow| RunEntryRecord {
                id: e.id,
                entry: e.entry,
                typed: e.typed,
                person: e.by.initials,
                device: e.by.device,
                at: e.at.to_string(),
            };
            Ok(RunRecord {
                entries: run.entries(db)?.into_iter().map(entry).collect(),
                feed: feed_of(db, &run)?,
                watched: run
                    .watched
                    .iter()
                    .map(|(block, cell)| WatchedRecord { block: block.clone(), cell: *cell })
                    .collect(),
                opened_at: run.opened_at.to_string(),
                ended_at: run.ended_at.map(|t| t.to_string()),
                id: run.id,
                visit: run.visit_id,
                kind: run.kind,
                zone: run.zone,
                instrument: run.instrument,
                plan: run.plan,
                person: run.by.initials,
                device: run.by.device,
                ended_why: run.ended_why,
                sent: run.sent,
            })
        })
        .collect()
}

impl EquipmentRecord {
    /// Stores it where that version is not there yet.
    pub(super) fn take_in(&self, tx: &Transaction<'_>, bank: &str) -> Result<Written, DbError> {
        let new = tx.execute(
            "INSERT OR IGNORE INTO equipment (bank_id, version, body, typed, person, at) VALUES (?, ?, ?, ?, ?, ?)",
            (bank, self.version, to_json("equipment", &self.fitted)?, &self.typed, &self.person, &self.at),
        )?;
        Ok(if new > 0 { Written::Created } else { Written::AlreadyThere })
    }
}

impl RunRecord {
    /// Stores what is not there yet.
    pub(super) fn take_in(&self, tx: &Transaction<'_>, bank: &str) -> Result<Written, DbError> {
        for at in std::iter::once(&self.opened_at).chain(&self.ended_at) {
            super::error::instant(at)?;
        }
        let why = self.ended_why.map(|why| to_json("end of a run", &why)).transpose()?;
        let mut new = tx.execute(
            "INSERT OR IGNORE INTO run (id, bank_id, visit_id, kind, opened_at, zone, instrument, plan, person, \
             device, ended_at, ended_why, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                self.id,
                bank,
                self.visit,
                to_json("kind of run", &self.kind)?,
                self.opened_at,
                self.zone,
                to_json("instrument", &self.instrument)?,
                to_json("plan of a run", &self.plan)?,
                self.person,
                self.device,
                self.ended_at,
                why,
                self.sent,
            ],
        )?;
        if RunRow::by_id(tx, &self.id)?.bank_id != bank {
            return Err(DbError::OtherBody { what: "run", id: self.id.clone() });
        }
        for (place, own) in (0i64..).zip(&self.watched) {
            new += tx.execute(
                "INSERT OR IGNORE INTO run_cell (run_id, place, block_id, cell) VALUES (?, ?, ?, ?)",
                (&self.id, place, &own.block, own.cell),
            )?;
        }
        for e in &self.entries {
            super::error::instant(&e.at)?;
            let sent = to_json("entry of a run", &(&e.entry, &e.typed, &e.person, &e.device))?;
            new += tx.execute(
                "INSERT OR IGNORE INTO run_entry (id, run_id, body, typed, person, device, at, sent) \
                 VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                (
                    &e.id,
                    &self.id,
                    to_json("entry of a run", &e.entry)?,
                    &e.typed,
                    &e.person,
                    &e.device,
                    &e.at,
                    sent,
                ),
            )?;
        }
        let sql = format!(
            "INSERT OR IGNORE INTO feed_minute (bank_id, minute, {FEED}) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
        );
        for f in &self.feed {
            let mut values: Vec<rusqlite::types::Value> = vec![bank.to_owned().into(), f.minute.into()];
            values.extend((0..12).map(|i| {
                let value = f.columns.get(i).copied().flatten();
                // Counts are whole numbers; the last column is one too.
                #[expect(clippy::cast_possible_truncation, reason = "a minute has few samples")]
                let counted = value.map(|v| v as i64);
                if matches!(i, 0 | 1 | 11) { counted.unwrap_or(0).into() } else { value.into() }
            }));
            new += tx.execute(&sql, rusqlite::params_from_iter(values))?;
        }
        Ok(if new > 0 { Written::Created } else { Written::AlreadyThere })
    }
}
