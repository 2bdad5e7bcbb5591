//! Derived rows: the state of every bank and what is due on it, forgotten by triggers when an input
//! changes.

use super::DbError;
use super::derived::{bad, from_kept};
use super::error::{from_json, to_json};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::bank_state::BankState;
use rainshadow_core::revision::RULES_REVISION as REVISION;
use rainshadow_core::schedule::{Consequence, DueItem, Postponed, Reminder, Task};
use rainshadow_core::water::WaterForecast;
use rusqlite::{Connection, OptionalExtension, Transaction};
use std::collections::{BTreeMap, BTreeSet};

/// A due item as far as a list is ordered and counted by it.
#[derive(Debug, Clone, PartialEq)]
pub struct DueLine {
    /// The bank.
    pub bank: String,
    /// Which of the items of its bank.
    pub place: i64,
    /// What.
    pub task: Task,
    /// What waiting does as of today.
    pub consequence: Consequence,
    /// When.
    pub date: Date,
    /// Size of the bank, kWh.
    pub kwh: f64,
}

/// One due item of one bank.
#[derive(Debug, Clone, PartialEq)]
pub struct DueRow {
    /// The bank.
    pub bank: String,
    /// The item.
    pub item: DueItem,
    /// P90 of the water it takes, mL.
    pub water: f64,
    /// Size of the bank, kWh.
    pub kwh: f64,
}

pub(crate) fn reminders(db: &Connection, bank: &str) -> Result<Vec<Reminder>, DbError> {
    db.prepare_cached(
        "SELECT id, day, text, job FROM reminder WHERE bank_id = ? AND done_by IS NULL ORDER BY day, id",
    )?
    .query_map([bank], |row| {
        Ok((row.get(0)?, row.get::<_, String>(1)?, row.get(2)?, row.get::<_, Option<String>>(3)?))
    })?
    .map(|row| {
        let (id, day, text, job) = row?;
        let job = job.map(|job| super::error::from_word("reminder", job)).transpose()?;
        Ok(Reminder { id, day: super::error::day(&day)?, text, job })
    })
    .collect()
}

pub(crate) fn postponed(db: &Connection, bank: &str) -> Result<Vec<Postponed>, DbError> {
    db.prepare_cached(
        "SELECT task, subject, from_day, until_day, reason, person FROM postponement WHERE bank_id = ? ORDER BY rowid DESC",
    )?
    .query_map([bank], |row| {
        let texts: [String; 6] = [row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?, row.get(5)?];
        Ok(texts)
    })?
    .map(|row| {
        let [task, of, from, until, reason, by] = row?;
        Ok(Postponed {
            task: from_json("postponement", &task)?,
            of,
            from: super::error::day(&from)?,
            until: super::error::day(&until)?,
            reason,
            by,
        })
    })
    .collect()
}

/// Forgets what older rules worked out, and what was not worked out since something changed.
pub(crate) fn forget_older(db: &Connection) -> Result<(), DbError> {
    db.execute(
        "DELETE FROM due_item WHERE bank_id NOT IN (SELECT bank_id FROM due_state WHERE revision = ?)",
        [REVISION],
    )?;
    Ok(())
}

/// Banks whose state is not worked out, archived ones too.
pub(crate) fn stale(db: &Connection) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT b.id FROM bank b LEFT JOIN due_state d ON d.bank_id = b.id AND d.revision = ? \
         WHERE d.bank_id IS NULL",
    )?;
    let rows = query.query_map([REVISION], |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// True when what is due on a bank is worked out by the rules of today.
pub(crate) fn is_fresh(db: &Connection, bank: &str) -> Result<bool, DbError> {
    Ok(db
        .prepare_cached("SELECT 1 FROM due_state WHERE bank_id = ? AND revision = ?")?
        .exists((bank, REVISION))?)
}

/// Keeps the state of a bank with its size and its forecast.
pub(crate) fn keep(
    tx: &Transaction<'_>,
    bank: &str,
    state: &BankState,
    (kwh, ahead): (f64, Option<&(Date, WaterForecast)>),
) -> Result<(), DbError> {
    tx.prepare_cached("DELETE FROM due_item WHERE bank_id = ?")?.execute([bank])?;
    let mut insert = tx.prepare_cached(
        "INSERT INTO due_item (bank_id, place, consequence, day, task, body) VALUES (?, ?, ?, ?, ?, ?)",
    )?;
    for (place, item) in (0i64..).zip(&state.due) {
        insert.execute((
            bank,
            place,
            rank(item.consequence),
            item.date.to_string(),
            to_json("task", &item.task)?,
            to_json("due item", item)?,
        ))?;
    }
    let forecast = ahead.map(|a| to_json("forecast", a)).transpose()?;
    // Items have rows of their own.
    let state = to_json("state of a bank", &BankState { due: Vec::new(), ..state.clone() })?;
    tx.prepare_cached(
        "INSERT OR REPLACE INTO due_state (bank_id, revision, kwh, forecast, state) VALUES (?, ?, ?, ?, ?)",
    )?
    .execute((bank, REVISION, kwh, forecast, state))?;
    Ok(())
}

/// The state of a bank as it is kept, with its due items; none while it is not worked out.
pub(crate) fn state_of(db: &Connection, bank: &str) -> Result<Option<BankState>, DbError> {
    let body: Option<String> = db
        .prepare_cached("SELECT state FROM due_state WHERE bank_id = ? AND revision = ?")?
        .query_row((bank, REVISION), |row| row.get(0))
        .optional()?;
    let Some(body) = body else { return Ok(None) };
    let state: BankState = from_kept("state", bank, &body)?;
    let mut query = db.prepare_cached("SELECT body FROM due_item WHERE bank_id = ? ORDER BY place")?;
    let due = query
        .query_map([bank], |row| row.get::<_, String>(0))?
        .map(|body| from_kept("due item", bank, &body?))
        .collect::<Result<_, _>>()?;
    Ok(Some(BankState { due, ..state }))
}

fn rank(consequence: Consequence) -> i64 {
    match consequence {
        Consequence::Harm => 0,
        Consequence::Loss => 1,
        Consequence::Routine => 2,
    }
}

/// A forecast by the text it is kept as; many items of one bank share it.
type Ahead = Option<(Date, WaterForecast)>;

fn consequence(rank: i64) -> Consequence {
    match rank {
        0 => Consequence::Harm,
        1 => Consequence::Loss,
        _ => Consequence::Routine,
    }
}

fn kept_day(bank: &str, text: &str) -> Result<Date, DbError> {
    super::error::day(text).map_err(|e| bad("due day", bank, &e))
}

/// Everything due until a day on banks that are not archived, in no order.
pub(crate) fn lines(db: &Connection, day: Date, today: Date) -> Result<Vec<DueLine>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT d.bank_id, d.place, d.task, d.consequence, d.day, s.kwh FROM due_item d \
         JOIN due_state s ON s.bank_id = d.bank_id JOIN bank b ON b.id = d.bank_id \
         WHERE b.archived_at IS NULL AND d.day <= ?",
    )?;
    let mut found = query.query([day.to_string()])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let bank: String = row.get(0)?;
        let task: Task = from_kept("due task", &bank, row.get_ref(2)?.as_str().unwrap_or_default())?;
        let date = kept_day(&bank, row.get_ref(4)?.as_str().unwrap_or_default())?;
        all.push(DueLine {
            bank,
            place: row.get(1)?,
            consequence: consequence(row.get(3)?).as_of(task, date, today),
            task,
            date,
            kwh: row.get(5)?,
        });
    }
    Ok(all)
}

