//! What volts at rest show, in words.

use super::super::equalize_call::BarredWords;
use super::super::names;
use super::Words;
use crate::bank::BatteryAddress;
use crate::finding::EqualizeCall;
use crate::rest::{DIRTY_PER_DAY, Fault, RestFinding};

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

/// The words of a finding of a rest check.
pub(super) fn words(found: &RestFinding, call: EqualizeCall) -> Words {
    match found {
        RestFinding::CellsMissing { battery, below, cells } => Words {
            headline: format!(
                "{battery} is short of {}",
                if *cells == 1 {
                    "a cell".into()
                } else {
                    format!("{} cells", names::number_word(usize::from(*cells)))
                }
            ),
            seen: format!("It rests {below:.2} V under its mates, about two volts a dead cell."),
            why: "A dead cell is charged by nothing and heats its neighbours on charge.",
            advice: format!(
                "End the routine: isolate {battery}, read its cells, load test it alone. Do not charge it in the string."
            ),
        },
        RestFinding::BatteryLow { battery, below, .. } => Words {
            headline: format!("{battery} rests {below:.2} V under its mates"),
            seen: "It is no whole dead cell: it holds less charge than the batteries beside it.".into(),
            why: "A battery that lags is filled last and emptied first, and pulls its mates after it.",
            advice: format!(
                "Charge {battery} alone to the end, rest it, read it again; if it still lags, test it under load."
            ),
        },
        RestFinding::Apart { letter, spread, lowest, highest, sealed, .. } => Words {
            headline: format!("String {letter} rests {spread:.2} V apart"),
            seen: format!("{lowest} is the lowest, {highest} the highest."),
            why: "Batteries that rest apart are charged apart: the low one is never filled.",
            advice: if *sealed {
                format!(
                    "Charge fully, rest, read again; if it stays, charge {lowest} alone and test it under load."
                )
            } else if let Some(barred) = BarredWords::of(call) {
                format!("{} Then charge fully, rest, and read again.", barred.first)
            } else {
                "Charge fully, rest, read again; if it stays, equalize.".into()
            },
        },
        RestFinding::StringShort { letter, volts, expected, fault: what } => {
            let (seen, advice) = fault(*what);
            Words {
                headline: format!("String {letter} reads {volts:.1} V of {expected:.1}"),
                seen: names::sentence(&format!("{seen}.")),
                why: "The other strings carry its load until they fail too.",
                advice: format!("{advice} Hold loose lugs; insulated tools."),
            }
        }
        RestFinding::StringsApart { lowest, highest, apart, .. } => Words {
            headline: format!("String {lowest} rests {apart:.2} V under string {highest}"),
            seen: "Neither lacks a whole cell: one holds less charge than the other.".into(),
            why: "Strings that rest apart feed one another as soon as they are joined.",
            advice: format!(
                "Keep them apart; charge string {lowest} by itself to the end, rest it, read it again, then its batteries one by one."
            ),
        },
        RestFinding::ParallelApart { lowest, highest, apart, .. } => side_by_side(*lowest, *highest, *apart),
        RestFinding::NotHolding { battery, under, hours, fails } => {
            not_holding(*battery, *under, *hours, *fails)
        }
        RestFinding::LosesCharge { battery, per_day, usual, days } => {
            loses_charge(*battery, *per_day, *usual, *days)
        }
        RestFinding::NotAtRest { cell_volts } => Words {
            headline: "These are not volts at rest".into(),
            seen: format!("{cell_volts:.2} V a cell: no acid of a lead cell holds so much by itself."),
            why: "A charger is still on, or the meter is off.",
            advice: "Switch the chargers off at their source, let it rest, then read the volts again.".into(),
        },
        RestFinding::Disagrees { battery, measured, expected } => Words {
            headline: format!("{battery}: volts and gravity disagree"),
            seen: format!("{measured:.3} V a cell at rest; its gravities lead to {expected:.3} V."),
            why: if measured > expected {
                "The acid is layered, an instrument is off, or the temperature is wrong."
            } else {
                "A cell gives less than its acid says, an instrument is off, or the temperature is wrong."
            },
            advice: if measured > expected {
                "Charge until it gasses so that the acid mixes; then check the meter on a known battery and the hydrometer in distilled water.".into()
            } else {
                format!(
                    "Load {battery} for ten seconds and watch its volts first; then check the meter on a known battery and the hydrometer in distilled water."
                )
            },
        },
        RestFinding::LowCharge { at_most, planned_depth } => Words {
            headline: format!("The bank is at most {at_most:.0} % charged"),
            seen: format!("Deeper than the planned depth of discharge of {planned_depth} %."),
            why: "Every day in this state hardens sulfate.",
            advice: "Charge it fully today, then find out why it was left like this.".into(),
        },
    }
}

/// Batteries side by side that rest apart.
fn side_by_side(lowest: BatteryAddress, highest: BatteryAddress, apart: f64) -> Words {
    Words {
        headline: format!("{lowest} rests {apart:.2} V under {highest} beside it"),
        seen: "Batteries side by side stand alike once they are joined; these do not.".into(),
        why: "The strong one feeds the weak one, day and night, until both are flat.",
        advice: format!(
            "Part them and charge each by itself to the end; rest, read again; test {lowest} under load before they are joined."
        ),
    }
}

/// A battery that does not hold its charge, or may not.
fn not_holding(battery: BatteryAddress, under: f64, hours: f64, fails: bool) -> Words {
    Words {
        headline: format!("{battery} {} its charge", if fails { "does not hold" } else { "may not hold" }),
        seen: format!(
            "{} after a full charge, disconnected, it stands {under:.2} V under full on 12 V.",
            names::sentence(&names::hours(hours))
        ),
        why: "What is lost standing is lost every night; a battery that leaks pulls its mates down with it.",
        advice: if fails {
            format!(
                "Charge {battery} alone to the end, rest it a day disconnected, read it again; if it falls as far, test it under load."
            )
        } else {
            format!("Read {battery} again in a day or two, disconnected; if it falls on, test it under load.")
        },
    }
}

/// A battery, or a bank, that loses more standing than it should.
fn loses_charge(battery: Option<BatteryAddress>, per_day: f64, usual: f64, days: f64) -> Words {
    Words {
        headline: format!(
            "{} {per_day:.1} % a day standing",
            battery.map_or("The bank loses up to".into(), |own| format!("{own} loses"))
        ),
        seen: format!(
            "Disconnected for {}; such a battery loses {usual:.2} % a day at most, dirty wet tops up to {DIRTY_PER_DAY:.2} more.",
            names::hours(24.0 * days)
        ),
        why: "What is lost standing is lost every night, and sulfates where nobody charges it back.",
        advice: match battery {
            Some(own) => format!(
                "Clean the top of {own}, caps shut, charge it alone to the end, and read it twice again; if it falls as fast, test it under load: a cell inside leaks."
            ),
            None => "Clean and dry the tops, caps shut, and make sure that nothing draws: lift one cable and read again. If it loses as much then, the plates leak: time a discharge.".into(),
        },
    }
}
