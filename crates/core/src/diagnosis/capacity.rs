//! What timed discharges are signs of.

use super::evidence::said;
use super::{Sign, TimedDischarge};
use jiff::civil::Date;
use std::collections::BTreeMap;

/// Points of capacity that three tests or more fall by in all (our choice, no source).
const FALLS: f64 = 8.0;
/// Points that two tests of the same capacity differ by.
const SCATTER: f64 = 3.0;

/// The newest timed discharge.
pub(super) fn signs(discharges: &[TimedDischarge]) -> Vec<Sign> {
    let Some(newest) = discharges.iter().max_by_key(|d| d.day) else { return Vec::new() };
    let seen = format!("{:.0} % on {}", newest.percent, said(newest.day));
    let none_early = newest.batteries_read && newest.early.is_empty();
    let key = match newest.percent {
        p if p >= 92.0 => "capacity_full",
        p if p >= 80.0 => "capacity_fair",
        _ if none_early => "capacity_low_none_early",
        _ => "capacity_low",
    };
    let mut all = vec![Sign::new(key, seen, "")];
    all.extend(falls(discharges));
    let names: Vec<String> = newest.early.iter().map(ToString::to_string).collect();
    let early = match names.as_slice() {
        [] => None,
        [one] => Some(("one_gives_out", one.clone())),
        several => Some(("several_give_out", several.join(", "))),
    };
    all.extend(early.map(|(key, who)| Sign { of: who.clone(), ..Sign::new(key, who, "") }));
    all
}

/// A capacity that fell from test to test: it wears, it did not break.
fn falls(discharges: &[TimedDischarge]) -> Option<Sign> {
    // Of one day the lowest counts.
    let mut by_day: BTreeMap<Date, f64> = BTreeMap::new();
    for own in discharges {
        let least = by_day.entry(own.day).or_insert(own.percent);
        *least = least.min(own.percent);
    }
    let tests: Vec<f64> = by_day.into_values().collect();
    let (first, last) = (tests.first()?, tests.last()?);
    let fell = tests.windows(2).all(|pair| pair[1] < pair[0] + SCATTER);
    (tests.len() > 2 && fell && first - last >= FALLS).then(|| {
        let all: Vec<String> = tests.iter().map(|own| format!("{own:.0}")).collect();
        Sign::new("capacity_falls", format!("{} %", all.join(", ")), "")
    })
}
