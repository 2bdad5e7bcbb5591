//! Visits: whole service calls, opened once a bank, taken up by anybody, closed by one of several.

use super::error::{found, instant};
use super::log::actor;
use super::{Changed, DbError, Written};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};

/// A visit as it is opened.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewVisit {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// When it began.
    pub started_at: Timestamp,
    /// When it ended, for one that is over.
    pub ended_at: Option<Timestamp>,
    /// Zone of the site.
    pub zone: String,
    /// Who, on which device.
    pub by: Actor,
    /// The request as sent.
    pub sent: String,
}

/// A stored visit.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct VisitRow {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank_id: String,
    /// When it began.
    pub started_at: Timestamp,
    /// When it was closed.
    pub ended_at: Option<Timestamp>,
    /// False for the shell of a round taken by itself.
    pub whole: bool,
    /// Zone of the site then.
    pub zone: String,
    /// Who, on which device.
    pub by: Actor,
    /// Counts closing and opening again, for If-Match.
    pub version: i64,
    /// The request as sent.
    pub sent: String,
    /// By whom it was closed, "initials on device".
    pub closed_by: Option<String>,
    /// What its report was printed from.
    pub report: Option<String>,
}

const SELECT: &str = "SELECT id, bank_id, started_at, ended_at, whole, zone, person_id, person, device, version, \
    sent, closed_by, report FROM visit";

/// A row with everything in it, or what of it cannot be read.
fn whole(row: &Row<'_>) -> Result<VisitRow, DbError> {
    let ended: Option<String> = row.get(3)?;
    Ok(VisitRow {
        id: row.get(0)?,
        bank_id: row.get(1)?,
        started_at: instant(&row.get::<_, String>(2)?)?,
        ended_at: ended.as_deref().map(instant).transpose()?,
        whole: row.get(4)?,
        zone: row.get(5)?,
        by: actor(row, 6)?,
        version: row.get(9)?,
        sent: row.get(10)?,
        closed_by: row.get(11)?,
        report: row.get(12)?,
    })
}

impl VisitRow {
    /// The civil day of the visit at its site.
    pub fn day(&self) -> Date {
        crate::words::local_day(self.started_at, &self.zone)
    }

    /// True for a visit of an earlier day that is typed later: it has a day and no hour, which is noon.
    pub fn is_typed_later(&self) -> bool {
        let began = self.started_at.to_zoned_datetime(crate::words::zone(&self.zone));
        began.time() == jiff::civil::time(12, 0, 0, 0)
    }

    /// Nothing is written down on a visit that is closed: its report is kept as it was.
    ///
    /// # Errors
    /// [`DbError::VisitClosed`] with who closed it and what to do.
    pub(crate) fn taking(&self) -> Result<(), DbError> {
        match self.ended_at.filter(|_| self.whole) {
            None => Ok(()),
            Some(at) => Err(DbError::VisitClosed {
                by: self.closed_by.clone().filter(|by| !by.is_empty()).unwrap_or_else(|| "Somebody".into()),
                at,
                zone: self.zone.clone(),
            }),
        }
    }

    /// Opens a visit; a bank has one open visit at most.
    pub(crate) fn create(tx: &Transaction<'_>, new: &NewVisit) -> Result<Written, DbError> {
        if let Some(before) = super::sent_before(tx, "visit", &new.id)? {
            return super::same_or_conflict("visit", &new.id, &before, &new.sent);
        }
        super::BankRow::by_id(tx, &new.bank)?;
        if let Some(open) = Self::open_of(tx, &new.bank)?.filter(|_| new.ended_at.is_none()) {
            return Err(DbError::VisitOpen {
                visit: open.id,
                by: open.by.initials,
                since: open.started_at,
                zone: open.zone,
            });
        }
        tx.prepare_cached(
            "INSERT INTO visit (id, bank_id, started_at, ended_at, whole, zone, person_id, person, device, sent) \
             VALUES (?, ?, ?, ?, 1, ?, ?, ?, ?, ?)",
        )?
        .execute((
            &new.id,
            &new.bank,
            new.started_at.to_string(),
            new.ended_at.map(|t| t.to_string()),
            &new.zone,
            &new.by.id,
            &new.by.initials,
            &new.by.device,
            &new.sent,
        ))?;
        Ok(Written::Created)
    }

