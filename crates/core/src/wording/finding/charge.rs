//! What equalizes did and what the charger is set to, in words.

use super::super::charge::{audited_stage, effect};
use super::super::names;
use super::Words;
use crate::equalize::Outcome;
use crate::equipment::AirJudged;
use crate::finding::{ChargerFinding, EqualizeFinding, Finding, Subject};
use crate::quantity::Points;
use crate::quantity::units::ReaderUnits;
use crate::severity::Severity;

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

/// What the record of the charging shows.
fn recorded(found: &ChargerFinding) -> Words {
    let words = |headline: String, seen: String, why, advice: &str| Words {
        headline,
        seen,
        why,
        advice: advice.into(),
    };
    match found {
        ChargerFinding::LongWithoutFull { days, full_days, known_days } => words(
            format!("{days} days without a full charge"),
            format!(
                "By its record it reached full on {full_days} of {known_days} days, and on none of the last {days}."
            ),
            "A cycled bank wants a full charge every 7 to 10 days; what is never finished sulfates.",
            "Look under Plan, Charging, which source can finish the charge; until then a night on a charger each week.",
        ),
        ChargerFinding::OddChargeFactor { factor, usual: [low, high] } => {
            let seen = format!(
                "{factor:.2} Ah went in for each that came out, from full to full; usual is {low:.2} to {high:.2}."
            );
            if factor < low {
                let advice =
                    "Look whether a source goes past the meter; if none does, the charge ends too early.";
                words("Less comes back than it takes".into(), seen, "", advice)
            } else {
                let advice = "Look whether a load goes past the meter; if none does, it is overcharged.";
                words("Much more goes in than comes out".into(), seen, "", advice)
            }
        }
        ChargerFinding::HeldOff { off, stage } => {
            let (held, way) = if *off < 0.0 { ("low", "under") } else { ("high", "over") };
            let stage = stage.word();
            words(
                format!("{} is held too {held}", names::sentence(stage)),
                format!("By its record {stage} was held {:.2} V a cell {way} what is asked for.", off.abs()),
                "",
                "Measure at the posts while it is held, then set the charger; the maker\u{2019}s figure comes first.",
            )
        }
        _ => words(
            "The charger does not follow the temperature".into(),
            "By its record the same volts were held cold and warm.".into(),
            "Without it a bank is charged too little in the cold and boils in the heat.",
            "Look for the sensor: it belongs on a battery, and the charger has to be set to use it.",
        ),
    }
}

pub(super) fn charger(subject: Subject, found: &ChargerFinding, units: ReaderUnits) -> Words {
    let source = names::sentence(&super::subject(subject));
    match found {
        ChargerFinding::TooLittleAir { air } => too_little_air(air, units),
        ChargerFinding::NoneFinishes { why } => Words {
            headline: "Nothing that charges it finishes the charge".into(),
            seen: crate::wording::none_finishes(*why).into(),
            why: "The last fifth takes as long as the rest; a bank that never gets it sulfates.",
            advice: "Finish the charge with a charger that has an absorption stage, once a week at least."
                .into(),
        },
        ChargerFinding::OffSetpoint { stage } => {
            let way = match stage.deviation {
                Some(d) if d < 0.0 => "too low",
                Some(_) => "too high",
                None => "on, and should be off",
            };
            Words {
                headline: format!("{source}: {} {way}", stage.stage.word()),
                seen: audited_stage(stage),
                why: "",
                advice: stage.to_type.map_or_else(
                    || format!("Turn {} off at {}.", stage.stage.word(), super::subject(subject)),
                    |_volts| {
                        format!("Change it at {}; the maker's figure comes first.", super::subject(subject))
                    },
                ),
            }
        }
        ChargerFinding::WrongCharger { effect: what } => Words {
            headline: format!("{source} does not suit these batteries"),
            seen: effect(*what).into(),
            why: "",
            advice: "Use a charger made for them.".into(),
        },
        ChargerFinding::LongWithoutFull { .. }
        | ChargerFinding::OddChargeFactor { .. }
        | ChargerFinding::HeldOff { .. }
        | ChargerFinding::HeldFixed => recorded(found),
    }
}

/// The fan and the openings that are there, and what the bank asks for.
fn too_little_air(air: &AirJudged, units: ReaderUnits) -> Words {
    let boost = &air.boost;
    let wanted = format!(
        "A boost charge asks for {}, or openings of {} low and high.",
        units.say_airflow(boost.airflow),
        units.say_area(boost.opening)
    );
    let fan = air.vents.fan.map(|fan| format!("a fan of {}", units.say_airflow(fan)));
    let opening = |area: Option<f64>, way| area.map(|area| format!("{} {way}", units.say_area(area)));
    let there: Vec<String> = [fan, opening(air.vents.inlet, "low"), opening(air.vents.outlet, "high")]
        .into_iter()
        .flatten()
        .collect();
    let there = names::sentence(&names::words(&there.iter().map(String::as_str).collect::<Vec<_>>()));
    let (headline, advice) = match (air.one_way, air.condition) {
        (true, _) => (
            "Air goes one way only, as far as told",
            "Look for the other opening: gas leaves high only where air comes in low. Measure both.",
        ),
        (false, Severity::Act) => (
            "Too little air for this bank, even on float",
            "No charge with the place closed: open it, then have the vents enlarged or a fan fitted. Local codes first.",
        ),
        (false, _) => (
            "Too little air for a boost charge or an equalize",
            "Open the place for every absorption and equalize, or have a fan fitted that starts at gassing volts. Local codes first.",
        ),
    };
    Words {
        headline: headline.into(),
        seen: format!("{there}. {wanted}"),
        why: "Hydrogen that stays burns from 4 % on.",
        advice: advice.into(),
    }
}
