//! SC-1: what a finding or a measured condition asks for.

use super::days::plus;
use super::{BankFacts, Consequence, DueItem, Task, Why};
use crate::equalize::{NonRespondingCell, non_responding};
use crate::finding::RuleId;
use crate::severity::Severity;

/// Plates that showed and were not covered: at once.
pub(super) fn plates_bare(facts: &BankFacts) -> Option<DueItem> {
    let (cells, day) = facts.plates_bare.clone()?;
    let why = Why::PlatesBare { cells };
    Some(DueItem::new(Task::CoverPlates, Consequence::Harm, day, why, RuleId::Wa4))
}

/// Cells that the last round acts on; an equalize since then is the answer that the next round reads.
pub(super) fn suspect_cells(facts: &BankFacts) -> Option<DueItem> {
    let round = facts.round.as_ref()?;
    if facts.last_equalize.is_some_and(|e| e > round.day) {
        return None;
    }
    // One that did not answer twice is a finding for replacement: no third equalize is asked for it.
    let given_up =
        |cell| non_responding(&facts.non_responding, cell).is_some_and(NonRespondingCell::is_given_up);
    let hoped: Vec<_> = round.suspects.iter().filter(|(cell, _, _)| !given_up(*cell)).collect();
    let (worst, deviation, sinking) = hoped.first()?;
    let why = Why::Suspect {
        cells: hoped.iter().map(|(cell, _, _)| *cell).collect(),
        deviation: *deviation,
        sinking: *sinking,
        equalize: round.equalize.is_some(),
        non_responding: non_responding(&facts.non_responding, *worst).copied(),
    };
    Some(DueItem::new(Task::SuspectCell, Consequence::Harm, plus(round.day, 1), why, RuleId::Rd8))
}

/// What was seen and not put right: act at once, watch within a month.
pub(super) fn seen(facts: &BankFacts) -> Vec<DueItem> {
    facts
        .findings
        .iter()
        .map(|f| {
            let act = f.finding.severity == Severity::Act;
            let (consequence, wait) = if act { (Consequence::Harm, 1) } else { (Consequence::Loss, 30) };
            let why = Why::Found { finding: Box::new(f.finding.clone()) };
            DueItem::new(Task::SeenFinding, consequence, plus(f.day, wait), why, f.finding.rule)
        })
        .collect()
}

/// Off full after a proven full charge, or never near full: within a fortnight.
pub(super) fn charge(facts: &BankFacts) -> Option<DueItem> {
    let round = facts.round.as_ref()?;
    let (why, rule) = match (round.off_full, round.never_full) {
        (Some(off), _) => (Why::OffFull { off }, RuleId::Rd5),
        (None, Some((now, before))) => (Why::NeverFull { now, before }, RuleId::Ch5),
        (None, None) => return None,
    };
    Some(DueItem::new(Task::Charge, Consequence::Loss, plus(round.day, 14), why, rule))
}

pub(super) fn reminders(facts: &BankFacts) -> Vec<DueItem> {
    facts
        .reminders
        .iter()
        .map(|r| {
            let why = Why::Reminder { id: r.id.clone(), text: r.text.clone() };
            DueItem::new(Task::Reminder, Consequence::Routine, r.day, why, RuleId::Sc3)
        })
        .collect()
}
