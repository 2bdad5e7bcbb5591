//! Opening the data folder: pragmas, migrations, and one clear line for what is wrong.

use rusqlite::{Connection, ErrorCode, OpenFlags};
use rusqlite_migration::{M, Migrations};
use std::fs::{File, TryLockError};
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Append only.
const MIGRATIONS: &[&str] = &[
    include_str!("../../migrations/0001_first_round.sql"),
    include_str!("../../migrations/0002_visits.sql"),
    include_str!("../../migrations/0003_equalize.sql"),
];

/// Name of the database in the data folder.
const FILE: &str = "rainshadow.db";

/// Why a data folder cannot be used; nothing in it was touched.
#[derive(Debug, Error)]
pub enum OpenError {
    /// The folder.
    #[error("the data folder {path} cannot be used: {why}")]
    Folder {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: std::io::Error,
    },
    /// A newer program wrote it.
    #[error(
        "the data folder {path} was written by a newer version (schema {found}, this one knows {known}); start that version, nothing was touched"
    )]
    Newer {
        /// The folder.
        path: PathBuf,
        /// Schema in the file.
        found: usize,
        /// Schema of this program.
        known: usize,
    },
    /// Another program holds it.
    #[error("the database in {path} is locked by another program; stop that one first")]
    Locked {
        /// The folder.
        path: PathBuf,
    },
    /// It is no database.
    #[error("the database in {path} is corrupt or not a database; restore a backup, nothing was touched")]
    Corrupt {
        /// The folder.
        path: PathBuf,
    },
    /// Anything else.
    #[error("the database in {path} cannot be opened: {why}")]
    Sqlite {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: String,
    },
    /// What ships could not be stored.
    #[error("the battery models and house rules that ship could not be stored: {0}")]
    Shipped(String),
}

fn explained(path: &Path, error: &rusqlite::Error) -> OpenError {
    let path = path.to_owned();
    match error.sqlite_error_code() {
        Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => OpenError::Locked { path },
        Some(ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase) => OpenError::Corrupt { path },
        _ => OpenError::Sqlite { path, why: error.to_string() },
    }
}

/// Takes the folder for this process: a second server on it is told at its start. The lock falls
/// with the process, however it ends.
pub(super) fn hold(data_dir: &Path) -> Result<File, OpenError> {
    let folder = |why| OpenError::Folder { path: data_dir.to_owned(), why };
    std::fs::create_dir_all(data_dir).map_err(folder)?;
    let file = File::options()
        .create(true)
        .write(true)
        .truncate(false)
        .open(data_dir.join("rainshadow.lock"))
        .map_err(folder)?;
    match file.try_lock() {
        Ok(()) => Ok(file),
        Err(TryLockError::WouldBlock) => Err(OpenError::Locked { path: data_dir.to_owned() }),
        Err(TryLockError::Error(why)) => Err(folder(why)),
    }
}

/// The connection that writes.
pub(super) fn open(data_dir: &Path) -> Result<Connection, OpenError> {
    let fail = |error: rusqlite::Error| explained(data_dir, &error);
    let mut connection = Connection::open(data_dir.join(FILE)).map_err(fail)?;
    let found: u32 = connection.query_row("PRAGMA user_version", [], |row| row.get(0)).map_err(fail)?;
    let found = usize::try_from(found).unwrap_or(usize::MAX);
    if found > MIGRATIONS.len() {
        return Err(OpenError::Newer { path: data_dir.to_owned(), found, known: MIGRATIONS.len() });
    }
    let sound: String = connection.query_row("PRAGMA quick_check(1)", [], |row| row.get(0)).map_err(fail)?;
    if sound != "ok" {
        return Err(OpenError::Corrupt { path: data_dir.to_owned() });
    }
    connection
        .execute_batch(
            "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; \
             PRAGMA busy_timeout = 5000;",
        )
        .map_err(fail)?;
    migrations().to_latest(&mut connection).map_err(|error| match error {
        rusqlite_migration::Error::RusqliteError { err, .. } => explained(data_dir, &err),
        other => OpenError::Sqlite { path: data_dir.to_owned(), why: other.to_string() },
    })?;
    connection.set_prepared_statement_cache_capacity(64);
    Ok(connection)
}

/// A connection that only reads.
pub(super) fn reader(data_dir: &Path) -> Result<Connection, OpenError> {
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let connection =
        Connection::open_with_flags(data_dir.join(FILE), flags).map_err(|e| explained(data_dir, &e))?;
    connection.execute_batch("PRAGMA busy_timeout = 5000;").map_err(|e| explained(data_dir, &e))?;
    connection.set_prepared_statement_cache_capacity(64);
    Ok(connection)
}

fn migrations() -> Migrations<'static> {
    Migrations::new(MIGRATIONS.iter().map(|sql| M::up(sql).foreign_key_check()).collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_migrations_are_valid() {
        migrations().validate().unwrap();
    }
}
