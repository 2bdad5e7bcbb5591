//! What of the equipment has to be put right, in words.

use crate::finding::Finding;
use crate::quantity::units::ReaderUnits;

/// What does not suit the bank, in one line: "The charger: absorption too high, float too low".
pub fn what_does_not_suit(findings: &[Finding], units: ReaderUnits) -> String {
    let mut parts: Vec<(String, Vec<String>)> = Vec::new();
    for finding in findings {
        let headline = super::speak(finding, units).headline;
        let (of, what) = headline.split_once(": ").unwrap_or(("", &headline));
        match parts.iter_mut().find(|(own, _)| own == of && !of.is_empty()) {
            Some((_, all)) => all.push(what.to_owned()),
            None => parts.push((of.to_owned(), vec![what.to_owned()])),
        }
    }
    let said = parts.iter().enumerate().map(|(at, (of, all))| {
        let all = all.join(", ");
        let said = if of.is_empty() { all } else { format!("{of}: {all}") };
        let mut letters = said.chars();
        match letters.next() {
            // One line: what follows goes on in it.
            Some(first) if at > 0 => first.to_lowercase().chain(letters).collect(),
            _ => said,
        }
    });
    said.collect::<Vec<String>>().join("; ")
}

/// What to do about it, each advice once.
pub fn how_to_suit(findings: &[Finding], units: ReaderUnits) -> String {
    let mut all: Vec<String> = Vec::new();
    for finding in findings {
        let advice = super::speak(finding, units).advice;
        if !all.contains(&advice) {
            all.push(advice);
        }
    }
    all.join(" ")
}
