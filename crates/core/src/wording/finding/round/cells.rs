//! Cells, pairs, batteries, strings and rows that are different, in words.

use super::super::super::equalize_call::{BarredWords, pilot_advice, then_equalize};
use super::super::super::{names, signed};
use super::super::Words;
use crate::bank::{CellAddress, string_letter};
use crate::finding::{Against, EqualizeCall, Finding, RoundFinding};
use crate::quantity::Points;

pub(super) fn suspect(found: &RoundFinding, finding: &Finding, cells: &str) -> Words {
    let call = finding.equalize;
    let RoundFinding::SuspectCell { gravity, deviation, before, sinking, .. } = found else {
        unreachable!("called for suspect cells only")
    };
    let then = before
        .map(|(then, days)| format!("; it was {} {} ago", against(then.value()), names::span(days)))
        .unwrap_or_default();
    let pace = sinking
        .map(|s| {
            let lost = between(s.at_least, s.at_most);
            format!("; losing {lost} a year over {} rounds", s.rounds)
        })
        .unwrap_or_default();
    let seen = format!("Reads {gravity}, {} under the median{then}{pace}", names::points(deviation.value()));
    Words {
        headline: format!(
            "{cells} {}",
            if sinking.is_some() { "is sinking" } else { "is far below its mates" }
        ),
        seen: seen + ".",
        why: "A cell this low is no longer filled by ordinary charging, and it drags its string.",
        advice: pilot_advice(call, &finding.cells).unwrap_or_else(|| match BarredWords::of(call) {
            Some(barred) => format!("{} Then read {cells} again before it is judged.", barred.first),
            None => format!(
                "Charge fully, test the battery of {cells} under load, and read {cells} first on the next round."
            ),
        }),
    }
}

/// "10 to 14 points", or "12 points" where both ends are the same in whole points.
fn between(a: Points, b: Points) -> String {
    let (low, high) =
        if a.abs().value() <= b.abs().value() { (a.abs(), b.abs()) } else { (b.abs(), a.abs()) };
    if low.value().round() < high.value().round() {
        format!("{low} to {}", names::points(high.value()))
    } else {
        names::points(high.value())
    }
}

fn against(points: f64) -> String {
    let side = if points < 0.0 { "under" } else { "over" };
    if points.abs() < 0.5 { "level with its mates".into() } else { format!("{:.0} {side}", points.abs()) }
}

pub(super) fn low(found: &RoundFinding, finding: &Finding, cells: &str) -> Words {
    let RoundFinding::LowCells { lowest, nearest, alone, from, .. } = found else {
        unreachable!("called for low cells only")
    };
    let (call, count) = (finding.equalize, finding.cells.len());
    let many = count > 1;
    let again = if many { "Read them" } else { "Read it" };
    let asked = pilot_advice(call, &finding.cells);
    if *alone {
        return Words {
            headline: format!("{cells} stands alone"),
            seen: format!(
                "{} under the median, while all the others are even.",
                names::points(lowest.value())
            ),
            why: "One cell by itself tells of that cell, not of the charging.",
            advice: asked.unwrap_or_else(|| match BarredWords::of(call) {
                Some(barred) => format!("{} Then read {cells} again.", barred.first),
                None => format!("Read {cells} first on the next round, and see whether it sinks on."),
            }),
        };
    }
    Words {
        headline: if many {
            format!("{} cells low", names::sentence(&names::number_word(count)))
        } else {
            format!("{cells} is low")
        },
        seen: if many {
            format!(
                "{cells} lie {} under {}.",
                between(*nearest, *lowest),
                middle(*from, finding.cells.first())
            )
        } else {
            format!("{} under {}.", names::points(lowest.value()), middle(*from, finding.cells.first()))
        },
        why: "Cells that lag fill last; left alone the gap widens.",
        advice: asked.unwrap_or_else(|| match BarredWords::of(call) {
            Some(barred) => format!("{} {again} again after that.", barred.first),
            None => format!("{again} again after the next full charge."),
        }),
    }
}

