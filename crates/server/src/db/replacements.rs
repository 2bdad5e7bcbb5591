//! Batteries are replaced, or two change places; history follows the block.

use super::error::{found, from_json, to_json};
use super::taken_out::said_day;
use super::{BankRow, DbError, Written, taken_out};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::replacing::{Gone, UsedBattery};
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// What happened to a battery.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ChangeKind {
    /// The old one out, a new one in.
    Replaced,
    /// Two change places.
    Swapped,
}

/// What is told of a change beside who stands where.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct ChangeMore {
    /// The one that came in is used, from elsewhere; none: it is new, or was taken out here.
    pub used: Option<UsedBattery>,
    /// Where the old one went; none: not told.
    pub gone: Option<Gone>,
    /// True when a new one beyond the house's limit was asked about and put in all the same.
    pub all_the_same: bool,
}

/// A change as it is made.
#[derive(Debug, Clone, PartialEq)]
pub struct NewChange {
    /// Its id.
    pub id: String,
    /// The bank.
    pub bank: String,
    /// Day it happened.
    pub day: Date,
    /// What.
    pub kind: ChangeKind,
    /// The place.
    pub battery: BatteryAddress,
    /// The other place, for a swap.
    pub other: Option<BatteryAddress>,
    /// Serial number of the new one.
    pub serial: String,
    /// Date code of the new one.
    pub date_code: String,
    /// One that was taken out earlier, here or elsewhere, comes in place of a new one: its block.
    pub used: Option<String>,
    /// Why.
    pub reason: String,
    /// What else is told.
    pub more: ChangeMore,
    /// Who, on which device.
    pub by: Actor,
}

/// Who stood where, from when to when.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Stood {
    /// The place.
    pub battery: String,
    /// The block.
    pub block: String,
    /// Serial number; empty: not noted.
    pub serial: String,
    /// Date code; empty: not noted.
    pub date_code: String,
    /// First day, as said; empty: from the beginning.
    pub from: String,
    /// Last day, as said; empty: still there.
    pub to: String,
    /// Where else it stood or stands: "before in Dipper A1", "on the shelf"; empty: only here.
    pub also: String,
}

/// A change as it is told.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ChangeView {
    /// Its id.
    pub id: String,
    /// Day as said.
    pub day: String,
    /// What, in words.
    pub said: String,
    /// By whom it was undone; none: it stands.
    pub undone_by: Option<String>,
    /// True for the last one that stands, which can be undone.
    pub can_undo: bool,
    /// Day as 2026-10-08.
    pub date: String,
    /// What else is told.
    #[serde(skip)]
    pub more: ChangeMore,
}

fn current(db: &Connection, bank: &str, battery: BatteryAddress) -> Result<(String, String), DbError> {
    let row: Option<(String, String)> = db
        .prepare_cached(
            "SELECT block_id, from_day FROM placement WHERE bank_id = ? AND battery = ? AND to_day IS NULL",
        )?
        .query_row((bank, battery.to_string()), |row| Ok((row.get(0)?, row.get(1)?)))
        .optional()?;
    row.ok_or_else(|| DbError::NoSuchPlace { bank: String::new(), address: battery.to_string() })
}

fn ends(tx: &Transaction<'_>, block: &str, from: &str, day: Date) -> Result<(), DbError> {
    tx.execute(
        "UPDATE placement SET to_day = ? WHERE block_id = ? AND from_day = ?",
        (day.to_string(), block, from),
    )?;
    Ok(())
}

fn begins(
    tx: &Transaction<'_>,
    block: &str,
    bank: &str,
    battery: BatteryAddress,
    day: Date,
) -> Result<(), DbError> {
    tx.execute(
        "INSERT INTO placement (block_id, bank_id, battery, from_day) VALUES (?, ?, ?, ?)",
        (block, bank, battery.to_string(), day.to_string()),
    )?;
    Ok(())
}

