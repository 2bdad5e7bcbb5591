//! All SQL. Methods are named for what the caller wants and speak in core types.
//!
//! One connection writes, so commits queue in one place; two read, so a page never waits for a
//! commit. rusqlite blocks: [`Db::read`] and [`Db::write`] are the one place that moves it off the
//! async threads.

pub(crate) mod assessments;
mod bank_changes;
mod bank_lists;
mod bank_models;
mod banks;
mod bundles;
pub(crate) mod came;
mod copy;
pub(crate) mod derived;
mod devices;
pub(crate) mod due;
mod equipment;
mod error;
pub(crate) mod feeds;
pub mod folder;
mod forget;
pub(crate) mod house_rules;
mod log;
mod models;
mod monitor_records;
mod open;
mod open_error;
mod people;
mod photos;
mod placements;
mod plans;
mod readers;
pub(crate) mod readings;
pub(crate) mod records;
mod reminders;
pub(crate) mod replacements;
pub(crate) mod rounds;
mod rows;
mod run_records;
mod runs;
mod sites;
mod taken_out;
mod typed_digest;
pub(crate) mod visit_entries;
pub(crate) mod visits;
mod written_down;

pub use assessments::{HistoryRow, history};
pub use bank_lists::{BankBrief, BankListRow};
pub use bank_models::FormerModel;
pub use banks::{AccessNotes, BankEdit, BankRow, NewBank};
pub use bundles::{BankBundle, BankNotes, ChangeRow, PlacedBlock, WholeVisit};
pub use copy::DatabaseFacts;
pub(crate) use copy::{copy_of, facts_of, facts_of_file, photo_hashes as listed_photographs};
pub use devices::{Device, Scope};
pub(crate) use devices::{calendar_person, calendar_since, close_calendar, open_calendar};
pub use due::{DueLine, DueRow};
pub use equipment::{EquipmentRow, FeedAddress, Fitted, on_own_network};
pub use error::{DbError, WrittenDown};
pub use feeds::FeedSample;
pub use folder::Held;
pub use models::ModelRow;
pub use monitor_records::MonitorRecord;
pub(crate) use open::reader as open_to_read;
pub use open::schema;
pub use open_error::OpenError;
pub use people::{Person, Theme};
pub use photos::{PhotoOf, PhotoRow};
pub(crate) use placements::came_in;
pub use plans::{PlanRecord, PlanRow};
use readers::Readers;
pub use records::{NewRecord, RecordRow};
pub use reminders::{NewPostponement, NewReminder};
pub(crate) use reminders::{job_done, reminder_done};
pub(crate) use replacements::undo as undo_change;
pub use replacements::{ChangeKind, ChangeMore, ChangeView, NewChange, Stood};
pub use rounds::{NewRound, Origin, RoundRow};
pub(crate) use rows::{BadRow, LOOSE, LookAtText, bad_rows, scratch_copy, set_aside};
pub use run_records::{EquipmentRecord, FeedRecord, RunEntryRecord, RunRecord, WatchedRecord};
pub use runs::{NewRun, PlannedRun, RunEntryRow, RunRow};
pub use sites::{NewSite, Site, SiteEdit};
pub use taken_out::TakenOut;
pub(crate) use taken_out::{banks_of_block_at, taken_out};
pub(crate) use typed_digest::{demo_made, is_demo, typed_digest};
pub use visits::{NewVisit, VisitRow};

pub use rusqlite::{Connection, Transaction};

use rainshadow_core::actor::Actor;
use rusqlite::TransactionBehavior;
use std::path::Path;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// Whether a write made something new or found it already there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Written {
    /// Made now.
    Created,
    /// The same body was there before.
    AlreadyThere,
}

/// What became of a change to something that several people change, which named the version it saw.
#[derive(Debug, Clone, PartialEq)]
pub enum Changed<T> {
    /// Done now, or before by the same person on the same device: as it stands.
    Done(T),
    /// Somebody else changed it since: as it stands.
    BySomebodyElse(T),
}

/// The database.
#[derive(Clone)]
pub struct Db {
    // Closed in this order: the last connection to close must be the one that may write, and the
    // folder is let go after it.
    readers: Arc<Readers>,
    writer: Arc<Mutex<Connection>>,
    /// Commits since it was opened: what was read before the last one may be stale.
    commits: Arc<AtomicU64>,
    /// Held for the life of the server.
    _held: Arc<Held>,
    /// The data folder.
    folder: Arc<std::path::PathBuf>,
}

