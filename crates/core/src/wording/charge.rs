//! Setpoints, charger settings and ventilation in words.

use crate::charge::{AuditedStage, Effect, Held, Setpoint, SettingsAudit, Stage};
use crate::quantity::Temperature;
use crate::quantity::units::{LengthUnit, METRES_PER_FOOT, MILLIMETRES_PER_INCH, ReaderUnits};
use crate::severity::Severity;
use crate::ventilation::{DISTANCE, OPENING, Ventilation};

/// " Type 61.9 V into a charger that compensates by itself."; empty where that is the same.
fn typed(own: &Setpoint) -> String {
    if (own.to_type - own.volts).abs() < 0.05 {
        return String::new();
    }
    format!(" Type {:.1} V into a charger that compensates by itself.", own.to_type)
}

/// A setpoint as a sentence: "Equalize at 63.7 V: 2.66 V a cell at 10 °C."
pub fn setpoint_line(own: &Setpoint, at: Temperature, units: ReaderUnits) -> String {
    let held = match own.held {
        None => "",
        Some(Held::Equipment) => " It is held down by what stays connected; more would harm that.",
        Some(Held::MostPerCell) => " No cell is charged above 2.70 V, cold as it may be.",
        Some(Held::FloatLeast) => " Float stays at 2.17 V a cell or more, hot as it may be.",
    };
    let stage = super::sentence(own.stage.word());
    format!(
        "{stage} at {:.1} V: {:.2} V a cell at {}.{held}{}",
        own.volts,
        own.per_cell,
        units.say_temperature(at),
        typed(own)
    )
}

/// What an effect does, as a sentence.
pub const fn effect(effect: Effect) -> &'static str {
    match effect {
        Effect::Undercharge => "The bank is never quite full: sulfate stays on the plates and hardens.",
        Effect::Overcharge => {
            "The bank gasses more than it must: water is lost and the plates are heated and shed."
        }
        Effect::EqualizeOnSealed => {
            "Sealed batteries vent under an equalize, and what is vented cannot be put back. Turn it off."
        }
        Effect::FloodedCharger => {
            "A charger made for flooded batteries only dries sealed ones out. Use one that knows them."
        }
    }
}

/// One stage of the settings as a sentence.
pub fn audited_stage(own: &AuditedStage) -> String {
    let stage = super::sentence(own.stage.word());
    let (Some(wanted), Some(deviation)) = (own.wanted, own.deviation) else {
        return match own.effect {
            Some(what) => format!("{stage} is on at {:.1} V. {}", own.set, effect(what)),
            None => format!(
                "{stage} is set to {:.1} V; at this temperature nothing is charged so, and nothing is judged.",
                own.set
            ),
        };
    };
    let way = if deviation < 0.0 { "under" } else { "over" };
    let Some(what) = own.effect else {
        return format!("{stage} gives {:.1} V and {wanted:.1} V is right: fine.", own.gets);
    };
    let to_type = own.to_type.unwrap_or(wanted);
    format!(
        "{stage} gives {:.1} V, {:.2} V a cell {way} the {wanted:.1} V it should. {} Type {to_type:.1} V.",
        own.gets,
        deviation.abs(),
        effect(what)
    )
}

/// The sentence on top of an audit.
pub fn audit_verdict(audit: &SettingsAudit) -> String {
    let wrong: Vec<Stage> =
        audit.stages.iter().filter(|s| s.condition >= Severity::Watch).map(|s| s.stage).collect();
    match (audit.charger, wrong.as_slice()) {
        (Some(what), _) => effect(what).into(),
        (None, []) => "The charger is set as this bank wants it.".into(),
        (None, stages) => {
            let names: Vec<&str> = stages.iter().map(|s| s.word()).collect();
            let urgent = if audit.condition == Severity::Act { "Change" } else { "Look at" };
            let verb = if names.len() == 1 { "is" } else { "are" };
            format!("{urgent} the charger: {} {verb} off.", super::names::words(&names))
        }
    }
}

/// How VE-1 makes an opening of an airflow, in the reader's units: "28 cm² for each m³ an hour, in and out each".
pub fn opening_rule(units: ReaderUnits) -> String {
    match units.length {
        LengthUnit::Millimetre => format!("{OPENING:.0} cm² for each m³ an hour, in and out each"),
        LengthUnit::Inch => {
            let square_inches = OPENING * 100.0 / MILLIMETRES_PER_INCH.powi(2);
            let each = square_inches * 60.0 * METRES_PER_FOOT.powi(3);
            format!("{each:.2} in² for each cubic foot a minute, in and out each")
        }
    }
}

/// How VE-1 makes the distance that is kept from a vent: "28.8 mm × ∛20 × ∛840".
pub fn distance_rule(gassing: f64, capacity: f64, units: ReaderUnits) -> String {
    let (size, unit) = units.length.size();
    let decimals = if units.length == LengthUnit::Inch { 2 } else { 1 };
    format!("{:.decimals$} {unit} \u{d7} \u{221b}{gassing:.0} \u{d7} \u{221b}{capacity:.0}", DISTANCE / size)
}

/// What the air must do, as sentences.
pub fn ventilation_line(own: &Ventilation, units: ReaderUnits) -> String {
    let why = if own.by_current { "by the actual current" } else { "by the current the standard plans with" };
    let alarm = own.minutes_to_alarm.map_or_else(String::new, |minutes| {
        format!(" With no air at all, 1 % hydrogen would be reached in {}.", minutes_said(minutes))
    });
    format!(
        "Air, {why}: {}, or openings of {} low and {} high where it moves by itself. \
         No spark within {} of a vent.{alarm}",
        units.say_airflow(own.airflow),
        units.say_area(own.opening),
        units.say_area(own.opening),
        super::length(own.distance, units)
    )
}

fn minutes_said(minutes: f64) -> String {
    if minutes < 90.0 { format!("{minutes:.0} min") } else { format!("{:.0} h", minutes / 60.0) }
}
