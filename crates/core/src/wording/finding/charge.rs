//! What equalizes did and what the charger is set to, in words.

use super::super::charge::{audited_stage, effect};
use super::Words;
use crate::finding::{ChargerFinding, EqualizeFinding};

pub(super) fn equalize(EqualizeFinding::NonResponding { cell }: EqualizeFinding) -> Words {
    let battery = cell.cell.battery;
    Words {
        headline: format!("{} did not answer two equalizes running", cell.cell),
        seen: format!("{} of them, the last of {}.", cell.times, cell.last.strftime("%-d %b %Y")),
        why: "A cell that gains nothing from an equalize has lost its material; the others pay for each further one.",
        advice: format!("Plan to replace {battery}; a load test tells how much it holds back."),
    }
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
