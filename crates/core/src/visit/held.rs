//! HD-1 between two visits: a bank that stood disconnected since the same charge, read twice.

use super::{Entry, Judged, PastVisit, VisitSheet};
use crate::rest::{HeldSince, RestConditions};
use jiff::Timestamp;
use jiff::tz::Offset;

/// Hours between two readings of one charge that count: under a day no meter tells a loss.
const LEAST_HOURS: f64 = 24.0;
/// Hours by which what was told of the charge and the clock may differ, and the share of the time between that they may
/// (our choice, no source).
const MAY_DIFFER: [f64; 2] = [6.0, 0.1];
/// Hours that it may differ by besides where only the day is known.
const WITHIN_A_DAY: f64 = 24.0;

/// What was told of the rest, when, and by how many hours that may be off.
fn told(sheet: &VisitSheet) -> Option<(&RestConditions, Timestamp, f64)> {
    let (conditions, taken_at) = sheet.standing().find_map(|kept| match &kept.entry {
        Entry::Rested { conditions } => Some((conditions, kept.taken_at)),
        _ => None,
    })?;
    let Some(day) = sheet.typed_for else { return Some((conditions, taken_at, 0.0)) };
    let noon = Offset::UTC.to_timestamp(day.at(12, 0, 0, 0)).ok()?;
    Some((conditions, noon, WITHIN_A_DAY))
}

/// Hours since the charge, of volts that tell a loss: disconnected since, nothing on, no surface charge.
fn hours(conditions: &RestConditions, bank: Judged<'_>) -> Option<f64> {
    let stands = conditions.disconnected && !conditions.charging && !conditions.loaded;
    conditions.hours_since_charge.filter(|_| stands && conditions.free_of_surface_charge(bank.rules))
}

/// The first reading since the charge after which a bank stands disconnected; none: there is none, or the hours that
/// were told do not fit the time between, so that it may have been charged since.
pub fn held_since(sheet: &VisitSheet, before: &[PastVisit], bank: Judged<'_>) -> Option<HeldSince> {
    let (conditions, now, off) = told(sheet)?;
    let since_charge = hours(conditions, bank)?;
    let compares = |visit: &PastVisit| {
        let (conditions, then, also_off) = told(&visit.sheet)?;
        let between = now.duration_since(then).as_secs_f64() / 3600.0;
        let by_word = since_charge - hours(conditions, bank)?;
        let may_differ = MAY_DIFFER[0].max(MAY_DIFFER[1] * between) + off.max(also_off);
        let same_charge = (by_word - between).abs() <= may_differ;
        let volts: Vec<_> =
            visit.sheet.battery_volts().into_iter().map(|own| (own.battery, own.volts)).collect();
        (same_charge && between >= LEAST_HOURS && !volts.is_empty())
            .then(|| HeldSince { days: between / 24.0, volts })
    };
    before.iter().find_map(compares)
}
