//! A run of an equalize in words.

use crate::equalize::{
    ABORT_AT, Advice, LEAST_HOURS, PAUSE_AT, RESUME_BELOW, RunKind, RunPlan, RunState, SLOPE_LEFT, STARTS_BY,
};
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;

/// "17 to 42 A"; one figure where both are the same.
fn range(low: f64, high: f64, unit: &str) -> String {
    let (low, high) = (format!("{low:.0}"), format!("{high:.0}"));
    if low == high { format!("{high} {unit}") } else { format!("{low} to {high} {unit}") }
}

/// "4.5 h, 3.0 to 8.0"; one figure where all are the same.
fn hours(plan: &RunPlan) -> String {
    let [low, middle, high] =
        [plan.hours.low, plan.hours.middle, plan.hours.high].map(|hours| format!("{hours:.1}"));
    if low == high { format!("{middle} h") } else { format!("{middle} h, {low} to {high}") }
}

/// A plan as sentences, in the order things are done.
pub fn run_plan(plan: &RunPlan, units: ReaderUnits) -> Vec<String> {
    let say = |ml: f64| Volume::from_millilitres(ml).map(|v| units.say_volume(v)).unwrap_or_default();
    let mut all = vec![format!(
        "{:.1} V at this temperature; type {:.1} V into a charger that compensates by itself.",
        plan.setpoint.volts, plan.setpoint.to_type
    )];
    all.push(match plan.disconnect.as_slice() {
        [] => "Nothing that is named takes less than that.".into(),
        loads => {
            let names: Vec<String> =
                loads.iter().map(|l| format!("{} ({:.1} V at most)", l.name, l.highest_volts)).collect();
            format!("Disconnect first: {}.", names.join(", "))
        }
    });
    let short = if plan.source_too_small {
        " The source has less than that: the run will take longer or not finish."
    } else {
        ""
    };
    all.push(format!(
        "{}, never above {:.0} A.{short}",
        range(plan.current.low, plan.current.high, "A"),
        plan.most_current
    ));
    let whose = if plan.hours_are_own { "by this bank's own runs" } else { "as such runs usually go" };
    all.push(format!(
        "{}, {whose}; it stops at {:.0} h, finished or not. Somebody stays.",
        hours(plan),
        plan.cap
    ));
    all.push(format!("Up to {} of water boils off in the whole bank.", say(plan.water.high)));
    all.push(super::ventilation_line(&plan.air, units));
    all.push(format!("A fan runs from {:.1} V on.", plan.fan_from));
    all
}

/// A gravity that falls.
pub(super) const FALLING: &str =
    "Read again, then look at the levels and the charger: the gravity falls instead of rising.";

/// ", about 7 points still to come"; empty where nothing tells.
pub(super) fn still_to_come(state: &RunState) -> String {
    let left = state.to_come.filter(|left| left.value() >= 1.0);
    left.map_or_else(String::new, |left| {
        format!(", about {} still to come", super::names::points(left.value()))
    })
}

/// How the gravity rises, and what ends the run.
fn rises(state: &RunState) -> String {
    let Some(slope) = state.slope else {
        return "Nothing is told before four readings over an hour and a half.".into();
    };
    let way = if slope < 0.0 { "falls by" } else { "rises by" };
    format!(
        "The gravity {way} {} an hour; {LEAST_HOURS} h on equalize, {SLOPE_LEFT} points an hour and little left to come end the run.",
        tenths(slope)
    )
}

/// "3.4 points".
pub(super) fn tenths(points: f64) -> String {
    format!("{:.1} points", points.abs())
}

/// A cell that has not started to rise.
pub(super) fn not_answering(state: &RunState) -> String {
    let elapsed = RunKind::Corrective.cap() - state.left;
    if elapsed >= STARTS_BY {
        "A cell well under full has not started to rise in four hours. Go on to the cap, or stop and plan a test of its battery: the choice is yours.".into()
    } else {
        format!(
            "Go on: a cell well under full has not started to rise yet. Hard sulfate starts late; give it {STARTS_BY:.0} h."
        )
    }
}

/// What to do at the charger now, as a sentence.
pub fn run_advice(state: &RunState, units: ReaderUnits) -> String {
    match state.advice {
        Advice::GoOn => format!("Go on. {}", rises(state)),
        Advice::NotAnswering => not_answering(state),
        Advice::Falling => FALLING.into(),
        Advice::Pause => format!(
            "Keep the charger paused until somebody has read that the hottest electrolyte is under {}; a run is paused from {} on.",
            super::degrees(RESUME_BELOW, units),
            super::degrees(PAUSE_AT, units)
        ),
        Advice::Done => "Stop the charger: the gravity has stopped rising.".into(),
        Advice::TimeOver => "Stop the charger: the time of a stir is over.".into(),
        Advice::Cap => format!(
            "Stop the charger: this is as long as a run goes. It is stopped, not finished{}.",
            still_to_come(state)
        ),
        Advice::Abort => {
            format!(
                "Stop the charger at its switch or breaker, never at the posts: the electrolyte is at {} or above. Do not start again today.",
                super::degrees(ABORT_AT, units)
            )
        }
    }
}
