//! Rounds: opened, resumed, finished by one of several.

use super::error::{found, from_json, instant, to_json};
use super::log::actor;
use super::{Changed, DbError, Written};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::round::Conditions;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};

/// Where a round comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Origin {
    /// Taken with the application, cell by cell.
    Walked,
    /// From an old notebook or a file: dated, conditions mostly unknown.
    Notebook,
}

/// A round as it is opened, canonical, with what was sent beside it.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRound {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// The visit it was taken on, where it is known.
    pub visit: Option<String>,
    /// Where it comes from.
    pub origin: Origin,
    /// When it began.
    pub started_at: Timestamp,
    /// When it was finished, for one that is over.
    pub finished_at: Option<Timestamp>,
    /// Zone of the site.
    pub zone: String,
    /// What reads the cells.
    pub instrument: Instrument,
    /// Conditions.
    pub conditions: Conditions,
    /// True when the path is walked from its end.
    pub reversed: bool,
    /// Who, on which device.
    pub by: Actor,
    /// The request as sent, for telling the same body from another.
    pub sent: String,
    /// The opening as typed last, with its units; none where nobody typed it.
    pub typed: Option<String>,
}

/// A stored round.
#[derive(Debug, Clone, PartialEq)]
pub struct RoundRow {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank_id: String,
    /// Its visit.
    pub visit_id: String,
    /// Where it comes from.
    pub origin: Origin,
    /// When it began.
    pub started_at: Timestamp,
    /// When it was finished.
    pub finished_at: Option<Timestamp>,
    /// By whom, "initials on device".
    pub finished_by: Option<String>,
    /// Zone of the site then.
    pub zone: String,
    /// What read the cells.
    pub instrument: Instrument,
    /// Conditions.
    pub conditions: Conditions,
    /// True when walked from its end.
    pub reversed: bool,
    /// Counts finishing and edits, for If-Match.
    pub version: i64,
    /// Who, on which device.
    pub by: Actor,
    /// The request as sent.
    pub sent: String,
    /// The opening as typed last, with its units.
    pub typed: Option<String>,
}

const SELECT: &str = "SELECT r.id, r.bank_id, r.origin, r.started_at, r.finished_at, r.finished_by, r.zone, \
    i.body, r.conditions, r.reversed, r.version, r.person_id, r.person, r.device, r.sent, r.typed, r.visit_id \
    FROM round r JOIN instrument i ON i.id = r.instrument_id";

fn origin(text: &str) -> Result<Origin, DbError> {
    match text {
        "walked" => Ok(Origin::Walked),
        "notebook" => Ok(Origin::Notebook),
        other => Err(DbError::BadRow { what: "origin of a round", why: format!("“{other}” is none") }),
    }
}

/// A row with everything in it, or what of it cannot be read.
fn whole(row: &Row<'_>) -> Result<RoundRow, DbError> {
    let ended: Option<String> = row.get(4)?;
    Ok(RoundRow {
        id: row.get(0)?,
        bank_id: row.get(1)?,
        origin: origin(&row.get::<_, String>(2)?)?,
        started_at: instant(&row.get::<_, String>(3)?)?,
        finished_at: ended.as_deref().map(instant).transpose()?,
        finished_by: row.get(5)?,
        zone: row.get(6)?,
        instrument: from_json("instrument", &row.get::<_, String>(7)?)?,
        conditions: from_json("conditions", &row.get::<_, String>(8)?)?,
        reversed: row.get(9)?,
        version: row.get(10)?,
        by: actor(row, 11)?,
        sent: row.get(14)?,
        typed: row.get(15)?,
        visit_id: row.get(16)?,
    })
}

fn instrument_id(tx: &Transaction<'_>, instrument: Instrument) -> Result<i64, DbError> {
    let body = to_json("instrument", &instrument)?;
    tx.prepare_cached("INSERT INTO instrument (body) VALUES (?) ON CONFLICT (body) DO NOTHING")?
        .execute([&body])?;
    Ok(tx.query_row("SELECT id FROM instrument WHERE body = ?", [&body], |row| row.get(0))?)
}

