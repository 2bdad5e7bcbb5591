//! A run that is under way, and what it did, in words.

use super::equalize::{FALLING, not_answering, still_to_come, tenths};
use super::names::{cells, points, sentence, stopped};
use super::{degrees, hours_minutes, speak};
use crate::equalize::{
    ABORT_AT, Advice, EndWhy, LEAST_HOURS, Outcome, PAUSE_AT, PauseWhy, Phase, RESUME_BELOW,
    RunEntryQuestion, RunKind, RunNow, RunQuestion, RunRefused, SLOPE_LEFT,
};
use crate::finding::Finding;
use crate::quantity::units::ReaderUnits;

/// "25 minutes", "2 h 10".
pub fn run_span(hours: f64) -> String {
    let minutes = (hours * 60.0).round().max(0.0);
    match minutes {
        m if m < 1.5 => "1 minute".into(),
        m if m < 90.0 => format!("{m:.0} minutes"),
        m => format!("{:.0} h {:02.0}", (m / 60.0).floor(), m % 60.0),
    }
}

/// The sentence on top of a run: what to do now, then why. `reading_at` is the time of day of the next
/// reading, `float` the volts to turn the charger down to.
pub fn run_verdict(run: &RunNow, kind: RunKind, reading_at: &str, float: f64, units: ReaderUnits) -> String {
    let down = format!("turn the charger down to float, {float:.1} V");
    match (run.phase, run.state.advice) {
        (Phase::Before, _) if run.open_checks.is_empty() => {
            "All is seen to. Switch the charger to equalize, then press Begin.".into()
        }
        (Phase::Before, _) => "See to these before the charger is switched to equalize.".into(),
        (Phase::Ended { why: EndWhy::Hand }, _) if !run.compliance.is_an_equalize() => {
            format!("The run is over. {}", not_on_equalize(run))
        }
        (Phase::Ended { why }, _) => end_said(why).into(),
        (_, Advice::Abort) => format!(
            "Stop now, at the charger’s switch or breaker, never at the posts: a cell is at {} or above.",
            degrees(ABORT_AT, units)
        ),
        (_, Advice::Done | Advice::TimeOver | Advice::Cap) if !run.compliance.is_an_equalize() => {
            format!("Stop, or switch the charger to equalize. {}", not_on_equalize(run))
        }
        (_, Advice::Done) => format!("Stop: the gravity has stopped rising. In the charger, {down}."),
        (_, Advice::TimeOver) => format!("Stop: the hour of a stir is over. In the charger, {down}."),
        (_, Advice::Cap) => format!(
            "Stop: {:.0} h is as long as such a run goes. It is stopped, not finished{}. In the charger, {down}.",
            kind.cap(),
            still_to_come(&run.state)
        ),
        (Phase::Paused { why: PauseWhy::Heat }, Advice::Pause) => {
            format!("Wait: go on only once the hottest cell is under {}.", degrees(RESUME_BELOW, units))
        }
        (Phase::Running | Phase::Paused { .. }, Advice::Pause) => format!(
            "Pause the charger: a cell is at {} or above. Go on under {}.",
            degrees(PAUSE_AT, units),
            degrees(RESUME_BELOW, units)
        ),
        (Phase::Paused { why: PauseWhy::Heat }, _) => {
            "It has cooled. Switch the charger on again and press Resume.".into()
        }
        (Phase::Paused { why: PauseWhy::Reading }, _) if run.pause_forgotten() => format!(
            "Paused for {}: is the charger on again? Then press Resume, or its hours are not counted.",
            run_span(run.paused_for.unwrap_or_default())
        ),
        (Phase::Paused { why: PauseWhy::Reading }, _) if run.read_in_pause() => {
            "The reading is kept. Switch the charger on again and press Resume.".into()
        }
        (Phase::Paused { why: PauseWhy::Reading }, _) => {
            "Charger off, fan on, face shield: wait five minutes, then read. Nobody leans over gassing cells."
                .into()
        }
        (Phase::Paused { .. }, _) => "Paused. The clock of the run stands until you press Resume.".into(),
        (Phase::Running, _) if run.compliance.off_setpoint.is_some() => off_setpoint(run),
        (Phase::Running, Advice::Falling) => FALLING.into(),
        (Phase::Running, Advice::NotAnswering) => not_answering(&run.state),
        (Phase::Running, Advice::GoOn) => match run.reading_in {
            Some(left) if left < 0.0 => {
                format!("Read now: the reading of {reading_at} is overdue by {}.", run_span(-left))
            }
            _ if kind == RunKind::Stir => format!("Keep going; the next reading is at {reading_at}."),
            _ => match (run.ends_at, ends_by_next(run)) {
                (Some(at), true) => format!(
                    "Keep going to the {reading_at} reading. If the mean then is {at} or less, the run is done."
                ),
                _ => format!("Keep going; the next reading is at {reading_at}."),
            },
        },
    }
}

/// What the charger gives instead of an equalize.
fn off_setpoint(run: &RunNow) -> String {
    let Some(gives) = run.compliance.off_setpoint else { return String::new() };
    let amperes = gives.amperes.map(|a| format!(" and {a:.1} A")).unwrap_or_default();
    format!(
        "Look at the charger: it gives {:.1} V{amperes}, which is no equalize. Switch it to equalize, or stop the run.",
        gives.volts
    )
}

/// Why a run does not count as an equalize.
fn not_on_equalize(run: &RunNow) -> String {
    format!(
        "It was on equalize for {} of the {} h that volts and amperes tell of: it does not count as an equalize.",
        hours_minutes(run.compliance.on_equalize),
        hours_minutes(run.compliance.told)
    )
}

