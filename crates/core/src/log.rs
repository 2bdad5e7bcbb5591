//! The append-only log of rounds, visits and runs: nothing is overwritten. An entry takes the place of an
//! earlier one, or takes one back; which entries stand is told here, for all of them alike.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};
use thiserror::Error;

/// Hours by which the clock of a device may be ahead: devices with a wrong zone write too.
const GRACE_HOURS: f64 = 24.0;
/// Nothing is written down of a time before this year.
const FIRST_YEAR: i16 = 1950;

/// Why nothing can have been taken at a time.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum ImpossibleTime {
    /// It lies ahead of every clock.
    #[error(
        "{at} lies in the future by the clock of the machine that Rainshadow runs on, which shows {latest:.0}; set whichever of the two is wrong"
    )]
    Future {
        /// The time.
        at: Timestamp,
        /// The latest that any clock can show now.
        latest: Timestamp,
    },
    /// It lies before anything was written down.
    #[error("{0} cannot be; accepted is 1950 to now")]
    LongAgo(Timestamp),
}

/// A time at which something can have been taken: after 1950, and not more than a day ahead of the latest
/// that any clock can show.
///
/// # Errors
/// [`ImpossibleTime`] with the time and what is accepted.
pub fn possible_time(at: Timestamp, latest: Timestamp) -> Result<Timestamp, ImpossibleTime> {
    if at.duration_since(latest).as_secs_f64() > GRACE_HOURS * 3600.0 {
        return Err(ImpossibleTime::Future { at, latest });
    }
    if jiff::tz::Offset::UTC.to_datetime(at).year() < FIRST_YEAR {
        return Err(ImpossibleTime::LongAgo(at));
    }
    Ok(at)
}

/// One entry, as far as the log is concerned, in the order the entries were received.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct LogEntry {
    /// Its id.
    pub id: String,
    /// The entry it takes the place of, or takes back.
    pub supersedes: Option<String>,
    /// True when it takes an entry back instead of recording one.
    pub withdraws: bool,
    /// What it is about, where a later entry about the same takes the place of an earlier one by itself:
    /// a check at a place; none where each entry counts.
    pub about: Option<String>,
}

impl LogEntry {
    /// An entry that records something beside all others.
    pub fn records(id: &str) -> Self {
        Self { id: id.to_owned(), supersedes: None, withdraws: false, about: None }
    }

    /// An entry that takes another back.
    pub fn takes_back(id: &str, other: &str) -> Self {
        Self { supersedes: Some(other.to_owned()), withdraws: true, ..Self::records(id) }
    }
}

/// Withdrawals that a later withdrawal took back, and which therefore never were.
fn taken_back_themselves(entries: &[LogEntry]) -> HashSet<&str> {
    let mut never: HashSet<&str> = HashSet::new();
    for (place, entry) in entries.iter().enumerate().rev() {
        if !entry.withdraws || never.contains(entry.id.as_str()) {
            continue;
        }
        let target = entries[..place].iter().find(|e| entry.supersedes.as_ref() == Some(&e.id));
        never.extend(target.filter(|e| e.withdraws).map(|e| e.id.as_str()));
    }
    never
}

