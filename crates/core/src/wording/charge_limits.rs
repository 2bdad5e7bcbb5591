//! Within what a bank is charged, and what is never done to it, in words.

use super::sentence;
use crate::battery_model::Construction;
use crate::charge::{ChargeLimits, StageVolts, TOLD_AT};
use crate::quantity::Temperature;
use crate::quantity::units::ReaderUnits;

/// One stage: its name, and "14.9 V at 5 °C, 14.4 at 25, 14.0 at 40".
fn stage(own: &StageVolts, units: ReaderUnits) -> (String, String) {
    let name = sentence(own.stage.word());
    if own.locked {
        return (
            name,
            "none: locked until the maker's own conditioning voltage is in the model (EQ-1)".into(),
        );
    }
    let told = own.volts.iter().zip(TOLD_AT).filter_map(|(volts, celsius)| {
        let at = units.say_temperature(Temperature::from_celsius(celsius).ok()?);
        Some(format!("{:.1} V at {at}", (*volts)?))
    });
    (name, told.collect::<Vec<_>>().join(", "))
}

/// The limits of charge line by line: what, and how much.
pub fn charge_limit_lines(own: &ChargeLimits, units: ReaderUnits) -> Vec<(String, String)> {
    let mut all: Vec<(String, String)> = own.stages.iter().map(|line| stage(line, units)).collect();
    let [low, high] = own.amperes;
    all.push(("Current into the bank".into(), format!("{low:.0} to {high:.0} A")));
    let hottest = Temperature::from_celsius(own.hottest).map(|at| units.say_temperature(at));
    all.push(("Temperature".into(), format!("nothing is charged above {}", hottest.unwrap_or_default())));
    all
}

/// What is never done to batteries of a type.
pub fn never(construction: Construction) -> &'static [&'static str] {
    match construction {
        Construction::Agm | Construction::Gel => &[
            "Opened or filled: that is no service, it voids the rating, and one that was opened is unproven until a timed discharge (RC-1).",
            "Equalized: what is vented cannot be put back. An equalize that the charger does by itself is turned off (EQ-1, CH-3).",
            "Charged by a charger that knows flooded batteries only, or without compensation in a hot place (CH-3, CH-2).",
            "Left on charge when a case is hot, hissing or swollen: stop it at its source or breaker, never at the posts; ventilate, leave it, do not touch it until it is cool.",
            "Joined to flooded batteries, or to ones much older (RP-2).",
        ],
        Construction::Flooded | Construction::FloodedTubular => &[
            "Filled with acid or tap water, or above the mark before a charge (WA-4).",
            "Charged with plates bare: cover them first (WA-4).",
            "Equalized hot, below 5 °C, unwatched, or on a charger that cannot be turned down (EQ-3, EQ-4).",
            "Joined to sealed batteries, or to ones much older (RP-2).",
        ],
    }
}
