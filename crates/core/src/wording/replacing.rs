//! What comes in where a battery is replaced, and where the old one goes, in words.

use crate::replacing::{Gone, OneNew, UsedBattery, UsedMatch};
use crate::severity::Severity;

fn months(count: f64) -> String {
    if count >= 24.0 { format!("{:.1} years", count / 12.0) } else { format!("{count:.0} months") }
}

/// The house's limit for one new battery, applied.
pub fn one_new(own: &OneNew, house: &str) -> String {
    let limit = format!("{house} lets one new battery into a bank up to {}", months(own.limit));
    let Some(age) = own.months else {
        return format!(
            "{limit}; nobody said when this one went into service, so it is not known whether it may."
        );
    };
    let age = months(age);
    match own.condition {
        Severity::Act => format!(
            "{limit}; this one is {age} old. A new battery is pulled down by its old mates: look for a used match within 10 % of capacity and 12 months, or plan the whole bank."
        ),
        Severity::Watch => {
            format!("{limit}; this one is {age} old: it can still be done, and the new one ages faster.")
        }
        _ => format!("{limit}; this one is {age} old, so it may."),
    }
}

/// A used battery beside its new mates.
pub fn used_match(own: &UsedMatch) -> String {
    let age = match own.older {
        None => "its age against the bank is not known".to_owned(),
        Some(older) if older.abs() < 1.0 => "as old as the bank".to_owned(),
        Some(older) if older > 0.0 => format!("{} older than the bank", months(older)),
        Some(older) => format!("{} younger than the bank", months(-older)),
    };
    let capacity = match own.capacity {
        None => "its capacity was not tested".to_owned(),
        Some(capacity) => format!("tested at {capacity:.0} % of its capacity"),
    };
    let verdict = match own.condition {
        Severity::Steady => "A match",
        Severity::Watch => "Perhaps a match",
        _ => "No match",
    };
    format!("{verdict}: {age}, {capacity} (RP-2: within 12 months and 10 %).")
}

/// A used battery as it came: "used, 30 months old, tested at 92 %, 3.10 mΩ".
pub fn used_battery(own: &UsedBattery) -> String {
    let age = own.months.map(|m| format!(", {} old", months(m))).unwrap_or_default();
    let capacity =
        own.capacity.map_or_else(|| ", not tested".to_owned(), |c| format!(", tested at {c:.0} %"));
    let resistance = own.milliohms.map(|r| format!(", {r:.2} m\u{3a9}")).unwrap_or_default();
    format!("used{age}{capacity}{resistance}")
}

/// Where the old one went, as it is chosen.
pub const fn gone(own: Gone) -> &'static str {
    match own {
        Gone::Scrap => "to scrap",
        Gone::CoreCredit => "back for its core credit",
        Gone::Kept => "to the shelf, to be used again",
        Gone::Owner => "back to the owner",
    }
}
