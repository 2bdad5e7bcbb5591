//! A run of an equalize in words.

use crate::equalize::{ABORT_AT, Advice, LEAST_HOURS, PAUSE_AT, RESUME_BELOW, RISE_LEFT, RunPlan, RunState};
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;

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
        "{:.0} to {:.0} A, never above {:.0} A.{short}",
        plan.current.low, plan.current.high, plan.most_current
    ));
    let whose = if plan.hours_are_own { "by this bank's own runs" } else { "as such runs usually go" };
    all.push(format!(
        "{:.1} h, {:.1} to {:.1}, {whose}; it stops at {:.0} h, finished or not. Somebody stays.",
        plan.hours.middle, plan.hours.low, plan.hours.high, plan.cap
    ));
    all.push(format!("Up to {} of water boils off in the whole bank.", say(plan.water.high)));
    all.push(super::ventilation_line(&plan.air));
    all.push(format!("A fan runs from {:.1} V on.", plan.fan_from));
    all
}

/// What to do at the charger now, as a sentence.
pub fn run_advice(state: &RunState) -> String {
    match state.advice {
        Advice::GoOn => {
            let rise = state.rise.map_or_else(
                || "Nothing is forecast before five readings.".to_owned(),
                |r| {
                    let way = if r.value() < 0.0 { "fell" } else { "rose" };
                    format!(
                        "The gravity {way} {} over the last three readings; a rise of {} or less ends the run from {LEAST_HOURS} h on.",
                        super::names::points(r.value()),
                        super::names::points(RISE_LEFT.value())
                    )
                },
            );
            format!("Go on. {rise}")
        }
        Advice::Pause => {
            format!(
                "Pause the charger: the electrolyte is at {PAUSE_AT:.0} °C or has not cooled under {RESUME_BELOW:.0} °C yet. Go on when it has."
            )
        }
        Advice::Done => "Stop the charger: the gravity has stopped rising.".into(),
        Advice::TimeOver => "Stop the charger: the time of a stir is over.".into(),
        Advice::Cap => "Stop the charger: this is as long as a run goes. It is stopped, not finished.".into(),
        Advice::Abort => {
            format!(
                "Stop the charger at its switch or breaker, never at the posts: the electrolyte is at {ABORT_AT:.0} °C or above. Do not start again today."
            )
        }
    }
}
