//! What to do about a failing battery, and how large a bank has to be, in words.

use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::BatteryModel;
use crate::conductor::{Cable, Section};
use crate::replacement::{Refused, ReplacementKind, ReplacementOption};
use crate::severity::Severity;
use crate::sizing::{MOST_STRINGS, MOST_SURGE, SizeNeeded, SizedLayout};

/// Where its limits come from.
pub const REPLACEMENT_RULE: &str = "RP-1, RP-2 and SM-2: age and match by the house, common practice; the string by the cell model; LF-1 and LF-2, \
     common practice. Maker\u{2019}s manual first.";
/// Where the limits of a size come from.
pub const SIZE_RULE: &str = "RP-3: ageing 1.25 and the cold by IEEE 485, from memory; capacity at the rate it is drawn at, never above 20 hours; \
     VE-1: EN/IEC 62485-2, from memory. Maker\u{2019}s manual first.";

/// The name of an option.
pub fn replacement_kind(kind: ReplacementKind, at: BatteryAddress) -> String {
    match kind {
        ReplacementKind::NewOne => format!("New {at}"),
        ReplacementKind::UsedMatch => "Used match".into(),
        ReplacementKind::DropString => {
            format!("Drop string {}", crate::bank::string_letter(at.string))
        }
        ReplacementKind::WholeBank => "Whole bank".into(),
        ReplacementKind::Wait => "Wait".into(),
    }
}

/// What a reminder of the day says; empty where nothing comes in.
pub fn replacement_reminder(kind: ReplacementKind, at: BatteryAddress) -> String {
    match kind {
        ReplacementKind::NewOne => format!("Replace {at} with a new one"),
        ReplacementKind::UsedMatch => format!("Replace {at} with a used one that matches"),
        ReplacementKind::WholeBank => "Replace the whole bank".into(),
        ReplacementKind::DropString | ReplacementKind::Wait => String::new(),
    }
}

/// Why an option is refused.
pub const fn replacement_refused(why: Refused) -> &'static str {
    match why {
        Refused::TooOld => "The bank is older than the house lets a new battery into (RP-2).",
        Refused::NoneAtHand => "No used battery is at hand: say what it is, and it is judged.",
        Refused::NoMatch => "Its age or its capacity does not match (RP-2).",
        Refused::OtherChemistry => "Sealed and flooded batteries do not stand in one string (RP-2).",
        Refused::Starter => "A starting battery does not stand among deep-cycle ones (RP-2).",
        Refused::OnlyString => "It is the only string: nothing would be left.",
    }
}

/// What an option does: what its string shows after ninety days.
pub fn replacement_does(own: &ReplacementOption, at: BatteryAddress, planned: f64) -> String {
    let place = usize::from(at.battery).saturating_sub(1);
    let end = own.run.as_ref().and_then(|run| run.days.last());
    if own.kind == ReplacementKind::DropString {
        let deep = if own.depth > planned { format!(", {planned:.0} % are planned") } else { String::new() };
        return format!("What is left goes {:.0} % deep each day{deep}.", own.depth);
    }
    let Some(day) = end else { return String::new() };
    let mates: Vec<f64> =
        day.charges.iter().enumerate().filter(|(n, _)| *n != place).map(|(_, charge)| *charge).collect();
    let least = mates.iter().copied().fold(100.0, f64::min);
    let its = day.charges.get(place).copied().unwrap_or_default();
    match own.kind {
        ReplacementKind::WholeBank => format!("All are alike and end their charges at {least:.0} %."),
        ReplacementKind::Wait => format!("{at} ends its charges at {its:.0} %, its mates at {least:.0} %."),
        _ if its < least - 3.0 => {
            format!("{at} falls behind: it ends its charges at {its:.0} %, its mates at {least:.0} %.")
        }
        _ if least < its - 3.0 => {
            format!("{at} reaches its volts first and holds its mates at {least:.0} % of charge.")
        }
        _ => format!("It ages with its mates: all end their charges at {:.0} % or more.", least.min(its)),
    }
}

/// The one sentence: which option, and why.
pub fn replacement_verdict(all: &[ReplacementOption], best: usize, at: BatteryAddress) -> String {
    let own = &all[best];
    let [years, low, high] = own.years;
    let span = format!("{years:.1} years ({low:.1} to {high:.1})");
    let head = match own.kind {
        ReplacementKind::NewOne => {
            format!("Put a new battery in {at}\u{2019}s place: it lasts with its mates, {span}.")
        }
        ReplacementKind::UsedMatch => {
            format!("Put the used match in {at}\u{2019}s place: it ages with its mates, {span}.")
        }
        ReplacementKind::DropString => format!(
            "Leave string {} out: the rest serves {span}, {:.0} % deep.",
            crate::bank::string_letter(at.string),
            own.depth
        ),
        ReplacementKind::WholeBank => format!("Replace the whole bank: it lasts {span}."),
        ReplacementKind::Wait => format!("Wait, and watch {at}: {span}."),
    };
    let new = all.iter().find(|own| own.kind == ReplacementKind::NewOne);
    let why = new.filter(|_| own.kind != ReplacementKind::NewOne).and_then(|new| match new.refused {
        Some(Refused::TooOld) => Some(" A new one does not go into a bank of this age."),
        _ if new.condition == Severity::Act => Some(" A new one would hold its mates short."),
        _ => None,
    });
    format!("{head}{}", why.unwrap_or_default())
}

