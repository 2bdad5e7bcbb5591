//! Every row through what its columns are made by: for looking a folder over.

use super::{AccessNotes, ChangeKind, ChangeMore, DbError, Fitted, PhotoOf, PlannedRun, Theme};
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equalize::{RunEntry, RunKind};
use rainshadow_core::house_rules::{HouseRules, Overrides};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::Conditions;
use rainshadow_core::schedule::Task;
use rainshadow_core::visit::Entry;
use rusqlite::types::ValueRef;
use rusqlite::{Connection, Transaction};
use serde::de::DeserializeOwned;
use std::fmt::Display;

/// A row that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BadRow {
    /// Its table.
    pub table: &'static str,
    /// Its place in the table.
    pub rowid: i64,
    /// The column.
    pub column: &'static str,
    /// Why.
    pub why: String,
}

type Look = fn(ValueRef<'_>) -> Result<(), String>;

fn said<T, E: Display>(result: Result<T, E>) -> Result<(), String> {
    result.map(drop).map_err(|e| e.to_string())
}

fn text(value: ValueRef<'_>) -> Result<&str, String> {
    value.as_str().map_err(|e| e.to_string())
}

fn json<T: DeserializeOwned>(value: ValueRef<'_>) -> Result<(), String> {
    said(serde_json::from_str::<T>(text(value)?))
}

/// A word as it stands in the JSON of an enumeration.
fn word<T: DeserializeOwned>(value: ValueRef<'_>) -> Result<(), String> {
    said(serde_json::from_value::<T>(text(value)?.into()))
}

fn at(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<jiff::Timestamp>())
}

fn day(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<jiff::civil::Date>())
}

fn zone(value: ValueRef<'_>) -> Result<(), String> {
    said(jiff::tz::TimeZone::get(text(value)?))
}

fn hash(value: ValueRef<'_>) -> Result<(), String> {
    if crate::photos::is_hash(text(value)?) { Ok(()) } else { Err("it is no hash".into()) }
}

fn battery(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<BatteryAddress>())
}

fn shape(value: ValueRef<'_>) -> Result<(), String> {
    let shape: BankShape = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(shape.checked())
}

fn model(value: ValueRef<'_>) -> Result<(), String> {
    let model: BatteryModel = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(model.checked())
}

fn instrument(value: ValueRef<'_>) -> Result<(), String> {
    let instrument: Instrument = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(instrument.checked())
}

fn latitude(value: ValueRef<'_>) -> Result<(), String> {
    said(rainshadow_core::quantity::bounds::LATITUDE.check(value.as_f64().map_err(|e| e.to_string())?))
}

fn conditions(value: ValueRef<'_>) -> Result<(), String> {
    let conditions: Conditions = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(conditions.checked())
}

fn gravity(value: ValueRef<'_>) -> Result<(), String> {
    said(SpecificGravity::try_from(value.as_f64().map_err(|e| e.to_string())?))
}

fn temperature(value: ValueRef<'_>) -> Result<(), String> {
    said(Temperature::from_celsius(value.as_f64().map_err(|e| e.to_string())?))
}

/// What each column is made by; where nothing stands, nothing is looked at.
const COLUMNS: [(&str, &str, Look); 69] = [
    ("person", "units", json::<ReaderUnits>),
    ("person", "theme", json::<Theme>),
    ("site", "zone", zone),
    ("site", "climate", json::<rainshadow_core::water::MonthlyMeans>),
    ("site", "latitude", latitude),
    ("site", "lows", json::<rainshadow_core::water::RecordLows>),
    ("battery_model", "body", model),
    ("house_rules", "body", json::<HouseRules>),
    ("instrument", "body", instrument),
    ("bank", "overrides", json::<Overrides>),
    ("bank", "access", json::<AccessNotes>),
    ("bank", "created_at", at),
    ("bank", "archived_at", at),
    ("bank_model_before", "until_day", day),
    ("bank_model_before", "at", at),
    ("layout", "shape", shape),
    ("layout", "from_day", day),
    ("placement", "battery", battery),
    ("placement", "from_day", day),
    ("placement", "to_day", day),
    ("visit", "started_at", at),
    ("visit", "ended_at", at),
    ("visit", "zone", zone),
    ("round", "started_at", at),
    ("round", "finished_at", at),
    ("round", "zone", zone),
    ("round", "conditions", conditions),
    ("round", "origin", word::<super::Origin>),
    ("reading", "kind", word::<rainshadow_core::round::ReadingKind>),
    ("reading", "gravity", gravity),
    ("reading", "temperature", temperature),
    ("reading", "taken_at", at),
    ("reading", "received_at", at),
    ("visit_entry", "body", json::<Entry>),
    ("visit_entry", "taken_at", at),
    ("visit_entry", "received_at", at),
    ("photo", "what", word::<PhotoOf>),
    ("photo", "hash", hash),
    ("photo", "small_hash", hash),
    ("photo", "taken_at", at),
    ("reminder", "day", day),
    ("reminder", "job", word::<rainshadow_core::visit::Job>),
    ("postponement", "task", json::<Task>),
    ("postponement", "from_day", day),
    ("postponement", "until_day", day),
    ("block_change", "kind", json::<ChangeKind>),
    ("block_change", "more", json::<ChangeMore>),
    ("block_change", "day", day),
    ("block_change", "battery", battery),
    ("block_change", "other", battery),
    ("block_change", "at", at),
    ("equipment", "body", json::<Fitted>),
    ("equipment", "at", at),
    ("run", "kind", json::<RunKind>),
    ("run", "opened_at", at),
    ("run", "ended_at", at),
    ("run", "zone", zone),
    ("run", "instrument", instrument),
    ("run", "plan", json::<PlannedRun>),
    ("run_entry", "body", json::<RunEntry>),
    ("run_entry", "at", at),
    ("plan", "entries", json::<std::collections::BTreeMap<String, String>>),
    ("plan", "begun", json::<std::collections::BTreeMap<String, String>>),
    ("plan", "made_at", at),
    ("record_import", "other_way", json::<Vec<rainshadow_core::charging_record::OtherWay>>),
    ("record_import", "made_at", at),
    ("device", "paired_at", at),
    ("device", "seen_at", at),
    ("device", "revoked_at", at),
];

