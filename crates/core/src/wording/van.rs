//! The words of the van: what is carried.

use super::names;
use crate::visit::{Gear, GearItem, Tool};

fn tool(tool: Tool) -> &'static str {
    match tool {
        Tool::Bicarbonate => "Bicarbonate, 1 kg",
        Tool::BrushAndGrease => "Wire brush, bicarbonate, rags, post grease",
        Tool::ClampMeter => "Clamp meter, 0.1 A",
        Tool::Eyewash => "Eyewash, 1 litre",
        Tool::FaceAndHands => "Face shield or goggles, acid gloves, apron",
        Tool::FillerJug => "Filler jug, funnel, torch",
        Tool::Hydrometer => "Hydrometer and a second float",
        Tool::LoadTester => "Load tester",
        Tool::Meter => "Meter, 0.01 V",
        Tool::ResistanceTester => "Resistance or conductance tester",
        Tool::SurfaceThermometer => "Surface thermometer",
        Tool::ThermometerProbe => "Thermometer probe",
        Tool::TorqueWrench => "Torque wrench",
    }
}

/// A thing to carry: "Torque wrench", "Vent caps".
pub fn gear(gear: &Gear) -> String {
    match &gear.item {
        GearItem::Tool { tool: own } => tool(*own).to_owned(),
        GearItem::Wrenches { sizes } => format!("Wrenches: {}", sizes.trim_end_matches('.')),
        GearItem::ForAwkwardCells { note } => format!("For awkward cells: {}", note.trim_end_matches('.')),
        GearItem::Spare { what } => names::sentence(what),
    }
}
