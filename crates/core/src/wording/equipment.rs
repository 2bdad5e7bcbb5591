//! What stands at a bank, in words.

use super::names;
use crate::equipment::{
    AirJudged, Connection, Equipment, EquipmentJudged, Fitting, FittingKind, NeverFinish, Setting, Source,
    SourceChange, SourceKind, SourceRef, Surroundings,
};
use crate::quantity::units::ReaderUnits;
use crate::severity::Severity;

/// What a source of charge is called: "solar controller".
pub const fn source_kind(kind: SourceKind) -> &'static str {
    match kind {
        SourceKind::SolarController => "solar controller",
        SourceKind::InverterCharger => "inverter charger",
        SourceKind::Alternator => "alternator",
        SourceKind::Generator => "generator",
        SourceKind::ShoreCharger => "shore charger",
        SourceKind::Maintainer => "maintainer",
        SourceKind::Turbine => "wind or water turbine",
    }
}

/// Which source: "the alternator", "solar controller 2".
pub fn source_said(source: SourceRef) -> String {
    let kind = source.kind.map_or("charger", source_kind);
    if source.one_of_several { format!("{kind} {}", source.number) } else { format!("the {kind}") }
}

/// One source as it is told: "Alternator, engine, 90 A: absorption 14.4 V".
pub fn source_line(source: &Source) -> String {
    let kind = names::sentence(source.kind.map_or("charger", source_kind));
    let named = if source.name.is_empty() { String::new() } else { format!(", {}", source.name) };
    let amperes = source.amperes.map(|a| format!(", {a:.0} A")).unwrap_or_default();
    let own = &source.settings;
    let stages = [("absorption", own.absorption), ("float", own.float), ("equalize", own.equalize)];
    let held = own.absorption_hours.map(|h| format!("{} of absorption", hours(h)));
    let set = stages.iter().filter_map(|(stage, volts)| Some(format!("{stage} {:.1} V", (*volts)?)));
    let set: Vec<String> = set.chain(held).collect();
    let set = if set.is_empty() { String::new() } else { format!(": {}", set.join(", ")) };
    format!("{kind}{named}{amperes}{set}")
}

/// "3 h", "1.5 h".
fn hours(own: f64) -> String {
    if (own - own.round()).abs() < 0.05 { format!("{own:.0} h") } else { format!("{own:.1} h") }
}

/// What was set anew at a source: "The solar controller: absorption was found at 57.0 V and set to 59.2 V".
pub fn source_change(change: &SourceChange) -> String {
    let (source, setting, found, left) = match change {
        SourceChange::Came { source } => return format!("New: {}", names::lower(&source_line(source))),
        SourceChange::Went { source } => {
            return format!("Taken away: {}", names::lower(&source_line(source)));
        }
        SourceChange::Set { source, setting, found, left } => (source, *setting, *found, *left),
    };
    let which = names::sentence(&source_said(*source));
    let said =
        |own: f64| if setting == Setting::AbsorptionHours { hours(own) } else { format!("{own:.1} V") };
    let what = match setting {
        Setting::Absorption => "absorption",
        Setting::AbsorptionHours => "the hours of absorption",
        Setting::Float => "float",
        Setting::Equalize => "equalize",
    };
    let (was, were) = if setting == Setting::AbsorptionHours { ("were", "were") } else { ("was", "was") };
    match (found, left) {
        (Some(found), Some(left)) => {
            format!("{which}: {what} {was} found at {} and set to {}", said(found), said(left))
        }
        (None, Some(left)) => format!("{which}: {what} {were} set to {}", said(left)),
        (Some(found), None) => format!("{which}: {what} {was} found at {} and turned off", said(found)),
        (None, None) => which,
    }
}

/// What a fitting is called.
pub const fn fitting_kind(kind: FittingKind) -> &'static str {
    match kind {
        FittingKind::Switch => "switch",
        FittingKind::Fuse => "fuse",
        FittingKind::Breaker => "breaker",
        FittingKind::Isolator => "isolator between banks",
        FittingKind::Balancer => "balancer",
        FittingKind::Shunt => "shunt",
        FittingKind::TemperatureSensor => "temperature sensor",
        FittingKind::Alarm => "alarm",
        FittingKind::FloatSwitch => "float switch",
    }
}

/// One fitting as it is told: "Fuse, 250 A: between bank and inverter".
pub fn fitting_line(fitting: &Fitting) -> String {
    let kind = names::sentence(fitting_kind(fitting.kind));
    let rated = fitting.amperes.map(|a| format!(", {a:.0} A")).unwrap_or_default();
    let at = if fitting.whereto.is_empty() { String::new() } else { format!(": {}", fitting.whereto) };
    format!("{kind}{rated}{at}")
}

/// One cable: "A1 + to A2 \u{2212}, two bands of red tape".
pub fn connection_line(own: &Connection) -> String {
    let mark = if own.mark.is_empty() { String::new() } else { format!(", {}", own.mark) };
    format!("{} to {}{mark}", own.from, own.to)
}

