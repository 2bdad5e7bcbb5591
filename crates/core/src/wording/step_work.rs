//! What the steps of a visit came to, for the owner: what was done, how much of it, and what was only marked as
//! done. Nothing is said that was not written down.

use super::names::{self, words};
use super::{check as check_words, step_name};
use crate::battery_model::Construction;
use crate::rest::RestConditions;
use crate::visit::{Check, Entry, Step, StepProgress, StepState, VisitSheet, checks};

/// The work of a step; none where nothing is to be told, or another part of the report tells it.
pub fn step_work(progress: &StepProgress, sheet: &VisitSheet, construction: Construction) -> Option<String> {
    let step = progress.step;
    let reason = progress.reason.trim_end_matches('.');
    let left_out = progress.state == Some(StepState::Skipped) && step != Step::CloseUp;
    let work = work(progress, sheet, construction);
    match work {
        None if left_out => Some(format!("Left out: {}, because {reason}", step_name(step).to_lowercase())),
        Some(done) if left_out => Some(format!("{done}; the rest was left out, because {reason}")),
        work => work,
    }
}

fn work(progress: &StepProgress, sheet: &VisitSheet, construction: Construction) -> Option<String> {
    let StepProgress { step, mut done, of, .. } = *progress;
    // Volts in other states have sentences of their own.
    let by_state = sheet.standing().any(|k| matches!(k.entry, Entry::StateVolts { .. }));
    if step == Step::RestCheck && by_state {
        done = sheet.battery_volts().len();
    }
    let marked = progress.state == Some(StepState::Done);
    let part = |of_what: &str| {
        if done < of { format!("{done} of {of} {of_what}") } else { format!("every {}", one(of_what)) }
    };
    Some(match (step, done) {
        (Step::Job | Step::Equalize | Step::LoadTest | Step::Joints | Step::CloseUp, _) => return None,
        (Step::LookOver, 1..) => looked_over(sheet, construction),
        (Step::Water, 0) if sheet.water_added().any => return None,
        (Step::RestCheck, 0) if by_state => return None,
        (_, 0) if marked => only_marked(step).into(),
        (_, 0) => return None,
        (Step::MakeSafe, _) if done >= of => {
            "Made safe: protective gear, ventilation, loads and chargers off".into()
        }
        (Step::MakeSafe, _) => format!("Made safe in part: {done} of {of} precautions were confirmed"),
        (Step::RestCheck, _) => {
            format!("Voltage of {} measured {}", part("batteries"), volts_state(sheet.rested()))
        }
        (Step::Round, _) => format!("Acid of {} measured", part("cells")),
        (Step::Water, _) => format!("Level of {} looked at", part("cells")),
    })
}

fn one(things: &str) -> &str {
    if things == "batteries" { "battery" } else { things.trim_end_matches('s') }
}

/// What was looked at and measured on a visit, in a few words for a list of visits.
pub fn visit_looks(sheet: &VisitSheet) -> impl Iterator<Item = &'static str> {
    let any = |pick: fn(&Entry) -> bool| sheet.standing().any(|k| pick(&k.entry));
    let volts = any(|e| {
        matches!(e, Entry::BatteryVolts { .. } | Entry::StringVolts { .. } | Entry::StateVolts { .. })
    });
    let all = [
        (any(|e| matches!(e, Entry::Checked { .. })), "looked over"),
        (volts, "volts read"),
        (any(|e| matches!(e, Entry::Ohmic { .. })), "resistance read"),
        (any(|e| matches!(e, Entry::Level { .. })), "levels looked at"),
        (any(|e| matches!(e, Entry::Test { test } if test.is_a_test())), "load tested"),
        (any(|e| matches!(e, Entry::Joint { .. })), "joints measured"),
    ];
    all.into_iter().filter(|(made, _)| *made).map(|(_, said)| said)
}

/// A step that somebody marked as done, with nothing written down in it.
fn only_marked(step: Step) -> &'static str {
    match step {
        Step::Job => "The job is marked as done",
        Step::MakeSafe => "Making safe is marked as done; no precaution was confirmed",
        Step::LookOver => "The look-over is marked as done; nothing is written down as looked at",
        Step::RestCheck => "The rest check is marked as done; no voltage was read",
        Step::Round => "The round is marked as done; no cell was measured",
        Step::Water => "Water is marked as done; no level was noted and no water went in",
        Step::Equalize => "Equalizing is marked as done",
        Step::LoadTest => "Load tests are marked as done; none is written down",
        Step::Joints => "Joints are marked as done; none was measured",
        Step::CloseUp => "Closing up is marked as done",
    }
}

/// What was looked at, and what was not.
fn looked_over(sheet: &VisitSheet, construction: Construction) -> String {
    let all = checks(construction);
    let which = |wanted: &dyn Fn(Check) -> bool| -> Vec<String> {
        all.iter().filter(|c| wanted(**c)).map(|c: &Check| check_words(*c).to_lowercase()).collect()
    };
    let say = |head: &str, names: Vec<String>| {
        let names: Vec<&str> = names.iter().map(String::as_str).collect();
        (!names.is_empty()).then(|| format!("{head}: {}", words(&names)))
    };
    let absent = |check| sheet.not_here(check);
    let parts = [
        say("looked at", which(&|c| sheet.checked(c))),
        say("none here", which(&absent)),
        say("not looked at", which(&|c| !sheet.checked(c) && !absent(c))),
    ];
    names::sentence(&parts.into_iter().flatten().collect::<Vec<_>>().join("; "))
}

/// How a bank stood when its volts were read: "26 hours after the charge ended".
pub fn volts_state(conditions: Option<&RestConditions>) -> String {
    let Some(told) = conditions else { return "in a state that is not noted".into() };
    if told.charging {
        return "while it was on charge".into();
    }
    if told.loaded {
        return "with a load on it".into();
    }
    let after = |hours: f64, what: &str| format!("{} after the {what} ended", names::hours(hours));
    let mut said: Vec<String> = Vec::new();
    said.extend(told.hours_since_charge.map(|h| after(h, "charge")));
    said.extend(told.hours_since_load.map(|h| after(h, "load")));
    if told.surface_charge_removed {
        said.push("surface charge burned off".into());
    }
    if said.is_empty() {
        said.push("with the bank idle; for how long is not noted".into());
    }
    if told.charged_full {
        said.push("that charge a full one".into());
    }
    if told.disconnected {
        said.push("disconnected from loads and chargers".into());
    }
    if !told.still_draws.is_empty() {
        said.push(format!("with this still drawing: {}", told.still_draws.trim_end_matches('.')));
    }
    said.join(", ")
}
