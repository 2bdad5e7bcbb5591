//! Runs of an equalize: opened once a bank, written into by anybody, over by an entry.

use super::error::{found, from_json, instant, to_json};
use super::log::{LogRow, actor};
use super::{BankRow, DbError, VisitRow, Written};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::equalize::{EndWhy, LoggedEntry, RunEntry, RunKind, RunPlan, RunToPlan};
use rainshadow_core::instrument::Instrument;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// What a run was planned with.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct PlannedRun {
    /// What was asked for.
    pub asked: RunToPlan,
    /// The plan.
    pub plan: RunPlan,
    /// Volts to turn the charger down to when it stops.
    pub float: f64,
    /// What was typed into the charger, V; none: not told.
    #[serde(default)]
    pub set_to: Option<f64>,
}

/// A run as it is opened.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRun {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Its visit.
    pub visit: String,
    /// What it is for.
    pub kind: RunKind,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Zone of the site.
    pub zone: String,
    /// What reads the cells.
    pub instrument: Instrument,
    /// What it was planned with.
    pub plan: PlannedRun,
    /// Cells it is watched by, pilot first; none on sealed batteries.
    pub watched: Vec<CellAddress>,
    /// Who, on which device.
    pub by: Actor,
    /// The request as sent.
    pub sent: String,
}

/// A stored run.
#[derive(Debug, Clone, PartialEq)]
pub struct RunRow {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank_id: String,
    /// Its visit.
    pub visit_id: String,
    /// What it is for.
    pub kind: RunKind,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Zone of the site then.
    pub zone: String,
    /// What reads the cells.
    pub instrument: Instrument,
    /// What it was planned with.
    pub plan: PlannedRun,
    /// Who, on which device.
    pub by: Actor,
    /// When it was over.
    pub ended_at: Option<Timestamp>,
    /// Why.
    pub ended_why: Option<EndWhy>,
    /// The request as sent.
    pub sent: String,
    /// Cells it is watched by, as block and cell, pilot first.
    pub watched: Vec<(String, u8)>,
}

/// One entry of a run as it is stored.
#[derive(Debug, Clone, PartialEq)]
pub struct RunEntryRow {
    /// Its id.
    pub id: String,
    /// What.
    pub entry: RunEntry,
    /// As typed, JSON; none where nothing is typed.
    pub typed: Option<String>,
    /// Who, on which device.
    pub by: Actor,
    /// When, by the clock of the server.
    pub at: Timestamp,
}

const SELECT: &str = "SELECT id, bank_id, visit_id, kind, opened_at, zone, instrument, plan, \
    ended_at, ended_why, sent, person_id, person, device FROM run";

type Raw = ([String; 8], Option<String>, Option<String>, String, Actor);

fn raw(row: &Row<'_>) -> rusqlite::Result<Raw> {
    let mut texts: [String; 8] = Default::default();
    for (i, text) in texts.iter_mut().enumerate() {
        *text = row.get(i)?;
    }
    Ok((texts, row.get(8)?, row.get(9)?, row.get(10)?, actor(row, 11)?))
}

fn built(db: &Connection, (texts, ended_at, ended_why, sent, by): Raw) -> Result<RunRow, DbError> {
    let [id, bank_id, visit_id, kind, opened_at, zone, instrument, plan] = texts;
    let watched = db
        .prepare_cached("SELECT block_id, cell FROM run_cell WHERE run_id = ? ORDER BY place")?
        .query_map([&id], |row| Ok((row.get(0)?, row.get(1)?)))?
        .collect::<Result<_, _>>()?;
    Ok(RunRow {
        kind: from_json("kind of run", &kind)?,
        opened_at: instant(&opened_at)?,
        instrument: from_json("instrument", &instrument)?,
        plan: from_json("plan of a run", &plan)?,
        ended_at: ended_at.as_deref().map(instant).transpose()?,
        ended_why: ended_why.as_deref().map(|w| from_json("end of a run", w)).transpose()?,
        watched,
        id,
        bank_id,
        visit_id,
        zone,
        by,
        sent,
    })
}

impl RunRow {
    /// Its civil day at the site.
    pub fn day(&self) -> Date {
        crate::words::local_day(self.opened_at, &self.zone)
    }

