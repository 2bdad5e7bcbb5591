//! An equalize in the report: what was seen to before it, how it went, what it did.

use super::escaped;
use super::table::table;
use crate::app::report_context::ReportedRun;
use rainshadow_core::equalize::{EndWhy, Phase};
use rainshadow_core::wording;
use std::fmt::Write as _;

/// The equalizes among what was done: those that ended by the rule or at their cap, and those that were stopped
/// before, which are none.
pub fn equalized(all: &[ReportedRun]) -> Vec<String> {
    let line = |t: &ReportedRun| {
        let hours = wording::hours_minutes(t.context.now.elapsed);
        let kind = wording::run_kind(t.context.run.kind);
        Some(match t.context.run.ended_why? {
            EndWhy::Rule => format!("Equalized ({kind}, {hours} h)"),
            EndWhy::Cap => format!("Equalized ({kind}, {hours} h), stopped at the longest that is allowed"),
            EndWhy::Heat => format!("An equalize was begun ({kind}) and stopped by heat after {hours} h"),
            EndWhy::Hand => format!("An equalize was begun ({kind}) and stopped by hand after {hours} h"),
        })
    };
    all.iter().filter_map(line).collect()
}

/// Who watched it, as far as somebody said that he stays.
fn watched_by(told: &ReportedRun) -> String {
    let who = told.context.stays();
    if who.is_empty() {
        ". Nobody is noted as having stayed with it".into()
    } else {
        format!(", watched by {who}")
    }
}

/// What of the checks was seen to, and what was left out and why.
fn checks(out: &mut String, told: &ReportedRun) {
    let all = told.context.checks(told.units);
    let (left, seen): (Vec<_>, Vec<_>) =
        all.into_iter().filter(|c| c.by.is_some()).partition(|c| !c.reason.is_empty());
    if !seen.is_empty() {
        let names: Vec<String> =
            seen.iter().map(|c| format!("{} ({})", c.name, c.by.clone().unwrap_or_default())).collect();
        let _ = write!(out, "<p class=\"small\">Confirmed before it: {}.</p>", escaped(&names.join("; ")));
    }
    for check in left {
        let _ = write!(
            out,
            "<p><b>Left out: {}.</b> {} ({})</p>",
            escaped(&check.name),
            escaped(&wording::stopped(&check.reason)),
            escaped(&check.by.unwrap_or_default())
        );
    }
}

fn readings(out: &mut String, told: &ReportedRun) {
    let lines = told.context.reading_lines(told.units);
    if lines.is_empty() {
        out.push_str("<p>No reading was taken.</p>");
        return;
    }
    let mut head = vec!["At".to_owned(), "On equalize".to_owned()];
    head.extend(told.context.watched.iter().map(ToString::to_string));
    head.extend(["Electrolyte", "V", "A", "By"].map(ToOwned::to_owned));
    let rows: Vec<Vec<String>> = lines
        .into_iter()
        .map(|r| {
            let mut row = vec![r.at, wording::hours_minutes(r.hours)];
            row.extend(r.gravities);
            let told = |figure: String, by_charger| {
                if by_charger { format!("{figure} (charger)") } else { figure }
            };
            let (volts, amperes) = (told(r.volts, r.volts_told), told(r.amperes, r.amperes_told));
            row.extend([r.temperature_said, volts, amperes, r.by]);
            row
        })
        .collect();
    let head: Vec<&str> = head.iter().map(String::as_str).collect();
    table(out, &head, &rows);
}

/// The equalizes of a visit.
pub fn runs(out: &mut String, all: &[ReportedRun]) {
    for told in all {
        let context = &told.context;
        let _ = write!(out, "<h2>Equalize, {}</h2>", wording::run_kind(context.run.kind));
        let how = match context.now.phase {
            // What the page of the run says of how it ended.
            Phase::Ended { .. } => context.verdict(told.units),
            Phase::Before => "It was prepared and has not begun.".into(),
            Phase::Running | Phase::Paused { .. } => "It is still under way.".into(),
        };
        let verdict = match &told.outcome.finding {
            Some(finding) => wording::outcome_verdict(finding, told.units),
            None if told.outcome.unread.is_empty() => {
                "What it did shows in the round after it, which has not been read yet.".to_owned()
            }
            None => wording::unread_after(&told.outcome.unread),
        };
        let _ = write!(out, "<p><b>{}</b></p>", escaped(&verdict));
        let _ = write!(
            out,
            "<p>{} {} h on equalize at {:.1} V{}. At most {} of water boiled off.</p>",
            escaped(&how),
            wording::hours_minutes(context.now.elapsed),
            context.run.plan.plan.setpoint.volts,
            escaped(&watched_by(told)),
            escaped(&context.water_said(told.units))
        );
        checks(out, told);
        readings(out, told);
        for line in context.log_lines().iter().rev() {
            let _ = write!(
                out,
                "<p class=\"small\">{}, {}: {}</p>",
                escaped(&line.at),
                escaped(&line.by),
                escaped(&line.said)
            );
        }
        if let (Some(judged), Some(finding)) = (&told.outcome.judged, &told.outcome.finding) {
            let found = wording::speak(finding, told.units);
            let others = judged.cells.len() - judged.told_of().count();
            let moved: Vec<Vec<String>> = judged
                .told_of()
                .map(|c| {
                    vec![
                        c.cell.to_string(),
                        wording::signed(c.before),
                        wording::signed(c.after),
                        wording::signed(c.after - c.before),
                    ]
                })
                .collect();
            if !moved.is_empty() {
                table(out, &["Cell", "Before, points", "After, points", "Gain"], &moved);
            }
            let _ = write!(
                out,
                "<p class=\"small\">The other {others} cells stayed within {} points of the bank.</p>",
                judged.steady()
            );
            let _ = write!(
                out,
                "<p class=\"small\">{}</p>",
                escaped(&format!("{}. {}", found.rule, found.source))
            );
        }
    }
}
