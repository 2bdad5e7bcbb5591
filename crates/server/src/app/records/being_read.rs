//! How far files are that are being read.

use serde::Serialize;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use utoipa::ToSchema;

/// How far the reading of a file is.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, ToSchema)]
pub struct RecordProgress {
    /// Bytes that were read.
    pub bytes: u64,
    /// Lines that were read.
    pub lines: u64,
    /// "14 Mar 2026 10:05", the moment of the last of them; empty: none yet.
    pub reached: String,
}

/// Files that are being read, by their ids.
#[derive(Debug, Default)]
pub struct RecordsBeingRead(Mutex<HashMap<String, RecordProgress>>);

impl RecordsBeingRead {
    /// How far one is; nothing where it is not being read.
    pub fn of(&self, id: &str) -> RecordProgress {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).get(id).cloned().unwrap_or_default()
    }

    /// Takes one up; none: it is being read already. It is over when what is handed out goes.
    pub fn take_up(self: &Arc<Self>, id: &str) -> Option<BeingRead> {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if all.contains_key(id) {
            return None;
        }
        all.insert(id.to_owned(), RecordProgress::default());
        Some(BeingRead { all: Arc::clone(self), id: id.to_owned() })
    }
}

/// One file that is being read.
#[derive(Debug)]
pub struct BeingRead {
    all: Arc<RecordsBeingRead>,
    id: String,
}

impl BeingRead {
    /// Its id.
    pub fn id(&self) -> &str {
        &self.id
    }

    /// Says how far it is.
    pub fn told(&self, change: impl FnOnce(&mut RecordProgress)) {
        let mut all = self.all.0.lock().unwrap_or_else(PoisonError::into_inner);
        change(all.entry(self.id.clone()).or_default());
    }
}

impl Drop for BeingRead {
    fn drop(&mut self) {
        self.all.0.lock().unwrap_or_else(PoisonError::into_inner).remove(&self.id);
    }
}
