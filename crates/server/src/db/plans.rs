//! Plans that were kept.

use super::error::{found, from_json, instant, to_json};
use super::{BankRow, DbError, Written};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A plan as it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct PlanRow {
    /// Id.
    pub id: String,
    /// Its bank; none: one that is not on the books.
    pub bank: Option<String>,
    /// The visit it is attached to.
    pub visit: Option<String>,
    /// Which planner, as a word.
    pub planner: String,
    /// Its name.
    pub name: String,
    /// What was set, by the key of its control.
    pub values: BTreeMap<String, String>,
    /// What each control began with then.
    pub begun: BTreeMap<String, String>,
    /// Unit of its temperatures, "C" or "F".
    pub unit: String,
    /// The sentence it came to.
    pub said: String,
    /// When it was kept.
    pub made_at: Timestamp,
    /// By whom.
    pub by: Actor,
}

const SELECT: &str = "SELECT id, bank_id, visit_id, planner, name, entries, begun, unit, said, made_at, person_id, \
    person, device FROM plan";

type Raw = (PlanRow, [String; 3]);

fn raw(row: &Row<'_>) -> rusqlite::Result<Raw> {
    let own = PlanRow {
        id: row.get(0)?,
        bank: row.get(1)?,
        visit: row.get(2)?,
        planner: row.get(3)?,
        name: row.get(4)?,
        values: BTreeMap::new(),
        begun: BTreeMap::new(),
        unit: row.get(7)?,
        said: row.get(8)?,
        made_at: Timestamp::UNIX_EPOCH,
        by: super::log::actor(row, 10)?,
    };
    Ok((own, [row.get(5)?, row.get(6)?, row.get(9)?]))
}

fn built((own, [values, begun, at]): Raw) -> Result<PlanRow, DbError> {
    Ok(PlanRow {
        values: from_json("plan", &values)?,
        begun: from_json("plan", &begun)?,
        made_at: instant(&at)?,
        ..own
    })
}

impl PlanRow {
    /// Keeps it; the one it replaces, if any, is thrown away.
    pub(crate) fn store(&self, tx: &Transaction<'_>, replaces: Option<&str>) -> Result<Written, DbError> {
        let values = to_json("plan", &self.values)?;
        let sent = to_json(
            "plan",
            &(
                &self.bank,
                &self.visit,
                &self.planner,
                &self.name,
                &self.values,
                &self.unit,
                replaces,
                self.by.said(),
            ),
        )?;
        if let Some(before) = super::sent_before(tx, "plan", &self.id)? {
            return super::same_or_conflict("plan", &self.id, &before, &sent);
        }
        if let Some(bank) = &self.bank {
            BankRow::by_id(tx, bank)?;
        }
        tx.execute(
            "INSERT INTO plan (id, bank_id, visit_id, planner, name, entries, begun, unit, said, made_at, person_id, \
             person, device, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                &self.id,
                &self.bank,
                &self.visit,
                &self.planner,
                &self.name,
                &values,
                to_json("plan", &self.begun)?,
                &self.unit,
                &self.said,
                self.made_at.to_string(),
                &self.by.id,
                &self.by.initials,
                &self.by.device,
                &sent
            ],
        )?;
        if let Some(old) = replaces {
            Self::withdraw(tx, old, self.made_at, &self.by)?;
        }
        Ok(Written::Created)
    }

    /// Throws it away.
    pub(crate) fn withdraw(
        tx: &Transaction<'_>,
        id: &str,
        now: Timestamp,
        by: &Actor,
    ) -> Result<(), DbError> {
        let stands = "SELECT withdrawn_at IS NULL FROM plan WHERE id = ?";
        let stands: Option<bool> = tx.query_row(stands, [id], |row| row.get(0)).optional()?;
        // A second time is no fault, and not told again.
        if found(stands, "plan", id)? {
            tx.execute("UPDATE plan SET withdrawn_at = ? WHERE id = ?", (now.to_string(), id))?;
            super::event(tx, now, by, "plan thrown away", id)?;
        }
        Ok(())
    }

    /// One that stands.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let mut query = db.prepare_cached(&format!("{SELECT} WHERE id = ? AND withdrawn_at IS NULL"))?;
        built(found(query.query_row([id], raw).optional()?, "plan", id)?)
    }

    /// Those of a bank, or of none, that stand, the last kept first.
    pub(crate) fn of_bank(db: &Connection, bank: Option<&str>) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(&format!(
            "{SELECT} WHERE bank_id IS ? AND withdrawn_at IS NULL ORDER BY made_at DESC, rowid DESC"
        ))?;
        let rows = query.query_map([bank], raw)?;
        rows.map(|row| built(row?)).collect()
    }

    /// Those attached to a visit that stand, the first kept first.
    pub(crate) fn of_visit(db: &Connection, visit: &str) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(&format!(
            "{SELECT} WHERE visit_id = ? AND withdrawn_at IS NULL ORDER BY made_at, rowid"
        ))?;
        let rows = query.query_map([visit], raw)?;
        rows.map(|row| built(row?)).collect()
    }
}

