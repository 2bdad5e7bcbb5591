//! Joints and shares of a bank in words: for the technician, and for the owner.

use super::names;
use super::strings::{share_change, shares_of};
use super::torque::torque;
use crate::finding::{JointFinding, ShareRemedy};
use crate::joints::{Joint, JointPart, Pole};
use crate::parallel_share::{ShareChange, WITHIN};
use crate::visit::{CurrentBy, JointQuestion};
use crate::wiring::{BatteryResistance, ClampAgainst, WhyUneven, WiringOption, WiringShare};

/// Head line, what was seen, why it matters, what to do.
pub(super) struct JointWords {
    pub headline: String,
    pub seen: String,
    pub why: &'static str,
    pub advice: String,
}

/// The words of what joints and strings show.
pub(super) fn words(found: &JointFinding) -> JointWords {
    match found {
        JointFinding::RemakeJoint { joint, milliohms, times_like, times_first } => {
            let mut seen = vec![format!("{milliohms:.2} mΩ")];
            seen.extend(times_like.map(|times| format!("{times:.1} times its like")));
            seen.extend(times_first.map(|times| format!("{times:.1} times its own first value")));
            JointWords {
                headline: format!("The joint {joint} has too much resistance"),
                seen: format!("{}.", seen.join(", ")),
                why: "A joint that differs from its like is the next to fail: it heats, and what hangs behind it gets less charge.",
                advice: format!(
                    "Isolate, take {joint} apart, clean both faces dry, to torque, coat; then measure it again."
                ),
            }
        }
        JointFinding::StringsShareUnevenly { shares, clamped, remedy } => JointWords {
            headline: format!("The strings share unevenly: {}", shares_of(shares)),
            seen: if *clamped {
                "By clamp meter, more apart than the meter may be off.".into()
            } else {
                "By the cables and resistances on record; nobody has clamped it yet.".into()
            },
            why: "The string that gives more is used and charged more on every trip, and ages for all of them.",
            advice: match remedy {
                Some(own) => format!("{}: then {}.", remedy_said(own), shares_of(&own.shares)),
                None if *clamped => {
                    "Measure every joint and every battery of the string that gives least; describe the cables.".into()
                }
                None => "Clamp the current of every string under load.".into(),
            },
        },
    }
}

fn remedy_said(own: &ShareRemedy) -> String {
    let remade: Vec<&str> = own.remade.iter().map(String::as_str).collect();
    super::sentence(&change_said(&remade, own.change, own.renewed.as_deref()))
}

/// What is done, in the imperative: "remake B1+ and take the minus from the other end".
fn change_said(remade: &[&str], change: ShareChange, renewed: Option<&str>) -> String {
    let mut all = Vec::new();
    if !remade.is_empty() {
        all.push(format!("remake {}", names::words(remade)));
    }
    if change != ShareChange::AsItIs {
        all.push(share_change(change).to_owned());
    }
    all.extend(renewed.map(|battery| format!("put a new battery in the place of {battery}")));
    if all.is_empty() {
        share_change(change).to_owned()
    } else {
        // What is a list by itself is set apart.
        if remade.len() > 1 {
            all.join(", and ")
        } else {
            names::words(&all.iter().map(String::as_str).collect::<Vec<_>>())
        }
    }
}

/// What an option is, in the imperative.
pub fn wiring_option(own: &WiringOption) -> String {
    let remade: Vec<String> = own.remade.iter().map(ToString::to_string).collect();
    let remade: Vec<&str> = remade.iter().map(String::as_str).collect();
    let renewed = own.renewed.map(|battery| battery.to_string());
    change_said(&remade, own.change, renewed.as_deref())
}

/// For the owner.
pub(super) fn owner(found: &JointFinding) -> String {
    match found {
        JointFinding::RemakeJoint { joint, .. } => {
            format!("A connection at the batteries, {joint}, is bad; it has to be made anew before it fails.")
        }
        JointFinding::StringsShareUnevenly { shares, .. } => format!(
            "The rows of batteries share the work unevenly ({}); one of them ages faster. The cables have to be changed.",
            shares_of(shares)
        ),
    }
}

