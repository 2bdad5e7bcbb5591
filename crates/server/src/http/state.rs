//! What every handler shares.

use super::pages::Pages;
use crate::app::App;
use crate::app::pages::bank::BankKey;
use crate::app::records::being_read::RecordsBeingRead;
use crate::clock::Clock;
use crate::db::Db;
use crate::pairing::Pairing;
use crate::reach::Reach;
use axum::body::Bytes;
use std::ops::Deref;
use std::sync::Arc;

/// Shared state. Each layer and each handler has a clone, so one is a single count.
#[derive(Clone)]
pub struct AppState(Arc<Shared>);

/// What is shared.
pub struct Shared {
    /// The use cases, and what they work on.
    pub app: App,
    /// How it is reached, for telling its own pages from others.
    pub reach: Reach,
    /// The open pairing code.
    pub pairing: Pairing,
    /// Lets few pictures be decoded at a time.
    pub pictures: crate::photos::Gate,
    /// Files of banks are taken in one after the other.
    pub imports: Arc<tokio::sync::Semaphore>,
    /// Records of monitors that are being read.
    pub records: Arc<RecordsBeingRead>,
    /// Pages of banks, by bank, units and day; the first number is the bank's version.
    pub pages: Pages<BankKey, (i64, Bytes)>,
    /// Held while such a page is made.
    pub page_turn: tokio::sync::Mutex<()>,
    /// Told when a charger's address changes.
    pub feeds: Arc<crate::feed::FeedNews>,
}

impl AppState {
    /// State of a server.
    pub fn new(db: Db, clock: Clock, reach: Reach) -> Self {
        Self(Arc::new(Shared {
            app: App::new(db, clock),
            reach,
            pairing: Pairing::default(),
            pages: Pages::default(),
            page_turn: tokio::sync::Mutex::default(),
            pictures: crate::photos::Gate::default(),
            imports: Arc::new(tokio::sync::Semaphore::new(1)),
            feeds: Arc::default(),
            records: Arc::default(),
        }))
    }
}

impl Deref for AppState {
    type Target = Shared;
    fn deref(&self) -> &Shared {
        &self.0
    }
}

/// A handler calls the use cases by the state that it shares.
impl Deref for Shared {
    type Target = App;
    fn deref(&self) -> &App {
        &self.app
    }
}
