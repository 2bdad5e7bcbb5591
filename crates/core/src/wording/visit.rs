//! The words of a visit: levels, water and what the eye found.

use super::check::{check as check_words, found_kind};
use super::instrument::instrument_question;
use super::job::polarity_question;
use super::joints::joint_question;
use super::names;
use super::tests::test_question;
use super::volts::{state_question, volts_question};
use crate::bank::CellAddress;
use crate::quantity::Volume;
use crate::quantity::units::{LengthUnit, ReaderUnits};
use crate::rest::VoltsState;
use crate::visit::{Check, EntryQuestion, SeenFinding};
use crate::water::{AmountQuestion, FillOrder, WaterForecast};

/// What an entry is asked about.
pub fn entry_question(question: &EntryQuestion, units: ReaderUnits) -> String {
    match question {
        EntryQuestion::Volts { question, volts, cells, state: VoltsState::AtRest } => {
            volts_question(*question, *volts, *cells)
        }
        EntryQuestion::Volts { question, volts, cells, state } => {
            state_question(*question, *state, *volts, *cells)
        }
        EntryQuestion::Resistance { milliohms, usual } => format!(
            "{milliohms:.2} mΩ is far from the {usual:.1} mΩ that such a battery shows, about. Does the tester show milliohms or siemens?"
        ),
        EntryQuestion::Instrument { checked } => instrument_question(checked),
        EntryQuestion::Polarity { question, place } => polarity_question(*question, &place.said()),
        EntryQuestion::Test { question, place } => test_question(*question, &place.said()),
        EntryQuestion::Joint { question, place } => joint_question(*question, &place.said()),
        EntryQuestion::Amount { question, place } => amount_question(*question, &place.said(), units),
    }
}

/// What is asked about an amount of water, at "A3", "the bank".
fn amount_question(question: AmountQuestion, place: &str, units: ReaderUnits) -> String {
    match question {
        AmountQuestion::OverTheMark => {
            format!("The level of {place} was noted over the mark. Water was added all the same?")
        }
        AmountQuestion::MoreThanFits { each } => format!(
            "{} a cell is more than fits between bare plates and the mark. Is the unit right?",
            Volume::from_millilitres(each).map(|v| units.say_volume(v)).unwrap_or_default()
        ),
    }
}

/// What the eye found, in words: "powder", "it moves, 4.0 mm", in the reader's unit.
pub fn seen_kind(check: Check, kind: &str, measured: Option<f64>, units: ReaderUnits) -> String {
    let said = found_kind(check, kind).unwrap_or(kind);
    let measured = match (check.measures(), measured) {
        (Some(_), Some(value)) => format!(", {}", measured_said(check, value, units)),
        _ => String::new(),
    };
    format!("{said}{measured}")
}

/// What was measured at a check, in the reader's unit: "4.0 mm", "0.16 in", "0.6 V".
pub fn measured_said(check: Check, value: f64, units: ReaderUnits) -> String {
    match (check.measures(), units.length) {
        (Some((_, "mm")), LengthUnit::Inch) => super::length(value, units),
        (Some((_, unit)), _) => format!("{value:.1} {unit}"),
        (None, _) => String::new(),
    }
}

/// What the eye found, with what was looked at: "hold-down: it moves, 4.0 mm".
pub fn seen_words(check: Check, found: &SeenFinding, units: ReaderUnits) -> String {
    let kind = seen_kind(check, &found.kind, found.measured, units);
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
    let margin = super::margin(units);
    if forecast.days.p50 < 1.0 {
        return format!(
            "{who} stands lower than {margin} over its plates already; a cell drinks {month} a month."
        );
    }
    if soonest == latest {
        return format!(
            "{who} comes down to {margin} over its plates in {likely}; a cell drinks {month} a month."
        );
    }
    format!(
        "{who} comes down to {margin} over its plates in {soonest} to {latest}, most likely {likely}; a cell drinks {month} a month."
    )
}
