//! Load tests in words.

use super::names;
use crate::load_test::{
    RealLoad, RealLoadJudged, RealLoadSays, ShortLoad, ShortLoadJudged, TesterLoad, UNDER_MATES,
};
use crate::severity::Severity;

/// What one battery did: "A2: 9.10 V on 12 V, 0.50 V under the 9.60 V it should hold."
pub fn short_load_line(own: &ShortLoadJudged) -> String {
    let mut said = vec![format!("{:.2} V on 12 V", own.per_twelve)];
    if let Some(least) = own.least {
        let by = own.per_twelve - least;
        said.push(if by < 0.0 {
            format!("{:.2} V under the {least:.2} V it should hold", -by)
        } else {
            format!("{least:.2} V is the least")
        });
    }
    if let Some(under) = own.under_mates.filter(|under| *under > UNDER_MATES) {
        said.push(format!("{under:.2} V under its mates"));
    }
    if let Some(under) = own.under_first.filter(|under| *under > UNDER_MATES) {
        said.push(format!("{under:.2} V under its own first test"));
    }
    if let Some(back) = own.came_back {
        said.push(format!("{back:.2} V back within 30 s"));
    }
    format!("{}: {}.", own.battery, said.join(", "))
}

/// The one sentence of a short load.
pub fn short_load_verdict(test: &ShortLoad, judged: &[ShortLoadJudged]) -> String {
    let of = |condition: Severity| -> Vec<String> {
        judged.iter().filter(|own| own.condition == condition).map(|own| own.battery.to_string()).collect()
    };
    let listed = |all: &[String]| names::words(&all.iter().map(String::as_str).collect::<Vec<_>>());
    let (fails, suspect, none) = (of(Severity::Act), of(Severity::Watch), of(Severity::NoReading));
    if !fails.is_empty() {
        let verb = if fails.len() == 1 { "falls" } else { "fall" };
        return format!(
            "{} {verb} too far under the load: charge, test again, then replace.",
            listed(&fails)
        );
    }
    if !suspect.is_empty() {
        let verb = if suspect.len() == 1 { "falls" } else { "fall" };
        return format!(
            "{} {verb} further than the others or than before: a timed discharge tells how much it holds.",
            listed(&suspect)
        );
    }
    if none.len() == judged.len() {
        return match (test.charged, test.load) {
            (Some(charged), _) if charged < 75.0 => {
                "Not charged enough to be tested: from 75 % on the volts tell something.".into()
            }
            (_, TesterLoad::HalfCranking { .. }) => {
                "Nothing to hold it against: take the temperature, or test its mates too.".into()
            }
            _ => "Nothing to hold it against yet: test its mates too; its own next test has this one.".into(),
        };
    }
    "Each holds under the load. That is no capacity: a timed discharge tells it.".into()
}

/// The one sentence of a real load.
pub fn real_load_verdict(own: &RealLoadJudged) -> String {
    let volts = |at: usize| format!("{:.2} V", own.limits[at]);
    match own.says {
        RealLoadSays::Sound => {
            format!("It holds as a sound bank does: down to {} would be.", volts(0))
        }
        RealLoadSays::Between => format!(
            "Between sound ({}) and weak: no verdict. Charge fully, let it rest, load it again.",
            volts(0)
        ),
        RealLoadSays::Watch => format!(
            "It falls further than a sound bank: under {} it is watched. Test it battery by battery.",
            volts(1)
        ),
        RealLoadSays::Weak => {
            format!("It is weak: under {} it has little left. Test it battery by battery.", volts(2))
        }
    }
}

/// What the loads and the inverter do, a sentence each.
pub fn real_load_lines(test: &RealLoad, own: &RealLoadJudged) -> Vec<String> {
    let mut all = vec![format!(
        "It fell {:.2} V on 12 V; a sound one falls {:.2} V at {:.0} A of {:.0} Ah.",
        own.drop, own.expected, test.amperes, test.c20
    )];
    all.extend(own.over_plate.iter().filter_map(|at| test.loads.get(*at)).map(|load| {
        format!(
            "{} draws {:.1} A and its plate says {:.1} A: it is worn or blocked. That is no fault of the bank.",
            names::sentence(&load.name),
            load.amperes,
            load.plate.unwrap_or_default()
        )
    }));
    all.extend(own.inverter.map(|inverter| {
        let share = 100.0 * inverter.share;
        match inverter.condition {
            Severity::Act => format!("{share:.0} % of the inverter\u{2019}s limit: it is overloaded."),
            Severity::Watch => {
                format!("{share:.0} % of the inverter\u{2019}s limit: nothing more beside it.")
            }
            _ => format!("{share:.0} % of the inverter\u{2019}s limit."),
        }
    }));
    all.extend(own.output_off.map(|off| {
        if off {
            "The inverter\u{2019}s output is off by more than a tenth of its volts or 1 Hz: have it looked at."
        } else {
            "The inverter\u{2019}s output is within a tenth of its volts and 1 Hz."
        }
        .to_owned()
    }));
    all
}
