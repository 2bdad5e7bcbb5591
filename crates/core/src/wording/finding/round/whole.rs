//! The whole bank, in words: spread, fullness, acid and volts.

use super::super::super::equalize_call::{BarredWords, then_equalize};
use super::super::super::names;
use super::super::Words;
use crate::bank::CellAddress;
use crate::finding::{EqualizeCall, RoundFinding};
use crate::quantity::units::ReaderUnits;
use crate::round::{Spread, rest_check::ON_CHARGE_VOLTS};

fn from_to(ends: Option<&Spread>) -> String {
    ends.map_or_else(String::new, |s| {
        format!(", from {} at {} to {} at {}", s.lowest_gravity, s.lowest, s.highest_gravity, s.highest)
    })
}

pub(super) fn spread(found: &RoundFinding, call: EqualizeCall) -> Words {
    match found {
        RoundFinding::SpreadEqualize { spread, proven_full, ends, .. } => Words {
            headline: "The bank asks for an equalize".into(),
            seen: format!("Spread {}{}.", names::points(spread.value()), from_to(ends.as_ref())),
            why: "Cells this far apart are charged to different depths: the low ones sulfate, the high ones boil.",
            advice: if *proven_full {
                "Equalize: plates covered, vents open, tender loads off, someone stays. Maker's manual first."
                    .into()
            } else {
                "Charge fully first and read again; if the spread stays, equalize. Maker's manual first."
                    .into()
            },
        },
        RoundFinding::SpreadWatch { spread, ends } => Words {
            headline: "The spread is wider than even".into(),
            seen: format!("Spread {}{}.", names::points(spread.value()), from_to(ends.as_ref())),
            why: "Spread grows before capacity falls.",
            advice: BarredWords::of(call).map_or_else(
                || "Charge fully and take the next round early.".into(),
                |barred| format!("{} Then judge the spread by a new round.", barred.first),
            ),
        },
        _ => unreachable!("called for spreads only"),
    }
}

pub(super) fn short_of_full(found: &RoundFinding, call: EqualizeCall) -> Words {
    match found {
        RoundFinding::ShortOfFull { short, full } => Words {
            headline: "The bank does not reach full".into(),
            seen: format!(
                "The median lies {} under the model's {full} after a proven full charge.",
                names::points(short.value())
            ),
            why: "Either the charge is not as full as it seems, or part of the plates is sulfated.",
            advice: match BarredWords::of(call) {
                Some(barred) => format!("{} Then check setpoints and temperature sensor.", barred.first),
                None if then_equalize(call).is_empty() => {
                    "Check setpoints and temperature sensor; an equalize tells undercharge from sulfation."
                        .into()
                }
                None => format!(
                    "Check setpoints and temperature sensor, then {}: it tells undercharge from sulfation.",
                    then_equalize(call)
                ),
            },
        },
        RoundFinding::NeverFull { now, before } => Words {
            headline: "The bank is never near full".into(),
            seen: format!("It stood at {now:.0} % on the last round and at {before:.0} % on the one before."),
            why: "No source finishes its charge, and half-empty plates sulfate.",
            advice: "Find out what should fill it, charge it fully, and read it again.".into(),
        },
        RoundFinding::FarFromFull { short, full } => Words {
            headline: "The bank was not full when it was read".into(),
            seen: format!(
                "The median lies {} under the model's {full}, and nobody knows that it was charged full.",
                names::points(short.value())
            ),
            why: "Cells that are not full differ for many reasons; half-empty plates sulfate.",
            advice: "Charge fully, note how you know that it is full, then read it again.".into(),
        },
        _ => unreachable!("called for banks short of full only"),
    }
}