/// The ids of the entries that stand, in the order received.
///
/// An entry that supersedes another takes its place. A withdrawal takes an entry back, and what that entry
/// had replaced stands again, unless it was taken back itself: undo of a re-read brings the first reading
/// back. A withdrawal can be taken back like any entry, and is then as if it had never been. An entry whose
/// place was already taken stands beside the other: two people read one cell, both are kept. Of entries about
/// the same thing the last that is not taken back stands.
pub fn standing(entries: &[LogEntry]) -> Vec<String> {
    let never = taken_back_themselves(entries);
    let entries: Vec<&LogEntry> = entries.iter().filter(|e| !never.contains(e.id.as_str())).collect();
    let mut stand: Vec<&LogEntry> = Vec::new();
    let by_id: HashMap<&str, (usize, &LogEntry)> =
        entries.iter().enumerate().map(|(place, e)| (e.id.as_str(), (place, *e))).collect();
    let mut taken_back: HashSet<&str> = HashSet::new();
    for (place, entry) in entries.iter().copied().enumerate() {
        if let Some(target) = entry.supersedes.as_deref() {
            let stood = stand.iter().any(|e| e.id == target);
            stand.retain(|e| e.id != target);
            if entry.withdraws && stood {
                taken_back.insert(target);
                // It comes back unless it was taken back itself, or something else replaced it too: that
                // it was replaced in its turn does not matter, it is there.
                let holds = |e: &LogEntry| !e.withdraws && !taken_back.contains(e.id.as_str());
                let replaced = |e: &LogEntry| {
                    let mut others = entries[..=place].iter().filter(|other| holds(other));
                    others.any(|other| other.supersedes.as_deref() == Some(e.id.as_str()))
                };
                let before = by_id.get(target).and_then(|(_, e)| e.supersedes.as_deref());
                // An entry can name one that comes after it; that one stands by itself when it comes.
                let before =
                    before.and_then(|id| by_id.get(id)).filter(|(at, _)| *at < place).map(|(_, e)| *e);
                let stands = |e: &LogEntry| stand.iter().any(|s| s.id == e.id);
                let again = before.filter(|e| holds(e) && !replaced(e) && !stands(e));
                // In its own place again: behind a later look at the same it would hide that one.
                stand.extend(again);
                stand.sort_by_key(|e| by_id.get(e.id.as_str()).map(|(place, _)| *place));
            }
        }
        if !entry.withdraws {
            stand.push(entry);
        }
    }
    let mut last: HashSet<&str> = HashSet::new();
    let mut told: Vec<String> = stand
        .into_iter()
        .rev()
        .filter(|e| e.about.as_deref().is_none_or(|about| last.insert(about)))
        .map(|e| e.id.clone())
        .collect();
    told.reverse();
    told
}

#[cfg(test)]
mod tests {
    use super::*;

    fn entry(id: &str, supersedes: Option<&str>, withdraws: bool) -> LogEntry {
        LogEntry { supersedes: supersedes.map(Into::into), withdraws, ..LogEntry::records(id) }
    }

    #[test]
    fn a_re_read_takes_the_place_of_the_first_and_undo_brings_it_back() {
        let mut rows = vec![entry("a", None, false), entry("b", Some("a"), false)];
        assert_eq!(standing(&rows), ["b"]);
        rows.push(entry("u", Some("b"), true));
        assert_eq!(standing(&rows), ["a"]);
        rows.push(entry("v", Some("a"), true));
        assert!(standing(&rows).is_empty());
    }

    #[test]
    fn two_people_on_one_cell_are_both_kept() {
        let rows = [entry("a", None, false), entry("b", None, false)];
        assert_eq!(standing(&rows), ["a", "b"]);
        let raced = [entry("a", None, false), entry("b", Some("a"), false), entry("c", Some("a"), false)];
        assert_eq!(standing(&raced), ["b", "c"]);
    }

    #[test]
    fn what_two_entries_replaced_stands_again_only_when_both_are_taken_back() {
        let mut rows =
            vec![entry("a", None, false), entry("b", Some("a"), false), entry("c", Some("a"), false)];
        rows.push(entry("u", Some("b"), true));
        assert_eq!(standing(&rows), ["c"]);
        rows.push(entry("v", Some("c"), true));
        assert_eq!(standing(&rows), ["a"]);
    }

    #[test]
    fn a_withdrawal_never_stands_even_when_an_entry_names_it() {
        let rows = [
            entry("a", None, false),
            entry("u", Some("a"), true),
            entry("b", Some("u"), false),
            entry("v", Some("b"), true),
        ];
        assert!(standing(&rows).is_empty());
    }

    #[test]
    fn taking_back_twice_changes_nothing_more() {
        let rows = [
            entry("a", None, false),
            entry("b", Some("a"), false),
            entry("u", Some("b"), true),
            entry("v", Some("b"), true),
        ];
        assert_eq!(standing(&rows), ["a"]);
    }

    #[test]
    fn the_last_look_at_one_thing_stands_and_the_one_before_it_when_that_is_taken_back() {
        let look = |id: &str| LogEntry { about: Some("caps A3".into()), ..LogEntry::records(id) };
        let mut rows = vec![look("a"), LogEntry::records("note"), look("b")];
        assert_eq!(standing(&rows), ["note", "b"]);
        rows.push(LogEntry::takes_back("u", "b"));
        assert_eq!(standing(&rows), ["a", "note"]);
    }
}
