//! How a visit left the bank, and what of its closing list nobody answered.

use super::{ClosingItem, Entry, Job, LeftAs, VisitSheet, closing_items};
use crate::battery_model::Construction;

impl VisitSheet {
    /// How the bank is left, where somebody said so.
    pub fn left_as_said(&self) -> Option<LeftAs> {
        self.standing().find_map(|k| match k.entry {
            Entry::LeftAs { how } => Some(how),
            _ => None,
        })
    }

    /// How the bank is left: as somebody said, as the job of the visit has it, or as it usually is.
    pub fn left_as(&self) -> LeftAs {
        let by_job = match self.job() {
            Some(Job::StoragePreparation) => Some(LeftAs::Stored),
            // It is taken into use, whatever the season has.
            Some(Job::SpringCheck) if self.usually_left == LeftAs::Stored => Some(LeftAs::InUse),
            _ => None,
        };
        self.left_as_said().or(by_job).unwrap_or(self.usually_left)
    }

    /// Lines of the closing list that nobody answered.
    pub fn not_closed(&self, construction: Construction) -> Vec<ClosingItem> {
        let answered = |item: ClosingItem| {
            self.standing().any(|k| matches!(k.entry, Entry::Closed { item: own, .. } if own == item))
        };
        closing_items(construction, self.left_as()).into_iter().filter(|item| !answered(*item)).collect()
    }
}
