//! The words of a visit: volts, levels, water and what the eye found.

use super::check::{check as check_words, found_kind};
use super::names;
use crate::bank::CellAddress;
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;
use crate::rest::{ChargeRange, Grade, RestSummary, VoltsQuestion};
use crate::visit::{Check, EntryQuestion, SeenFinding};
use crate::water::{AmountQuestion, FillOrder, WaterForecast};

/// A range of charge: "84 to 88 %", or "86 %" where both ends round alike.
pub fn charge_range(charge: ChargeRange) -> String {
    let (low, high) = (charge.low.round(), charge.high.round());
    if (high - low).abs() < 0.5 { format!("{low:.0} %") } else { format!("{low:.0} to {high:.0} %") }
}

/// "One battery read", "Eight batteries read, alike".
fn many(rest: &RestSummary) -> String {
    let read = names::sentence(&names::number_word(rest.read));
    match (rest.read, rest.alike) {
        (1, _) => "One battery read".into(),
        (_, true) => format!("{read} batteries read, alike"),
        (_, false) => format!("{read} batteries read, not all alike"),
    }
}

/// What a rest check says where nothing was found.
pub fn rest_line(rest: &RestSummary) -> String {
    match (rest.read, rest.grade, rest.charge) {
        (0, grade, _) if rest.strings > 0 && grade.tells_charge() => format!(
            "{} read by {}, no battery by itself yet.",
            names::sentence(&if rest.strings == 1 {
                "one string is".into()
            } else {
                format!("{} strings are", names::number_word(rest.strings))
            }),
            if rest.strings == 1 { "itself" } else { "themselves, alike" }
        ),
        (0, _, _) if rest.strings == 0 => "No battery is read yet.".into(),
        (_, grade, _) if !grade.tells_charge() => names::sentence(&format!("{}.", grade.said())),
        (_, Grade::Settled, Some(charge)) => {
            format!("{}; the bank rests at {} charged.", many(rest), charge_range(charge))
        }
        (_, _, Some(charge)) => {
            format!("{}; usable, not settled: {} charged.", many(rest), charge_range(charge))
        }
        _ => format!("{}.", many(rest)),
    }
}

/// What an entry is asked about.
pub fn entry_question(question: &EntryQuestion) -> String {
    match question {
        EntryQuestion::Volts { question, volts, cells } => volts_question(*question, *volts, *cells),
        EntryQuestion::Amount { question, place } => amount_question(*question, &place.said()),
    }
}

/// A question about typed volts.
fn volts_question(question: VoltsQuestion, volts: f64, cells: u16) -> String {
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
fn amount_question(question: AmountQuestion, place: &str) -> String {
    match question {
        AmountQuestion::OverTheMark => {
            format!("The level of {place} was noted over the mark. Water was added all the same?")
        }
        AmountQuestion::MoreThanFits { each } => format!(
            "{each:.0} mL a cell is more than fits between bare plates and the mark. Is the unit right?"
        ),
    }
}

/// What the eye found, in words: "powder", "it moves, 4.0 mm".
pub fn seen_kind(check: Check, kind: &str, measured: Option<f64>) -> String {
    let said = found_kind(check, kind).unwrap_or(kind);
    let measured = match (check.measures(), measured) {
        (Some((_, unit)), Some(value)) => format!(", {value:.1} {unit}"),
        _ => String::new(),
    };
    format!("{said}{measured}")
}

/// What the eye found, with what was looked at: "hold-down: it moves, 4.0 mm".
pub fn seen_words(check: Check, found: &SeenFinding) -> String {
    let kind = seen_kind(check, &found.kind, found.measured);
    format!("{}: {kind}", check_words(check).to_lowercase())
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
