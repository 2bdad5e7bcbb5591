//! The words of a visit: volts, levels, water and what the eye found.

use super::{SpokenFinding, names, spoken::others_line};
use crate::bank::CellAddress;
use crate::finding::{OtherHouse, RuleId};
use crate::house_rules::HouseRules;
use crate::ohmic::{OhmicJudged, rise_word};
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;
use crate::rest::{
    ChargeRange, Fault, Grade, RestAssessment, RestFinding, RestSheet, VoltsQuestion, judge_rest,
};
use crate::severity::Severity;
use crate::visit::{Check, Place, SeenFinding};
use crate::water::{AmountQuestion, FillOrder, Uneven, WaterForecast};

struct Parts {
    condition: Severity,
    cells: Vec<String>,
    headline: String,
    seen: String,
    why: &'static str,
    advice: String,
    limit: String,
    rule: RuleId,
}

fn spoken(parts: Parts) -> SpokenFinding {
    let limit = if parts.limit.is_empty() { String::new() } else { format!(": {}", parts.limit) };
    SpokenFinding {
        condition: parts.condition,
        cells: parts.cells,
        headline: parts.headline,
        seen: parts.seen,
        why: parts.why.into(),
        advice: parts.advice,
        rule: format!("{}, {}{limit}", parts.rule.id(), parts.rule.title()),
        source: format!("Source: {}.", parts.rule.source()),
        sure: String::new(),
        others: String::new(),
    }
}

/// "settled: 84 to 88 % by the model's own rest volts".
pub fn charge_range(charge: ChargeRange) -> String {
    let (low, high) = (charge.low.round(), charge.high.round());
    if (high - low).abs() < 0.5 { format!("{low:.0} %") } else { format!("{low:.0} to {high:.0} %") }
}

/// The sentence on top of a rest check.
pub fn rest_verdict(rest: &RestAssessment) -> String {
    if let Some(finding) = rest.findings.first() {
        return rest_finding(finding).headline + ".";
    }
    let read = rest.batteries.len();
    match (read, rest.grade, rest.charge) {
        (0, _, _) => "No battery is read yet.".into(),
        (_, grade, _) if !grade.tells_charge() => names::sentence(&format!("{}.", grade.said())),
        (_, Grade::Settled, Some(charge)) => {
            format!(
                "{} batteries read, alike; the bank rests at {} charged.",
                names::sentence(&names::number_word(read)),
                charge_range(charge)
            )
        }
        (_, _, Some(charge)) => format!(
            "{} batteries read, alike; usable, not settled: {} charged.",
            names::sentence(&names::number_word(read)),
            charge_range(charge)
        ),
        _ => format!("{} batteries read.", names::sentence(&names::number_word(read))),
    }
}

fn fault(fault: Fault) -> (String, String) {
    match fault {
        Fault::ShortedCells { cells: 1 } => (
            "about two volts are missing: one shorted cell".into(),
            "Read its batteries one by one; the one two volts short has the dead cell.".into(),
        ),
        Fault::ShortedCells { cells } => (
            format!("about {} volts are missing: {} shorted cells", 2 * cells, names::number_word(usize::from(cells))),
            "Read its batteries one by one; those that are short have the dead cells.".into(),
        ),
        Fault::BatteryOut => (
            "one battery's volts are missing: it is bypassed or broken out".into(),
            "Walk the links of this string with the meter; look for a bypass or a broken post.".into(),
        ),
        Fault::BatteryReversed => (
            "twice one battery's volts are missing: one stands reversed".into(),
            "Check the polarity of every battery of this string before anything is switched on.".into(),
        ),
        Fault::OpenLink { after: Some(battery) } => (
            format!("the volts stop after {battery}: its link to the next battery is open or corroded"),
            format!("Isolate, take the link after {battery} off, clean both faces, remake it to torque, measure again."),
        ),
        Fault::OpenLink { after: None } => (
            "the batteries are there one by one, the string is not: an open or corroded link".into(),
            "Measure from the positive post of the string to the negative post of each battery in turn; the volts stop at the bad link.".into(),
        ),
        Fault::Low => ("it reads low by no whole number of cells".into(), "Rest it, read it again, then load it for ten seconds and watch the volts.".into()),
    }
}