    /// One visit.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db
            .prepare_cached(&format!("{SELECT} WHERE id = ?"))?
            .query_row([id], |row| Ok(whole(row)))
            .optional()?;
        found(row, "visit", id)?
    }

    /// The open visit of a bank.
    pub(crate) fn open_of(db: &Connection, bank: &str) -> Result<Option<Self>, DbError> {
        db.prepare_cached(&format!("{SELECT} WHERE bank_id = ? AND whole = 1 AND ended_at IS NULL"))?
            .query_row([bank], |row| Ok(whole(row)))
            .optional()?
            .transpose()
    }

    /// Every open visit, on any bank.
    pub(crate) fn all_open(db: &Connection) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(&format!("{SELECT} WHERE whole = 1 AND ended_at IS NULL ORDER BY started_at, id"))?
            .query_map([], |row| Ok(whole(row)))?
            .map(|row| row?)
            .collect()
    }

    /// Visits of a bank, oldest first; the shells of rounds taken by themselves are among them.
    pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(&format!("{SELECT} WHERE bank_id = ? ORDER BY started_at, id"))?
            .query_map([bank], |row| Ok(whole(row)))?
            .map(|row| row?)
            .collect()
    }

    /// Closes a visit that still has the version the person saw, and keeps what its report says.
    pub(crate) fn close(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        by: &Actor,
        report: &str,
        now: Timestamp,
    ) -> Result<Changed<Self>, DbError> {
        let (row, said) = (Self::by_id(tx, id)?, by.said());
        if row.ended_at.is_some() && row.closed_by.as_ref() == Some(&said) {
            return Ok(Changed::Done(row));
        }
        if row.version != version {
            return Ok(Changed::BySomebodyElse(row));
        }
        tx.execute(
            "UPDATE visit SET ended_at = ?, closed_by = ?, report = ?, version = version + 1 WHERE id = ?",
            // A clock that was set back ends no visit before it began.
            (now.max(row.started_at).to_string(), said, report, id),
        )?;
        super::event(tx, now, by, "visit closed", id)?;
        Ok(Changed::Done(Self::by_id(tx, id)?))
    }

    /// Opens a closed visit again, for what was forgotten.
    pub(crate) fn reopen(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        by: &Actor,
        now: Timestamp,
    ) -> Result<Changed<Self>, DbError> {
        let row = Self::by_id(tx, id)?;
        if row.version != version {
            return Ok(Changed::BySomebodyElse(row));
        }
        if let Some(open) = Self::open_of(tx, &row.bank_id)?.filter(|o| o.id != row.id) {
            return Err(DbError::VisitOpen {
                visit: open.id,
                by: open.by.initials,
                since: open.started_at,
                zone: open.zone,
            });
        }
        tx.execute(
            "UPDATE visit SET ended_at = NULL, closed_by = NULL, report = NULL, version = version + 1 WHERE id = ?",
            [id],
        )?;
        super::event(tx, now, by, "visit opened again", id)?;
        Ok(Changed::Done(Self::by_id(tx, id)?))
    }

    /// Throws a visit away in which nothing was written down; one that is closed has a report, and stays.
    pub(crate) fn discard(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
        Self::by_id(tx, id)?.taking()?;
        let holds: u32 = tx.query_row(
            "SELECT (SELECT count(*) FROM visit_entry WHERE visit_id = ?1 AND kind <> 'only') + (SELECT count(*) FROM photo WHERE visit_id = ?1) \
             + (SELECT count(*) FROM round WHERE visit_id = ?1) + (SELECT count(*) FROM run WHERE visit_id = ?1) \
             + (SELECT count(*) FROM plan WHERE visit_id = ?1 AND withdrawn_at IS NULL)",
            [id],
            |row| row.get(0),
        )?;
        if holds > 0 {
            return Err(DbError::VisitHolds { things: holds });
        }
        // Which step it was to be for is all that stands in it.
        tx.execute("DELETE FROM visit_entry WHERE visit_id = ?", [id])?;
        tx.execute("DELETE FROM visit WHERE id = ?", [id])?;
        Ok(())
    }
}

/// Minutes from the first level or water noted on a visit to the last, newest first. Shorter than two
/// minutes it was one entry for the whole bank, or typed from a sheet; longer it was left and taken up
/// again.
pub(crate) fn minutes_of_fills(db: &Connection, bank: &str) -> Result<Vec<f64>, DbError> {
    const POSSIBLE: std::ops::Range<f64> = 2.0..300.0;
    /// Older habits are forgotten.
    const LAST: i64 = 6;
    let mut query = db.prepare_cached(
        "SELECT min(e.taken_at), max(e.taken_at) FROM visit v JOIN visit_entry e ON e.visit_id = v.id \
         WHERE v.bank_id = ? AND v.whole = 1 AND v.ended_at IS NOT NULL AND e.kind IN ('level', 'water') \
         GROUP BY v.id HAVING count(*) > 2 ORDER BY v.started_at DESC LIMIT ?",
    )?;
    let mut found = query.query((bank, LAST))?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let (from, to): (String, String) = (row.get(0)?, row.get(1)?);
        let days = crate::words::days_between(instant(&from)?, instant(&to)?);
        all.extend(Some(days * 1440.0).filter(|minutes| POSSIBLE.contains(minutes)));
    }
    Ok(all)
}