/// The day itself, in order.
pub fn replacement_day(kind: ReplacementKind, at: BatteryAddress, model: &BatteryModel) -> Vec<String> {
    let torque =
        model.post_torque.map_or("the maker\u{2019}s torque".to_owned(), |own| format!("{own:.0} N\u{b7}m"));
    if kind == ReplacementKind::Wait {
        return vec![
            format!("Read {at} and its mates again in a month; charge full before."),
            "Take the string out at once if it gets hot, bulges or smells.".into(),
        ];
    }
    let mut all = vec![
        "Photograph the bank and every link before anything is loosened; label both ends.".to_owned(),
        "Chargers off, loads off, disconnect open; wait until nothing gasses. Eye protection, insulated wrench.".to_owned(),
        "Loosen the grounded pole of the bank first, then the links of the string; cover posts that stay live.".to_owned(),
    ];
    if kind == ReplacementKind::DropString {
        all.push(
            "Take both leads of the string off, insulate their ends; leave the others as they are.".into(),
        );
        all.push("Set the charger\u{2019}s current for what is left; write down the new depth.".into());
        return all;
    }
    all.extend([
        "Lift with two people or a strap; upright; onto a board.".to_owned(),
        "Read the polarity of every battery with the meter before it is joined.".to_owned(),
        format!("Bright metal, links on, {torque}; then millivolts over every joint."),
        "A freshening charge of its own for what comes in, until its current is at the tail.".to_owned(),
    ]);
    all.push(if model.construction.has_caps() {
        "Charge the whole bank full, then a round of every cell: the baseline. Water to the mark.".into()
    } else {
        "Charge the whole bank full, settled volts and resistance of every battery: the baseline.".into()
    });
    all.push(
        "Label what came in with its date code and today\u{2019}s date; old ones go back for their core."
            .into(),
    );
    all
}

/// How a layout stands, and what speaks against it.
pub fn layout_said(own: &SizedLayout) -> String {
    if own.shape.parallel > MOST_STRINGS {
        return format!(
            "{} strings: they share a current unevenly; larger cells are better.",
            own.shape.parallel
        );
    }
    if own.surge_rate > MOST_SURGE {
        return format!("The surge draws {:.1} A for each Ah: its volts dip.", own.surge_rate);
    }
    format!("{:.0} % deep on a common day.", own.daily_depth)
}

/// "1180 Ah are needed; twelve two-volt cells of 1260 Ah in one string give them."
pub fn size_verdict(needed: &SizeNeeded, best: Option<(&str, &SizedLayout)>) -> String {
    let head = format!("{:.0} Ah are needed", needed.ampere_hours.ceil());
    match best {
        None => format!("{head}: no battery of the library gives them in five strings or fewer."),
        Some((name, own)) => {
            let strings = if own.shape.parallel == 1 {
                "one string".to_owned()
            } else {
                format!("{} strings", own.shape.parallel)
            };
            format!("{head}: {strings} of {} {name} give {:.0}.", own.shape.series, own.at_rate)
        }
    }
}

/// "String B".
pub fn string_said(failing: BatteryAddress) -> String {
    format!("String {}", crate::bank::string_letter(failing.string))
}

/// "50 mm\u{b2}, 0.25 m, 2 lugs".
pub fn cable_said(own: &Cable) -> String {
    let section = match own.section {
        Section::SquareMillimetres(mm2) => format!("{mm2:.0} mm\u{b2}"),
        Section::Awg(gauge @ ..=0) => format!("{}/0 AWG", 1 - gauge),
        Section::Awg(gauge) => format!("{gauge} AWG"),
    };
    format!("{section}, {:.2} m, {} lugs", own.metres, own.lugs)
}

/// What posts are set to.
pub fn torque_for(model: &BatteryModel) -> String {
    model.post_torque.map_or("new ones; torque by the maker\u{2019}s sheet".into(), |own| {
        format!("new ones; {own:.0} Nm by the maker")
    })
}

/// How the tubing of a watering kit goes, by how the bank stands.
pub fn tubing_by(shape: &BankShape) -> String {
    let rows = u16::from(shape.layout.rows_per_string) * u16::from(shape.parallel);
    let in_a_row = u16::from(shape.series).div_ceil(u16::from(shape.layout.rows_per_string.max(1)));
    format!("{rows} {} of {in_a_row}; measure where it turns", if rows == 1 { "row" } else { "rows" })
}
