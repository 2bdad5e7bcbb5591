//! What every handler shares.

use super::live_rounds::{LiveRound, LiveRounds};
use super::pages::Pages;
use super::unreadable::Unreadable;
use crate::app::judge_rounds::round_context;
use crate::clock::Clock;
use crate::db::{Connection, Transaction};
use crate::db::{Db, DbError, RoundRow};
use crate::pairing::Pairing;
use crate::reach::Reach;
use axum::body::Bytes;
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::RoundToJudge;
use std::collections::HashMap;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

/// Contexts of open rounds kept in memory.
const KEPT: usize = 16;

/// State of a context: what was written when it was read.
type Contexts = HashMap<String, (u64, Arc<RoundToJudge>)>;

/// What a page of a bank is made of beside what is stored: the bank, the reader's units, the day.
pub type BankKey = (String, ReaderUnits, Date);

/// Shared state.
#[derive(Clone)]
pub struct AppState {
    /// The database.
    pub db: Db,
    /// The day it believes in.
    pub clock: Clock,
    /// How it is reached, for telling its own pages from others.
    pub reach: Arc<Reach>,
    /// The open pairing code.
    pub pairing: Arc<Pairing>,
    /// Lets few pictures be decoded at a time.
    pub pictures: crate::photos::Gate,
    /// Files of banks are taken in one after the other.
    pub imports: Arc<tokio::sync::Semaphore>,
    /// Pages of banks, by bank, units and day; the first number is the bank's version.
    pub pages: Arc<Pages<BankKey, (i64, Bytes)>>,
    /// Held while such a page is made.
    pub page_turn: Arc<tokio::sync::Mutex<()>>,
    /// Banks with rows that cannot be read.
    pub unreadable: Arc<Unreadable>,
    /// Told when a charger's address changes.
    pub feeds: Arc<crate::feed::FeedNews>,
    generation: Arc<AtomicU64>,
    contexts: Arc<Mutex<Contexts>>,
    live: Arc<LiveRounds>,
}

impl AppState {
    /// State of a server.
    pub fn new(db: Db, clock: Clock, reach: Reach) -> Self {
        Self {
            db,
            clock,
            reach: Arc::new(reach),
            pairing: Arc::default(),
            pages: Arc::default(),
            page_turn: Arc::default(),
            unreadable: Arc::default(),
            pictures: crate::photos::Gate::default(),
            imports: Arc::new(tokio::sync::Semaphore::new(1)),
            feeds: Arc::default(),
            generation: Arc::default(),
            contexts: Arc::default(),
            live: Arc::default(),
        }
    }

    /// Writes anything but a reading of an open round: what rounds are judged by may have changed.
    ///
    /// # Errors
    /// Whatever the write fails with.
    pub async fn write<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Transaction<'_>) -> Result<T, DbError> + Send + 'static,
    ) -> Result<T, DbError> {
        let shared = self.clone();
        let result = self
            .db
            .write(move |tx| {
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
    ///
    /// # Errors
    /// Whatever the work fails with.
    pub fn with_live_round<T>(
        &self,
        tx: &Transaction<'_>,
        id: &str,
        work: impl FnOnce(&mut LiveRound) -> Result<T, DbError>,
    ) -> Result<T, DbError> {
        let generation = self.generation.load(Ordering::SeqCst);
        self.live.with(tx, id, generation, |row| self.context(tx, row), work)
    }

    /// Drops a round whose write did not reach the disk.
    pub fn forget_live_round(&self, id: &str) {
        self.live.forget(id);
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
