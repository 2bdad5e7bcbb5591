//! Batteries that were found dry, or opened though they are sealed: how far they came back, and that nothing is proven of
//! them before a timed discharge (RC-1).

use super::load_tests::past_discharges;
use super::{Check, Entry, Judged, PastVisit, Place, TestEntry, VisitEntry, Work};
use crate::recovery::RecoveryStage;
use jiff::civil::Date;

/// One that was found dry, or opened.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct RanDry {
    /// Where.
    pub place: Place,
    /// The day it was found.
    pub day: Date,
    /// Which of the visits found it.
    pub visit: usize,
    /// True for a sealed one that somebody opened, dried out or filled: nobody fills it again.
    pub sealed: bool,
    /// What is next.
    pub stage: RecoveryStage,
}

/// True for an entry that says that a place was found dry, or its seal broken.
fn found_dry(entry: &Entry) -> Option<bool> {
    match entry {
        Entry::Checked { check: Check::Caps, found: Some(found), .. } if found.kind == "dry" => Some(false),
        // A valve that vented shut again: it is not open.
        Entry::Checked { check: Check::Seal, found: Some(found), .. } => {
            (found.kind != "vents").then_some(true)
        }
        _ => None,
    }
}

/// The next stage after an entry at a place that overlaps.
fn after(stage: RecoveryStage, kept: &VisitEntry) -> RecoveryStage {
    let full = match &kept.entry {
        Entry::Rested { conditions } => conditions.charged_full,
        other => other.does(Work::ChargedFull),
    };
    match &kept.entry {
        Entry::Water { .. } => stage.max(RecoveryStage::Charge),
        _ if full && stage >= RecoveryStage::Charge => stage.max(RecoveryStage::Load),
        Entry::Test { test: TestEntry::ShortLoad { .. } } if stage >= RecoveryStage::Load => {
            RecoveryStage::Prove
        }
        _ => stage,
    }
}

/// Places that were found dry or opened and that no timed discharge has proven since; visits are oldest first.
pub fn ran_dry(visits: &[PastVisit], bank: Judged<'_>) -> Vec<RanDry> {
    let mut open: Vec<RanDry> = Vec::new();
    for (at, visit) in visits.iter().enumerate() {
        for kept in visit.sheet.standing() {
            if let Some(sealed) = found_dry(&kept.entry) {
                open.retain(|own| own.place != kept.place);
                let stage = if sealed { RecoveryStage::Load } else { RecoveryStage::Cover };
                open.push(RanDry { place: kept.place, day: visit.day, visit: at, sealed, stage });
                continue;
            }
            for own in open.iter_mut().filter(|own| own.place.overlaps(kept.place)) {
                own.stage = after(own.stage, kept);
            }
        }
    }
    let proofs = past_discharges(visits, bank);
    open.retain(|own| {
        let proves = |test: &&super::PastDischarge| {
            test.day >= own.day
                && own.place.overlaps(test.place)
                && test.now.result.as_ref().is_some_and(|result| result.percent.is_some() && !result.at_least)
        };
        !proofs.iter().any(|test| proves(&test))
    });
    open
}
