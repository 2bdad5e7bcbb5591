//! What the visits of a bank found and did not put right, and what became of it on the last of them.

use super::{Check, Entry, Left, PastVisit, Place, RepairedOnly, SeenFinding, VisitEntry};
use crate::finding::{self, Finding};
use crate::schedule::OpenFinding;
use crate::severity::Severity;
use std::collections::BTreeMap;

/// What was looked at, where, and what was found there.
type Key = (Check, Place, String);

fn open_by_key(visits: &[PastVisit]) -> BTreeMap<Key, OpenFinding> {
    let mut open: BTreeMap<Key, OpenFinding> = BTreeMap::new();
    for visit in visits {
        // A glance at the whole bank says nothing of what was noted at one place beside it.
        let only = visit.sheet.repaired_only();
        let noted = |check: Check, place: Place, kind: &str| {
            only.iter()
                .any(|r| r.place == place && r.check == check && r.found == kind && r.left != Left::PutRight)
        };
        for kept in visit.sheet.standing() {
            match &kept.entry {
                Entry::Checked { check, found: None, .. } => open.retain(|(own, place, kind), _| {
                    let bank = kept.place == Place::Bank && !noted(*own, *place, kind);
                    own != check || !(bank || kept.place == *place)
                }),
                Entry::Repaired { repaired } => {
                    let key = (repaired.check, kept.place, repaired.found.clone());
                    if repaired.left == Left::PutRight {
                        open.remove(&key);
                    } else if let Some(own) = open.get_mut(&key).filter(|_| repaired.left == Left::Better) {
                        own.finding.severity = own.finding.severity.min(Severity::Watch);
                    }
                }
                // Water covers the plates that were found bare; what is still owed the battery is told by itself (RC-1).
                Entry::Water { .. } => open.retain(|key, _| !covers(kept.place, key)),
                _ => {}
            }
        }
        // What was repaired and is not in order is open, whoever found it.
        for own in only.iter().filter(|own| own.left != Left::PutRight) {
            open.entry(key_of(own)).or_insert_with(|| {
                let usual = usual_severity(own);
                let severity = if own.left == Left::Better { usual.min(Severity::Watch) } else { usual };
                let seen =
                    SeenFinding { kind: own.found.into(), severity, note: String::new(), measured: None };
                let finding = finding::look::finding(&own.entry.id, own.place, own.check, &seen);
                OpenFinding { day: visit.day, finding }
            });
        }
        for own in visit.sheet.found_and_done() {
            let key = (own.check, own.entry.place, own.found.kind.clone());
            match own.open().filter(|_| !covered(visit, own.entry, &key)) {
                Some(finding) => open.insert(key, OpenFinding { day: visit.day, finding }),
                None => open.remove(&key),
            };
        }
    }
    open
}

/// True where water poured at a place covers what was found dry.
fn covers(poured: Place, (check, place, kind): &Key) -> bool {
    *check == Check::Caps && kind == "dry" && poured.overlaps(*place)
}

/// True where the visit that found it dry poured water there afterwards.
fn covered(visit: &PastVisit, found: &VisitEntry, key: &Key) -> bool {
    let after = visit.sheet.standing().skip_while(|kept| kept.id != found.id);
    after.into_iter().any(|kept| matches!(kept.entry, Entry::Water { .. }) && covers(kept.place, key))
}

/// What was found and not put right: the last word on it decides. *Fine* at a place answers what was found
/// there on earlier visits, for the whole bank at every place of it; what a visit finds itself is answered
/// there by a repair or a later look at the same place.
pub fn open_findings(visits: &[PastVisit]) -> Vec<OpenFinding> {
    open_by_key(visits).into_values().collect()
}

fn key_of(repaired: &RepairedOnly<'_>) -> Key {
    (repaired.check, repaired.place, repaired.found.to_owned())
}

fn usual_severity(own: &RepairedOnly<'_>) -> Severity {
    own.check.kind(own.found).map_or(Severity::Watch, |kind| kind.severity)
}

/// True when the visits before left open what a visit repaired.
pub fn open_before(past: &[PastVisit], own: &RepairedOnly<'_>) -> bool {
    open_by_key(past).contains_key(&key_of(own))
}

/// What earlier visits left open, and the last one looked at again and called fine: neither found again nor
/// repaired there, and open no more.
pub fn answered_findings(visits: &[PastVisit]) -> Vec<Finding> {
    let Some((now, past)) = visits.split_last() else { return Vec::new() };
    let still = open_by_key(visits);
    let mut told: Vec<Key> = now.sheet.repaired_only().iter().map(key_of).collect();
    let found = now.sheet.found_and_done();
    told.extend(found.iter().map(|own| (own.check, own.entry.place, own.found.kind.clone())));
    let before = open_by_key(past).into_iter();
    before
        .filter(|(key, _)| !still.contains_key(key) && !told.contains(key))
        .map(|(_, f)| f.finding)
        .collect()
}

/// How bad it is as it was left, what the last visit repaired without finding it: as what is open of it then.
pub fn left_severity(visits: &[PastVisit], own: &RepairedOnly<'_>) -> Severity {
    open_by_key(visits).get(&key_of(own)).map_or(Severity::Steady, |f| f.finding.severity)
}