/// A finding of a rest check in words.
pub fn rest_finding(finding: &RestFinding) -> SpokenFinding {
    let condition = finding.condition();
    match finding {
        RestFinding::CellsMissing { battery, below, cells } => spoken(Parts {
            condition,
            cells: vec![battery.to_string()],
            headline: format!("{battery} is short of {}", if *cells == 1 { "a cell".into() } else { format!("{} cells", names::number_word(usize::from(*cells))) }),
            seen: format!("It rests {below:.2} V under its mates, about two volts a dead cell."),
            why: "A dead cell is charged by nothing and heats its neighbours on charge.",
            advice: format!("End the routine: isolate {battery}, read its cells, load test it alone."),
            limit: String::new(),
            rule: RuleId::Sg3,
        }),
        RestFinding::BatteryLow { battery, below, limit } => spoken(Parts {
            condition,
            cells: vec![battery.to_string()],
            headline: format!("{battery} rests {below:.2} V under its mates"),
            seen: "It is no whole dead cell: it holds less charge than the batteries beside it.".into(),
            why: "A battery that lags is filled last and emptied first, and pulls its mates after it.",
            advice: format!("Charge {battery} alone to the end, rest it, read it again; if it still lags, test it under load."),
            limit: format!("limit {limit:.2} V under the median"),
            rule: RuleId::Rd7,
        }),
        RestFinding::Apart { letter, spread, limit, lowest, highest, by_meter, sealed } => spoken(Parts {
            condition,
            cells: vec![lowest.to_string(), highest.to_string()],
            headline: format!("String {letter} rests {spread:.2} V apart"),
            seen: format!("{lowest} is the lowest, {highest} the highest."),
            why: "Batteries that rest apart are charged apart: the low one is never filled.",
            advice: if *sealed {
                format!("Charge fully, rest, read again; if it stays, charge {lowest} alone and test it under load.")
            } else {
                "Charge fully, rest, read again; if it stays, equalize.".into()
            },
            limit: format!("limit {limit:.2} V{}", if *by_meter { ", set by the meter" } else { "" }),
            rule: RuleId::Rd7,
        }),
        RestFinding::StringShort { letter, volts, expected, fault: what } => {
            let (seen, advice) = fault(*what);
            spoken(Parts {
                condition,
                cells: Vec::new(),
                headline: format!("String {letter} reads {volts:.1} V of {expected:.1}"),
                seen: names::sentence(&format!("{seen}.")),
                why: "The other strings carry its load until they fail too.",
                advice: format!("{advice} Hold loose lugs; insulated tools."),
                limit: String::new(),
                rule: RuleId::Rd7,
            })
        }
        RestFinding::Disagrees { battery, measured, expected } => spoken(Parts {
            condition,
            cells: vec![battery.to_string()],
            headline: format!("{battery}: volts and gravity disagree"),
            seen: format!("{measured:.3} V a cell at rest; its gravities lead to {expected:.3} V."),
            why: "An instrument is off, the temperature is wrong, the acid is layered, or a bad cell hides among its mates.",
            advice: "Check the meter on a known battery and the hydrometer in distilled water, then read it again.".into(),
            limit: "limit 0.02 V a cell".into(),
            rule: RuleId::Sg3,
        }),
        RestFinding::LowCharge { at_most, planned_depth } => spoken(Parts {
            condition,
            cells: Vec::new(),
            headline: format!("The bank is at most {at_most:.0} % charged"),
            seen: format!("Deeper than the planned depth of discharge of {planned_depth} %."),
            why: "Every day in this state hardens sulfate.",
            advice: "Charge it fully today, then find out why it was left like this.".into(),
            limit: String::new(),
            rule: RuleId::Rd7,
        }),
    }
}

