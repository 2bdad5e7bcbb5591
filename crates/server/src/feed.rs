//! Feeds from chargers: asked by Modbus TCP for open SunSpec models, judged, stored.

mod ask;
mod collect;
mod keep;
pub mod sunspec;

pub use ask::{Charger, FeedError};
pub use collect::collect;
pub use keep::Keeper;

use std::collections::HashMap;
use std::sync::{Mutex, PoisonError};

/// What is known of the feeds beside their samples: that an address changed, and what goes wrong.
#[derive(Debug, Default)]
pub struct FeedNews {
    changed: tokio::sync::Notify,
    wrong: Mutex<HashMap<String, String>>,
}

impl FeedNews {
    /// An address changed.
    pub fn changed(&self) {
        self.changed.notify_one();
    }

    /// Waits for that.
    pub async fn wait(&self) {
        self.changed.notified().await;
    }

    /// What goes wrong with the feed of a bank, as a sentence; none while it answers.
    pub fn wrong(&self, bank: &str) -> Option<String> {
        self.wrong.lock().unwrap_or_else(PoisonError::into_inner).get(bank).cloned()
    }

    fn tell(&self, bank: &str, wrong: Option<String>) {
        let mut all = self.wrong.lock().unwrap_or_else(PoisonError::into_inner);
        match wrong {
            Some(said) => all.insert(bank.to_owned(), said),
            None => all.remove(bank),
        };
    }
}
