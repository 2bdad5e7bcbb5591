//! Entries and visits of an invented bank.

use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::visit::{Entry, PastVisit, VisitEntry, VisitSheet};

/// An entry under an id, at a place as it is written.
pub fn written(id: &str, place: &str, entry: Entry) -> VisitEntry {
    VisitEntry {
        id: id.into(),
        place: place.parse().unwrap(),
        entry,
        typed: None,
        by: Actor::named("TA", "desk"),
        taken_at: "2026-10-08T09:00:00Z".parse().unwrap(),
    }
}

/// A sheet of entries in order, numbered from 0.
pub fn sheet(entries: Vec<(&str, Entry)>) -> VisitSheet {
    let numbered = entries.into_iter().enumerate();
    VisitSheet::new(numbered.map(|(n, (place, entry))| written(&n.to_string(), place, entry)).collect())
}

/// A visit of a day.
pub fn past(day: Date, entries: Vec<(&str, Entry)>) -> PastVisit {
    let numbered = entries.into_iter().enumerate();
    let all = numbered.map(|(n, (place, entry))| written(&format!("{day} {n}"), place, entry)).collect();
    PastVisit { day, sheet: VisitSheet::new(all), temperature: Some(25.0) }
}