/// True when the next reading comes late enough for the rule to end the run (EQ-4).
fn ends_by_next(run: &RunNow) -> bool {
    run.reading_in.is_some_and(|left| run.elapsed + left >= LEAST_HOURS - 1e-6)
}

/// Why a run ended, as a sentence.
pub const fn end_said(why: EndWhy) -> &'static str {
    match why {
        EndWhy::Rule => "The run is over: stopped by the rule.",
        EndWhy::Cap => "The run is over: stopped at its cap, not finished.",
        EndWhy::Heat => "The run is over: stopped because it was too hot. Do not start again today.",
        EndWhy::Hand => "The run is over: stopped by hand before the rule.",
    }
}

/// What to do at the charger when Stop is pressed.
pub fn stop_help(float: f64) -> String {
    format!("Turn the charger down to float, {float:.1} V. One press here ends and logs the run.")
}

/// How the rule stands, as a sentence.
pub fn rule_said(run: &RunNow, kind: RunKind) -> String {
    if kind == RunKind::Stir {
        return "A stir ends by time alone, after one hour.".into();
    }
    let rule = format!(
        "Done from {LEAST_HOURS} h on, when the mean rises by {SLOPE_LEFT} points an hour or less over two hours, and little is still to come"
    );
    match run.state.slope {
        Some(slope) if slope < 0.0 => format!("{rule}; now it falls by {} an hour.", tenths(slope)),
        Some(slope) => format!("{rule}; now it rises by {} an hour.", tenths(slope)),
        None => format!("{rule}. It takes four readings over an hour and a half."),
    }
}

/// The plateau and the hours left, as a sentence.
pub fn run_forecast(run: &RunNow, kind: RunKind) -> String {
    let Some(f) = run.forecast else {
        return if run.state.advice.stops() {
            "Nothing is left to forecast: the run is to be stopped.".into()
        } else if kind == RunKind::Stir {
            "Nothing is forecast for a stir.".into()
        } else {
            "Nothing is forecast before five readings of all watched cells.".into()
        };
    };
    let left = |at: f64| (at - run.elapsed).max(0.0);
    let cap = if f.by_cap { " The cap comes first." } else { "" };
    format!(
        "Plateau {:.3} ({:.3} to {:.3}); done in {} ({} to {}).{cap}",
        f.plateau.best,
        f.plateau.low,
        f.plateau.high,
        run_span(left(f.ends.best)),
        run_span(left(f.ends.low)),
        run_span(left(f.ends.high)),
    )
}

/// What is asked about a figure of a reading.
fn run_question(question: &RunQuestion, cell: &str, units: ReaderUnits) -> String {
    match question {
        RunQuestion::Moved { by, before, within } => {
            let way = if by.value() < 0.0 { "fell" } else { "rose" };
            format!(
                "Re-read {cell}? It {way} {} since the last reading, {before}; up to {} would be usual.",
                points(by.value()),
                points(within.value())
            )
        }
        RunQuestion::Warmed { by, before } => {
            let way = if *by < 0.0 { "cooler" } else { "warmer" };
            format!(
                "Re-read the temperature? It is much {way} than at the last reading, {}. Is the unit right?",
                degrees(*before, units)
            )
        }
        RunQuestion::MuchCurrent { amperes, most } => format!(
            "{amperes:.1} A is more than a run has: never above {most:.1} A, a tenth of C20. Read it again, or turn it down."
        ),
    }
}

/// What an entry of a run is asked about, all of it in one question.
pub fn run_entry_question(question: &RunEntryQuestion, units: ReaderUnits) -> String {
    match question {
        RunEntryQuestion::Reading(asked) => {
            let said = asked
                .iter()
                .map(|(q, cell)| run_question(q, &cell.map(|c| c.to_string()).unwrap_or_default(), units));
            said.collect::<Vec<_>>().join(" ")
        }
        RunEntryQuestion::StillHot(celsius) => format!(
            "Go on at {}? That was the last reading; a run goes on under {}. Read the temperature again first.",
            degrees(*celsius, units),
            degrees(RESUME_BELOW, units)
        ),
    }
}

/// Why an entry of a run is refused.
pub fn run_refused(why: &RunRefused) -> String {
    match why {
        RunRefused::Over { why } => format!("{} Nothing more is written into it but notes.", end_said(*why)),
        other => sentence(&stopped(&other.to_string())),
    }
}

/// What a run did, the sentence on top: "Evened: the spread went from 37 to 6 points."
pub fn outcome_verdict(finding: &Finding, units: ReaderUnits) -> String {
    let said = speak(finding, units);
    let mut seen = said.seen.chars();
    let seen: String = seen.next().map(|c| c.to_lowercase().to_string()).unwrap_or_default() + seen.as_str();
    format!("{}: {seen} {}", said.headline, said.advice).trim_end().to_owned()
}

/// Why rounds before and after a run do not tell what it did; empty: they do.
pub fn unread_after(unread: &[crate::bank::CellAddress]) -> String {
    if unread.is_empty() {
        return String::new();
    }
    let verb = if unread.len() == 1 { "has" } else { "have" };
    format!(
        "Not judged: {} {verb} no reading that stands on both rounds, and the run was watched by it.",
        cells(unread)
    )
}

/// What a run did in a few words, for a list.
pub fn outcome_short(outcome: &Outcome) -> String {
    match outcome {
        Outcome::Evened => "evened".into(),
        Outcome::DidNotAnswer { cells: non_responding } => {
            format!("{} did not answer", cells(non_responding))
        }
        Outcome::Helped => "helped".into(),
        Outcome::NoEffect => "no effect".into(),
    }
}
