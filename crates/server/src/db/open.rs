//! Opening the data folder: pragmas, migrations, and one clear line for what is wrong.

use super::folder::{DATABASE as FILE, Held, private, sync};
use super::open_error::OpenError;
use rusqlite::backup::{Backup, StepResult};
use rusqlite::{Connection, ErrorCode, OpenFlags};
use rusqlite_migration::{M, Migrations};
use std::path::Path;

/// Append only.
const MIGRATIONS: &[&str] = &[
    include_str!("../../migrations/0001_first_round.sql"),
    include_str!("../../migrations/0002_visits.sql"),
    include_str!("../../migrations/0003_equalize.sql"),
    include_str!("../../migrations/0004_trust.sql"),
    include_str!("../../migrations/0005_bank_state.sql"),
    include_str!("../../migrations/0006_actor.sql"),
    include_str!("../../migrations/0007_climate.sql"),
    include_str!("../../migrations/0008_models.sql"),
    include_str!("../../migrations/0009_work.sql"),
    include_str!("../../migrations/0010_bank_models.sql"),
    include_str!("../../migrations/0011_plans.sql"),
    include_str!("../../migrations/0012_records.sql"),
    include_str!("../../migrations/0013_jobs_and_sites.sql"),
    include_str!("../../migrations/0014_plan_of_archived.sql"),
];

fn explained(path: &Path, error: &rusqlite::Error) -> OpenError {
    let path = path.to_owned();
    match error.sqlite_error_code() {
        Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => OpenError::Locked { path },
        Some(ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase) => OpenError::Corrupt { path },
        _ => OpenError::Sqlite { path, why: error.to_string() },
    }
}

/// Schema that this program writes.
pub fn schema() -> usize {
    MIGRATIONS.len()
}

fn migrate(data_dir: &Path, connection: &mut Connection) -> Result<(), OpenError> {
    migrations().to_latest(connection).map_err(|error| match error {
        rusqlite_migration::Error::RusqliteError { err, .. } => explained(data_dir, &err),
        other => OpenError::Sqlite { path: data_dir.to_owned(), why: other.to_string() },
    })
}

/// A new database is made under another name: one of this name is always whole.
fn create(held: &Held, data_dir: &Path) -> Result<(), OpenError> {
    let fail = |error: rusqlite::Error| explained(data_dir, &error);
    let mut connection = Connection::open(held.unborn()?).map_err(fail)?;
    migrate(data_dir, &mut connection)?;
    connection.close().map_err(|(_, error)| fail(error))?;
    held.born()
}

/// Copies the database before its schema changes; the copy stays beside it.
fn copy_before_migration(data_dir: &Path, live: &Connection, found: usize) -> Result<(), OpenError> {
    let fail = |why: String| OpenError::NotCopied { path: data_dir.to_owned(), why };
    let stamp = jiff::Timestamp::now().strftime("%Y-%m-%dT%H%M%SZ").to_string();
    let path = data_dir.join(format!("before-schema-{}-{stamp}.db", found + 1));
    let part = path.with_extension("part");
    let _ = std::fs::remove_file(&part);
    private(std::fs::File::options().create_new(true).write(true))
        .open(&part)
        .map_err(|e| fail(e.to_string()))?;
    let copied = || -> Result<(), rusqlite::Error> {
        let mut copy = Connection::open(&part)?;
        while Backup::new(live, &mut copy)?.step(-1)? != StepResult::Done {}
        copy.pragma_update(None, "journal_mode", "delete")?;
        copy.close().map_err(|(_, error)| error)
    };
    if let Err(error) = copied() {
        let _ = std::fs::remove_file(&part);
        return Err(fail(error.to_string()));
    }
    std::fs::rename(&part, &path).and_then(|()| sync(data_dir)).map_err(|e| fail(e.to_string()))?;
    tracing::warn!(copy = %path.display(), "the database is brought up to date; this is how it was before");
    Ok(())
}

/// The connection that writes.
pub(super) fn open(data_dir: &Path, held: &Held) -> Result<Connection, OpenError> {
    let fail = |error: rusqlite::Error| explained(data_dir, &error);
    held.checked()?;
    if !data_dir.join(FILE).exists() {
        create(held, data_dir)?;
    }
    let flags = OpenFlags::SQLITE_OPEN_READ_WRITE | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let mut connection = Connection::open_with_flags(data_dir.join(FILE), flags).map_err(fail)?;
    let found: u32 = connection.query_row("PRAGMA user_version", [], |row| row.get(0)).map_err(fail)?;
    let found = usize::try_from(found).unwrap_or(usize::MAX);
    if found > MIGRATIONS.len() {
        return Err(OpenError::Newer { path: data_dir.to_owned(), found, known: MIGRATIONS.len() });
    }
    let sound: String = connection.query_row("PRAGMA quick_check(1)", [], |row| row.get(0)).map_err(fail)?;
    if sound != "ok" {
        return Err(OpenError::Corrupt { path: data_dir.to_owned() });
    }
    held.keep_private()?;
    // What a change is undone by stays in memory: it must not need a disk that is full.
    connection
        .execute_batch(
            "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; \
             PRAGMA busy_timeout = 5000; PRAGMA temp_store = MEMORY; PRAGMA cache_spill = OFF;",
        )
        .map_err(fail)?;
    if found < MIGRATIONS.len() {
        copy_before_migration(data_dir, &connection, found)?;
        migrate(data_dir, &mut connection)?;
    }
    // Reading once more makes the log, where a crash has not left it.
    let _: i64 =
        connection.query_row("SELECT count(*) FROM sqlite_schema", [], |row| row.get(0)).map_err(fail)?;
    held.mark()?;
    connection.set_prepared_statement_cache_capacity(128);
    Ok(connection)
}

/// A connection that only reads.
pub(crate) fn reader(data_dir: &Path) -> Result<Connection, OpenError> {
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let connection =
        Connection::open_with_flags(data_dir.join(FILE), flags).map_err(|e| explained(data_dir, &e))?;
    connection
        .execute_batch("PRAGMA busy_timeout = 5000; PRAGMA temp_store = MEMORY;")
        .map_err(|e| explained(data_dir, &e))?;
    connection.set_prepared_statement_cache_capacity(128);
    Ok(connection)
}

/// Every migration on a database in memory.
#[cfg(test)]
pub(super) fn migrate_empty(connection: &mut Connection) {
    migrations().to_latest(connection).unwrap_or_else(|error| panic!("{error}"));
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
