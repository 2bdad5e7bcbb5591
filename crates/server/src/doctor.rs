//! Looking a data folder over: pages, references, every row through its constructor, photographs,
//! caches against recomputation; and setting aside what cannot be read.

use crate::app::bank_state::recompute;
use crate::app::bank_state::stale_caches;
use crate::app::planners::Planner;
use crate::app::typed::equipment::TypedEquipment;
use crate::db::folder::{DATABASE, Held};
use crate::db::{
    BadRow, Db, DbError, LOOSE, LookAtText, OpenError, bad_rows, derived, facts_of, listed_photographs,
    open_to_read, set_aside,
};
use crate::formats::record_csv::RecordSource;
use crate::photos;
use std::collections::BTreeSet;
use std::path::Path;
use thiserror::Error;

/// Why a folder could not be looked over.
#[derive(Debug, Error)]
pub enum DoctorError {
    /// It cannot be opened.
    #[error("{0}")]
    Open(#[from] OpenError),
    /// It cannot be read.
    #[error("the database cannot be looked over: {0}")]
    Database(#[from] DbError),
    /// A file.
    #[error("a file of the folder failed: {0}")]
    Files(#[from] std::io::Error),
}

/// What was found.
#[derive(Debug, Default, PartialEq, Eq)]
pub struct Found {
    /// What is wrong, in words.
    pub faults: Vec<String>,
    /// What is only worth knowing.
    pub notes: Vec<String>,
    /// What was put right.
    pub repaired: Vec<String>,
}

fn json<T: serde::de::DeserializeOwned>(text: &str) -> Result<(), String> {
    serde_json::from_str::<T>(text).map(drop).map_err(|e| e.to_string())
}

fn planner(word: &str) -> Result<(), String> {
    Planner::of(word).map(drop).ok_or_else(|| format!("{word} is no planner"))
}

/// Columns that are made by the floors above the database.
const ABOVE: [(&str, &str, LookAtText); 3] = [
    ("plan", "planner", planner),
    ("record_import", "source", json::<RecordSource>),
    ("equipment", "typed", json::<TypedEquipment>),
];

fn said(bad: &BadRow) -> String {
    let can = if LOOSE.contains(&bad.table) { "--repair sets it aside" } else { "restore a backup" };
    format!("row {} of {} cannot be read: {} {} ({can})", bad.rowid, bad.table, bad.column, bad.why)
}

fn photographs(folder: &Path, listed: &[String], found: &mut Found) {
    let listed: BTreeSet<&str> = listed.iter().map(String::as_str).collect();
    for hash in listed.iter().filter(|h| photos::is_hash(h)) {
        match photos::read(folder, hash) {
            Err(error) => found.faults.push(format!("the photograph {hash} is listed and missing: {error}")),
            Ok(bytes) if photos::hash_of(&bytes) != **hash => {
                found.faults.push(format!("the photograph {hash} was altered"));
            }
            Ok(_) => {}
        }
    }
    for name in photos::names(folder) {
        let known = name.strip_suffix(".jpg").is_some_and(|hash| listed.contains(hash));
        if !known {
            found.notes.push(format!("photos/{name} is listed nowhere; nothing is done with it"));
        }
    }
}

/// Looks a folder over; a server may be running on it.
///
/// # Errors
/// [`DoctorError`] when nothing can be looked at.
pub fn look(folder: &Path) -> Result<Found, DoctorError> {
    let mut found = Found::default();
    let size = folder.join(DATABASE).metadata().map_or(0, |m| m.len());
    if size == 0 {
        found.faults.push("there is no database, or it is empty: restore a backup".into());
        return Ok(found);
    }
    if Held::log_is_missing(folder) {
        found.faults.push(
            "the log of the database is missing, and with it perhaps what was saved last; put rainshadow.db-wal back, \
             or restore a backup, or open it without by --repair"
                .into(),
        );
        return Ok(found);
    }
    let db = open_to_read(folder)?;
    let facts = facts_of(&db)?;
    if facts.integrity != "ok" {
        found
            .faults
            .push(format!("the pages of the database are damaged: {}; restore a backup", facts.integrity));
        return Ok(found);
    }
    if facts.schema < crate::db::schema() {
        found.notes.push(format!("schema {}: brought up to date at the next start", facts.schema));
        return Ok(found);
    }
    if facts.dangling > 0 {
        found.faults.push(format!("{} rows point at rows that are not there", facts.dangling));
    }
    let bad = bad_rows(&db, &ABOVE)?;
    found.faults.extend(bad.iter().map(said));
    photographs(folder, &listed_photographs(&db)?, &mut found);
    // What hangs on broken rows cannot be worked out.
    if bad.is_empty() && facts.dangling == 0 {
        let stale = stale_caches(&db)?;
        found.faults.extend(
            stale
                .iter()
                .map(|of| format!("{of} is kept otherwise than it is derived (--repair derives it anew)")),
        );
    }
    Ok(found)
}

/// Sets aside what cannot be read and derives anew what is kept otherwise; no server may run on it.
///
/// # Errors
/// [`DoctorError`] when it is in use or cannot be written.
pub fn repair(folder: &Path) -> Result<Found, DoctorError> {
    let mut repaired = Vec::new();
    {
        let held = Held::take(folder)?;
        if held.do_without_log()? {
            repaired.push("the folder is opened without its log from now on".to_owned());
        }
    }
    let db = Db::open(folder)?;
    let now = jiff::Timestamp::now();
    let gone = db.write_now(|tx| {
        let mut gone = Vec::new();
        for bad in bad_rows(tx, &ABOVE)?.iter().filter(|bad| LOOSE.contains(&bad.table)) {
            let count = set_aside(tx, bad, now)?;
            if count > 0 {
                gone.push(format!("{}; {count} set aside", said(bad)));
            }
        }
        Ok(gone)
    })?;
    repaired.extend(gone);
    db.write_now(|tx| derived::forget_all(tx))?;
    // Where a bank's own row is broken nothing is derived here: the others are when somebody looks.
    if let Err(error) = db.write_now(recompute) {
        repaired.push(format!("not everything could be derived anew: {error}"));
    }
    drop(db);
    Ok(Found { repaired, ..look(folder)? })
}
