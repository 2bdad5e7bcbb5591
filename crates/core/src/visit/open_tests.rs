//! What the tests of a bank ask for: of each kind of test the last one speaks.

use super::load_tests::{
    cell_volts, discharges, known_loads, past_discharges, real_loads, same_load, short_load,
};
use super::{Judged, PastVisit, VisitSheet};
use crate::finding::{Finding, load_test};
use crate::schedule::{Duty, OpenFinding};
use std::collections::BTreeSet;

/// The tests of a visit by kind, each with what it found; a kind that was not tested is left out.
fn by_kind(
    sheet: &VisitSheet,
    before: &[PastVisit],
    bank: Judged<'_>,
    duty: Duty,
) -> Vec<(String, Vec<Finding>)> {
    let mut all: Vec<(String, Vec<Finding>)> = Vec::new();
    if let Some((_, judged)) = short_load(sheet, before, bank) {
        // Battery by battery: one that was not tested again is still as it was.
        let own =
            judged.iter().map(|own| (format!("short load {}", own.battery), load_test::short_load(own)));
        all.extend(own.map(|(key, found)| (key, found.into_iter().collect())));
    }
    if let Some((_, test, judged)) = real_loads(sheet, bank).pop() {
        all.push(("real load".into(), load_test::real_load(&test, &judged)));
    }
    let past = past_discharges(before, bank);
    for own in discharges(sheet) {
        let place = own.begun.place;
        let last = same_load(&past, place, own.plan.amperes).and_then(|d| d.now.reached);
        let now = own.now(bank, last, own.begun.taken_at);
        // One that was stopped before it told anything leaves what was known before.
        if now.is_under_way()
            || now.result.as_ref().is_none_or(|r| r.percent.is_none()) && now.mates.is_empty()
        {
            continue;
        }
        let mut found = load_test::discharge(place.into(), &now, duty);
        let enough = !found.iter().any(|f| f.kind.code() == "capacity_falls");
        let mut earlier =
            past.iter().filter(|own| own.place == place).filter_map(|own| own.now.result.as_ref());
        let first = earlier.find(|own| !own.at_least);
        let sinks = first.zip(now.result.as_ref()).filter(|_| enough);
        found.extend(sinks.and_then(|(first, now)| load_test::capacity_sinks(place.into(), first, now)));
        // A battery that gives out first is open until the same place is discharged again.
        all.retain(|(key, _)| *key != format!("discharge {place}"));
        all.push((format!("discharge {place}"), found));
    }
    for own in known_loads(sheet) {
        let found = load_test::known_load(own.load, own.hours, own.share, duty);
        all.push((format!("known load {}", own.load.to_lowercase()), found.into_iter().collect()));
    }
    for (when, cells) in cell_volts(sheet, bank) {
        for own in cells {
            let found = load_test::cell_volts(when, &own);
            all.push((format!("cell volts {when:?} {}", own.cell), found.into_iter().collect()));
        }
    }
    all
}

/// What the tests of a visit found.
pub fn test_findings(sheet: &VisitSheet, before: &[PastVisit], bank: Judged<'_>, duty: Duty) -> Vec<Finding> {
    by_kind(sheet, before, bank, duty).into_iter().flat_map(|(_, found)| found).collect()
}

/// What the last test of each kind asks for: open until the same is tested again.
pub fn open_test_findings(visits: &[PastVisit], bank: Judged<'_>, duty: Duty) -> Vec<OpenFinding> {
    let (mut told, mut open) = (BTreeSet::new(), Vec::new());
    for (at, visit) in visits.iter().enumerate().rev() {
        let own: Vec<_> = by_kind(&visit.sheet, &visits[..at], bank, duty)
            .into_iter()
            .filter(|(key, _)| !told.contains(key))
            .collect();
        for (key, found) in own {
            told.insert(key);
            open.extend(found.into_iter().map(|finding| OpenFinding { day: visit.day, finding }));
        }
    }
    // Told oldest first, as everything that is open.
    open.reverse();
    open
}
