//! Every row through what its columns are made by: for looking a folder over.

mod columns;

use super::DbError;
use base64::prelude::{BASE64_STANDARD, Engine as _};
use rusqlite::types::ValueRef;
use rusqlite::{Connection, Transaction};

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

/// Tables whose rows can be set aside: nothing but readings of the same round, or days of the same file, hangs
/// on them.
pub const LOOSE: [&str; 13] = [
    "reading",
    "visit_entry",
    "photo",
    "reminder",
    "postponement",
    "plan",
    "record_import",
    "record_day",
    "equipment",
    "run_entry",
    "block_change",
    "device",
    "round",
];

/// Looks a column of text over by what it is made by.
pub(crate) type LookAtText = fn(&str) -> Result<(), String>;

/// Every row that cannot be read; columns that are made by the floors above are looked over as they say.
pub(crate) fn bad_rows(
    db: &Connection,
    above: &[(&'static str, &'static str, LookAtText)],
) -> Result<Vec<BadRow>, DbError> {
    let mut all = Vec::new();
    for (table, column, look) in columns::COLUMNS {
        all.extend(bad_in(db, (table, column), look)?);
    }
    for (table, column, look) in above.iter().copied() {
        all.extend(bad_in(db, (table, column), |value| look(columns::text(value)?))?);
    }
    Ok(all)
}

fn bad_in(
    db: &Connection,
    (table, column): (&'static str, &'static str),
    look: impl Fn(ValueRef<'_>) -> Result<(), String>,
) -> Result<Vec<BadRow>, DbError> {
    let sql = format!("SELECT rowid, \"{column}\" FROM \"{table}\" WHERE \"{column}\" IS NOT NULL");
    let mut query = db.prepare(&sql)?;
    let mut rows = query.query([])?;
    let mut all = Vec::new();
    while let Some(row) = rows.next()? {
        if let Err(why) = look(row.get_ref(1)?) {
            all.push(BadRow { table, rowid: row.get(0)?, column, why });
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
                ValueRef::Text(bytes) => String::from_utf8_lossy(bytes).into_owned().into(),
                ValueRef::Blob(bytes) => BASE64_STANDARD.encode(bytes).into(),
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
        "record_import" => {
            let of = ("import_id = (SELECT id FROM record_import WHERE rowid = ?)", rowid.as_str());
            count += set_aside_where(tx, "record_day", of, "its file cannot be read", now)?;
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
