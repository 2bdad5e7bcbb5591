//! What must always hold of an append-only log, whatever was written, replaced and taken back in it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use jiff::{Timestamp, ToSpan};
use proptest::prelude::*;
use rainshadow_core::log::{ImpossibleTime, LogEntry, possible_time, standing};
use std::collections::{BTreeSet, HashSet};

/// One thing that somebody does to a log: he writes, reads again, looks again, or takes back.
#[derive(Debug, Clone)]
enum Act {
    Writes,
    Looks(u8),
    Replaces(prop::sample::Index),
    TakesBack(prop::sample::Index),
}

fn act() -> impl Strategy<Value = Act> {
    prop_oneof![
        Just(Act::Writes),
        (0..3u8).prop_map(Act::Looks),
        any::<prop::sample::Index>().prop_map(Act::Replaces),
        any::<prop::sample::Index>().prop_map(Act::TakesBack),
    ]
}

/// A log in which every entry names an earlier one, as it comes from hands: `e0`, `e1`, …
fn log() -> impl Strategy<Value = Vec<LogEntry>> {
    prop::collection::vec(act(), 1..24).prop_map(|acts| {
        let mut entries: Vec<LogEntry> = Vec::new();
        for act in acts {
            let id = format!("e{}", entries.len());
            let new = LogEntry::records(&id);
            let earlier =
                |which: prop::sample::Index| (!entries.is_empty()).then(|| which.get(&entries).id.clone());
            let entry = match act {
                Act::Writes => new,
                Act::Looks(at) => LogEntry { about: Some(format!("check {at}")), ..new },
                Act::Replaces(which) => LogEntry { supersedes: earlier(which), ..new },
                Act::TakesBack(which) => match earlier(which) {
                    Some(other) => LogEntry::takes_back(&id, &other),
                    None => new,
                },
            };
            entries.push(entry);
        }
        entries
    })
}

fn set(entries: &[LogEntry]) -> BTreeSet<String> {
    standing(entries).into_iter().collect()
}

/// A log with more behind it.
fn and(entries: &[LogEntry], more: &[LogEntry]) -> Vec<LogEntry> {
    [entries, more].concat()
}

proptest! {
    #[test]
    fn what_stands_was_recorded_and_stands_once(entries in log()) {
        let stands = standing(&entries);
        let once: HashSet<&String> = stands.iter().collect();
        prop_assert_eq!(once.len(), stands.len());
        for id in &stands {
            let entry = entries.iter().find(|e| e.id == *id);
            prop_assert!(entry.is_some_and(|e| !e.withdraws), "{id} records nothing");
        }
    }

    #[test]
    fn nothing_stands_beside_what_took_its_place(entries in log()) {
        let stands = set(&entries);
        for entry in entries.iter().filter(|e| stands.contains(&e.id)) {
            if let Some(replaced) = &entry.supersedes {
                prop_assert!(!stands.contains(replaced), "{replaced} stands beside {}", entry.id);
            }
        }
    }

    #[test]
    fn of_looks_at_one_thing_one_stands_at_most(entries in log()) {
        let stands = set(&entries);
        let about: Vec<&String> =
            entries.iter().filter(|e| stands.contains(&e.id)).filter_map(|e| e.about.as_ref()).collect();
        let things: HashSet<&&String> = about.iter().collect();
        prop_assert_eq!(things.len(), about.len());
    }

    #[test]
    fn what_is_written_and_taken_back_leaves_the_log_as_it_was(
        entries in log(),
        looks in prop::option::of(0..3u8),
        replaces in prop::option::of(any::<prop::sample::Index>()),
    ) {
        let before = set(&entries);
        let new = LogEntry {
            about: looks.map(|at| format!("check {at}")),
            supersedes: replaces.map(|which| which.get(&entries).id.clone()),
            ..LogEntry::records("new")
        };
        let written = and(&entries, std::slice::from_ref(&new));
        prop_assert!(set(&written).contains("new"));
        let undone = and(&written, &[LogEntry::takes_back("undo", "new")]);
        prop_assert_eq!(set(&undone), before);
    }

    #[test]
    fn a_withdrawal_that_is_taken_back_never_was(
        entries in log(),
        which in any::<prop::sample::Index>(),
    ) {
        let target = which.get(&entries).id.clone();
        let taken = and(&entries, &[LogEntry::takes_back("undo", &target)]);
        let kept = and(&taken, &[LogEntry::takes_back("kept", "undo")]);
        prop_assert_eq!(set(&kept), set(&entries));
        // and taking that back withdraws after all
        let gone = and(&kept, &[LogEntry::takes_back("after all", "kept")]);
        prop_assert_eq!(set(&gone), set(&taken));
        // what was written meanwhile stays
        let new = LogEntry::records("new");
        let between = and(&taken, &[new, LogEntry::takes_back("kept", "undo")]);
        prop_assert!(set(&between).contains("new"));
    }

    #[test]
    fn what_is_taken_back_does_not_come_again_by_itself(
        entries in log(),
        which in any::<prop::sample::Index>(),
        later in any::<prop::sample::Index>(),
    ) {
        let stands = standing(&entries);
        prop_assume!(!stands.is_empty());
        let gone = which.get(&stands).clone();
        let taken = and(&entries, &[LogEntry::takes_back("undo", &gone)]);
        prop_assert!(!set(&taken).contains(&gone));
        // nor when something that had not stood before is taken back after it
        let other = later.get(&entries).id.clone();
        let more = and(&taken, &[LogEntry::takes_back("undo later", &other)]);
        prop_assert!(!set(&more).contains(&gone), "{gone} came again with {other}");
    }
}

