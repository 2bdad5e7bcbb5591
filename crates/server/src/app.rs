//! Use cases: what is read together, judged by the core, and written in one transaction.
//!
//! HTTP, report, demo and command line call this floor; it calls `db`, which stores and fetches.

pub(crate) mod bank_facts;
pub mod bank_files;
pub mod bank_models;
pub(crate) mod bank_state;
pub mod banks;
pub mod battery_models;
pub(crate) mod charger;
pub mod devices;
mod diagnosis;
pub mod due_calendar;
pub mod due_told;
pub mod equalize_context;
pub mod equipment;
pub mod feeds;
pub mod fresh;
pub mod house_rules;
pub mod judge_rounds;
pub mod live_rounds;
pub mod notebook;
pub mod pages;
pub mod people;
pub mod photographs;
pub mod planners;
pub mod plans;
pub mod readings;
pub mod records;
pub mod refusal_words;
pub mod refused;
pub mod reminders;
pub mod replacements;
pub mod report_context;
pub mod rounds;
pub mod rules;
pub mod run_context;
pub mod run_outcomes;
pub mod runs;
pub mod sites;
pub(crate) mod source_changes;
pub mod standing;
pub mod typed;
pub mod unreadable;
pub mod visit_context;
pub mod visits;
pub mod water_ahead;

use crate::clock::Clock;
use crate::db::{Connection, Db, DbError, RoundRow, Transaction};
use judge_rounds::round_context;
use live_rounds::{LiveRound, LiveRounds};
use people::KnownPeople;
use rainshadow_core::round::RoundToJudge;
use refused::AppResult;
use std::collections::HashMap;
use std::ops::Deref;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use unreadable::Unreadable;

/// Contexts of open rounds kept in memory.
const KEPT: usize = 16;

/// State of a context: what was written when it was read.
type Contexts = HashMap<String, (u64, Arc<RoundToJudge>)>;

/// A data folder in use. A clone is the same one.
#[derive(Clone)]
pub struct App(Arc<FolderInUse>);

/// Its database, the day it believes in, and what is kept in memory beside it.
pub struct FolderInUse {
    /// The database.
    pub db: Db,
    /// The day it believes in.
    pub clock: Clock,
    /// Who is known.
    pub people: KnownPeople,
    /// Banks with rows that cannot be read.
    pub unreadable: Unreadable,
    generation: AtomicU64,
    contexts: Mutex<Contexts>,
    live: LiveRounds,
}

impl Deref for App {
    type Target = FolderInUse;
    fn deref(&self) -> &FolderInUse {
        &self.0
    }
}

impl App {
    /// A folder that was just opened.
    pub fn new(db: Db, clock: Clock) -> Self {
        Self(Arc::new(FolderInUse {
            db,
            clock,
            people: KnownPeople::default(),
            unreadable: Unreadable::default(),
            generation: AtomicU64::default(),
            contexts: Mutex::default(),
            live: LiveRounds::default(),
        }))
    }

    /// Writes anything but a reading of an open round: what rounds are judged by may have changed.
    ///
    /// # Errors
    /// Whatever the write fails with.
    pub async fn write<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, DbError> + Send + 'static,
    ) -> Result<T, DbError> {
        self.write_or_refuse(work).await
    }

    /// Writes what may be refused for another reason than the database's; nothing is kept then.
    async fn write_or_refuse<T: Send + 'static, E: From<DbError> + Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, E> + Send + 'static,
    ) -> Result<T, E> {
        let shared = self.clone();
        let result = self
            .db
            .write_or_refuse(move |tx| {
                let result = work(tx);
                // Before the next write, which judges by what is in memory ...
                shared.changed();
                result
            })
            .await;
        // ... and after the commit, for readers that looked in between.
        self.changed();
        result
    }

    /// Works on a round under way inside a write.
    fn with_live_round<T>(
        &self,
        tx: &Transaction<'_>,
        id: &str,
        work: impl FnOnce(&mut LiveRound) -> AppResult<T>,
    ) -> AppResult<T> {
        let generation = self.generation.load(Ordering::SeqCst);
        self.live.with(tx, id, generation, |row| self.context(tx, row), work)
    }

    /// Says that contexts read so far may be stale.
    pub fn changed(&self) {
        self.generation.fetch_add(1, Ordering::SeqCst);
    }

    /// What a round is judged by but its readings; read once, as cells are entered one by one.
    ///
    /// # Errors
    /// Whatever reading it fails with.
    pub fn context(&self, db: &Connection, round: &RoundRow) -> Result<Arc<RoundToJudge>, DbError> {
        let generation = self.generation.load(Ordering::SeqCst);
        let known = |contexts: &Contexts| {
            contexts.get(&round.id).filter(|(g, _)| *g == generation).map(|(_, c)| Arc::clone(c))
        };
        if let Some(context) = known(&self.contexts.lock().unwrap_or_else(PoisonError::into_inner)) {
            return Ok(context);
        }
        let context = Arc::new(round_context(db, round)?);
        let mut contexts = self.contexts.lock().unwrap_or_else(PoisonError::into_inner);
        if contexts.len() >= KEPT {
            contexts.clear();
        }
        contexts.insert(round.id.clone(), (generation, Arc::clone(&context)));
        Ok(context)
    }
}
