//! SC-1: what a finding or a measured condition asks for.

use super::days::plus;
use super::{BankFacts, Consequence, DueItem, JudgedRound, Task, Why};
use crate::bank::CellAddress;
use crate::equalize::{NonRespondingCell, non_responding};
use crate::finding::{Finding, FindingKind, RoundFinding, RuleId, merged};
use crate::rest::RestFinding;
use crate::severity::Severity;
use crate::visit::{Recheck, Step};
use jiff::civil::Date;
use std::collections::HashMap;

/// Plates that showed and were not covered, else levels that stood at the plates: at once.
pub(super) fn plates_bare(facts: &BankFacts) -> Option<DueItem> {
    let at_plates = || facts.at_plates.clone().map(|(cells, day)| (Why::LevelsAtPlates { cells }, day));
    let bare = facts.plates_bare.clone().map(|(cells, day)| (Why::PlatesBare { cells }, day));
    let (why, day) = bare.or_else(at_plates)?;
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
    // A battery short of a cell is told as such, with the cells in it.
    // So is one whose case is damaged.
    let is_of_dead = |cell: CellAddress| {
        let mut open = facts.findings.iter().map(|open| &open.finding);
        let battery = Some(cell.battery);
        open.any(|f| f.is_dead() && f.subject.battery() == battery || f.damaged_battery() == battery)
    };
    let is_hoped = |cell| !given_up(cell) && !is_of_dead(cell);
    let hoped: Vec<_> = round.suspects.iter().filter(|(cell, _, _)| is_hoped(*cell)).collect();
    let (worst, deviation, sinking) = hoped.first()?;
    let why = Why::Suspect {
        cells: hoped.iter().map(|(cell, _, _)| *cell).collect(),
        deviation: *deviation,
        sinking: *sinking,
        equalize: round.equalize.is_some() && facts.equalize_barred().is_none(),
        non_responding: non_responding(&facts.non_responding, *worst).copied(),
    };
    Some(DueItem::new(Task::SuspectCell, Consequence::Loss, plus(round.day, 1), why, RuleId::Rd8))
}

/// What to watch is put right within a fortnight where the next round cannot judge before, else in a month
/// (common practice, no source).
const READ_AGAIN: i64 = 14;
const WATCHED: i64 = 30;

/// True for what is told to be done today: it is due on its day.
fn is_for_today(finding: &Finding) -> bool {
    let low = matches!(finding.kind, FindingKind::Rest(RestFinding::LowCharge { .. }));
    low || finding.severity == Severity::Act
}

/// A finding to put right: act at once, watch within some days.
fn due_by(day: Date, finding: &Finding, explains: Vec<Finding>, watched: i64) -> DueItem {
    let consequence = Consequence::of(finding);
    let wait = if consequence == Consequence::Harm || is_for_today(finding) { 0 } else { watched };
    let why = Why::Found { finding: Box::new(finding.clone()), explains };
    DueItem::new(Task::SeenFinding, consequence, plus(day, wait), why, finding.rule)
}

/// The same for what no round reads again.
pub(super) fn found(day: Date, finding: &Finding) -> DueItem {
    due_by(day, finding, Vec::new(), WATCHED)
}

/// True for what is put right at the equipment rather than at the bank.
pub(super) fn is_of_equipment(finding: &Finding) -> bool {
    matches!(finding.kind, FindingKind::Charger(_))
}

/// What was seen, measured or read of the bank as a whole and not put right: the causes, with no equalize
/// advised where one of them forbids it (RD-9).
pub(super) fn standing(facts: &BankFacts) -> Vec<DueItem> {
    let mut since: HashMap<String, (Date, i64)> = HashMap::new();
    let mut all = Vec::new();
    for open in facts.findings.iter().filter(|open| !is_of_equipment(&open.finding)) {
        since.insert(open.finding.id.clone(), (open.day, WATCHED));
        all.push(open.finding.clone());
    }
    // Far from full twice running is told by how it is charged.
    let is_told = |f: &Finding, round: &JudgedRound| {
        round.never_full.is_some() && matches!(f.of_round(), Some(RoundFinding::FarFromFull { .. }))
    };
    if let Some(round) = &facts.round {
        for finding in round.found.iter().filter(|f| !is_told(f, round)) {
            since.insert(finding.id.clone(), (round.day, READ_AGAIN));
            all.push(finding.clone());
        }
    }
    let all = merged(all);
    let explained = |by: &Finding| -> Vec<Finding> {
        all.iter().filter(|f| f.explained_by.as_ref() == Some(&by.id)).cloned().collect()
    };
    let causes = all.iter().filter(|f| f.explained_by.is_none());
    causes
        .filter_map(|f| {
            let (day, wait) = since.get(&f.id)?;
            Some(due_by(*day, f, explained(f), *wait))
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

/// The charge that has to follow a discharge, on its day: what stays empty sulfates.
pub(super) fn recharge(facts: &BankFacts) -> Option<DueItem> {
    let day = facts.recharge_owed?;
    Some(DueItem::new(Task::Recharge, Consequence::Harm, day, Why::Discharged { day }, RuleId::Ct1))
}

/// What a visit asked to be looked at again: a reading that is taken late tells less.
pub(super) fn rechecks(facts: &BankFacts) -> Vec<DueItem> {
    let item = |own: &Recheck| {
        let rule = match own.step {
            Step::RestCheck => RuleId::Rd7,
            Step::Water => RuleId::Wa4,
            Step::Round => RuleId::Sg4,
            _ => RuleId::Lo1,
        };
        DueItem::new(Task::Recheck, Consequence::Loss, own.due, Why::Recheck { recheck: own.clone() }, rule)
    };
    facts.rechecks.iter().map(item).collect()
}

pub(super) fn reminders(facts: &BankFacts) -> Vec<DueItem> {
    facts
        .reminders
        .iter()
        .map(|r| {
            let why = Why::Reminder { id: r.id.clone(), text: r.text.clone(), job: r.job };
            DueItem::new(Task::Reminder, Consequence::Routine, r.day, why, RuleId::Sc3)
        })
        .collect()
}
