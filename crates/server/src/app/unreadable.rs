//! Banks that cannot be shown, told apart from those that can.

use crate::db::{BankRow, Connection, DbError};
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::{Mutex, PoisonError};
use utoipa::ToSchema;

/// A bank that cannot be shown.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct UnreadableBank {
    /// The bank.
    pub bank: String,
    /// Site and name.
    pub place: String,
    /// Why, and what to do.
    pub why: String,
}

/// Banks that could not be worked out, with the commits that there were then.
#[derive(Debug, Default)]
pub struct Unreadable(Mutex<BTreeMap<String, (u64, String)>>);

impl Unreadable {
    /// True when it was found so, and nothing was written since.
    pub fn is_known(&self, bank: &str, commits: u64) -> bool {
        let known = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        known.get(bank).is_some_and(|(then, _)| *then == commits)
    }

    /// Keeps what was found.
    pub fn keep(&self, found: Vec<(String, String)>, readable: &[String], commits: u64) {
        let mut known = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        known.retain(|bank, _| !readable.contains(bank));
        known.extend(found.into_iter().map(|(bank, why)| (bank, (commits, why))));
    }

    /// Those there are, with their names.
    pub fn told(&self, db: &Connection) -> Result<Vec<UnreadableBank>, DbError> {
        let known = self.0.lock().unwrap_or_else(PoisonError::into_inner).clone();
        let titles = BankRow::titles(db)?;
        let told = |(bank, (_, why)): (String, (u64, String))| {
            let place = titles.get(&bank)?.clone();
            Some(UnreadableBank { bank, place, why })
        };
        Ok(known.into_iter().filter_map(told).collect())
    }
}
