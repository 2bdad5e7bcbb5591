//! How far files are that are being read.

use serde::Serialize;
use std::collections::HashMap;
use std::sync::{Mutex, PoisonError};
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

    /// Says how far one is.
    pub fn told(&self, id: &str, change: impl FnOnce(&mut RecordProgress)) {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        change(all.entry(id.to_owned()).or_default());
    }

    /// Says that one is over.
    pub fn over(&self, id: &str) {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).remove(id);
    }
}
