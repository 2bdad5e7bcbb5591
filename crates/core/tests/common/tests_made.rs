//! Entries of load and capacity tests.

use jiff::Timestamp;
use rainshadow_core::discharge::{DischargeEvent, DischargePlan, DischargeReading};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::visit::{Entry, TestEntry, VisitEntry, VisitSheet};

/// An entry of a test.
pub fn test(test: TestEntry) -> Entry {
    Entry::Test { test }
}

/// Something of a discharge.
pub fn event(event: DischargeEvent) -> Entry {
    test(TestEntry::Discharge { event })
}

/// A plan from a proven full charge at 20 °C, read every five minutes.
pub fn plan(amperes: f64) -> DischargePlan {
    DischargePlan {
        amperes: Some(amperes),
        end_per_cell: 1.75,
        temperature: Temperature::from_celsius(20.0).ok(),
        proven_full: true,
        every_minutes: 5.0,
    }
}

/// A reading of volts and amperes.
pub fn reading(volts: f64, amperes: f64) -> DischargeEvent {
    let reading =
        DischargeReading { volts: Some(volts), amperes: Some(amperes), ..DischargeReading::default() };
    DischargeEvent::Read { reading }
}

/// A sheet of entries with the minutes after nine at which each was made.
pub fn timed_sheet(entries: Vec<(f64, &str, Entry)>) -> VisitSheet {
    let nine: Timestamp = "2026-10-08T09:00:00Z".parse().unwrap();
    let all = entries.into_iter().enumerate().map(|(n, (minutes, place, entry))| VisitEntry {
        taken_at: nine + jiff::SignedDuration::from_secs_f64(minutes * 60.0),
        ..super::visits::written(&n.to_string(), place, entry)
    });
    VisitSheet::new(all.collect())
}

/// So many minutes after nine.
pub fn after_nine(minutes: f64) -> Timestamp {
    let nine: Timestamp = "2026-10-08T09:00:00Z".parse().unwrap();
    nine + jiff::SignedDuration::from_secs_f64(minutes * 60.0)
}