impl RoundRow {
    /// The civil day of the round at its site.
    pub fn day(&self) -> jiff::civil::Date {
        crate::words::local_day(self.started_at, &self.zone)
    }

    /// Opens a round, on the open visit of its bank, else with a shell of its own.
    pub(crate) fn create(tx: &Transaction<'_>, new: &NewRound) -> Result<Written, DbError> {
        if let Some(before) = super::sent_before(tx, "round", &new.id)? {
            return super::same_or_conflict("round", &new.id, &before, &new.sent);
        }
        super::BankRow::by_id(tx, &new.bank)?;
        let (started, finished) = (new.started_at.to_string(), new.finished_at.map(|t| t.to_string()));
        let visit = Self::visit_for(tx, new)?;
        let origin = match new.origin {
            Origin::Walked => "walked",
            Origin::Notebook => "notebook",
        };
        tx.prepare_cached(
            "INSERT INTO round (id, bank_id, visit_id, origin, started_at, finished_at, zone, instrument_id, \
             conditions, reversed, version, person_id, person, device, sent, typed) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?, ?, ?)",
        )?
        .execute((
            &new.id,
            &new.bank,
            &visit,
            origin,
            &started,
            &finished,
            &new.zone,
            instrument_id(tx, new.instrument)?,
            to_json("conditions", &new.conditions)?,
            new.reversed,
            &new.by.id,
            &new.by.initials,
            &new.by.device,
            &new.sent,
            &new.typed,
        ))?;
        Ok(Written::Created)
    }

    /// The visit a round belongs to: the one named, the open one for a round walked now, else a
    /// shell of its own.
    fn visit_for(tx: &Transaction<'_>, new: &NewRound) -> Result<String, DbError> {
        if let Some(visit) = &new.visit {
            let visit = super::VisitRow::by_id(tx, visit)?;
            if visit.bank_id != new.bank {
                return Err(DbError::NotFound { what: "visit of this bank", id: visit.id });
            }
            return Ok(visit.id);
        }
        let open = super::VisitRow::open_of(tx, &new.bank)?;
        let during = |v: &super::VisitRow| {
            new.origin == Origin::Walked && new.finished_at.is_none() && new.started_at >= v.started_at
        };
        if let Some(visit) = open.filter(during) {
            return Ok(visit.id);
        }
        tx.prepare_cached(
            "INSERT INTO visit (id, bank_id, started_at, ended_at, zone, person_id, person, device) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        )?
        .execute((
            &new.id,
            &new.bank,
            new.started_at.to_string(),
            new.finished_at.map(|t| t.to_string()),
            &new.zone,
            &new.by.id,
            &new.by.initials,
            &new.by.device,
        ))?;
        Ok(new.id.clone())
    }

    /// Why a visit cannot be closed yet: a round on it in which something was read is open.
    pub(crate) fn open_on(db: &Connection, visit: &str) -> Result<Option<DbError>, DbError> {
        for round in Self::of_visit(db, visit)?.into_iter().filter(|r| r.finished_at.is_none()) {
            let read: u32 = db
                .prepare_cached(
                    "SELECT count(DISTINCT block_id || '-' || cell) FROM reading WHERE round_id = ?",
                )?
                .query_row([&round.id], |row| row.get(0))?;
            if read > 0 {
                return Ok(Some(DbError::RoundOpen { round: round.id, by: round.by.initials, read }));
            }
        }
        Ok(None)
    }

    /// Rounds of a visit, oldest first.
    pub(crate) fn of_visit(db: &Connection, visit: &str) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(&format!("{SELECT} WHERE r.visit_id = ? ORDER BY r.started_at, r.id"))?
            .query_map([visit], |row| Ok(whole(row)))?
            .map(|row| row?)
            .collect()
    }

