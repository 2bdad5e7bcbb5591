//! A diagnosis line by line: what each hypothesis is called with its place, what speaks for and against it, why to measure what.

use super::diagnosis::{evidence_group, hypothesis, hypothesis_placed, measurement_next};
use super::names;
use crate::diagnosis::{Diagnosis, Hypothesis, NextMeasurement, Row, Speaks, Standing, Weights};
use crate::house_rules::HouseRules;

/// How sure it is, in a word.
pub const fn standing(own: Standing) -> &'static str {
    match own {
        Standing::Likely => "likely",
        Standing::Possible => "possible",
        Standing::NotLikely => "not likely",
    }
}

/// One line of what speaks for or against: "a timed discharge under 80 % (65 % on 10 Oct 2026)".
pub fn speaks(own: &Speaks) -> String {
    if own.sign.seen.is_empty() { own.words.clone() } else { format!("{} ({})", own.words, own.sign.seen) }
}

/// How many groups of evidence stand: "three groups of evidence: gravity, volts and sight".
pub fn groups(own: &Diagnosis) -> String {
    let names: Vec<&str> = own.groups.iter().map(|group| evidence_group(*group)).collect();
    match names.len() {
        0 => "no evidence on record".into(),
        1 => format!("one group of evidence: {}", names[0]),
        n => format!("{} groups of evidence: {}", names::number_word(n), names::words(&names)),
    }
}

/// What to measure next, as a headline: "Measure next: read the resistance of every battery."
pub fn next_title(own: &NextMeasurement) -> String {
    format!("Measure next: {}.", measurement_next(own.measurement))
}

/// How many of what a measurement would show are named.
const SHOWN: usize = 3;

fn points(row: &Row, of: Hypothesis) -> i32 {
    row.weights.get(&of).copied().map_or(0, i32::from)
}

/// Why: what it would show of the two that lead.
pub fn next_why(own: &NextMeasurement, diagnosis: &Diagnosis, weights: &Weights) -> String {
    let mut leading = diagnosis.ranked.iter().filter(|r| r.under.is_none()).map(|r| r.hypothesis);
    let settles = "Of all that is left it is expected to settle most for its minutes";
    let (Some(first), Some(second)) = (leading.next(), leading.next()) else { return format!("{settles}.") };
    let rows = || weights.rows().iter().filter(|row| row.measurement == own.measurement);
    let tells = |for_it: Hypothesis, other: Hypothesis| {
        rows()
            .filter(|row| points(row, for_it) > points(row, other).max(0))
            .max_by_key(|row| points(row, for_it) - points(row, other))
    };
    let mut lines = Vec::new();
    for (for_it, other) in [(first, second), (second, first)] {
        let row = tells(for_it, other);
        lines.extend(
            row.map(|row| format!("\u{201c}{}\u{201d} would speak for {}", row.words, hypothesis(for_it))),
        );
    }
    if lines.is_empty() {
        // It tells the two no better apart, but something else from both.
        let most = |h: Hypothesis| rows().map(|row| points(row, h)).max().unwrap_or(0);
        let can = diagnosis.ranked.iter().map(|r| r.hypothesis).filter(|h| *h != Hypothesis::Healthy);
        let mut shown: Vec<(i32, Hypothesis)> = can.map(|h| (most(h), h)).filter(|own| own.0 > 0).collect();
        shown.sort_by_key(|own| -own.0);
        let told: Vec<&str> = shown.iter().take(SHOWN).map(|(_, h)| hypothesis(*h)).collect();
        return match told.split_last() {
            None => format!("{settles}."),
            Some((only, [])) => format!("{settles}: it would show {only}."),
            Some((last, others)) => format!("{settles}: it would show {} or {last}.", others.join(", ")),
        };
    }
    format!("{settles}: {}.", lines.join("; "))
}

/// What an owner is told; none: nothing that he has to know.
pub fn diagnosis_for_owner(own: &Diagnosis, next: &[NextMeasurement]) -> Option<String> {
    let first = own.first().filter(|r| own.enough && r.hypothesis != Hypothesis::Healthy)?;
    let name = hypothesis_placed(first);
    let sure = match first.standing {
        Standing::Likely => format!("By all that is on record the most likely cause is this: {name}."),
        _ => format!("What is on record does not settle it. It may be this: {name}."),
    };
    let more = next.first().filter(|own| own.gain > 0.01).map(|own| {
        format!(
            " To know more we would {} (about {:.0} minutes).",
            measurement_next(own.measurement),
            own.minutes
        )
    });
    Some(format!("{sure}{}", more.unwrap_or_default()))
}

/// By whose weights a bank was weighed; empty where they are those that ship.
pub fn weighed_by(house: &HouseRules) -> String {
    match house.weights.values().map(std::collections::BTreeMap::len).sum::<usize>() {
        0 => String::new(),
        1 => format!("{} takes one weight otherwise than the table that ships.", house.name),
        n => format!(
            "{} takes {} weights otherwise than the table that ships.",
            house.name,
            names::number_word(n)
        ),
    }
}
