//! What happened in a run, line by line, and how it ended in a few words.

use super::names::hours_minutes;
use super::{end_said, run_kind, run_span};
use crate::equalize::{Alarm, EndWhy, PauseWhy, Phase, RunEntry, RunKind};

/// A line of the log; none for what is told elsewhere: checks and readings. `puts_back` says that what it
/// takes back had itself taken a reading back.
pub fn run_entry(entry: &RunEntry, puts_back: bool) -> Option<String> {
    Some(match entry {
        RunEntry::Confirmed { .. } | RunEntry::Skipped { .. } | RunEntry::Read { .. } => return None,
        RunEntry::Began => "Charger switched to equalize.".into(),
        RunEntry::Paused { why } => match why {
            PauseWhy::Reading => "Paused for a reading.".into(),
            PauseWhy::Heat => "Paused to cool.".into(),
            PauseWhy::Other => "Paused by hand.".into(),
        },
        RunEntry::Resumed => "Switched on again.".into(),
        RunEntry::Ended { why } => end_said(*why).into(),
        RunEntry::TakenBack => "The stop was taken back.".into(),
        RunEntry::ClockSet { hours } => format!(
            "The clock of this machine was set {} by {}; the run counts on as if it had not been.",
            if *hours < 0.0 { "back" } else { "forward" },
            run_span(hours.abs())
        ),
        RunEntry::Note { text } => text.clone(),
        RunEntry::Withdrawn { .. } if puts_back => "The reading that was taken back counts again.".into(),
        RunEntry::Withdrawn { .. } => "A reading was taken back.".into(),
    })
}

/// Said on the page of a run while the clock was set, hours; empty: it was not.
pub fn clock_set(hours: f64) -> String {
    if hours.abs() <= 1e-9 {
        return String::new();
    }
    format!(
        "The clock of this machine was set by {} while this ran. Hours are counted as if it had not been.",
        run_span(hours.abs())
    )
}

/// "corrective, 3:01 h, stopped by the rule".
pub fn run_over(kind: RunKind, hours: f64, why: Option<EndWhy>) -> String {
    let how = match why {
        Some(EndWhy::Rule) => "stopped by the rule",
        Some(EndWhy::Cap) => "stopped at its cap",
        Some(EndWhy::Heat) => "stopped by heat",
        Some(EndWhy::Hand) | None => "stopped by hand",
    };
    format!("{}, {} h, {how}", run_kind(kind), hours_minutes(hours))
}

/// Title of the window of a run, so that a tab in the back says what to do.
pub fn run_title(alarm: Option<Alarm>, phase: Phase, place: &str) -> String {
    let title = match (alarm, phase) {
        (Some(Alarm::Stop), _) => "STOP the charger",
        (Some(Alarm::Pause), _) => "Pause the charger",
        (Some(Alarm::Charger), _) => "Look at the charger",
        (Some(Alarm::Resume), _) => "Press Resume",
        (Some(Alarm::Reading), _) => "Reading due",
        (None, Phase::Before) => "Before the run",
        (None, Phase::Running) => "Equalizing",
        (None, Phase::Paused { .. }) => "Paused",
        (None, Phase::Ended { .. }) => "Run over",
    };
    format!("{title} \u{b7} {place}")
}
