//! How a bank comes through a storage spell, in words.

use crate::electrolyte::FREEZING_MARGIN;
use crate::quantity::Volume;
use crate::quantity::units::{ReaderUnits, TemperatureUnit};
use crate::severity::Severity;
use crate::storage::{RECHARGE_AT, RechargeWhy, StorageCheck, StoragePlan, StorageWayKind, StoredWay};
use jiff::civil::Date;

/// Where its limits come from.
pub const STORAGE_RULE: &str = "SD-1, SD-2 and SG-5: self-discharge, 6 \u{b0}C to freezing, 75 % and the looks every two months are \
     common practice; freezing by published water activities and Vinal, from memory. Maker\u{2019}s manual first.";

/// What a spell is about: cautions that stand where it is prepared.
pub const STORAGE_CAUTIONS: [&str; 3] = [
    "A battery that froze hard is not charged: warm it through, look for cracks, then charge it slowly.",
    "Charge where air moves: charging makes hydrogen. Eye protection and gloves at the cells.",
    "Lift with two people or a strap made for it; keep batteries upright, and carry no tool across posts.",
];

fn day(of: Date) -> String {
    of.strftime("%-d %B").to_string()
}

fn dated(of: Date) -> String {
    of.strftime("%-d %B %Y").to_string()
}

/// The name of a way.
pub const fn storage_way(kind: StorageWayKind) -> &'static str {
    match kind {
        StorageWayKind::Disconnected => "Disconnect it",
        StorageWayKind::OnLoads => "Leave it on its loads",
        StorageWayKind::OnArray => "Leave it on the array",
        StorageWayKind::Maintained => "Keep it on a maintainer",
        StorageWayKind::Indoors => "Carry it indoors",
    }
}

/// A difference of temperatures, in the reader's unit: "27 °C".
pub fn apart(celsius: f64, units: ReaderUnits) -> String {
    match units.temperature {
        TemperatureUnit::Celsius => format!("{celsius:.0} \u{b0}C"),
        TemperatureUnit::Fahrenheit => format!("{:.0} \u{b0}F", celsius * 1.8),
    }
}

/// "Disconnect it on 18 October: on the coldest night on record it stays 27 °C short of freezing, and it reaches 2 May at 90 %."
pub fn storage_verdict(plan: &StoragePlan, units: ReaderUnits) -> String {
    let own = &plan.ways[plan.best];
    let name = storage_way(own.way.kind());
    let (Some(first), Some(last)) = (own.days.first(), own.days.last()) else { return String::new() };
    let ends = format!("reaches {} at {:.0} %", day(last.day), last.charge);
    if plan.conditions[plan.best] == Severity::Act {
        let others = if plan.ways.len() > 1 { "None of these ways is safe" } else { "That way is not safe" };
        return format!("{others}: {}", way_comes_to(own, units));
    }
    let visits = match own.recharges.as_slice() {
        [] => String::new(),
        [(one, _)] => format!(" with a charge on {}", day(*one)),
        [(one, _), rest @ ..] => {
            format!(" with {} charges, the first on {}", rest.len() + 1, day(*one))
        }
    };
    let margin = if own.worst.coldest < 0.0 {
        format!(
            "on the coldest night it stays {} short of freezing, and it ",
            apart(own.worst.margin(), units)
        )
    } else {
        "it does not freeze, and it ".to_owned()
    };
    let full = if first.charge >= 99.5 { " full" } else { "" };
    let charged = if visits.is_empty() { ends } else { format!("{ends} if nobody charges it") };
    format!("{name}{full} on {}{visits}: {margin}{charged}.", day(first.day))
}

/// What a way comes to, one sentence.
pub fn way_comes_to(own: &StoredWay, units: ReaderUnits) -> String {
    if let Some([first, last]) = own.freezing {
        let until = if first == last { String::new() } else { format!(" to {}", day(last)) };
        return format!(
            "left so it can freeze, {}{until}: down to {:.0} % of charge it freezes at {}.",
            day(first),
            own.worst.charge,
            coldness(own.worst.freezes, units)
        );
    }
    if let Some(danger) = own.danger {
        return format!(
            "from {} it stands within {} of freezing; the worst is {}, {} away.",
            day(danger),
            apart(FREEZING_MARGIN, units),
            day(own.worst.day),
            apart(own.worst.margin(), units)
        );
    }
    if let Some(dry) = own.dry {
        return format!(
            "its plates would show by {}: {} a cell boils away with nobody there.",
            day(dry),
            volume(own.water, units)
        );
    }
    match own.recharges.first() {
        Some((first, RechargeWhy::Charge)) => format!(
            "it is down to {RECHARGE_AT:.0} % on {}: charge it then; left flat it sulfates.",
            day(*first)
        ),
        Some((first, RechargeWhy::Freezing)) => {
            format!("charge it by {}: the day after, the margin to freezing is gone.", day(*first))
        }
        None if own.water >= 1.0 => {
            format!("it holds; {} of water a cell goes meanwhile.", volume(own.water, units))
        }
        None => match own.checks.as_slice() {
            [] => "it holds, and nobody has to come.".into(),
            [one] => format!("one look, on {}, settles any doubt.", day(one.day)),
            more => format!("{} looks settle any doubt, the first on {}.", more.len(), day(more[0].day)),
        },
    }
}

/// "By 18 December: expect 25.2 V; under 24.9 V charge it."
pub fn storage_check(own: &StorageCheck) -> String {
    format!(
        "all off, expect {:.1} V, {:.0} % of charge; at {:.1} V or less charge it full",
        own.volts, own.charge, own.recharge_under
    )
}

/// What a recharge is for.
pub fn storage_recharge(why: RechargeWhy) -> &'static str {
    match why {
        RechargeWhy::Charge => "charge it full: down to 75 %",
        RechargeWhy::Freezing => "charge it full: the margin to freezing is gone the day after",
    }
}

/// "18 October 2026 to 2 May 2027".
pub fn storage_spell(from: Date, until: Date) -> String {
    format!("{} to {}", dated(from), dated(until))
}

/// A temperature that may lie under any that is measured, in the reader's unit, whole: "−53 °C".
pub fn coldness(celsius: f64, units: ReaderUnits) -> String {
    let shown = units.temperature.of_celsius(celsius);
    let unit = if units.temperature == TemperatureUnit::Celsius { "C" } else { "F" };
    format!("{:.0} \u{b0}{unit}", shown.round() + 0.0).replace('-', "\u{2212}")
}

fn volume(millilitres: f64, units: ReaderUnits) -> String {
    Volume::from_millilitres(millilitres).map(|own| units.say_volume(own)).unwrap_or_default()
}
