//! The one sentence of a bank: what to do, then why, from everything that is known of it.

use super::due::{DueReader, due};
use super::finding::speak;
use super::names::short_day;
use super::non_responding::non_responding_clause;
use super::verdict::{even, round_verdict};
use super::volts::rest_line;
use crate::bank_state::BankState;
use crate::finding::{EqualizeFinding, Finding, FindingKind};
use crate::severity::Severity;

/// The sentence on top of a bank. It speaks for all of it, not for its last round alone.
pub fn bank_verdict(state: &BankState, reader: &DueReader) -> String {
    let lead = state.findings.first().filter(|f| f.severity >= Severity::Watch);
    match (lead, &state.round, &state.rest) {
        (Some(lead), Some(round), _) if lead.of_round().is_some() => {
            round_verdict(&state.findings, round, reader.today, reader.units)
        }
        (Some(lead), _, _) => lead_said(lead, reader),
        (None, Some(round), _) => match even(&state.findings, round) {
            Some(even) => format!("{even} {}", next(state, reader, "Nothing is due.")),
            None => round_verdict(&state.findings, round, reader.today, reader.units),
        },
        (None, None, Some(rest)) => {
            format!("{} {}", rest_line(rest), next(state, reader, "")).trim_end().to_owned()
        }
        (None, None, None) if reader.construction.has_caps() => {
            "No round yet: the first one is the baseline for all that follow.".into()
        }
        (None, None, None) => {
            "Sealed batteries: there is no gravity to read, and nothing here is opened.".into()
        }
    }
}

/// What is due now or next, as a clause of its own.
fn next(state: &BankState, reader: &DueReader, otherwise: &str) -> String {
    let said = |item| due(item, reader).title;
    let now = state.due.iter().find(|item| item.date <= reader.today);
    let first = state.due.iter().min_by_key(|item| item.date);
    match (now, first) {
        (Some(item), _) if item.date == reader.today => format!("Due today: {}.", said(item)),
        (Some(item), _) => format!("Due since {}: {}.", short_day(item.date, reader.today), said(item)),
        (None, Some(item)) => {
            format!("Nothing to do before {}: {}.", short_day(item.date, reader.today), said(item))
        }
        (None, None) => otherwise.to_owned(),
    }
}

fn lead_said(lead: &Finding, reader: &DueReader) -> String {
    if let FindingKind::Equalize(EqualizeFinding::NonResponding { cell }) = &lead.kind {
        let (own, battery) = (cell.cell, cell.cell.battery);
        return format!(
            "Plan to replace battery {battery}: cell {own} {}.",
            non_responding_clause(*cell, reader.today)
        );
    }
    let words = speak(lead, reader.units);
    format!("{}. {}", words.headline, words.advice)
}
