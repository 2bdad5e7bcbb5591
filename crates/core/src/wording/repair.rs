//! What was found, what was done about it and how it was left, in words.

use super::names;
use super::torque::torque;
use super::visit::seen_words;
use crate::finding::Finding;
use crate::quantity::units::ReaderUnits;
use crate::severity::Severity;
use crate::visit::{FoundAndDone, Left, Place, Repair, Repaired, RepairedOnly, SeenFinding, VisitEntry};

/// What was done, as a button and in a sentence: "tightened".
pub fn repair(repair: Repair) -> &'static str {
    match repair {
        Repair::Cleaned => "cleaned",
        Repair::Remade => "remade",
        Repair::Tightened => "tightened",
        Repair::Replaced => "replaced",
        Repair::ToppedUp => "topped up",
        Repair::Fitted => "fitted",
        Repair::Cleared => "cleared away",
        Repair::LeftAsItIs => "left as it is",
    }
}

/// How it was left.
pub fn left(left: Left) -> &'static str {
    match left {
        Left::PutRight => "put right",
        Left::Better => "better, not yet right",
        Left::AsFound => "as it was found",
    }
}

/// One repair: "cleaned, with bicarbonate, coated with grease", "tightened, torque 12 N·m (8.9 lbf·ft), new lug:
/// the washer was missing".
pub fn repaired(done: &Repaired) -> String {
    let mut said = repair(done.repair).to_owned();
    if let Some(set) = done.torque {
        let asked =
            done.torque_asked.map(|t| format!(", the model asks for {}", torque(t))).unwrap_or_default();
        said = format!("{said}, torque {}{asked}", torque(set));
    }
    if !done.agent.is_empty() {
        said = format!("{said}, with {}", done.agent);
    }
    if !done.coating.is_empty() {
        said = format!("{said}, coated with {}", done.coating);
    }
    if done.lock_nuts {
        said = format!("{said}, lock nuts on");
    }
    if !done.part.is_empty() {
        said = format!("{said}, {}", done.part);
    }
    if !done.note.is_empty() {
        said = format!("{said}: {}", done.note.trim_end_matches('.'));
    }
    said
}

/// All repairs of one thing, in the order they were made: "cleaned; tightened, torque 12 N·m (8.9 lbf·ft)".
fn repairs_said(all: &[(&VisitEntry, &Repaired)]) -> String {
    let all: Vec<String> = all.iter().map(|(_, done)| repaired(done)).collect();
    all.join("; ")
}

/// What was found, done and left, for whoever comes next: "green copper; remade; put right".
pub fn found_and_done(found: &FoundAndDone<'_>, units: ReaderUnits) -> String {
    let what = super::seen_kind(found.check, &found.found.kind, found.found.measured, units);
    match (found.repairs.is_empty(), found.left) {
        (true, Left::AsFound) => format!("{what}, nothing is noted as done"),
        (true, own) => format!("{what}, {}", left(own)),
        (false, own) => format!("{what}; {}; {}", repairs_said(&found.repairs), left(own)),
    }
}

/// Something found and what was done about it, for the owner: "Battery A6, terminals: green copper. Remade. It
/// was left in order."
pub fn owner_found_and_done(found: &FoundAndDone<'_>, units: ReaderUnits) -> String {
    let note = if found.found.note.is_empty() {
        String::new()
    } else {
        format!(" {}.", names::sentence(found.found.note.trim_end_matches('.')))
    };
    let done = match (found.repairs.is_empty(), found.left) {
        (true, Left::AsFound) => "Nothing is noted as done about it.".to_owned(),
        (true, _) => "It was put right on this visit.".to_owned(),
        (false, left) => format!("{}. {}", names::sentence(&repairs_said(&found.repairs)), owner_left(left)),
    };
    format!(
        "{}, {}.{note} {done}",
        owner_place(found.entry.place),
        seen_words(found.check, found.found, units)
    )
}

fn owner_place(place: Place) -> String {
    match place {
        Place::Bank => "The bank".into(),
        Place::String(_) => names::sentence(&place.said()),
        Place::Battery(battery) => format!("Battery {battery}"),
        Place::Cell(cell) => format!("Cell {cell}"),
    }
}

fn owner_left(own: Left) -> &'static str {
    match own {
        Left::PutRight => "It was left in order.",
        Left::Better => "It is better now, and not yet in order.",
        Left::AsFound => "It was left as it was found.",
    }
}

/// Something that was found before, looked at again and in order, for the owner.
pub fn owner_answered(finding: &Finding, units: ReaderUnits) -> String {
    format!("{}, from before: looked at again, in order.", super::speak(finding, units).headline)
}

/// "three things found, two put right"; none where nothing was found.
pub fn found_and_put_right(all: &[FoundAndDone<'_>]) -> Option<String> {
    let right = all.iter().filter(|f| f.left == Left::PutRight).count();
    let things = match all.len() {
        0 => return None,
        1 => "one thing found".to_owned(),
        n => format!("{} things found", names::number_word(n)),
    };
    Some(match right {
        0 => things,
        _ if right == all.len() => format!("{things} and put right"),
        _ => format!("{things}, {} put right", names::number_word(right)),
    })
}

/// What this visit did about something that it did not find itself, for the owner; `before`: an earlier visit
/// left it open.
pub fn owner_repaired_only(own: &RepairedOnly<'_>, before: bool, units: ReaderUnits) -> String {
    let severity = Severity::Watch;
    let of = SeenFinding { kind: own.found.to_owned(), severity, note: String::new(), measured: None };
    let what = seen_words(own.check, &of, units);
    let before = if before { ", from before" } else { "" };
    format!(
        "{}, {what}{before}. {}. {}",
        owner_place(own.place),
        names::sentence(&repairs_said(&own.repairs)),
        owner_left(own.left)
    )
}

/// The same for whoever comes next: "loose, from before; tightened; put right".
pub fn repaired_only(own: &RepairedOnly<'_>, before: bool, units: ReaderUnits) -> String {
    let what = super::seen_kind(own.check, own.found, None, units);
    let before = if before { ", from before" } else { "" };
    format!("{what}{before}; {}; {}", repairs_said(&own.repairs), left(own.left))
}