impl NewChange {
    /// Makes the change; every verdict of the bank is derived anew.
    pub(crate) fn make(&self, tx: &Transaction<'_>, now: Timestamp) -> Result<Written, DbError> {
        let sent = to_json(
            "change",
            &(
                self.day.to_string(),
                self.kind,
                self.battery,
                self.other,
                (&self.serial, &self.date_code, &self.used),
                &self.reason,
                &self.by.initials,
                &self.more,
            ),
        )?;
        if let Some(before) = super::sent_before(tx, "block_change", &self.id)? {
            return super::same_or_conflict("change", &self.id, &before, &sent);
        }
        let bank = BankRow::by_id(tx, &self.bank)?;
        for place in [Some(self.battery), self.other].into_iter().flatten() {
            if !bank.shape.contains(CellAddress { battery: place, cell: 1 }) {
                return Err(DbError::NoSuchPlace { bank: bank.name.clone(), address: place.to_string() });
            }
        }
        let (old, from) = current(tx, &self.bank, self.battery)?;
        let day = self.day.to_string();
        let clash =
            |from: &str| (from >= day.as_str()).then(|| DbError::ChangeTooEarly { since: from.to_owned() });
        if let Some(error) = clash(&from) {
            return Err(error);
        }
        for place in [Some(self.battery), self.other].into_iter().flatten() {
            let (block, _) = current(tx, &self.bank, place)?;
            if let Some(last) = last_read(tx, &block, &self.bank)?.filter(|last| *last > self.day) {
                let last = crate::words::day(last);
                return Err(DbError::ReadSince { battery: place.to_string(), last });
            }
        }
        let incoming = if let (ChangeKind::Swapped, Some(other)) = (self.kind, self.other) {
            let (second, since) = current(tx, &self.bank, other)?;
            if let Some(error) = clash(&since) {
                return Err(error);
            }
            ends(tx, &old, &from, self.day)?;
            ends(tx, &second, &since, self.day)?;
            begins(tx, &old, &self.bank, other, self.day)?;
            begins(tx, &second, &self.bank, self.battery, self.day)?;
            second
        } else if let Some(used) = &self.used {
            taken_out::check(tx, used, &bank.model_id, self.day)?;
            ends(tx, &old, &from, self.day)?;
            begins(tx, used, &self.bank, self.battery, self.day)?;
            used.clone()
        } else {
            let fresh = Uuid::now_v7().to_string();
            tx.execute(
                "INSERT INTO block (id, model_id, serial, date_code) VALUES (?, ?, ?, ?)",
                (&fresh, &bank.model_id, &self.serial, &self.date_code),
            )?;
            ends(tx, &old, &from, self.day)?;
            begins(tx, &fresh, &self.bank, self.battery, self.day)?;
            fresh
        };
        tx.execute(
            "INSERT INTO block_change (id, bank_id, day, kind, battery, other, out_block, in_block, reason, person_id, person, at, sent, more) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                self.id,
                self.bank,
                day,
                to_json("change", &self.kind)?,
                self.battery.to_string(),
                self.other.map(|o| o.to_string()),
                old,
                incoming,
                self.reason,
                self.by.id,
                self.by.initials,
                now.to_string(),
                sent,
                to_json("change", &self.more)?
            ],
        )?;
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [&self.bank])?;
        super::event(tx, now, &self.by, "battery changed", &self.bank)?;
        Ok(Written::Created)
    }
}

/// Undoes the last change that stands: the blocks stand again where they stood.
pub(crate) fn undo(tx: &Transaction<'_>, id: &str, by: &Actor, now: Timestamp) -> Result<(), DbError> {
    let row: Option<[Option<String>; 7]> = tx
        .query_row(
            "SELECT bank_id, day, battery, out_block, in_block, other, undone_by FROM block_change WHERE id = ?",
            [id],
            |r| Ok([r.get(0)?, r.get(1)?, r.get(2)?, r.get(3)?, r.get(4)?, r.get(5)?, r.get(6)?]),
        )
        .optional()?;
    let [bank, day, battery, out_block, in_block, other, undone] = found(row, "change", id)?;
    if undone.is_some() {
        return Ok(());
    }
    let [bank, day, battery, out_block, in_block] =
        [bank, day, battery, out_block, in_block].map(Option::unwrap_or_default);
    if last_standing(tx, &bank)?.as_deref() != Some(id) {
        return Err(DbError::NotTheLastChange);
    }
    if other.is_none() {
        if read_since(tx, &in_block, &bank, &day)? {
            return Err(DbError::BlockHasReadings { battery });
        }
        if let Some(bank) = taken_out::stands_elsewhere(tx, &out_block, &bank)? {
            return Err(DbError::StandsElsewhere { bank });
        }
    }
    for block in [Some(&in_block), other.is_some().then_some(&out_block)].into_iter().flatten() {
        tx.execute(
            "DELETE FROM placement WHERE block_id = ? AND bank_id = ? AND from_day = ?",
            (block, &bank, &day),
        )?;
    }
    for block in [Some(&out_block), other.is_some().then_some(&in_block)].into_iter().flatten() {
        tx.execute(
            "UPDATE placement SET to_day = NULL WHERE block_id = ? AND bank_id = ? AND to_day = ?",
            (block, &bank, &day),
        )?;
    }
    tx.execute("UPDATE block_change SET undone_by = ? WHERE id = ?", (&by.initials, id))?;
    tx.execute("DELETE FROM assessment WHERE bank_id = ?", [&bank])?;
    super::event(tx, now, by, "battery change undone", &bank)?;
    Ok(())
}