/// The findings of a rest check in words, each with what another house rule set would say of the
/// same volts.
pub fn rest_findings(sheet: &RestSheet) -> Vec<SpokenFinding> {
    let own = judge_rest(sheet);
    let others: Vec<(String, RestAssessment)> = HouseRules::shipped()
        .into_iter()
        .filter(|set| set.key != sheet.rules.key)
        .map(|rules| (rules.name.clone(), judge_rest(&RestSheet { rules, ..sheet.clone() })))
        .collect();
    let would_say = |finding: &RestFinding| -> Vec<OtherHouse> {
        let mine = (std::mem::discriminant(finding), rest_finding(finding).cells);
        others
            .iter()
            .map(|(name, theirs)| {
                let same = theirs
                    .findings
                    .iter()
                    .find(|f| (std::mem::discriminant(*f), rest_finding(f).cells) == mine);
                let condition = same.map_or(Severity::Steady, RestFinding::condition);
                OtherHouse { name: name.clone(), condition }
            })
            .filter(|other| other.condition != finding.condition())
            .collect()
    };
    own.findings
        .iter()
        .map(|f| SpokenFinding { others: others_line(&would_say(f)), ..rest_finding(f) })
        .collect()
}

/// A question about typed volts.
pub fn volts_question(question: VoltsQuestion, volts: f64, cells: u16) -> String {
    match question {
        VoltsQuestion::High => format!(
            "{volts:.2} V is more than a rested {} V battery shows. On charge, or just off it?",
            2 * cells
        ),
        VoltsQuestion::Low => {
            format!("{volts:.2} V is less than a flat {} V battery shows. Probes on the posts?", 2 * cells)
        }
        VoltsQuestion::CellMissing { cells: 1 } => {
            format!("{volts:.2} V: about two volts short. A dead cell, or a slip?")
        }
        VoltsQuestion::CellMissing { cells: n } => {
            format!(
                "{volts:.2} V: about {} volts short, as {} dead cells would be. A slip?",
                2 * u16::from(n),
                names::number_word(usize::from(n))
            )
        }
    }
}

/// What is asked about an amount of water, at "A3", "the bank".
pub fn amount_question(question: AmountQuestion, place: &str) -> String {
    match question {
        AmountQuestion::OverTheMark => {
            format!("The level of {place} was noted over the mark. Water was added all the same?")
        }
        AmountQuestion::MoreThanFits { each } => format!(
            "{each:.0} mL a cell is more than fits between bare plates and the mark. Is the unit right?"
        ),
    }
}

/// A resistance that asks for something, in words.
pub fn ohmic_finding(judged: &OhmicJudged) -> Option<SpokenFinding> {
    let rise = judged.rise.filter(|_| judged.condition >= Severity::Watch)?;
    let of = if judged.own_baseline { "its own first value" } else { "the median of its mates" };
    let reference = judged.reference.unwrap_or(judged.milliohms);
    let hotter =
        judged.hotter.map(|h| format!(" Its case is {h:.0} °C hotter than the others.")).unwrap_or_default();
    Some(spoken(Parts {
        condition: judged.condition,
        cells: vec![judged.battery.to_string()],
        headline: format!("{}: resistance {:+.0} %, {}", judged.battery, 100.0 * rise, rise_word(rise)),
        seen: format!("{:.2} mΩ against {reference:.2} mΩ, {of}.{hotter}", judged.milliohms),
        why: "Resistance climbs as a sealed battery dries and its grid corrodes; it tells change, not capacity.",
        advice: format!(
            "Compare at the same charge and temperature, check the joints of {}, then load test it.",
            judged.battery
        ),
        limit: "watch 20 %, investigate 30 %, act 50 %".into(),
        rule: RuleId::Oh1,
    }))
}

/// The words of something the eye found.
pub fn seen_words(check: Check, found: &SeenFinding) -> String {
    let kind = check.kind(&found.kind).map_or(found.kind.as_str(), |k| k.said);
    let measured = match (check.measures(), found.measured) {
        (Some((_, unit)), Some(value)) => format!(", {value:.1} {unit}"),
        _ => String::new(),
    };
    format!("{}: {kind}{measured}", check.said().to_lowercase())
}

