//! What hours on the bank alone can be set to, and what they begin with.

use super::super::control::{Control, ControlKind, degrees, figure, group, several, typed_degrees};
use super::super::subject::Subject;
use super::proven::{bare, last_proof};
use rainshadow_core::discharge::USUAL_END;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::runtime::{RuntimeLoad, judge_proof};
use rainshadow_core::schedule::Duty;

/// Alarm that is begun with, V a cell (our choice, no source).
pub(super) const ALARM: f64 = 1.95;

/// Capacity that an untested bank has at least, per cent (CT-1: where a standby life ends; our choice, no source).
pub(super) const UNTESTED: f64 = 80.0;

pub(super) fn standby(subject: &Subject) -> bool {
    subject.known.as_ref().is_some_and(|(bank, _)| Duty::of(&bank.duty) == Duty::Standby)
}

/// Health by what the last proof ended at, where that tells it; else by its capacity test.
pub(super) fn health_control(subject: &Subject) -> [Control; 3] {
    let unknown = subject.health();
    let (mut best, mut range, mut source) = (unknown.percent, unknown.range, unknown.source);
    if let Some((proof, day)) = last_proof(subject) {
        let base = bare(subject, RuntimeLoad::Continuous { amount: proof.amperes });
        if let Ok(judged) = judge_proof(&base, &proof) {
            if judged.tells {
                best = judged.health[0].min(100.0);
                range = Some([judged.health[1].min(best), judged.health[2].clamp(best, 100.0)]);
                source = format!("volts at the end of the proof of {day}");
            } else {
                source = format!("{source}; the proof of {day} was too short to tell");
            }
        }
    }
    // What nobody tested may be anything between the end of a standby life and new.
    let untested = range.is_none() && !source.starts_with("volts") && subject.discharges.is_empty();
    let range = if untested { Some([UNTESTED.min(best), best]) } else { range };
    let end = |at: usize| range.map_or(String::new(), |own| figure(own[at].round()));
    [
        Control::new(ControlKind::Figure, ("health", "Capacity left"), figure(best.round()), source)
            .unit("%"),
        Control::new(ControlKind::Figure, ("health_low", "At least"), end(0), "empty: not known").unit("%"),
        Control::new(ControlKind::Figure, ("health_high", "At most"), end(1), "empty: not known").unit("%"),
    ]
}

/// What it begins with.
pub(in crate::app::planners) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let cells = f64::from(subject.shape.cells_in_series());
    let proof = last_proof(subject);
    let c20 = subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel);
    let (load, from) = proof.as_ref().map_or_else(
        || (figure((c20 / 50.0 * 10.0).round() / 10.0), "a fiftieth of C20; type what it is".to_owned()),
        |(own, day)| (figure((own.amperes * 100.0).round() / 100.0), format!("mean of the proof of {day}")),
    );
    let mean = subject.known.as_ref().and_then(|(_, site)| site.climate).map(|own| own.celsius());
    let coldest = mean.map(|own| own.into_iter().fold(f64::MAX, f64::min));
    let (celsius, where_from) = coldest.map_or((15.0, "our choice".to_owned()), |own| {
        (own.max(-20.0).round(), "coldest month of the site; type that of the room".to_owned())
    });
    let depth = if standby(subject) || subject.known.is_none() {
        ("100", "drawn empty when it must be".to_owned())
    } else {
        ("80", format!("not further than 80 %; the house plans {} %", subject.rules.planned_depth_percent))
    };
    let [health, low, high] = health_control(subject);
    let what = |key, label: &str, value: String, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    let load_controls = [
        Control::new(ControlKind::Choice, ("load", "It draws"), "continuous", "typed").options([
            ("continuous", "all the time"),
            ("bursts", "in bursts"),
            ("by_hour", "by the hour"),
        ]),
        Control::new(ControlKind::Choice, ("in", "Measured in"), "amperes", "")
            .options([("amperes", "A at the bank"), ("watts", "W behind an inverter")]),
        what("amount", "Load", load, &from).when("load", &["continuous", "bursts"]),
        what("seconds", "A run takes", "15".into(), "typed").unit("s").when("load", &["bursts"]),
        what("every", "One every", "240".into(), "typed").unit("s").when("load", &["bursts"]),
        what("surge", "Its start takes", "0".into(), "RT-2; A·s above the run").when("load", &["bursts"]),
        what("standing", "Besides all the time", "0".into(), "typed").when("load", &["bursts"]),
        Control::new(
            ControlKind::Hours,
            ("amounts", "From midnight on"),
            several(vec!["2".to_owned(); 24]),
            "typed",
        )
        .when("load", &["by_hour"]),
        what("from_hour", "On its own from", "18".into(), "hour of the day")
            .unit("h")
            .when("load", &["by_hour"]),
        Control::new(ControlKind::Slider, ("efficiency", "Inverter gives"), "88", "RT-3: 85 to 92")
            .unit("%")
            .range(70.0, 98.0, 1.0)
            .when("in", &["watts"]),
        what("idle", "Inverter takes", "10".into(), "its plate; measure it").unit("W").when("in", &["watts"]),
    ];
    let bank = [
        health,
        low,
        high,
        Control::new(ControlKind::Slider, ("charged", "Begins at"), "100", "full")
            .unit("% of charge")
            .range(20.0, 100.0, 5.0),
        what("temperature", "Electrolyte", typed_degrees(celsius, unit), &where_from).unit(degrees(unit)),
        what(
            "exponent",
            "Exponent of Peukert",
            String::new(),
            "empty: rate table of the model, or what is usual",
        ),
        Control::new(ControlKind::Slider, ("depth", "Down to"), depth.0, depth.1)
            .unit("% deep")
            .range(10.0, 100.0, 5.0),
    ];
    let ends = [
        what(
            "alarm",
            "Alarm at",
            figure((ALARM * cells * 10.0).round() / 10.0),
            "1.95 V a cell; its own setting wins; empty: none",
        )
        .unit("V"),
        what("empty", "Empty at", figure((USUAL_END * cells * 10.0).round() / 10.0), "1.75 V a cell, CT-1")
            .unit("V"),
        what("wanted", "Wanted", String::new(), "empty: not told").unit("h"),
    ];
    let other = [
        what("stand_in_volts", "Batteries at hand", "12".into(), "a vehicle, a boat").unit("V"),
        what("stand_in_ah", "Each of", "70".into(), "typed").unit("Ah"),
    ];
    let mut all = group("The load", load_controls);
    all.extend(group("The bank now", bank));
    all.extend(group("What ends it", ends));
    all.extend(group("If the outage outlasts it", other));
    all
}
