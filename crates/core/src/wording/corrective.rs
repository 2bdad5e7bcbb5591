//! What was done about what was measured, in words.

use super::names;
use super::volts_state_name;
use crate::visit::{Corrected, CorrectiveAction, Measurement, Place};

/// What was done, as a button and in a sentence: "charged by itself".
pub const fn corrective_action(action: CorrectiveAction) -> &'static str {
    match action {
        CorrectiveAction::ChargedByItself => "charged by itself",
        CorrectiveAction::ChargedOn => "charged on",
        CorrectiveAction::TakenOut => "taken out of its string",
        CorrectiveAction::Parted => "parted from what is beside it",
        CorrectiveAction::LoadOff => "a standing load switched off",
        CorrectiveAction::Shielded => "shielded from cold or heat",
        CorrectiveAction::LeftAsItIs => "left as it is",
        CorrectiveAction::Other => "something else",
    }
}

/// A place as it is chosen: "battery A2", "string A", "the bank".
pub fn place_chosen(place: Place) -> String {
    match place {
        Place::Battery(battery) => format!("battery {battery}"),
        other => other.said(),
    }
}

/// Which measurement it was about, as a word: "volts".
pub const fn measurement(own: Measurement) -> &'static str {
    match own {
        Measurement::RestVolts => "volts",
        Measurement::Gravity => "gravity",
    }
}

/// What was done: "charged by itself: six hours at 10 A".
fn corrected(own: &Corrected<'_>) -> String {
    let note = own.note.trim_end_matches('.');
    match (own.action, note) {
        (CorrectiveAction::Other, note) => note.to_owned(),
        (action, "") => corrective_action(action).to_owned(),
        (action, note) => format!("{}: {note}", corrective_action(action)),
    }
}

/// How it was left, as far as somebody read it: "12.71 V at rest after it".
fn corrected_left(own: &Corrected<'_>) -> String {
    match (own.after, own.action, own.measurement) {
        (Some((state, volts)), ..) => {
            format!("{volts:.2} V {} after it", volts_state_name(state).to_lowercase())
        }
        (None, CorrectiveAction::LeftAsItIs, _) => String::new(),
        (None, _, Measurement::RestVolts) => "not read again on this visit".into(),
        (None, _, Measurement::Gravity) => "its gravity tells at the next round".into(),
    }
}

/// What was done and how it was left: "charged by itself; 12.71 V at rest after it".
pub fn corrected_and_left(own: &Corrected<'_>) -> String {
    match corrected_left(own) {
        left if left.is_empty() => corrected(own),
        left => format!("{}; {left}", corrected(own)),
    }
}

/// The same where nothing else names the place: "Battery A2, volts: charged by itself; 12.71 V at rest after it".
pub fn corrected_at(own: &Corrected<'_>) -> String {
    let place = names::sentence(&place_chosen(own.entry.place));
    format!("{place}, {}: {}", measurement(own.measurement), corrected_and_left(own))
}
