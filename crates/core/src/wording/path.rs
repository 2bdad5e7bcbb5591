//! The words of the path of a visit: its steps, the work that is dated, the closing list.

use super::names::lower;
use crate::battery_model::Construction;
use crate::visit::{ClosingItem, Entry, LeftAs, Step, VisitSheet, Work, closing_items};

/// A step, as written on the path.
pub fn step_name(step: Step) -> &'static str {
    match step {
        Step::MakeSafe => "Make safe",
        Step::Job => "The job",
        Step::LookOver => "Look over",
        Step::RestCheck => "Rest check",
        Step::Round => "Round",
        Step::Water => "Water",
        Step::Equalize => "Equalize",
        Step::LoadTest => "Load tests",
        Step::Joints => "Joints",
        Step::CloseUp => "Close up",
    }
}

/// Work, as said of a visit.
pub fn work(work: Work) -> &'static str {
    match work {
        Work::Equalized => "equalized",
        Work::Retorqued => "retorqued",
        Work::Cleaned => "cleaned",
        Work::LoadTested => "load tested",
        Work::CapacityTested => "capacity tested by a timed discharge",
        Work::StandbyChecked => "standby check done",
        Work::StorageChecked => "storage check done",
        Work::CellsInspected => "every cell behind the watering kit looked into",
        Work::ChargedFull => "charged full",
    }
}

/// A line of the closing list, as asked.
pub fn closing_item(item: ClosingItem) -> &'static str {
    match item {
        ClosingItem::CapsOn => "Every cap on and shut",
        ClosingItem::TopsWiped => "Tops wiped dry",
        ClosingItem::ToolsCounted => "Tools counted, none left on the batteries",
        ClosingItem::CablesAsPhotographed => "Cables as photographed, negative on last where it is grounded",
        ClosingItem::CoverOn => "Cover on the way it faces, no cable pinched",
        ClosingItem::SwitchOn => "Disconnect switched on",
        ClosingItem::LoadsRun => "Loads run",
        ClosingItem::ChargersAutomatic => "Chargers back in their automatic mode",
        ClosingItem::FullForStorage => "Charged full before it is stored",
        ClosingItem::LevelsForStorage => "Levels put right for the months to come",
        ClosingItem::NothingDraws => "Nothing draws, equipment in standby neither",
        ClosingItem::DisconnectsAsWanted => "Disconnects left as wanted",
        ClosingItem::ChargerAsWanted => "Charger or maintainer left as wanted",
        ClosingItem::AlarmTried => "Alarm tried",
        ClosingItem::ChargerLamp => "Lamp of the charger shows what it should",
        ClosingItem::FloatSwitch => "Float switch lifted, and what it starts ran",
    }
}

/// A line of the closing list that the bank has not: "no float switch here".
pub const fn closing_none_here(item: ClosingItem) -> &'static str {
    match item {
        ClosingItem::AlarmTried => "no alarm here",
        ClosingItem::ChargerLamp => "no lamp at the charger here",
        ClosingItem::FloatSwitch => "no float switch here",
        _ => "none here",
    }
}

/// How a bank is left, as it is chosen.
pub const fn left_as(how: LeftAs) -> &'static str {
    match how {
        LeftAs::InUse => "In use",
        LeftAs::Stored => "In storage",
        LeftAs::Standby => "On standby",
    }
}

/// What answers a line of the closing list where another step wrote it down: "written down already, ME on phone, 9:40".
pub fn closed_elsewhere(signed: &str) -> String {
    format!("written down already, {signed}")
}

/// How a bank was left, for the owner: "Left in storage: charged full before it is stored."
pub fn owner_left_as(sheet: &VisitSheet) -> Option<String> {
    let how = sheet.left_as_told()?;
    // What every bank gets is not told; what was ticked before somebody said otherwise no longer counts.
    let everyday = closing_items(Construction::Flooded, LeftAs::InUse);
    let (mut all, mut missing) = (Vec::new(), Vec::new());
    for item in closing_items(Construction::Flooded, how) {
        match sheet.closes(item).map(|own| &own.entry).filter(|_| !everyday.contains(&item)) {
            None => {}
            Some(Entry::Closed { none_here: true, .. }) => missing.push(closing_none_here(item).to_owned()),
            Some(_) => all.push(lower(closing_item(item))),
        }
    }
    all.append(&mut missing);
    let head = format!("Left {}", lower(left_as(how)));
    Some(if all.is_empty() { head } else { format!("{head}: {}", all.join("; ")) })
}
