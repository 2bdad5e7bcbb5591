//! A copy of the database as of one moment, and what a copy must hold to be taken back.

use super::folder::DATABASE;
use super::typed_digest::tables;
use super::{DbError, schema};
use rusqlite::backup::{Backup, StepResult};
use rusqlite::{Connection, ErrorCode, OpenFlags};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::fs::File;
use std::io::{Seek, SeekFrom, Write as _};
use std::path::Path;
use std::time::Duration;

/// What a database holds, counted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct DatabaseFacts {
    /// Schema it was written by.
    pub schema: usize,
    /// What SQLite says of its own pages: "ok".
    pub integrity: String,
    /// Rows that point at rows that are not there.
    pub dangling: usize,
    /// Rows by table.
    pub rows: BTreeMap<String, u64>,
}

/// The file of a database for SQLite, as something that does not change while it is read.
fn unchanging(path: &Path) -> Result<Connection, rusqlite::Error> {
    let mut uri = String::from("file:");
    for byte in path.to_string_lossy().bytes() {
        if byte.is_ascii_alphanumeric() || b"/._-".contains(&byte) {
            uri.push(char::from(byte));
        } else {
            let _ = write!(uri, "%{byte:02x}");
        }
    }
    uri.push_str("?immutable=1");
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_URI;
    Connection::open_with_flags(uri, flags)
}

/// Reads the database, whoever else has it open; on a medium that cannot be written too.
fn to_read(folder: &Path, scratch: &Path) -> Result<(Connection, Option<tempfile::TempDir>), DbError> {
    let path = folder.join(DATABASE);
    let looked =
        |db: &Connection| db.query_row("SELECT count(*) FROM sqlite_schema", [], |r| r.get::<_, i64>(0));
    let live =
        super::open_to_read(folder).map_err(|e| DbError::BadRow { what: "database", why: e.to_string() })?;
    match looked(&live).map_err(|e| e.sqlite_error_code()) {
        Ok(_) => return Ok((live, None)),
        Err(Some(ErrorCode::CannotOpen | ErrorCode::ReadOnly | ErrorCode::SystemIoFailure)) => {}
        Err(_) => {
            looked(&live)?;
        }
    }
    let log = folder.join(format!("{DATABASE}-wal"));
    if log.metadata().map_or(0, |m| m.len()) == 0 {
        return Ok((unchanging(&path)?, None));
    }
    // Its log can only be read where files can be made beside it.
    let beside = tempfile::Builder::new().prefix(".rainshadow-").tempdir_in(scratch)?;
    std::fs::copy(&path, beside.path().join(DATABASE))?;
    std::fs::copy(&log, beside.path().join(format!("{DATABASE}-wal")))?;
    let db = Connection::open(beside.path().join(DATABASE))?;
    looked(&db)?;
    Ok((db, Some(beside)))
}

/// Copies the database in one consistent read into a file without a name, which is gone when this
/// process is, however it ends. The hashes are those of the photographs that the copy lists.
///
/// # Errors
/// [`DbError`] when it cannot be read or the copy has no room.
pub(crate) fn copy_of(folder: &Path, scratch: &Path) -> Result<(File, DatabaseFacts, Vec<String>), DbError> {
    let (live, _beside) = to_read(folder, scratch)?;
    // One look for the counts and the copy.
    let moment = live.unchecked_transaction()?;
    let facts = facts_of(&moment)?;
    let hashes = photo_hashes(&moment)?;
    let named = tempfile::Builder::new().prefix(".rainshadow-").suffix(".part").tempfile_in(scratch)?;
    let mut copy = Connection::open(named.path())?;
    // Without a journal SQLite does not ask whether the file still has a name.
    copy.execute_batch(
        "PRAGMA journal_mode = OFF; PRAGMA synchronous = OFF; PRAGMA locking_mode = EXCLUSIVE;",
    )?;
    let (mut file, name) = named.into_parts();
    name.close()?;
    {
        // In one step: a copy in parts begins again whenever somebody writes in between.
        let backup = Backup::new(&moment, &mut copy)?;
        while backup.step(-1)? != StepResult::Done {
            std::thread::sleep(Duration::from_millis(20));
        }
    }
    copy.close().map_err(|(_, error)| error)?;
    // The copy has no log beside it: bytes 18 and 19 of the header say so (SQLite file format, 1.3).
    file.seek(SeekFrom::Start(18))?;
    file.write_all(&[1, 1])?;
    file.rewind()?;
    Ok((file, facts, hashes))
}

/// What a database that nobody has open holds, and the photographs it lists.
///
/// # Errors
/// [`DbError`] when it is no database.
pub(crate) fn facts_of_file(path: &Path) -> Result<(DatabaseFacts, Vec<String>), DbError> {
    let db = unchanging(path)?;
    Ok((facts_of(&db)?, photo_hashes(&db)?))
}

/// Pages, references and rows of an open database.
pub(crate) fn facts_of(db: &Connection) -> Result<DatabaseFacts, DbError> {
    let schema: u32 = db.query_row("PRAGMA user_version", [], |row| row.get(0))?;
    let integrity: String = db.query_row("PRAGMA integrity_check(1)", [], |row| row.get(0))?;
    let mut dangling = db.prepare("PRAGMA foreign_key_check")?;
    let dangling = dangling.query_map([], |_row| Ok(()))?.count();
    let mut rows = BTreeMap::new();
    for table in tables(db)? {
        let count: i64 = db.query_row(&format!("SELECT count(*) FROM \"{table}\""), [], |row| row.get(0))?;
        rows.insert(table, u64::try_from(count).unwrap_or_default());
    }
    Ok(DatabaseFacts { schema: usize::try_from(schema).unwrap_or(usize::MAX), integrity, dangling, rows })
}

/// Hashes of all listed photographs, large and small; whatever stands there.
pub(crate) fn photo_hashes(db: &Connection) -> Result<Vec<String>, DbError> {
    if !tables(db)?.iter().any(|t| t == "photo") {
        return Ok(Vec::new());
    }
    let mut query = db.prepare("SELECT hash FROM photo UNION SELECT small_hash FROM photo")?;
    let rows = query.query_map([], |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

impl DatabaseFacts {
    /// Why a database with these facts cannot be taken into use; none: it can.
    pub fn refusal(&self) -> Option<String> {
        if self.integrity != "ok" {
            return Some(format!("its database is damaged ({})", self.integrity));
        }
        if !self.rows.contains_key("bank") || !self.rows.contains_key("reading") || self.schema == 0 {
            return Some("its database is not one of Rainshadow".into());
        }
        if self.schema > schema() {
            return Some(format!(
                "its database was written by a newer version (schema {}, this one knows {})",
                self.schema,
                schema()
            ));
        }
        (self.dangling > 0)
            .then(|| format!("{} rows of its database point at rows that are not there", self.dangling))
    }
}
