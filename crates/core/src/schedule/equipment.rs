//! SC-1: what stands there and asks to be put right, all of it in one go.

use super::condition::{found, is_of_equipment};
use super::{BankFacts, DueItem, OpenFinding, Why};
use crate::equipment::EquipmentJudged;
use crate::finding::{Finding, charger};
use jiff::civil::Date;

/// What of the equipment asks, each since the day from which every version told of it, or since the day of the
/// temperature it is judged at where that is later; versions oldest first.
pub fn equipment_findings(versions: &[(Date, EquipmentJudged)], read_on: Option<Date>) -> Vec<OpenFinding> {
    let told: Vec<(Date, Vec<Finding>)> =
        versions.iter().map(|(day, own)| (*day, charger::findings(own))).collect();
    let Some((now, open)) = told.last() else { return Vec::new() };
    let since = |id: &str| {
        let is_told = |found: &&(Date, Vec<Finding>)| found.1.iter().any(|f| f.id == id);
        let first = told.iter().rev().take_while(is_told).last().map_or(*now, |(day, _)| *day);
        read_on.map_or(first, |day| day.max(first))
    };
    open.iter().map(|finding| OpenFinding { day: since(&finding.id), finding: finding.clone() }).collect()
}

/// Settings and air: who is at the charger changes all of it, so the worst and the soonest are one item.
pub(super) fn equipment(facts: &BankFacts) -> Option<DueItem> {
    let open = || facts.findings.iter().filter(|open| is_of_equipment(&open.finding));
    let mut items: Vec<DueItem> = open().map(|o| found(o.day, &o.finding)).collect();
    items.sort_by_key(|item| (item.consequence, item.date));
    let worst = items.into_iter().next()?;
    let findings = open().map(|open| open.finding.clone()).collect();
    Some(DueItem { why: Why::Equipment { findings }, ..worst })
}
