//! A run of an equalize in words.

use crate::equalize::{Advice, RunState};

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
