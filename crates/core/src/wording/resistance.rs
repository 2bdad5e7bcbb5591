//! Resistances over the years, in words.

use super::names;
use crate::ohmic::{RISE, rise_word};
use crate::visit::{ResistanceHistory, ResistanceOnDay};
use jiff::civil::Date;

/// The last reading of each battery that has more than one, the furthest risen first.
fn last(all: &[ResistanceHistory]) -> Vec<(String, ResistanceOnDay)> {
    let more = all.iter().filter(|own| own.read.len() > 1);
    let mut last: Vec<_> =
        more.filter_map(|own| Some((own.battery.to_string(), *own.read.last()?))).collect();
    last.sort_by(|a, b| b.1.rise.total_cmp(&a.1.rise));
    last
}

/// Whole per cent, rounded down: what is under a limit is not said to reach it.
fn percent(rise: f64) -> String {
    format!("{:.0}", (100.0 * rise + 1e-9).floor())
}

/// Whole per cent, rounded up: all lie within it.
fn within(rise: f64) -> f64 {
    (100.0 * rise - 1e-9).ceil()
}

/// "A5 stands 42 % over its first value, investigate; the others within 12 % of theirs." None: nothing was read.
pub fn resistances_over_years(all: &[ResistanceHistory], today: Date) -> Option<String> {
    let newest = all.iter().filter_map(|own| own.read.last()).map(|own| own.day).max()?;
    let last = last(all);
    let Some((worst, most)) = last.first() else {
        return Some(format!(
            "Read once, on {}: the next reading by the same tester is held against it.",
            names::short_day(newest, today)
        ));
    };
    if most.rise < RISE[0] {
        let furthest = last.iter().map(|(_, own)| own.rise.abs()).fold(0.0, f64::max);
        return Some(format!(
            "All within {:.0} % of their first values; {:.0} % more is watched.",
            within(furthest),
            100.0 * RISE[0]
        ));
    }
    let risen: Vec<&(String, ResistanceOnDay)> = last.iter().filter(|(_, own)| own.rise >= RISE[0]).collect();
    let rest = &last[risen.len()..];
    let furthest = rest.iter().map(|(_, own)| own.rise.abs()).fold(0.0, f64::max);
    let others = match rest.len() {
        0 => String::new(),
        1 => format!("; the other within {:.0} % of its own", within(furthest)),
        _ => format!("; the others within {:.0} % of theirs", within(furthest)),
    };
    let also = match risen.len() {
        1 => String::new(),
        n => format!(", and {} more over {:.0} %", names::number_word(n - 1), 100.0 * RISE[0]),
    };
    Some(format!(
        "{worst} stands {} % over its first value ({}){also}{others}.",
        percent(most.rise),
        rise_word(most.rise)
    ))
}
