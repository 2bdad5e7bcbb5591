//! Whether an equalize is wanted, and what is seen to before it, in words.

use super::equalize_call::BarredWords;
use super::names::lower;
use super::names::short_day;
use super::names::{points, sentence};
use crate::equalize::{BeforeCheck, DayPlan, HouseSays, Reason, RunKind, RunPlan, Wanted};
use crate::finding::{BarredBy, EqualizeCall};
use crate::quantity::units::ReaderUnits;
use jiff::civil::Date;

/// "a corrective equalize".
pub const fn run_kind(kind: RunKind) -> &'static str {
    match kind {
        RunKind::Corrective => "corrective",
        RunKind::Preventive => "preventive",
        RunKind::Stir => "stir",
    }
}

/// What a kind of run is for, as a sentence.
pub const fn run_kind_for(kind: RunKind) -> &'static str {
    match kind {
        RunKind::Corrective => {
            "Brings cells together that have drifted apart or stay short of full. Up to 8 h, read every 30 min, ended by the gravity."
        }
        RunKind::Preventive => "Keeps an even bank even, by the calendar. Up to 3 h, read every 30 min.",
        RunKind::Stir => {
            "Mixes electrolyte that lies in layers. One hour by the clock; it evens nothing else."
        }
    }
}

/// A reason as a sentence.
pub fn wanted_reason(reason: &Reason, today: Date) -> String {
    match reason {
        Reason::Spread { spread, limit, proven_full } => {
            let full =
                if *proven_full { "" } else { ", read on a bank nobody proved full: charge it full first" };
            let noise = if limit.noise_rules() { "; the limit is what the instrument can tell" } else { "" };
            format!("Spread {}, limit {}{noise}{full}.", points(spread.value()), limit.used)
        }
        Reason::Short { short } => format!(
            "All cells stand {} short of full after a proven full charge: an equalize tells undercharge from sulfate.",
            points(short.value())
        ),
        Reason::Layered { measured, expected } => format!(
            "Rest volts of {measured:.2} V a cell say fuller than the gravity drawn from the top ({expected:.2} V): layers."
        ),
        Reason::Calendar { days, last, due } => {
            let since = last.map_or_else(
                || "none is on record".to_owned(),
                |day| format!("the last was on {}", short_day(day, today)),
            );
            format!("Every {days} days at the latest; {since}, so it was due {}.", short_day(*due, today))
        }
    }
}

/// What forbids an equalize, as a sentence; none where nothing does.
pub fn barred_why(by: Option<BarredBy>) -> Option<&'static str> {
    by.and_then(|by| BarredWords::of(EqualizeCall::Barred { by })).map(|barred| barred.why)
}

/// What a house says, in one line, with what forbids an equalize in every house.
pub fn house_says(own: &HouseSays, barred: Option<BarredBy>, today: Date) -> String {
    match own.kind {
        None if let Some(barred) = barred.and_then(|by| BarredWords::of(EqualizeCall::Barred { by })) => {
            format!("{} would wait. {}", own.house, barred.first)
        }
        Some(kind) => {
            let why: Vec<String> = own.reasons.iter().map(|r| wanted_reason(r, today)).collect();
            format!("{} would run a {} one. {}", own.house, run_kind(kind), why.join(" "))
        }
        None => match own.next {
            Some(day) => format!("{} would wait; its calendar asks on {}.", own.house, short_day(day, today)),
            None => format!("{} would let it be: this bank has no calendar for it.", own.house),
        },
    }
}

/// The sentence on top: what to do, then why.
pub fn wanted_verdict(own: &Wanted, today: Date) -> String {
    if own.locked {
        return "Not on this bank: its batteries are sealed, and their maker gives no conditioning voltage (EQ-1)."
            .into();
    }
    match own.own.kind {
        Some(RunKind::Corrective) => {
            let why = own.own.reasons.first().map(|r| wanted_reason(r, today)).unwrap_or_default();
            format!("Equalize: {}", lower(&why))
        }
        Some(RunKind::Stir) => "Stir the electrolyte for an hour: it lies in layers.".into(),
        Some(RunKind::Preventive) => "An equalize is due by the calendar; nothing else asks for it.".into(),
        None if let Some(barred) = own.barred.and_then(|by| BarredWords::of(EqualizeCall::Barred { by })) => {
            format!("No equalize now. {}", barred.first)
        }
        None if own.read_since => match own.own.next {
            Some(day) => {
                format!("No equalize is wanted today; the calendar asks on {}.", short_day(day, today))
            }
            None => "No equalize is wanted: the cells are alike and no calendar asks.".into(),
        },
        None => "Nothing to decide by: read every cell first.".into(),
    }
}

