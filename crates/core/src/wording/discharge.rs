//! A timed discharge in words: while it is on, and after.

use super::names;
use super::{capacity_verdict, discharge_time};
use crate::discharge::{DischargeAdvice, DischargeNow, DischargePhase, TESTABLE, capacity_condition};
use crate::quantity::units::ReaderUnits;
use crate::schedule::Duty;
use crate::severity::Severity;

/// The current that is meant: "the 75 A", "the load".
fn load(now: &DischargeNow) -> String {
    now.plan.amperes.map_or_else(|| "the load".into(), |a| format!("the {a:.0} A"))
}

/// What to do now, then why; `last` is how long the same place lasted last time under the same load, h.
pub fn discharge_verdict(now: &DischargeNow, last: Option<f64>, duty: Duty) -> String {
    match (now.phase, now.advice) {
        (DischargePhase::Ended, _) => ended(now, duty),
        (DischargePhase::Paused, _) => {
            "The load is off: switch it on again and resume, or end the discharge. Rest gives some back, so a long pause flatters it.".into()
        }
        (_, DischargeAdvice::AtEnd) => "The end voltage is reached: load off now, then press Stop.".into(),
        (_, DischargeAdvice::Reversed { battery }) => {
            format!("A cell of {battery} is driven backwards: load off now, then press Stop.")
        }
        _ => running(now, last),
    }
}

fn running(now: &DischargeNow, last: Option<f64>) -> String {
    let weak = now.weakest().map(|own| format!(" {} bends away first.", own.battery)).unwrap_or_default();
    let Some(ends) = now.ends.filter(|_| !now.points.is_empty()) else {
        return format!("{} on: read volts, amperes and every battery now.", names::sentence(&load(now)));
    };
    let left = (ends.best - now.elapsed).max(0.0);
    let than = last
        .map(|last| last - ends.best)
        .filter(|fewer| fewer.abs() > (ends.high - ends.low) / 2.0)
        .map(|fewer| {
            let word = if fewer > 0.0 { "less" } else { "more" };
            format!(", {} {word} than last time", discharge_time(fewer.abs()))
        })
        .unwrap_or_default();
    format!("Keep {} on: about {} left{than}.{weak}", load(now), discharge_time(left))
}

fn ended(now: &DischargeNow, duty: Duty) -> String {
    let weak = now.weakest().map(|own| format!(" {} gave out first.", own.battery)).unwrap_or_default();
    let Some(result) = &now.result else {
        return format!("Ended before anything could be told.{weak} Charge it within the hour.");
    };
    let condition = capacity_condition(result, duty);
    let charge = if now.noted { "" } else { " Charge it within the hour." };
    format!("{}{weak}{charge}", capacity_verdict(result, condition, duty))
}

/// What the alarm of a running discharge is for; none: nothing.
pub fn discharge_alarm(now: &DischargeNow) -> Option<&'static str> {
    match (now.phase, now.advice, now.reading_in) {
        (DischargePhase::Running, DischargeAdvice::AtEnd | DischargeAdvice::Reversed { .. }, _) => {
            Some("stop")
        }
        (DischargePhase::Running, _, Some(left)) if left <= 0.0 => Some("reading"),
        _ => None,
    }
}

/// When it ends: "52 min" and "50 to 54 min, nine times in ten".
pub fn discharge_ends(now: &DischargeNow) -> Option<(String, String)> {
    let ends = now.ends.filter(|_| now.is_under_way())?;
    Some((
        discharge_time(ends.best),
        format!("{} to {}, nine times in ten", discharge_time(ends.low), discharge_time(ends.high)),
    ))
}

/// What it is a result of, where that makes it less certain: not proven full, pauses, a clock that was set.
pub fn discharge_doubts(now: &DischargeNow, units: ReaderUnits) -> Vec<String> {
    let mut all = Vec::new();
    if !now.plan.proven_full {
        all.push("It was not proven full before: what it gave is the least it holds.".into());
    }
    if now.plan.temperature.is_none() {
        all.push("No temperature was taken at the start: no percentage is told.".into());
    }
    if let Some(at) = now.plan.temperature.filter(|t| crate::discharge::test_factor(*t).is_none()) {
        all.push(format!(
            "At {} no percentage is told: the factors reach from {} to {}.",
            units.say_temperature(at),
            super::degrees(TESTABLE.start().to_owned(), units),
            super::degrees(TESTABLE.end().to_owned(), units)
        ));
    }
    if now.paused > 0.02 {
        all.push(format!(
            "The load was off for {} between: rest gives some back.",
            discharge_time(now.paused)
        ));
    }
    if now.clock_set.abs() > 0.0 {
        all.push("The clock of this machine was set meanwhile; the jump is not counted.".into());
    }
    all
}

/// How a battery stands in a discharge: the weak one, or one that is bending away.
pub fn mate_condition(own: &crate::discharge::DischargedMate) -> Severity {
    match own {
        own if own.weak || own.reversed => Severity::Act,
        own if own.knee.is_some() => Severity::Watch,
        own if own.against_mates.is_some() => Severity::Steady,
        _ => Severity::NoReading,
    }
}