/// Something the eye found, as a finding.
pub fn seen_finding(check: Check, place: Place, found: &SeenFinding) -> SpokenFinding {
    let words = seen_words(check, found);
    let note = if found.note.is_empty() {
        String::new()
    } else {
        names::sentence(&format!("{}.", found.note.trim_end_matches('.')))
    };
    spoken(Parts {
        condition: found.severity,
        cells: match place {
            Place::Cell(_) | Place::Battery(_) => vec![place.to_string()],
            _ => Vec::new(),
        },
        headline: names::sentence(&format!("{}, {words}", place.said())),
        seen: note,
        why: "",
        advice: check.advice().into(),
        limit: String::new(),
        rule: RuleId::Lo1,
    })
}

/// The order of filling, in the imperative.
pub fn fill_order(order: &FillOrder) -> String {
    let some = |cells: &[CellAddress]| names::cells(cells);
    match order {
        FillOrder::LookFirst => "Look into every cell before a drop is added.".into(),
        FillOrder::CoverFirst { cells } => format!(
            "Cover the plates of {} now, no more than that; charge fully, then fill to the mark.",
            some(cells)
        ),
        FillOrder::CoverForEqualize { cells } => format!(
            "{} cells stand low: cover them with margin before the equalize, fill to the mark after it.",
            names::sentence(&names::number_word(cells.len()))
        ),
        FillOrder::ChargeFirst { .. } => {
            "Plates are covered: charge first, then fill to the mark. The liquid rises on charge.".into()
        }
        FillOrder::FillNow { cells } => {
            format!(
                "Charged and covered: fill {} to the mark now.",
                if cells.len() == 1 {
                    some(cells)
                } else {
                    format!("{} cells", names::number_word(cells.len()))
                }
            )
        }
        FillOrder::NothingToFill => "Every cell is at its mark: nothing to add.".into(),
    }
}

/// What the forecast says, in one sentence.
pub fn forecast_line(forecast: &WaterForecast, units: ReaderUnits) -> String {
    let month = Volume::from_millilitres(forecast.per_day_now() * 30.4)
        .map(|v| units.say_volume(v))
        .unwrap_or_default();
    let days = |d: f64| names::span(d.max(0.0));
    let who = forecast.cell.map_or_else(|| "The thirstiest cell".into(), |c| format!("Cell {c}"));
    let (soonest, likely, latest) =
        (days(forecast.days.p10), days(forecast.days.p50), days(forecast.days.p90));
    if forecast.days.p50 < 1.0 {
        return format!(
            "{who} stands lower than 10 mm over its plates already; a cell drinks {month} a month."
        );
    }
    if soonest == latest {
        return format!(
            "{who} comes down to 10 mm over its plates in {likely}; a cell drinks {month} a month."
        );
    }
    format!(
        "{who} comes down to 10 mm over its plates in {soonest} to {latest}, most likely {likely}; a cell drinks {month} a month."
    )
}

/// A cell that drinks unlike its mates, as a finding.
pub fn uneven_finding(uneven: &Uneven) -> SpokenFinding {
    let (cell, factor, before) = (uneven.cell, uneven.factor, uneven.before);
    spoken(Parts {
        condition: Severity::Watch,
        cells: vec![cell.to_string()],
        headline: format!(
            "{cell} drinks {}",
            if uneven.more { "more than its mates" } else { "less than its mates" }
        ),
        seen: format!("{factor:.1} times the median in this fill, {before:.1} times in the one before."),
        why: if uneven.more {
            "A thirsty cell is overcharged, leaks, or is shorted and heats."
        } else {
            "A cell that hardly drinks is never filled up, or its level was misjudged."
        },
        advice: format!(
            "Compare its gravity with its mates, look for a wet case, and watch {cell} at the next fill."
        ),
        limit: "more than 1.5 or less than 0.6 times the median over two fills".into(),
        rule: RuleId::Wa5,
    })
}
