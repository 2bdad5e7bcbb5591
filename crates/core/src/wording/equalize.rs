//! A run of an equalize in words.

use crate::equalize::{Advice, RunPlan, RunState};
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
                |r| format!("The gravity rose {} over the last three readings; two or less is enough.", super::names::points(r.value())),
            );
            format!("Go on. {rise}")
        }
        Advice::Pause => {
            "Pause the charger: the electrolyte is at 46 °C or has not cooled under 40 °C yet. Go on when it has.".into()
        }
        Advice::Done => "Stop the charger: the gravity has stopped rising.".into(),
        Advice::TimeOver => "Stop the charger: the time of a stir is over.".into(),
        Advice::Cap => "Stop the charger: this is as long as a run goes. It is stopped, not finished.".into(),
        Advice::Abort => {
            "Stop the charger at its switch or breaker, never at the posts: the electrolyte is at 52 °C or above. Do not start again today.".into()
        }
    }
}
