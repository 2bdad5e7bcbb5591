//! The words of the path of a visit: its steps, the work that is dated, the closing list.

use crate::battery_model::Construction;
use crate::visit::{ClosingItem, Step, Work};

/// A step, as written on the path.
pub fn step_name(step: Step) -> &'static str {
    match step {
        Step::MakeSafe => "Make safe",
        Step::LookOver => "Look over",
        Step::RestCheck => "Rest check",
        Step::Round => "Round",
        Step::Water => "Water",
        Step::Equalize => "Equalize",
        Step::CloseUp => "Close up",
    }
}

/// A step that was done, as the owner reads it; none: what was done in it is told of otherwise.
pub fn step_done(step: Step, construction: Construction) -> Option<&'static str> {
    Some(match step {
        Step::MakeSafe => "Made safe: protective gear, ventilation, loads and chargers off",
        Step::LookOver if construction.has_caps() => "Cases, caps, cables, hold-downs and vents looked over",
        Step::LookOver => "Cases, terminals, cables, hold-downs and vents looked over",
        Step::RestCheck => "Voltage of every battery measured at rest",
        Step::Round => "Acid of every cell measured",
        Step::Water => "Level of every cell looked at",
        Step::Equalize | Step::CloseUp => return None,
    })
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
    }
}
