//! The words of the path of a visit: its steps, the work that is dated, the closing list.

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