    /// One round.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db
            .prepare_cached(&format!("{SELECT} WHERE r.id = ?"))?
            .query_row([id], |row| Ok(whole(row)))
            .optional()?;
        found(row, "round", id)?
    }

    /// Rounds of a bank, newest first.
    pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(&format!("{SELECT} WHERE r.bank_id = ? ORDER BY r.started_at DESC, r.id DESC"))?
            .query_map([bank], |row| Ok(whole(row)))?
            .map(|row| row?)
            .collect()
    }

    /// Changes conditions, instrument or direction of an open round.
    pub(crate) fn edit(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        change: &NewRound,
    ) -> Result<Changed<Self>, DbError> {
        let row = Self::by_id(tx, id)?;
        if row.version != version {
            return Ok(Changed::BySomebodyElse(row));
        }
        tx.execute(
            "UPDATE round SET conditions = ?, instrument_id = ?, reversed = ?, typed = ?, version = version + 1 \
             WHERE id = ?",
            (
                to_json("conditions", &change.conditions)?,
                instrument_id(tx, change.instrument)?,
                change.reversed,
                &change.typed,
                id,
            ),
        )?;
        super::forget::forget_since(tx, &row.bank_id, row.started_at)?;
        Ok(Changed::Done(Self::by_id(tx, id)?))
    }

    /// Finishes a round that still has the version the person saw.
    pub(crate) fn finish(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        by: &Actor,
        now: Timestamp,
    ) -> Result<Changed<Self>, DbError> {
        let (row, said) = (Self::by_id(tx, id)?, by.said());
        if row.finished_at.is_some() && row.finished_by.as_ref() == Some(&said) {
            return Ok(Changed::Done(row));
        }
        if row.version != version {
            return Ok(Changed::BySomebodyElse(row));
        }
        // A clock that was set back ends no round before it began.
        let end = now.max(row.started_at);
        tx.execute(
            "UPDATE round SET finished_at = ?, finished_by = ?, version = version + 1 WHERE id = ?",
            (end.to_string(), said, id),
        )?;
        tx.execute("UPDATE visit SET ended_at = ? WHERE id = ?", (end.to_string(), id))?;
        super::event(tx, now, by, "round finished", id)?;
        super::forget::forget_since(tx, &row.bank_id, row.started_at)?;
        Ok(Changed::Done(Self::by_id(tx, id)?))
    }
}

/// Mean electrolyte temperature of the rounds of a bank by visit, °C.
pub(super) fn temperatures(
    db: &Connection,
    bank: &str,
) -> Result<std::collections::HashMap<String, f64>, DbError> {
    let mut query = db.prepare_cached("SELECT visit_id, conditions FROM round WHERE bank_id = ?")?;
    let rows = query.query_map([bank], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?;
    let mut known = std::collections::HashMap::new();
    for row in rows {
        let (visit, conditions) = row?;
        let conditions: Conditions = from_json("conditions", &conditions)?;
        let any = rainshadow_core::bank::BatteryAddress { string: 0, battery: 1 };
        if let Some(t) = conditions.temperature_of(any) {
            known.insert(visit, t.celsius());
        }
    }
    Ok(known)
}

/// Minutes that the last rounds of a bank took, walked from end to end; a round left and taken up
/// again tells nothing of the work.
pub(crate) fn minutes_of_rounds(db: &Connection, bank: &str) -> Result<Vec<f64>, DbError> {
    /// A longer round was left and taken up again.
    const LONGEST: f64 = 300.0;
    /// Older habits are forgotten.
    const LAST: usize = 6;
    let mut query = db.prepare_cached(
        "SELECT started_at, finished_at FROM round WHERE bank_id = ? AND origin = 'walked' AND finished_at IS NOT NULL \
         ORDER BY started_at DESC",
    )?;
    let rows = query.query_map([bank], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?;
    let mut all = Vec::new();
    for row in rows.take(LAST) {
        let (from, to) = row?;
        let minutes = crate::words::days_between(instant(&from)?, instant(&to)?) * 1440.0;
        if (1.0..LONGEST).contains(&minutes) {
            all.push(minutes);
        }
    }
    Ok(all)
}
