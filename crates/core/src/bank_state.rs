//! Everything known of a bank merged: its condition, what was found, and what is due.
//!
//! The page of a bank, the list, Today and the calendar take it from here.

use crate::bank::{BatteryAddress, CellAddress};
use crate::finding::{self, BarredBy, Equipment, Finding, FindingKind, Subject};
use crate::rest::{RestAssessment, RestSummary};
use crate::round::{Assessment, RoundSummary};
use crate::schedule::{BankFacts, DueItem, due};
use crate::severity::Severity;
use crate::water::Uneven;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// What is known of a bank.
#[derive(Debug, Clone, Copy)]
pub struct BankKnown<'a> {
    /// What its due items are worked out from, with what is open by eye, volts, runs and equipment.
    pub facts: &'a BankFacts,
    /// The last round as it stands for the batteries that are there now.
    pub round: Option<&'a Assessment>,
    /// The last rest check, with its day.
    pub rest: Option<(Date, &'a RestAssessment)>,
    /// Cells that drink unlike their mates.
    pub uneven: &'a [Uneven],
}

/// The state of a bank.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BankState {
    /// Its condition: as bad as the worst that is known of it (RD-8).
    pub condition: Severity,
    /// Everything that was found and stands, what leads first.
    pub findings: Vec<Finding>,
    /// The last round in a few figures.
    pub round: Option<RoundSummary>,
    /// The last rest check in a few figures, with its day; of sealed banks only.
    pub rest: Option<RestSummary>,
    /// Day of the readings it rests on: the last round, or the last volts of a sealed bank.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub read_on: Option<Date>,
    /// Condition of every cell that was judged.
    pub cells: Vec<(CellAddress, Severity)>,
    /// Condition of every battery of a sealed bank.
    pub batteries: Vec<(BatteryAddress, Severity)>,
    /// What is due, most pressing first.
    #[serde(default)]
    pub due: Vec<DueItem>,
    /// What has to be put right before anybody equalizes; none: nothing forbids one.
    #[serde(default)]
    pub equalize_barred: Option<BarredBy>,
}

fn findings(known: &BankKnown<'_>) -> Vec<Finding> {
    let facts = known.facts;
    let round: Vec<Finding> = known
        .round
        .iter()
        .flat_map(|judged| judged.findings.iter())
        .map(|f| finding::equalize::after_runs(f.clone(), &facts.non_responding))
        .collect();
    let told = |cell: &CellAddress| {
        round.iter().any(|f| f.severity == Severity::Act && f.cells.first() == Some(cell))
    };
    // A cell that did not answer is told with its gravity, where that asks for something.
    let open = facts
        .findings
        .iter()
        .map(|open| &open.finding)
        .filter(|f| !matches!(f.kind, FindingKind::Equalize(_)) || !f.cells.iter().any(told));
    let bare = facts.plates_bare.as_ref().and_then(|(cells, _)| finding::water::plates_bare(cells));
    let low = facts.at_plates.as_ref().and_then(|(cells, _)| finding::water::levels_at_plates(cells));
    let mut all = round.clone();
    let never_full = facts.round.as_ref().filter(|r| r.off_full.is_none()).and_then(|r| r.never_full);
    all.extend(never_full.map(finding::round::never_full));
    all.extend(open.cloned());
    all.extend(bare);
    all.extend(low);
    all.extend(known.uneven.iter().map(finding::water::uneven));
    finding::merged(all)
}

impl BankState {
    /// Merges what is known.
    pub fn of(known: &BankKnown<'_>) -> Self {
        let facts = known.facts;
        let caps = facts.model.construction.has_caps();
        let findings = findings(known);
        let read = known.round.map(|r| r.condition).into_iter();
        let volts = known.rest.filter(|_| !caps).map(|(_, rest)| rest.condition);
        let base = read.chain(volts).max().unwrap_or(Severity::NoReading);
        // What is left in question or unread does not make a bank that was read unread.
        // A worn pump or a small inverter is no fault of the bank.
        let of_bank = |f: &&Finding| f.subject != Subject::Equipment(Equipment::Load);
        let worst =
            findings.iter().filter(of_bank).map(|f| f.severity).filter(|s| *s >= Severity::Watch).max();
        let batteries = known.rest.filter(|_| !caps).map_or_else(Vec::new, |(_, rest)| {
            let own = |battery| {
                let found = findings.iter().filter(|f| {
                    matches!(f.kind, FindingKind::Ohmic(_) | FindingKind::LoadTest(_))
                        && f.subject.battery() == Some(battery)
                });
                found.map(|f| f.severity).max()
            };
            rest.batteries
                .iter()
                .map(|b| (b.battery, b.condition.max(own(b.battery).unwrap_or(b.condition))))
                .collect()
        });
        Self {
            condition: worst.map_or(base, |worst| worst.max(base)),
            round: known.round.map(Assessment::summary),
            rest: known.rest.filter(|_| !caps).map(|(_, rest)| rest.summary()),
            read_on: if caps { facts.round.as_ref().map(|r| r.day) } else { known.rest.map(|(day, _)| day) },
            cells: known
                .round
                .iter()
                .flat_map(|r| r.cells.iter())
                .filter(|c| c.condition != Severity::NoReading)
                .map(|c| (c.cell, c.condition))
                .collect(),
            batteries,
            due: due(facts),
            equalize_barred: facts.equalize_barred(),
            findings,
        }
    }
}