/// What is around a bank: a short name, and what it means for the work.
pub const fn surroundings(own: Surroundings) -> (&'static str, &'static str) {
    match own {
        Surroundings::Sun => (
            "in the sun",
            "The side in the sun is warmer: read its temperature by itself, and look for levels that fall faster there.",
        ),
        Surroundings::EngineHeat => (
            "beside an engine",
            "Let the engine cool, and take the temperature of the battery nearest to it: it drinks and ages first.",
        ),
        Surroundings::Insulated => (
            "insulated",
            "Insulation holds heat and gas: look for the way of the air before anything is charged.",
        ),
        Surroundings::LivingSpace => (
            "where people live or sleep",
            "Gas goes outside, never into the room. Nobody sleeps beside an equalize.",
        ),
        Surroundings::Electronics => (
            "electronics above or beside it",
            "Gas and acid mist rise into them: switch them off, vent the place and clean it before a cap is opened.",
        ),
        Surroundings::Sparks => (
            "a flame or sparks near",
            "Put it out and keep it off until the place has been aired after the charge.",
        ),
    }
}

/// Why a bank that only alternators or maintainers charge is never full.
pub const fn none_finishes(why: NeverFinish) -> &'static str {
    match why {
        NeverFinish::Alternators => "An engine\u{2019}s alternator brings the bulk and stops near 80 %.",
        NeverFinish::Maintainers => "A maintainer only holds what is full.",
        NeverFinish::Both => {
            "An engine\u{2019}s alternator brings the bulk and stops near 80 %; a maintainer only holds what is full."
        }
    }
}

/// The one sentence of what charges a bank and of its air; empty: nothing of it is judged.
pub fn equipment_verdict(own: &EquipmentJudged) -> String {
    let judged = own.sources.iter().filter_map(|source| Some((source, source.audit.as_ref()?)));
    let worst =
        judged.max_by_key(|(source, audit)| (audit.condition, std::cmp::Reverse(source.source.number)));
    let air = own.air.filter(|air| air.condition >= Severity::Watch);
    match (worst, air) {
        (Some((source, audit)), _) if audit.condition >= Severity::Watch => {
            let verdict = super::audit_verdict(audit);
            let which = source_said(source.source);
            verdict.replace("the charger:", &format!("{which}:"))
        }
        (_, Some(air)) if air.one_way => "Look for the way of the air.".into(),
        (_, Some(_)) => "The place has too little air for a strong charge.".into(),
        _ if own.none_finishes.is_some() => "Nothing that charges it finishes the charge.".into(),
        (Some((_, audit)), None) => super::audit_verdict(audit),
        (None, _) => String::new(),
    }
}

/// The air that is there against what VE-1 asks for, as a sentence.
pub fn air_line(air: &AirJudged, units: ReaderUnits) -> String {
    let wanted = format!(
        "a boost charge asks for {}, or openings of {} low and high",
        units.say_airflow(air.boost.airflow),
        units.say_area(air.boost.opening)
    );
    match (air.condition, air.one_way) {
        (Severity::Steady, _) => format!("The air that is told is enough: {wanted}."),
        (_, true) => format!("Only one opening is told: {wanted}."),
        (Severity::Watch, false) => format!("Enough for float, too little for more: {wanted}."),
        (_, false) => format!("Too little even for float: {wanted}."),
    }
}

/// What is known of the air that is there, beside what an equalize asks for.
pub const fn air_there(air: Option<&AirJudged>) -> &'static str {
    match air {
        None => "What is there is not told: see for yourself.",
        Some(AirJudged { condition: Severity::Steady, .. }) => {
            "The fan and openings that are told are enough."
        }
        Some(AirJudged { one_way: true, .. }) => {
            "Only one opening is told: open a second way, or have a fan run."
        }
        Some(_) => {
            "The fan and openings that are told are too little: open the place, or do not equalize here."
        }
    }
}

/// What somebody who works there has to know of it, line by line: what could hole a case, what is around, balancers.
pub fn what_stands_there(own: &Equipment) -> Vec<String> {
    let mut all = Vec::new();
    if !own.could_hole.is_empty() {
        all.push(format!("Could hole a case: {}.", own.could_hole.trim_end_matches('.')));
    }
    all.extend(own.surroundings.iter().map(|place| {
        let (name, meaning) = surroundings(*place);
        format!("{}: {meaning}", names::sentence(name))
    }));
    if own.has_balancer() {
        all.push("Balancers are fitted: they hide the spread between batteries, so every cell is read all the same.".into());
    }
    let off: Vec<&Fitting> = own
        .fittings
        .iter()
        .filter(|f| matches!(f.kind, FittingKind::Switch | FittingKind::Breaker | FittingKind::Fuse))
        .collect();
    all.extend(off.into_iter().map(fitting_line));
    let charges: Vec<String> = own.sources().iter().map(source_line).collect();
    all.extend(
        (!charges.is_empty()).then(|| format!("Off before the bank is touched: {}.", charges.join("; "))),
    );
    all
}