/// What a cell stands under or over.
fn middle(from: Against, cell: Option<&CellAddress>) -> String {
    match (from, cell) {
        (Against::Line, _) => "the line through its row".into(),
        (Against::Battery, Some(cell)) => format!("the others of {}", cell.battery),
        (Against::String, Some(cell)) => {
            format!("the others of string {}", string_letter(cell.battery.string))
        }
        _ => "the median".into(),
    }
}

pub(super) fn high(highest: Points, from: Against, finding: &Finding, cells: &str) -> Words {
    let (count, first) = (finding.cells.len(), finding.cells.first());
    let many = count > 1;
    Words {
        headline: if many {
            format!("{} cells high", names::sentence(&names::number_word(count)))
        } else {
            format!("{cells} reads high")
        },
        seen: if many {
            format!("{cells}: {} over {} at most.", names::points(highest.value()), middle(from, first))
        } else {
            format!("{} over {}.", names::points(highest.value()), middle(from, first))
        },
        why: "Water lost concentrates the acid; a sample drawn before mixing reads the same.",
        advice: format!("Check the level {} before you judge it.", if many { "there" } else { "in it" }),
    }
}

pub(super) fn group(found: &RoundFinding, call: EqualizeCall, cells: &str) -> Words {
    let then = then_equalize(call);
    match found {
        RoundFinding::LowPair { deviation } => Words {
            headline: format!("{cells} are low together"),
            seen: format!(
                "Two neighbours in one case, {} under the median.",
                names::points(deviation.value())
            ),
            why: "Two neighbours alike point to a leak through the partition between them.",
            advice: if let Some(barred) = BarredWords::of(call) {
                format!("{} Then read both daily for a week: a leak pulls them down together.", barred.first)
            } else if then.is_empty() {
                "Charge fully, then read both daily for a week: a leak pulls them down together again.".into()
            } else {
                format!(
                    "{}, then read both daily for a week: a leak pulls them down together again.",
                    names::sentence(then)
                )
            },
        },
        RoundFinding::LowBattery { battery, nearest, lowest } => Words {
            headline: format!("Battery {battery} is low as a whole"),
            seen: format!("All its cells lie {} under the median.", between(*nearest, *lowest)),
            why: "All together point to the battery's links or its cold corner rather than to its cells.",
            advice: with_then(
                &format!("Measure the drop across the links of {battery} under load; clean and retorque"),
                then,
            ),
        },
        RoundFinding::LowString { letter, deviation } => Words {
            headline: format!("String {letter} is low as a whole"),
            seen: format!("Its median lies {} under the others.", names::points(deviation.value())),
            why: "A whole string low takes less charge than its mates: a joint, a longer cable, or a weak battery in it.",
            advice: with_then(
                &format!(
                    "Compare the current of string {letter} with the others on charge; check its end joints"
                ),
                then,
            ),
        },
        _ => unreachable!("called for groups only"),
    }
}

/// "Clean and retorque." or "Clean and retorque; then equalize."
fn with_then(first: &str, then: &str) -> String {
    if then.is_empty() { format!("{first}.") } else { format!("{first}; then {then}.") }
}

pub(super) fn gradient(found: &RoundFinding, call: EqualizeCall) -> Words {
    let RoundFinding::Gradient { low_end, high_end, low, high } = found else {
        unreachable!("called for gradients only")
    };
    Words {
        headline: format!("The cells fall from {high_end} to {low_end}"),
        seen: format!(
            "A line through them stands at {} at {high_end} and at {} points at {low_end}.",
            signed(*high),
            signed(*low)
        ),
        why: "Cells that fall along a row stand from warm to cold: the cold end takes less charge.",
        advice: with_then(
            "Measure the electrolyte at both ends, and keep sun, heater and cold wall off one end",
            then_equalize(call),
        ),
    }
}