/// Tables whose rows can be set aside: nothing but readings of the same round hangs on them.
pub const LOOSE: [&str; 11] = [
    "reading",
    "visit_entry",
    "photo",
    "reminder",
    "postponement",
    "plan",
    "equipment",
    "run_entry",
    "block_change",
    "device",
    "round",
];

/// Every row that cannot be read.
pub(crate) fn bad_rows(db: &Connection) -> Result<Vec<BadRow>, DbError> {
    let mut all = Vec::new();
    for (table, column, look) in COLUMNS {
        let sql = format!("SELECT rowid, \"{column}\" FROM \"{table}\" WHERE \"{column}\" IS NOT NULL");
        let mut query = db.prepare(&sql)?;
        let mut rows = query.query([])?;
        while let Some(row) = rows.next()? {
            if let Err(why) = look(row.get_ref(1)?) {
                all.push(BadRow { table, rowid: row.get(0)?, column, why });
            }
        }
    }
    Ok(all)
}

/// Takes rows out of their table into one of their own, with the reason; how many.
fn set_aside_where(
    tx: &Transaction<'_>,
    table: &str,
    (condition, given): (&str, &str),
    why: &str,
    now: jiff::Timestamp,
) -> Result<usize, DbError> {
    let mut query = tx.prepare(&format!("SELECT * FROM \"{table}\" WHERE {condition}"))?;
    let names: Vec<String> = query.column_names().into_iter().map(ToOwned::to_owned).collect();
    let mut rows = query.query([given])?;
    let mut count = 0;
    while let Some(row) = rows.next()? {
        let mut contents = serde_json::Map::new();
        for (place, name) in names.iter().enumerate() {
            let value = match row.get_ref(place)? {
                ValueRef::Null => serde_json::Value::Null,
                ValueRef::Integer(number) => number.into(),
                ValueRef::Real(number) => number.into(),
                ValueRef::Text(bytes) | ValueRef::Blob(bytes) => {
                    String::from_utf8_lossy(bytes).into_owned().into()
                }
            };
            contents.insert(name.clone(), value);
        }
        let contents = serde_json::Value::Object(contents).to_string();
        tx.execute(
            "INSERT INTO set_aside (from_table, contents, reason, at) VALUES (?, ?, ?, ?)",
            (table, contents, why, now.to_string()),
        )?;
        count += 1;
    }
    tx.execute(&format!("DELETE FROM \"{table}\" WHERE {condition}"), [given])?;
    Ok(count)
}

/// Sets a row aside with what hangs on it; how many rows went.
pub(crate) fn set_aside(tx: &Transaction<'_>, bad: &BadRow, now: jiff::Timestamp) -> Result<usize, DbError> {
    let why = format!("{}: {}", bad.column, bad.why);
    let rowid = bad.rowid.to_string();
    let mut count = 0;
    match bad.table {
        "round" => {
            let of = ("round_id = (SELECT id FROM round WHERE rowid = ?)", rowid.as_str());
            // The last first: each may take the place of one before it.
            tx.execute_batch("PRAGMA defer_foreign_keys = ON")?;
            count += set_aside_where(tx, "reading", of, "its round cannot be read", now)?;
        }
        "reading" => {
            tx.execute_batch("PRAGMA defer_foreign_keys = ON")?;
            let of = (
                "seq IN (WITH RECURSIVE later(id, seq) AS (SELECT id, seq FROM reading WHERE seq = ? \
                 UNION SELECT r.id, r.seq FROM reading r JOIN later l ON r.supersedes = l.id) \
                 SELECT seq FROM later)",
                rowid.as_str(),
            );
            return set_aside_where(tx, "reading", of, &why, now);
        }
        _ => {}
    }
    Ok(count + set_aside_where(tx, bad.table, ("rowid = ?", &rowid), &why, now)?)
}

/// Everything that is derived, as text, by what it is derived of.
pub(crate) fn texts_of_derived(
    db: &Connection,
) -> Result<std::collections::BTreeMap<String, String>, DbError> {
    let sql = "SELECT 'the judgement of round ' || round_id, condition || verdict || body FROM assessment \
               UNION ALL SELECT 'what is due on bank ' || bank_id || ', ' || place, consequence || day || body FROM due_item \
               UNION ALL SELECT 'the state of bank ' || bank_id, state FROM due_state";
    let mut query = db.prepare(sql)?;
    let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// A copy of everything that nobody sees and that is gone when it is closed.
pub(crate) fn scratch_copy(live: &Connection) -> Result<Connection, DbError> {
    // An empty name: a database on disk without one.
    let mut copy = Connection::open("")?;
    {
        let backup = rusqlite::backup::Backup::new(live, &mut copy)?;
        while backup.step(-1)? != rusqlite::backup::StepResult::Done {
            std::thread::sleep(std::time::Duration::from_millis(20));
        }
    }
    // What older rules derived is derived anew by itself when somebody looks.
    super::assessments::forget_older(&copy)?;
    super::due::forget_older(&copy)?;
    Ok(copy)
}