/// What a check is called, and what is seen to.
pub fn before_check(check: BeforeCheck, plan: &RunPlan, units: ReaderUnits) -> (String, String) {
    let (name, what): (&str, String) = match check {
        BeforeCheck::Full => (
            "Charged full first",
            "Absorption has ended, or the bank floats. Many controllers refuse an equalize before that.".into(),
        ),
        BeforeCheck::PlatesCovered => (
            "Plates covered in every cell",
            "Cover low cells with margin, not to the mark: the liquid rises. To the mark afterwards.".into(),
        ),
        BeforeCheck::Caps => ("Caps as the maker says", "Each one sound, none blocked.".into()),
        BeforeCheck::Air => (
            "Air moves",
            format!(
                "{}, or openings of {} low and high; a fan from {:.1} V on. Vents free, no flame, nobody smokes.",
                units.say_airflow(plan.air.airflow),
                units.say_area(plan.air.opening),
                plan.fan_from
            ),
        ),
        BeforeCheck::LoadsOff => (
            "Loads off that cannot stand it",
            match plan.disconnect.as_slice() {
                [] => format!("Nothing named takes less than {:.1} V. Look for what is not named.", plan.setpoint.volts),
                loads => {
                    let names: Vec<String> =
                        loads.iter().map(|l| format!("{} ({:.1} V)", l.name, l.highest_volts)).collect();
                    format!("Disconnect {}: the bank goes to {:.1} V.", names.join(", "), plan.setpoint.volts)
                }
            },
        ),
        BeforeCheck::Cool => (
            "Cool enough to begin",
            format!(
                "Hottest cell under {}.",
                crate::quantity::Temperature::from_celsius(40.0).map(|t| units.say_temperature(t)).unwrap_or_default()
            ),
        ),
        BeforeCheck::SourceLasts => (
            "Sun or fuel for the whole of it",
            format!("{:.1} h as a rule, up to {:.1} h, readings included.", plan.hours.middle, plan.hours.high),
        ),
        BeforeCheck::Protected => (
            "Protected",
            "Face shield, gloves, apron. Water within reach: flush eyes at once for 15 minutes and get medical help. Bicarbonate outside the cells only.".into(),
        ),
        BeforeCheck::SomebodyStays => (
            "Somebody stays",
            "A run is never left alone. Keep others out of the room: hydrogen, and traces of poison gas from the plates.".into(),
        ),
    };
    (name.into(), what)
}

/// Sun, fuel and dark against need, as sentences.
pub fn day_plan(day: &DayPlan) -> Vec<String> {
    let mut all = Vec::new();
    if let Some(sun) = day.sun_hours {
        let said = format!(
            "{sun:.1} h of sun; a run takes {:.1} h by the clock, up to {:.1} h, readings included.",
            day.clock_hours.middle, day.clock_hours.high
        );
        all.push(said);
    }
    if let (Some(litres), Some(there)) = (day.litres, day.litres_there) {
        all.push(format!(
            "Fuel: {:.1} L as a rule, up to {:.1} L; there are {there:.1} L.",
            litres.middle, litres.high
        ));
    }
    let from = day.begins.map(|h| format!("from {} on and ", clock(h))).unwrap_or_default();
    match (day.start_by, day.start_by_usual) {
        (Some(by), Some(usual)) => all.push(format!(
            "Start {from}by {}, and even a long run ends in time; a usual one by {}.",
            clock(by),
            clock(usual)
        )),
        (None, Some(usual)) => all.push(format!(
            "A long run does not fit into this day; a usual one does when it starts {from}by {}.",
            clock(usual)
        )),
        _ if day.ends => all.push("No run fits into this day.".into()),
        _ => {}
    }
    if !day.enough {
        all.push("Not enough for a run of the usual length: a run that is cut short proves nothing. Wait, or bring another source.".into());
    } else if !day.ample {
        all.push("Enough for a usual run, not for a long one.".into());
    }
    all
}

/// "13:30" of an hour of the day.
fn clock(hour: f64) -> String {
    let minutes = (hour * 60.0).round().clamp(0.0, 1439.0);
    format!("{:.0}:{:02.0}", (minutes / 60.0).floor(), minutes % 60.0)
}

/// A name with its first letter in upper case: "Corrective".
pub fn run_kind_name(kind: RunKind) -> String {
    sentence(run_kind(kind))
}