proptest! {
    #[test]
    fn a_time_is_possible_from_1950_to_a_day_ahead_of_every_clock(hours in -900_000..900_000i64) {
        let latest: Timestamp = "2026-10-08T12:00:00Z".parse()?;
        let first: Timestamp = "1950-01-01T00:00:00Z".parse()?;
        let at = latest.checked_add(hours.hours())?;
        match possible_time(at, latest) {
            Ok(kept) => prop_assert!(kept == at && hours <= 24 && at >= first),
            Err(ImpossibleTime::Future { at: told, latest: by }) => {
                prop_assert!(hours > 24 && told == at && by == latest);
            }
            Err(ImpossibleTime::LongAgo(told)) => prop_assert!(told == at && at < first),
        }
    }
}

#[test]
fn a_time_that_cannot_be_says_what_is_accepted_and_which_clock_it_was_held_against() {
    let latest: Timestamp = "2026-10-08T12:00:00Z".parse().unwrap();
    let said = |at: &str| possible_time(at.parse().unwrap(), latest).unwrap_err().to_string();
    assert!(said("1949-12-31T23:00:00Z").contains("accepted is 1950 to now"));
    let ahead = said("2031-01-01T00:00:00Z");
    assert!(ahead.starts_with("2031-01-01T00:00:00Z lies in the future"), "{ahead}");
    assert!(ahead.contains("2026-10-08T12:00:00Z") && ahead.contains("set whichever of the two is wrong"));
}

#[test]
fn a_look_that_is_taken_back_brings_the_look_before_it_in_its_own_place() {
    let look = |id: &str, about: &str| LogEntry { about: Some(about.into()), ..LogEntry::records(id) };
    let two = [look("first", "case A1"), look("other", "caps A1"), look("second", "case A1")];
    assert_eq!(standing(&two), ["other", "second"]);
    let undone = and(&two, &[LogEntry::takes_back("undo", "second")]);
    assert_eq!(standing(&undone), ["first", "other"]);
}

#[test]
fn a_reading_that_was_replaced_twice_comes_back_when_both_are_taken_back() {
    let reads = |id: &str, over: &str| LogEntry { supersedes: Some(over.into()), ..LogEntry::records(id) };
    // two people correct the first reading; one corrects his own once more
    let log = [LogEntry::records("A"), reads("B", "A"), reads("C", "A"), reads("D", "B")];
    assert_eq!(standing(&log), ["C", "D"]);
    let one = and(&log, &[LogEntry::takes_back("undo C", "C")]);
    assert_eq!(standing(&one), ["D"], "B still stands in the place of A, and D in that of B");
    let two = and(&one, &[LogEntry::takes_back("undo D", "D")]);
    assert_eq!(standing(&two), ["B"]);
    let three = and(&two, &[LogEntry::takes_back("undo B", "B")]);
    assert_eq!(standing(&three), ["A"]);
}

#[test]
fn a_correction_of_what_somebody_else_took_back_does_not_bring_it_again() {
    // One takes A back, another has A still before him and corrects it, then takes that back too.
    let corrects = LogEntry { supersedes: Some("A".into()), ..LogEntry::records("B") };
    let entries = [LogEntry::records("A"), LogEntry::takes_back("undo A", "A"), corrects];
    assert_eq!(standing(&entries), ["B"]);
    assert!(standing(&and(&entries, &[LogEntry::takes_back("undo B", "B")])).is_empty());
}

#[test]
fn an_entry_that_names_a_later_one_lets_it_stand_once() {
    let early = LogEntry { supersedes: Some("late".into()), ..LogEntry::records("early") };
    let undo = LogEntry::takes_back("undo", "early");
    let late = LogEntry::records("late");
    // taken back after the later one came, and before it came
    assert_eq!(standing(&[early.clone(), late.clone(), undo.clone()]), ["late"]);
    assert_eq!(standing(&[early, undo, late]), ["late"]);
}
