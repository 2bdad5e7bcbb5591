//! What equalizes did and what the charger is set to, in words.

use super::super::charge::{audited_stage, effect};
use super::super::names;
use super::Words;
use crate::equalize::Outcome;
use crate::finding::{ChargerFinding, EqualizeFinding, Finding};
use crate::quantity::Points;

pub(super) fn equalize(finding: &Finding, found: &EqualizeFinding) -> Words {
    let cell = match found {
        EqualizeFinding::NonResponding { cell } => cell,
        EqualizeFinding::RunOutcome { .. } => return run_outcome(finding, found),
    };
    let battery = cell.cell.battery;
    Words {
        headline: format!("{} did not answer two equalizes running", cell.cell),
        seen: format!("{} of them, the last of {}.", cell.times, cell.last.strftime("%-d %b %Y")),
        why: "A cell that gains nothing from an equalize has lost its material; the others pay for each further one.",
        advice: format!("Plan to replace {battery}; a load test tells how much it holds back."),
    }
}

/// What a run did.
fn run_outcome(finding: &Finding, found: &EqualizeFinding) -> Words {
    let EqualizeFinding::RunOutcome { outcome, before, after, told, lowest } = found else {
        return Words { headline: String::new(), seen: String::new(), why: "", advice: String::new() };
    };
    let went = format!("The spread went from {before} to {}", names::points(after.value()));
    let (headline, seen, advice) = match outcome {
        Outcome::Evened => ("Evened".into(), format!("{went}."), String::new()),
        Outcome::Helped => ("It helped".into(), format!("{went}, and is not even yet."), String::new()),
        Outcome::NoEffect => (
            "No effect that the instrument can tell".into(),
            format!(
                "The spread was {} and is {}.",
                names::points(before.value()),
                names::points(after.value())
            ),
            String::new(),
        ),
        Outcome::DidNotAnswer { .. } => {
            let still = if finding.cells.len() == 1 { "It is" } else { "They are" };
            (
                format!("{} did not answer", names::cells(&finding.cells)),
                format!(
                    "{still} still {} below the bank; a gain counts from {} on.",
                    names::points(lowest.unwrap_or(Points::ZERO).value()),
                    names::points(told.value())
                ),
                "Equalize once more; a cell that does not answer twice is replaced.".into(),
            )
        }
    };
    let why = match outcome {
        Outcome::Helped | Outcome::NoEffect => {
            "A run has helped when it cuts the spread by a third, and by more than the instrument scatters."
        }
        _ => "",
    };
    Words { headline, seen, why, advice }
}

pub(super) fn charger(found: &ChargerFinding) -> Words {
    match found {
        ChargerFinding::OffSetpoint { stage } => {
            let way = match stage.deviation {
                Some(d) if d < 0.0 => "too low",
                Some(_) => "too high",
                None => "on, and should be off",
            };
            Words {
                headline: format!("The charger: {} {way}", stage.stage.word()),
                seen: audited_stage(stage),
                why: "",
                advice: stage.to_type.map_or_else(
                    || format!("Turn {} off at the charger.", stage.stage.word()),
                    |_volts| "Change it at the charger; the maker's figure comes first.".into(),
                ),
            }
        }
        ChargerFinding::WrongCharger { effect: what } => Words {
            headline: "The charger does not suit these batteries".into(),
            seen: effect(*what).into(),
            why: "",
            advice: "Use a charger made for them.".into(),
        },
    }
}