/// The one sentence of joints and strings: what to remake, what to change, or that all is well.
pub fn joints_headline(
    bad: &[Joint],
    share: Option<&WiringShare>,
    clamped: Option<&[f64]>,
    (read, strings): (usize, u8),
) -> String {
    let bad: Vec<String> = bad.iter().map(ToString::to_string).collect();
    let bad: Vec<&str> = bad.iter().map(String::as_str).collect();
    let joint = if bad.len() == 1 { "the joint at" } else { "the joints at" };
    let option = share.and_then(|own| own.options.get(own.cheapest?));
    if let (Some(own), Some(share)) = (option, share) {
        let now = shares_of(&share.now.shares);
        return format!(
            "{}: the strings then share {}, not {now}.",
            super::sentence(&wiring_option(own)),
            shares_of(&own.shares.shares)
        );
    }
    if !bad.is_empty() {
        return format!("Remake {joint} {}.", names::words(&bad));
    }
    let even = share.is_some_and(|own| own.now.even);
    match (read, share) {
        (0, None) if strings > 1 => {
            "Nothing is measured of its joints, and nobody has told how it is wired.".into()
        }
        (0, Some(own)) if even => {
            format!(
                "As it is wired the strings share within {:.0} % of even: {}.",
                100.0 * WITHIN,
                shares_of(&own.now.shares)
            )
        }
        (_, Some(own)) if !even => format!(
            "The strings share {}, and no cable that is described evens them: the strings themselves differ.",
            shares_of(&own.now.shares)
        ),
        (0, _) => "Nothing is measured of its joints yet.".into(),
        _ if clamped.is_some() || even => "Every joint is as its like, and the strings share evenly.".into(),
        _ => "Every joint that was measured is as its like.".into(),
    }
}

/// Why one string gives less than another; empty: nothing that is on record.
pub fn why_uneven(own: &WhyUneven) -> String {
    let least = crate::bank::string_letter(own.least);
    let parts = [
        (own.leads, "hangs on more cable"),
        (own.batteries, "has batteries of more resistance"),
        (own.joints, "has a joint that has gone bad"),
    ];
    let said: Vec<String> =
        parts.iter().filter(|(by, _)| *by > 0.05).map(|(by, what)| format!("{what} ({by:.1} mΩ)")).collect();
    let said: Vec<&str> = said.iter().map(String::as_str).collect();
    if said.is_empty() { String::new() } else { format!("String {least} {}.", names::words(&said)) }
}

/// What the uneven share does; empty: it is even.
pub fn uneven_does(share: &WiringShare) -> String {
    let most = (0u8..).zip(share.now.off()).max_by(|a, b| a.1.total_cmp(&b.1));
    match most.filter(|_| !share.now.even) {
        Some((string, own)) => format!(
            "String {} gives {:.0} % more than its part on every discharge and is charged first; it ages for the others.",
            crate::bank::string_letter(string),
            100.0 * own
        ),
        None => String::new(),
    }
}

/// How well the batteries were known.
pub const fn resistance_known(own: BatteryResistance) -> &'static str {
    match own {
        BatteryResistance::Read => "resistances of the batteries as read last",
        BatteryResistance::Some => "batteries that were not read count as the middle of the others",
        BatteryResistance::Usual => "no battery was read: each counts as usual for its size",
    }
}

/// What the current through a joint is told by.
pub const fn current_by(own: CurrentBy) -> &'static str {
    match own {
        CurrentBy::OneString => "one string: all of it goes through every joint",
        CurrentBy::Clamp => "currents of the strings by clamp meter",
        CurrentBy::Wiring => "currents of the strings as the cables share them",
        CurrentBy::Even => "nobody told how it is wired: the strings count as even",
    }
}

/// A clamp meter against the wiring.
pub fn clamp_said(own: &ClampAgainst) -> String {
    if own.agrees {
        return format!("clamp agrees within {:.1} A", own.furthest);
    }
    format!(
        "clamp and cables differ by {:.1} A at string {}: a joint, a cable or a battery is not as on record",
        own.furthest,
        crate::bank::string_letter(own.string)
    )
}

/// What a joint is, for a list: "A1+", "A1+, lead to the next string".
pub fn joint_name(joint: Joint, at_busbars: bool) -> String {
    let sign = if joint.pole == Pole::Positive { '+' } else { '\u{2212}' };
    match joint.part {
        JointPart::Post => format!("{}{sign}", joint.battery),
        JointPart::Lead if at_busbars => format!("{}{sign}, its lead at the busbar", joint.battery),
        JointPart::Lead => format!("{}{sign}, lead to the next string", joint.battery),
    }
}

/// What a figure of a joint is asked about, at "A3", "string B".
pub(super) fn joint_question(question: JointQuestion, place: &str) -> String {
    match question {
        JointQuestion::FarTooMuch { millivolts, amperes } => format!(
            "{millivolts:.1} mV at {place} with {amperes:.1} A is more than {:.0} mΩ. Did both probes stand on this joint, and is the range mV?",
            (millivolts / amperes).floor()
        ),
        JointQuestion::AgainstTheOthers { amperes } => format!(
            "{}{:.1} A runs against the other strings. Was the clamp the other way round? A string that really does is charged by the others.",
            if amperes < 0.0 { "\u{2212}" } else { "" },
            amperes.abs()
        ),
        JointQuestion::OffTorque { set, asked } => format!(
            "{} is far from the {} that the model asks for. Is the unit right?",
            torque(set),
            torque(asked)
        ),
    }
}