fn lock(connection: &Mutex<Connection>) -> MutexGuard<'_, Connection> {
    // A panic in a handler cannot leave a connection half-written: its transaction rolled back.
    connection.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Db {
    /// Opens the folder, creates it when missing and migrates it.
    ///
    /// # Errors
    /// [`OpenError`] in one clear line; nothing is touched.
    pub fn open(data_dir: &Path) -> Result<Self, OpenError> {
        let held = Held::take(data_dir)?;
        let writer = open::open(data_dir, &held)?;
        let readers = [open::reader(data_dir)?, open::reader(data_dir)?];
        let db = Self {
            readers: Arc::new(Readers::new(readers.into())),
            writer: Arc::new(Mutex::new(writer)),
            commits: Arc::default(),
            _held: Arc::new(held),
            folder: Arc::new(data_dir.to_owned()),
        };
        db.write_now(|tx| {
            models::ship(tx)?;
            house_rules::ship(tx)
        })
        .map_err(|error| OpenError::Shipped(error.to_string()))?;
        Ok(db)
    }

    /// The data folder.
    pub fn folder(&self) -> &Path {
        &self.folder
    }

    /// Runs a read on a worker thread.
    ///
    /// # Errors
    /// Whatever the read fails with.
    pub async fn read<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Connection) -> Result<T, DbError> + Send + 'static,
    ) -> Result<T, DbError> {
        let readers = Arc::clone(&self.readers);
        tokio::task::spawn_blocking(move || readers.with(work)).await.map_err(|_join| DbError::Crashed)?
    }

    /// Runs a write in one transaction on a worker thread; it is on disk when this returns.
    ///
    /// # Errors
    /// Whatever the write fails with; nothing of it is kept then.
    pub async fn write<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, DbError> + Send + 'static,
    ) -> Result<T, DbError> {
        self.write_or_refuse(work).await
    }

    /// Runs a write that may be refused for a reason of its caller's; nothing is kept then.
    ///
    /// # Errors
    /// Whatever the write fails with or is refused for.
    pub async fn write_or_refuse<T: Send + 'static, E: From<DbError> + Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, E> + Send + 'static,
    ) -> Result<T, E> {
        let db = self.clone();
        let done = tokio::task::spawn_blocking(move || db.committed(&mut lock(&db.writer), work));
        done.await.map_err(|_join| DbError::Crashed)?
    }

    /// Writes one row: when nobody else writes, it runs on the thread that asks. Waking another thread
    /// took half as long as the commit itself.
    ///
    /// # Errors
    /// Whatever the write fails with or is refused for; nothing of it is kept then.
    pub async fn write_row<T: Send + 'static, E: From<DbError> + Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, E> + Send + 'static,
    ) -> Result<T, E> {
        if let Ok(mut writer) = self.writer.try_lock() {
            return self.committed(&mut writer, work);
        }
        self.write_or_refuse(work).await
    }

    /// Runs a write on this thread, for commands without an async runtime.
    ///
    /// # Errors
    /// Whatever the write fails with.
    pub fn write_now<T>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, DbError>,
    ) -> Result<T, DbError> {
        self.write_or_refuse_now(work)
    }

    /// Runs a write on this thread that may be refused for a reason of its caller's; nothing is kept then.
    ///
    /// # Errors
    /// Whatever the write fails with or is refused for.
    pub fn write_or_refuse_now<T, E: From<DbError>>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, E>,
    ) -> Result<T, E> {
        self.committed(&mut lock(&self.writer), work)
    }

    fn committed<T, E: From<DbError>>(
        &self,
        writer: &mut Connection,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, E>,
    ) -> Result<T, E> {
        let tx = writer.transaction_with_behavior(TransactionBehavior::Immediate).map_err(DbError::from)?;
        let result = work(&tx)?;
        // Counted whether it succeeds or not: a commit whose answer is an error may be on disk.
        let done = tx.commit();
        self.commits.fetch_add(1, Ordering::SeqCst);
        done.map_err(DbError::from)?;
        Ok(result)
    }

    /// Commits since it was opened; what was read when there were as many is as good as read now.
    pub fn commits(&self) -> u64 {
        self.commits.load(Ordering::SeqCst)
    }

    /// Works in a transaction of which nothing is kept, nor written: for a disk that takes nothing.
    ///
    /// # Errors
    /// Whatever the work fails with.
    pub async fn unwritten<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, DbError> + Send + 'static,
    ) -> Result<T, DbError> {
        let db = self.clone();
        let work = move || {
            let mut writer = lock(&db.writer);
            let tx = writer.transaction_with_behavior(TransactionBehavior::Immediate)?;
            // Dropped, it rolls back.
            work(&tx)
        };
        tokio::task::spawn_blocking(work).await.map_err(|_join| DbError::Crashed)?
    }
}

/// Appends to the list of what happened.
fn event(
    tx: &Transaction<'_>,
    at: jiff::Timestamp,
    by: &Actor,
    what: &str,
    subject: &str,
) -> Result<(), DbError> {
    let said = if by.device.is_empty() { by.initials.clone() } else { by.said() };
    tx.prepare_cached("INSERT INTO event_log (at, person_id, person, what, subject) VALUES (?, ?, ?, ?, ?)")?
        .execute((at.to_string(), &by.id, said, what, subject))?;
    Ok(())
}

/// What was sent under this id before, for the tables that keep it.
fn sent_before(tx: &Transaction<'_>, table: &'static str, id: &str) -> Result<Option<String>, DbError> {
    use rusqlite::OptionalExtension;
    Ok(tx
        .prepare_cached(&format!("SELECT sent FROM {table} WHERE id = ?"))?
        .query_row([id], |row| row.get(0))
        .optional()?)
}

/// True where a thing with this id is kept.
fn is_here(tx: &Transaction<'_>, table: &'static str, id: &str) -> Result<bool, DbError> {
    Ok(sent_before(tx, table, id)?.is_some())
}

/// Whoever changes a shared thing says which version he saw.
fn seen<T: serde::Serialize>(
    what: &'static str,
    seen: Option<i64>,
    stands: i64,
    theirs: &T,
) -> Result<(), DbError> {
    match seen {
        Some(version) if version == stands => Ok(()),
        Some(_) => Err(DbError::ChangedSince {
            what,
            theirs: serde_json::to_value(theirs).unwrap_or_default().into(),
        }),
        None => Err(DbError::VersionNeeded { what }),
    }
}

/// Same body again is fine, another body is refused.
fn same_or_conflict(what: &'static str, id: &str, before: &str, now: &str) -> Result<Written, DbError> {
    if before == now {
        Ok(Written::AlreadyThere)
    } else {
        Err(DbError::OtherBody { what, id: id.to_owned() })
    }
}
