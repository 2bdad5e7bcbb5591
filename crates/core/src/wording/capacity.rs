//! Timed discharges in words.

use super::names;
use crate::discharge::{CapacityMethod, CapacityResult, NotTold, RatedFrom, RatedTime};
use crate::schedule::Duty;
use crate::severity::Severity;

/// Hours and minutes of a discharge: "5 h 12 min", "24 min".
pub fn discharge_time(hours: f64) -> String {
    let minutes = (hours * 60.0).round();
    let (whole, rest) = ((minutes / 60.0).floor(), minutes % 60.0);
    match (whole >= 1.0, rest >= 0.5) {
        (true, true) => format!("{whole:.0} h {rest:.0} min"),
        (true, false) => format!("{whole:.0} h"),
        (false, _) => format!("{rest:.0} min"),
    }
}

/// How long a new one lasts, and where that comes from: what, and the time.
fn rated_line(rated: &RatedTime) -> (String, String) {
    let from = match rated.from {
        RatedFrom::Table => "by the model\u{2019}s rate table".to_owned(),
        RatedFrom::BeyondTable => format!("beyond the model\u{2019}s rate table: {}", range_said(rated)),
        RatedFrom::Peukert => format!("by Peukert, the model has no rate table: {}", range_said(rated)),
    };
    (format!("a new one at that current, {from}"), discharge_time(rated.hours))
}

fn range_said(rated: &RatedTime) -> String {
    format!("{} to {}", discharge_time(rated.low), discharge_time(rated.high))
}

const fn why_not(not_told: NotTold) -> &'static str {
    match not_told {
        NotTold::TemperatureUnknown => {
            "No percentage without the temperature of the electrolyte at the start: 10 °C make a fifth of it."
        }
        NotTold::TemperatureOutside => {
            "No percentage outside 4.4 to 37.8 °C: the factors do not reach there. Warm it, and test it again."
        }
        NotTold::TooShort => "Stopped before it could tell anything. Charge it fully, and test it again.",
    }
}

/// What a result means for a bank of this duty.
const fn meaning(condition: Severity, duty: Duty) -> &'static str {
    match (condition, duty) {
        (Severity::Act, Duty::Standby) => "Plan its replacement: standby ends at 80 %.",
        (Severity::Act, Duty::Cycled) => "It is at its end: cyclic duty ends at 60 to 50 %.",
        (Severity::Watch, _) => "Test it again sooner: it has begun to fall.",
        (Severity::Steady, _) => "It has what its duty asks for.",
        _ => "That is not enough to tell whether it has what its duty asks for.",
    }
}

/// The one sentence of a timed discharge: "82 % of its rated capacity (79 to 85 %). It has what its duty asks for."
pub fn capacity_verdict(result: &CapacityResult, condition: Severity, duty: Duty) -> String {
    match (result.percent, result.range, result.not_told) {
        (_, _, Some(why)) => why_not(why).to_owned(),
        (Some(percent), Some([low, _]), _) if result.at_least => format!(
            "At least {percent:.0} % of its rated capacity ({low:.0} % or more): it was stopped before the end. {}",
            meaning(condition, duty)
        ),
        (Some(percent), Some([low, high]), _) => format!(
            "{percent:.0} % of its rated capacity ({low:.0} to {high:.0} %). {}",
            meaning(condition, duty)
        ),
        _ => String::new(),
    }
}

/// How it was reckoned, line by line: what, and the figure.
pub fn capacity_lines(result: &CapacityResult) -> Vec<(String, String)> {
    let mean = result.ampere_hours / result.hours;
    let ran = discharge_time(result.hours);
    let mut all = vec![
        (format!("{ran} at {mean:.1} A on average"), format!("{:.1} Ah", result.ampere_hours)),
        rated_line(&result.rated),
    ];
    if let Some(factor) = result.factor {
        let which = match result.method {
            CapacityMethod::RateAdjusted => "cell size factor at this temperature, IEEE 485 from memory",
            CapacityMethod::TimeAdjusted | CapacityMethod::ByStretches => {
                "test factor at this temperature, IEEE 450 from memory"
            }
        };
        all.push((which.into(), format!("{factor:.3}")));
    }
    if let Some(percent) = result.percent {
        let how = match result.method {
            CapacityMethod::TimeAdjusted => "time over rated time and factor",
            CapacityMethod::RateAdjusted => {
                "under an hour: current and factor over the current rated for that time"
            }
            CapacityMethod::ByStretches => "share used in each stretch, over the factor",
        };
        all.push((names::sentence(how), format!("{percent:.1} %")));
    }
    all
}
