//! Rounds that are being taken, in memory: a reading is judged against its mates and stored without
//! reading the whole round again. The database stays the truth; what is here can be dropped any time.

use super::refused::AppResult;
use crate::db::Transaction;
use crate::db::{BankRow, DbError, RoundRow, VisitRow, Written, readings};
use jiff::Timestamp;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::round::{CellRecord, RoundEntry, RoundToJudge, RoundUnderWay};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// Rounds kept at once.
const KEPT: usize = 16;

/// One round under way.
pub struct LiveRound {
    /// The round.
    pub row: RoundRow,
    /// What it is judged by.
    pub context: Arc<RoundToJudge>,
    blocks: HashMap<BatteryAddress, String>,
    entries: Vec<RoundEntry>,
    /// What stands at each cell.
    records: Vec<CellRecord>,
    /// Its visit.
    visit: VisitRow,
}

impl LiveRound {
    /// Reads a round with its readings.
    ///
    /// # Errors
    /// Whatever the database fails with.
    pub fn load(tx: &Transaction<'_>, row: RoundRow, context: Arc<RoundToJudge>) -> Result<Self, DbError> {
        let blocks = BankRow::placements_on(tx, &row.bank_id, row.day())?.into_iter().collect();
        let entries = readings::of_round(tx, &row)?;
        let records = RoundEntry::records(&entries);
        let visit = VisitRow::by_id(tx, &row.visit_id)?;
        Ok(Self { row, context, blocks, entries, records, visit })
    }

    /// The round as it is asked about the next entry.
    pub fn under_way(&self) -> RoundUnderWay<'_> {
        RoundUnderWay {
            context: &self.context,
            entries: &self.entries,
            records: &self.records,
            taking: self.visit.taking().is_ok(),
        }
    }

    /// Why its visit takes nothing.
    ///
    /// # Errors
    /// Always, where the visit is closed: who closed it, and what to do.
    pub fn taking(&self) -> Result<(), DbError> {
        self.visit.taking()
    }

    /// Appends an entry that was accepted; the same again is already there.
    pub fn append(
        &mut self,
        tx: &Transaction<'_>,
        entry: &RoundEntry,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        let known = self.entries.iter().any(|e| e.id == entry.id);
        let written = match self.blocks.get(&entry.cell.battery).filter(|_| !known) {
            // An id that another round holds falls back to the road that tells the two apart.
            Some(block) => match readings::insert(tx, &self.row, block, entry, now) {
                Err(error) if error.contradiction().is_some() => readings::append(tx, &self.row, entry, now),
                other => other,
            },
            None => readings::append(tx, &self.row, entry, now),
        }?;
        if written == Written::Created {
            self.take_in(RoundEntry { standing: true, ..entry.clone() });
        }
        Ok(written)
    }

    fn take_in(&mut self, entry: RoundEntry) {
        let first_here = entry.supersedes.is_none() && self.records.iter().all(|r| r.cell != entry.cell);
        let record = entry.record();
        self.entries.push(entry);
        if let Some(record) = record.filter(|_| first_here) {
            self.records.push(record);
        } else {
            RoundEntry::mark_standing(&mut self.entries);
            self.records = RoundEntry::records(&self.entries);
        }
    }
}

/// The rounds under way, each with the generation of data it was read in.
#[derive(Default)]
pub struct LiveRounds(Mutex<HashMap<String, (u64, LiveRound)>>);

impl LiveRounds {
    /// Works on a round inside a write, which runs alone; reads it first when it is not here or is of
    /// an older generation.
    pub fn with<T>(
        &self,
        tx: &Transaction<'_>,
        id: &str,
        generation: u64,
        context: impl FnOnce(&RoundRow) -> Result<Arc<RoundToJudge>, DbError>,
        work: impl FnOnce(&mut LiveRound) -> AppResult<T>,
    ) -> AppResult<T> {
        let mut rounds = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if rounds.get(id).is_none_or(|(of, _)| *of != generation) {
            let row = RoundRow::by_id(tx, id)?;
            let context = context(&row)?;
            if rounds.len() >= KEPT {
                rounds.clear();
            }
            rounds.insert(id.to_owned(), (generation, LiveRound::load(tx, row, context)?));
        }
        let (_, live) = rounds.get_mut(id).ok_or(DbError::Crashed)?;
        work(live)
    }

    /// Drops a round whose write did not reach the disk.
    pub fn forget(&self, id: &str) {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).remove(id);
    }
}