/// A kept plan as it travels with its bank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct PlanRecord {
    /// Id.
    pub id: String,
    /// The visit it is attached to.
    #[serde(default)]
    pub visit: Option<String>,
    /// Which planner, as a word.
    pub planner: String,
    /// Its name.
    pub name: String,
    /// What was set, by the key of its control.
    pub entries: BTreeMap<String, String>,
    /// What each control began with then.
    pub begun: BTreeMap<String, String>,
    /// Unit of its temperatures.
    pub unit: String,
    /// The sentence it came to.
    pub said: String,
    /// When it was kept.
    pub made_at: String,
    /// By whom.
    pub person: String,
    /// On which device.
    pub device: String,
    /// The request as sent.
    pub sent: String,
    /// When it was thrown away; none: it stands.
    #[serde(default)]
    pub withdrawn_at: Option<String>,
}

/// Every plan of a bank, those that were thrown away too.
pub(super) fn plan_records(db: &Connection, bank: &str) -> Result<Vec<PlanRecord>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT id, visit_id, planner, name, entries, begun, unit, said, made_at, person, device, sent, withdrawn_at \
         FROM plan WHERE bank_id = ? ORDER BY made_at, rowid",
    )?;
    let rows = query.query_map([bank], |row| {
        let own = PlanRecord {
            id: row.get(0)?,
            visit: row.get(1)?,
            planner: row.get(2)?,
            name: row.get(3)?,
            entries: BTreeMap::new(),
            begun: BTreeMap::new(),
            unit: row.get(6)?,
            said: row.get(7)?,
            made_at: row.get(8)?,
            person: row.get(9)?,
            device: row.get(10)?,
            sent: row.get(11)?,
            withdrawn_at: row.get(12)?,
        };
        Ok((own, [row.get::<_, String>(4)?, row.get(5)?]))
    })?;
    let read = |row: rusqlite::Result<(PlanRecord, [String; 2])>| {
        let (own, [entries, begun]) = row?;
        Ok(PlanRecord { entries: from_json("plan", &entries)?, begun: from_json("plan", &begun)?, ..own })
    };
    rows.map(read).collect()
}

impl PlanRecord {
    /// Stores it where it is not there yet.
    pub(super) fn take_in(&self, tx: &Transaction<'_>, bank: &str) -> Result<Written, DbError> {
        if super::is_here(tx, "plan", &self.id)? {
            return Ok(Written::AlreadyThere);
        }
        tx.execute(
            "INSERT INTO plan (id, bank_id, visit_id, planner, name, entries, begun, unit, said, made_at, person, device, sent, \
             withdrawn_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                &self.id,
                bank,
                &self.visit,
                &self.planner,
                &self.name,
                to_json("plan", &self.entries)?,
                to_json("plan", &self.begun)?,
                &self.unit,
                &self.said,
                &self.made_at,
                &self.person,
                &self.device,
                &self.sent,
                &self.withdrawn_at
            ],
        )?;
        Ok(Written::Created)
    }
}