    /// Opens a run; a bank has one that is not over at most.
    pub(crate) fn create(tx: &Transaction<'_>, new: &NewRun) -> Result<Written, DbError> {
        if let Some(before) = super::sent_before(tx, "run", &new.id)? {
            return super::same_or_conflict("run", &new.id, &before, &new.sent);
        }
        let bank = BankRow::by_id(tx, &new.bank)?;
        if let Some(open) = Self::open_of(tx, &new.bank)? {
            return Err(open.under_way());
        }
        let visit = VisitRow::by_id(tx, &new.visit)?;
        if visit.bank_id != bank.id {
            return Err(DbError::NotFound { what: "visit of this bank", id: visit.id });
        }
        tx.execute(
            "INSERT INTO run (id, bank_id, visit_id, kind, opened_at, zone, instrument, plan, person_id, person, device, \
             sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                &new.id,
                &new.bank,
                &new.visit,
                to_json("kind of run", &new.kind)?,
                new.opened_at.to_string(),
                &new.zone,
                to_json("instrument", &new.instrument)?,
                to_json("plan of a run", &new.plan)?,
                &new.by.id,
                &new.by.initials,
                &new.by.device,
                &new.sent,
            ),
        )?;
        let day = crate::words::local_day(new.opened_at, &new.zone);
        let blocks: HashMap<BatteryAddress, String> =
            BankRow::placements_on(tx, &new.bank, day)?.into_iter().collect();
        for (place, cell) in (0i64..).zip(&new.watched) {
            let block = blocks
                .get(&cell.battery)
                .ok_or_else(|| DbError::NoSuchPlace { bank: bank.name.clone(), address: cell.to_string() })?;
            tx.execute(
                "INSERT INTO run_cell (run_id, place, block_id, cell) VALUES (?, ?, ?, ?)",
                (&new.id, place, block, cell.cell),
            )?;
        }
        Ok(Written::Created)
    }

    /// The refusal of what cannot be done while it is under way.
    pub(crate) fn under_way(self) -> DbError {
        DbError::RunOpen { run: self.id, by: self.by.initials, since: self.opened_at, zone: self.zone }
    }

    /// One run.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db.prepare_cached(&format!("{SELECT} WHERE id = ?"))?.query_row([id], raw).optional()?;
        built(db, found(row, "run", id)?)
    }

    /// The run of a bank that is not over.
    pub(crate) fn open_of(db: &Connection, bank: &str) -> Result<Option<Self>, DbError> {
        let row = db
            .prepare_cached(&format!("{SELECT} WHERE bank_id = ? AND ended_at IS NULL"))?
            .query_row([bank], raw)
            .optional()?;
        row.map(|row| built(db, row)).transpose()
    }

    /// Every run that is not over, on any bank.
    pub(crate) fn open(db: &Connection) -> Result<Vec<Self>, DbError> {
        let mut query =
            db.prepare_cached(&format!("{SELECT} WHERE ended_at IS NULL ORDER BY opened_at, id"))?;
        let rows: Vec<Raw> = query.query_map([], raw)?.collect::<Result<_, _>>()?;
        rows.into_iter().map(|row| built(db, row)).collect()
    }

    /// Runs of a bank, oldest first.
    pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(&format!("{SELECT} WHERE bank_id = ? ORDER BY opened_at, id"))?;
        let rows: Vec<Raw> = query.query_map([bank], raw)?.collect::<Result<_, _>>()?;
        rows.into_iter().map(|row| built(db, row)).collect()
    }

    /// Runs of a visit, oldest first.
    pub(crate) fn of_visit(db: &Connection, visit: &VisitRow) -> Result<Vec<Self>, DbError> {
        let all = Self::of_bank(db, &visit.bank_id)?;
        Ok(all.into_iter().filter(|run| run.visit_id == visit.id).collect())
    }

    /// Where its watched cells are, by where blocks stand.
    pub(crate) fn watched_at(
        &self,
        places: &HashMap<String, BatteryAddress>,
    ) -> impl Iterator<Item = CellAddress> {
        self.watched
            .iter()
            .filter_map(|(block, cell)| Some(CellAddress { battery: *places.get(block)?, cell: *cell }))
    }

    /// Where its watched cells stood on its day; a cell whose block is unknown there is left out.
    pub(crate) fn cells(&self, db: &Connection) -> Result<Vec<CellAddress>, DbError> {
        let places = BankRow::blocks_on(db, &self.bank_id, self.day())?;
        Ok(self.watched_at(&places).collect())
    }

    /// Appends an entry and keeps in step whether it is over. `ended` is what the log says once the
    /// entry stands in it.
    pub(crate) fn append(
        &self,
        tx: &Transaction<'_>,
        new: &RunEntryRow,
        ended: Option<(Timestamp, EndWhy)>,
    ) -> Result<Written, DbError> {
        let sent = to_json("entry of a run", &(&new.entry, &new.typed, &new.by.initials, &new.by.device))?;
        let row = LogRow {
            table: "run_entry",
            what: "entry of a run",
            owner: ("run_id", &self.id),
            id: &new.id,
            by: &new.by,
            sent: &sent,
            own: &[
                ("body", &to_json("entry of a run", &new.entry)?),
                ("typed", &new.typed),
                ("at", &new.at.to_string()),
            ],
        };
        if row.append(tx)? == Written::AlreadyThere {
            return Ok(Written::AlreadyThere);
        }
        let why = ended.map(|(_, why)| to_json("end of a run", &why)).transpose()?;
        tx.prepare_cached("UPDATE run SET ended_at = ?, ended_why = ? WHERE id = ?")?.execute((
            ended.map(|(at, _)| at.to_string()),
            why,
            &self.id,
        ))?;
        super::forget::forget_since(tx, &self.bank_id, self.opened_at)?;
        Ok(Written::Created)
    }

    /// Throws a run away, its entries with it.
    pub(crate) fn discard(&self, tx: &Transaction<'_>) -> Result<(), DbError> {
        tx.execute("DELETE FROM run WHERE id = ?", [&self.id])?;
        Ok(())
    }

    /// True when an entry with this id was stored before.
    pub(crate) fn has_entry(db: &Connection, id: &str) -> Result<bool, DbError> {
        Ok(db.prepare_cached("SELECT 1 FROM run_entry WHERE id = ?")?.exists([id])?)
    }

    /// Its entries in the order received.
    pub(crate) fn entries(&self, db: &Connection) -> Result<Vec<RunEntryRow>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT id, body, at, typed, person_id, person, device FROM run_entry WHERE run_id = ? ORDER BY seq",
        )?;
        let rows = query.query_map([&self.id], |row| {
            let texts: [String; 3] = [row.get(0)?, row.get(1)?, row.get(2)?];
            Ok((texts, row.get(3)?, actor(row, 4)?))
        })?;
        rows.map(|row| {
            let ([id, body, at], typed, by) = row?;
            Ok(RunEntryRow { id, entry: from_json("entry of a run", &body)?, typed, by, at: instant(&at)? })
        })
        .collect()
    }

    /// Hours from its opening to an instant, by the machine's clock.
    pub fn hours_at(&self, at: Timestamp) -> f64 {
        at.duration_since(self.opened_at).as_secs_f64() / 3600.0
    }

    /// The instant so many hours after its opening.
    pub fn instant_at(&self, hours: f64) -> Timestamp {
        let span = jiff::SignedDuration::try_from_secs_f64(hours * 3600.0).unwrap_or_default();
        self.opened_at.checked_add(span).unwrap_or(self.opened_at)
    }

    /// Its entries as the core counts by them.
    pub fn log(&self, entries: &[RunEntryRow]) -> Vec<LoggedEntry> {
        entries
            .iter()
            .map(|e| LoggedEntry { id: e.id.clone(), at: self.hours_at(e.at), entry: e.entry.clone() })
            .collect()
    }

    /// True when it ended by the rule or at its cap: that is an equalize. One that was cut short is not.
    pub fn equalized(&self) -> bool {
        matches!(self.ended_why, Some(EndWhy::Rule | EndWhy::Cap))
    }

    /// True when a bank was equalized after an instant: what a round before it asked for is answered, and
    /// the next round reads the answer.
    pub(crate) fn equalized_since(db: &Connection, bank: &str, since: Timestamp) -> Result<bool, DbError> {
        let after = |run: &Self| run.equalized() && run.ended_at.is_some_and(|end| end > since);
        Ok(Self::of_bank(db, bank)?.iter().any(after))
    }

    /// Day of the last run of a bank that was an equalize.
    pub(crate) fn last_equalize(db: &Connection, bank: &str) -> Result<Option<Date>, DbError> {
        Ok(Self::of_bank(db, bank)?.into_iter().filter(Self::equalized).map(|run| run.day()).max())
    }
}
