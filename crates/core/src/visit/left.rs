//! How a visit left the bank, and what of its closing list nobody answered.

use super::{ClosingItem, Entry, Job, JobTask, LeftAs, Place, VisitEntry, VisitSheet, Work, closing_items};
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
            Some(Job::StoragePreparation | Job::StorageCheck) => Some(LeftAs::Stored),
            // It is taken into use, whatever the season has.
            Some(Job::SpringCheck) if self.usually_left == LeftAs::Stored => Some(LeftAs::InUse),
            _ => None,
        };
        self.left_as_said().or(by_job).unwrap_or(self.usually_left)
    }

    /// How the bank is left, where somebody said so or a job was worked through that leaves it so: disconnected for storage, or
    /// looked over in spring.
    pub fn left_as_told(&self) -> Option<LeftAs> {
        let by_job = || match self.job()? {
            Job::StoragePreparation => self.closes(ClosingItem::DisconnectsAsWanted).map(|_| LeftAs::Stored),
            Job::SpringCheck => Some(self.left_as()),
            // A check leaves it as it was.
            Job::Replacement | Job::StorageCheck => None,
        };
        self.left_as_said().or_else(by_job)
    }

    /// The closing list of the visit; a check in storage neither charges nor fills for the months to come.
    pub fn closing(&self, construction: Construction) -> Vec<ClosingItem> {
        let checks = self.job() == Some(Job::StorageCheck);
        let asked = |item: &ClosingItem| {
            !(checks && matches!(item, ClosingItem::FullForStorage | ClosingItem::LevelsForStorage))
        };
        closing_items(construction, self.left_as()).into_iter().filter(asked).collect()
    }

    /// What answers a line of the closing list: its own tick, or what another step wrote down that says the same.
    pub fn closes(&self, item: ClosingItem) -> Option<&VisitEntry> {
        let ticked = |k: &&VisitEntry| matches!(k.entry, Entry::Closed { item: own, .. } if own == item);
        let says_so = |k: &&VisitEntry| match item {
            ClosingItem::FullForStorage => k.entry.does(Work::ChargedFull),
            ClosingItem::LevelsForStorage => {
                k.place == Place::Bank && matches!(k.entry, Entry::Water { to_mark: true, .. })
            }
            ClosingItem::DisconnectsAsWanted => matches!(
                k.entry,
                Entry::JobTask { task: JobTask::Disconnected | JobTask::NothingDraws, none_here: false }
            ),
            ClosingItem::NothingDraws => {
                matches!(k.entry, Entry::JobTask { task: JobTask::NothingDraws, none_here: false })
            }
            _ => false,
        };
        self.standing().find(ticked).or_else(|| self.standing().find(says_so))
    }

    /// Lines of the closing list that nobody answered.
    pub fn not_closed(&self, construction: Construction) -> Vec<ClosingItem> {
        self.closing(construction).into_iter().filter(|item| self.closes(*item).is_none()).collect()
    }
}