pub(super) fn over_full(found: &RoundFinding, count: usize, cells: &str, units: ReaderUnits) -> Words {
    match found {
        RoundFinding::AboveFull { above, full } => Words {
            headline: "The bank reads above full".into(),
            seen: format!("The median lies {} over the model's {full}.", names::points(above.value())),
            why: "Low levels concentrate the acid; acid that was added does the same and ruins plates.",
            advice: "Check the levels. If they are at the mark, stop, ask who added what, and turn to the maker or a shop. Do not mix a cure.".into(),
        },
        RoundFinding::AcidInCells { above, full } => Words {
            headline: format!("{cells} {} above full", if count > 1 { "read" } else { "reads" }),
            seen: format!(
                "{} over the model's {full}{}, while the others are not.",
                names::points(above.value()),
                if count > 1 { " at most" } else { "" }
            ),
            why: "Only lost water or acid that was added lifts a cell over full.",
            advice: "Check the level there first. If it is at the mark, stop: ask who added what, and turn to the maker or a shop. Do not mix a cure.".into(),
        },
        RoundFinding::LowLevels { below_mark, above } => Words {
            headline: "Low levels make the acid read high".into(),
            seen: format!(
                "Levels lie up to {} under the mark, and gravity reads {} over full.",
                crate::wording::length(*below_mark, units),
                names::points(above.value())
            ),
            why: "Water that is gone leaves the acid behind: about 15 points for 13 mm.",
            advice: "Charge fully, fill to the mark, let the next gassing charge mix it, then read again.".into(),
        },
        _ => unreachable!("called for banks over full only"),
    }
}

/// What to do about a dead cell, where the gravity names the likely one and where it does not.
fn find_the_dead_cell(one_battery: bool, likely: Option<&CellAddress>) -> String {
    match likely {
        _ if one_battery => "It sits in this battery: take it out of use, and do not charge it.".into(),
        Some(cell) => format!(
            "Read the volts of {} first, since {cell} lies far below its mates. The battery about 2 V under the others has it: take that one out; do not charge it in the string.",
            cell.battery
        ),
        None => "Read volts battery by battery: the one about 2 V under its mates has it. Take that battery out; do not charge it in the string.".into(),
    }
}

pub(super) fn rest_volts(found: &RoundFinding, likely: Option<&CellAddress>) -> Words {
    match found {
        RoundFinding::Stratified { measured, expected } => Words {
            headline: "The acid is layered".into(),
            seen: format!(
                "{measured:.3} V a cell at rest; the acid drawn from the top leads to {expected:.3} V."
            ),
            why: "Strong acid lies at the bottom where volts see it and the hydrometer does not.",
            advice: "Stir it with a short gassing charge, rest it, then read again before any cell is judged."
                .into(),
        },
        RoundFinding::DeadCell { short, cells, one_battery } => Words {
            headline: if *cells > 1 {
                format!("{} cells give no volts", names::sentence(&names::number_word(count(*cells))))
            } else {
                "One cell gives no volts".into()
            },
            seen: format!("The bank rests {short:.1} V under what its gravity leads to."),
            why: "A cell that is shorted still holds acid; charging against it heats it and overcharges its mates.",
            advice: find_the_dead_cell(*one_battery, likely),
        },
        RoundFinding::RestVoltsDisagree { measured, expected } if *measured > ON_CHARGE_VOLTS => Words {
            headline: "These are not volts at rest".into(),
            seen: format!(
                "{measured:.3} V a cell; the gravities lead to {expected:.3} V, and no cell rests above {ON_CHARGE_VOLTS:.1} V."
            ),
            why: "A charger is still on, or the meter is off.",
            advice: "Switch the chargers off at their source, let it rest, then read the volts again.".into(),
        },
        RoundFinding::RestVoltsDisagree { measured, expected } => Words {
            headline: "Volts and gravity disagree".into(),
            seen: format!("{measured:.3} V a cell at rest; the gravities lead to {expected:.3} V (±0.02 V)."),
            why: "A bad cell hides among its mates, an instrument is off, or the bank has not settled.",
            advice: "Read battery by battery; then check the meter on a known battery and the hydrometer in distilled water.".into(),
        },
        _ => unreachable!("called for rest volts only"),
    }
}

fn count(cells: u32) -> usize {
    usize::try_from(cells).unwrap_or(usize::MAX)
}