/// True when something was noted at a block in this bank since it came. What it went through elsewhere
/// does not count; a day is allowed for zones.
fn read_since(tx: &Transaction<'_>, block: &str, bank: &str, day: &str) -> Result<bool, DbError> {
    Ok(tx
        .prepare_cached(
            "SELECT 1 FROM reading e JOIN round r ON r.id = e.round_id \
             WHERE e.block_id = ?1 AND r.bank_id = ?2 AND date(r.started_at) >= date(?3, '-1 day') \
             UNION ALL SELECT 1 FROM visit_entry e JOIN visit v ON v.id = e.visit_id \
             WHERE e.block_id = ?1 AND v.bank_id = ?2 AND date(v.started_at) >= date(?3, '-1 day')",
        )?
        .exists((block, bank, day))?)
}

/// The last day on which something was noted at a block in a bank: it stood there then.
fn last_read(tx: &Transaction<'_>, block: &str, bank: &str) -> Result<Option<Date>, DbError> {
    let mut query = tx.prepare_cached(
        "SELECT r.started_at, r.zone FROM round r WHERE r.bank_id = ?2 \
         AND EXISTS (SELECT 1 FROM reading e WHERE e.round_id = r.id AND e.block_id = ?1) \
         UNION ALL SELECT v.started_at, v.zone FROM visit v WHERE v.bank_id = ?2 \
         AND EXISTS (SELECT 1 FROM visit_entry e WHERE e.visit_id = v.id AND e.block_id = ?1)",
    )?;
    let mut found = query.query((block, bank))?;
    let mut last = None;
    while let Some(row) = found.next()? {
        let at = super::error::instant(&row.get::<_, String>(0)?)?;
        last = last.max(Some(crate::words::local_day(at, &row.get::<_, String>(1)?)));
    }
    Ok(last)
}

fn last_standing(db: &Connection, bank: &str) -> Result<Option<String>, DbError> {
    Ok(db
        .prepare_cached(
            "SELECT id FROM block_change WHERE bank_id = ? AND undone_by IS NULL ORDER BY day DESC, at DESC, rowid DESC LIMIT 1",
        )?
        .query_row([bank], |row| row.get(0))
        .optional()?)
}

/// Who stood where when, place by place, oldest first; only for places that ever changed.
pub(crate) fn stood(db: &Connection, bank: &str) -> Result<Vec<Stood>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT p.battery, p.block_id, coalesce(b.serial, ''), coalesce(b.date_code, ''), p.from_day, coalesce(p.to_day, '') \
         FROM placement p JOIN block b ON b.id = p.block_id WHERE p.bank_id = ?1 \
         AND p.battery IN (SELECT battery FROM placement WHERE bank_id = ?1 AND to_day IS NOT NULL) \
         ORDER BY p.battery, p.from_day",
    )?;
    let mut found = query.query([bank])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let block: String = row.get(1)?;
        let (from, to): (String, String) = (row.get(4)?, row.get(5)?);
        all.push(Stood {
            battery: row.get(0)?,
            also: taken_out::also(db, &block, bank, (&from, &to))?,
            block,
            serial: row.get(2)?,
            date_code: row.get(3)?,
            from: said_day(&from),
            to: said_day(&to),
        });
    }
    Ok(all)
}

/// Changes of a bank, newest first.
pub(crate) fn changes(db: &Connection, bank: &str) -> Result<Vec<ChangeView>, DbError> {
    let last = last_standing(db, bank)?;
    let mut query = db.prepare_cached(
        "SELECT id, day, battery, other, reason, person, undone_by, in_block, more FROM block_change WHERE bank_id = ? \
         ORDER BY day DESC, at DESC, rowid DESC",
    )?;
    let mut found = query.query([bank])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let (id, day): (String, String) = (row.get(0)?, row.get(1)?);
        let (battery, other): (String, Option<String>) = (row.get(2)?, row.get(3)?);
        let (reason, person): (String, String) = (row.get(4)?, row.get(5)?);
        let what = match other {
            Some(other) => format!("{battery} and {other} changed places"),
            None => match taken_out::came_from(db, &row.get::<_, String>(7)?, &day)? {
                Some(place) => format!("{battery} was replaced with the one from {place}"),
                None => format!("{battery} was replaced"),
            },
        };
        let why = if reason.is_empty() { String::new() } else { format!(": {reason}") };
        all.push(ChangeView {
            can_undo: last.as_deref() == Some(id.as_str()),
            id,
            day: said_day(&day),
            date: day,
            more: from_json("change", &row.get::<_, String>(8)?)?,
            said: format!("{what} by {person}{why}"),
            undone_by: row.get(6)?,
        });
    }
    Ok(all)
}
