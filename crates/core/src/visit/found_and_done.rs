//! What a visit found, what was done about it, and how it was left, from what stands on its sheet.

use super::{Check, Entry, Left, Place, Repaired, SeenFinding, VisitEntry, VisitSheet};
use crate::finding::{self, Finding};
use crate::severity::Severity;
use std::collections::HashSet;

/// Something that was found on a visit, with what was done about it there.
#[derive(Debug, Clone, PartialEq)]
pub struct FoundAndDone<'a> {
    /// The entry that found it.
    pub entry: &'a VisitEntry,
    /// What was looked at.
    pub check: Check,
    /// What was found.
    pub found: &'a SeenFinding,
    /// What was done about it, in the order it was written down.
    pub repairs: Vec<(&'a VisitEntry, &'a Repaired)>,
    /// How it was left.
    pub left: Left,
}

impl FoundAndDone<'_> {
    /// How bad it is as it was left: steady where it was put right, at most watch where it is better.
    pub fn severity(&self) -> Severity {
        match self.left {
            Left::PutRight => Severity::Steady,
            Left::Better => self.found.severity.min(Severity::Watch),
            Left::AsFound => self.found.severity,
        }
    }

    /// What is open of it as it was left; none where it was put right.
    pub fn open(&self) -> Option<Finding> {
        let left = SeenFinding { severity: self.severity(), ..self.found.clone() };
        let found = || finding::look::finding(&self.entry.id, self.entry.place, self.check, &left);
        (left.severity >= Severity::Watch).then(found)
    }
}

/// What this visit did about something that it did not find itself: it was found before, or nobody wrote it down.
#[derive(Debug, Clone, PartialEq)]
pub struct RepairedOnly<'a> {
    /// The first entry about it.
    pub entry: &'a VisitEntry,
    /// Where.
    pub place: Place,
    /// What was looked at.
    pub check: Check,
    /// Key of what is repaired.
    pub found: &'a str,
    /// What was done about it, in the order it was written down.
    pub repairs: Vec<(&'a VisitEntry, &'a Repaired)>,
    /// How it was left: the last word counts, *fine* there after a repair says that it is in order.
    pub left: Left,
}

impl VisitSheet {
    /// Everything that was found, with what was done about it and how it was left. The last word counts: a
    /// repair says how it was left, *fine* there after it was found says that it is in order, and what is
    /// found again after either stands as it was found.
    pub fn found_and_done(&self) -> Vec<FoundAndDone<'_>> {
        let mut all: Vec<FoundAndDone<'_>> = self
            .found()
            .map(|(entry, check, found)| {
                let left = Left::AsFound;
                FoundAndDone { entry, check, found, repairs: Vec::new(), left }
            })
            .collect();
        let mut met: HashSet<&str> = HashSet::new();
        for written in self.standing() {
            met.insert(&written.id);
            for own in all.iter_mut().filter(|own| own.entry.place == written.place) {
                let after = met.contains(own.entry.id.as_str());
                match &written.entry {
                    Entry::Repaired { repaired } if repaired.repairs(own.check, &own.found.kind) => {
                        own.repairs.push((written, repaired));
                        own.left = if after { repaired.left } else { own.left };
                    }
                    Entry::Checked { check, found: None, .. } if after && *check == own.check => {
                        own.left = Left::PutRight;
                    }
                    _ => {}
                }
            }
        }
        all
    }

    /// Repairs of what this visit did not find itself, each thing once.
    pub fn repaired_only(&self) -> Vec<RepairedOnly<'_>> {
        let found = self.found_and_done();
        let about =
            |entry: &VisitEntry| found.iter().any(|f| f.repairs.iter().any(|(r, _)| r.id == entry.id));
        let mut all: Vec<RepairedOnly<'_>> = Vec::new();
        for entry in self.standing() {
            let here = |own: &&mut RepairedOnly<'_>| own.place == entry.place;
            match &entry.entry {
                Entry::Repaired { repaired } if !about(entry) => {
                    let known =
                        all.iter_mut().filter(here).find(|own| repaired.repairs(own.check, own.found));
                    if let Some(own) = known {
                        own.repairs.push((entry, repaired));
                        own.left = repaired.left;
                        continue;
                    }
                    all.push(RepairedOnly {
                        entry,
                        place: entry.place,
                        check: repaired.check,
                        found: &repaired.found,
                        repairs: vec![(entry, repaired)],
                        left: repaired.left,
                    });
                }
                Entry::Checked { check, found: None, .. } => {
                    for own in all.iter_mut().filter(here).filter(|own| own.check == *check) {
                        own.left = Left::PutRight;
                    }
                }
                _ => {}
            }
        }
        all
    }
}