/// The items of some banks until a day, whole, by bank and place.
pub(crate) fn items(
    db: &Connection,
    banks: &BTreeSet<&str>,
    day: Date,
    today: Date,
) -> Result<BTreeMap<(String, i64), DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d \
               JOIN due_state s ON s.bank_id = d.bank_id WHERE d.bank_id = ?1 AND d.day <= ?2";
    let mut all = BTreeMap::new();
    for bank in banks {
        let rows = rows(db, sql, &[bank, &day.to_string()], today)?;
        all.extend(rows.into_iter().map(|(place, row)| ((row.bank.clone(), place), row)));
    }
    Ok(all)
}

/// Rows of bank, item, kWh, forecast and place.
fn rows(db: &Connection, sql: &str, given: &[&str], today: Date) -> Result<Vec<(i64, DueRow)>, DbError> {
    let mut query = db.prepare_cached(sql)?;
    let mut found = query.query(rusqlite::params_from_iter(given))?;
    let mut all: Vec<(i64, DueRow)> = Vec::new();
    let mut last: Option<(String, Ahead)> = None;
    while let Some(row) = found.next()? {
        let bank: String = row.get(0)?;
        let item: DueItem = from_kept("due item", &bank, row.get_ref(1)?.as_str().unwrap_or_default())?;
        if last.as_ref().is_none_or(|(own, _)| *own != bank) {
            let text: Option<String> = row.get(3)?;
            let ahead = text.map(|t| from_kept("forecast", &bank, &t)).transpose()?;
            last = Some((bank.clone(), ahead));
        }
        let water = last
            .as_ref()
            .and_then(|(_, ahead)| ahead.as_ref())
            .map_or(0.0, |(made_on, forecast)| item.water_to_carry(*made_on, forecast, today));
        all.push((row.get(4)?, DueRow { bank, item, water, kwh: row.get(2)? }));
    }
    Ok(all)
}

/// Everything due until a day on banks that are not archived, bank by bank.
pub(crate) fn until(db: &Connection, day: Date, today: Date) -> Result<Vec<DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
               JOIN bank b ON b.id = d.bank_id WHERE b.archived_at IS NULL AND d.day <= ? ORDER BY d.bank_id, d.place";
    Ok(rows(db, sql, &[&day.to_string()], today)?.into_iter().map(|(_, row)| row).collect())
}

/// What is due on one bank: what the month ahead asks for by consequence, then the rest by date.
pub(crate) fn of_bank(db: &Connection, bank: &str, today: Date) -> Result<Vec<DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
               WHERE d.bank_id = ? ORDER BY d.place";
    let mut all: Vec<DueRow> = rows(db, sql, &[bank], today)?.into_iter().map(|(_, row)| row).collect();
    let month = today.checked_add(31.days()).unwrap_or(today);
    all.sort_by_key(|row| {
        let later = row.item.date > month;
        (later, if later { Consequence::Harm } else { row.item.consequence_on(today) }, row.item.date)
    });
    Ok(all)
}

/// The first due day after a day.
pub(crate) fn next_after(db: &Connection, day: Date) -> Result<Option<Date>, DbError> {
    let next: Option<(String, String)> = db
        .prepare_cached(
            "SELECT d.bank_id, d.day FROM due_item d JOIN bank b ON b.id = d.bank_id \
             WHERE b.archived_at IS NULL AND d.day > ? ORDER BY d.day LIMIT 1",
        )?
        .query_row([day.to_string()], |row| Ok((row.get(0)?, row.get(1)?)))
        .optional()?;
    next.map(|(bank, day)| kept_day(&bank, &day)).transpose()
}
