//! The one plain sentence on top: what to do, then why.

use super::equalize_call::equalize_first;
use super::lead::lead_words;
use super::non_responding::non_responding_clause;
use super::{names, unusable};
use crate::finding::{EqualizeCall, Finding, RoundFinding};
use crate::quantity::Points;
use crate::quantity::units::ReaderUnits;
use crate::round::{Assessment, RoundSummary, Sinking};
use crate::severity::Severity;
use jiff::civil::Date;

/// The verdict of a round by itself, made from its worst finding.
pub fn verdict(assessment: &Assessment, units: ReaderUnits) -> String {
    // Without runs there is no day to tell.
    round_verdict(&assessment.findings, &assessment.summary(), Date::ZERO, units)
}

/// The verdict of a round from its findings, with what the runs before it say of the cells it is about.
pub fn round_verdict(findings: &[Finding], round: &RoundSummary, today: Date, units: ReaderUnits) -> String {
    let of = |pick: fn(&RoundFinding) -> bool| {
        findings.iter().find_map(|f| Some((f, f.of_round().filter(|kind| pick(kind))?)))
    };
    if let Some((_, RoundFinding::NotJudged { reasons })) =
        of(|k| matches!(k, RoundFinding::NotJudged { .. }))
    {
        let why: Vec<&str> = reasons.iter().map(|r| unusable(*r)).collect();
        return format!("Kept, not judged: {}. Read the cells again at rest.", why.join(", and "));
    }
    if round.cells_judged == 0 {
        return "No cell has a reading yet.".into();
    }
    match leading(findings) {
        Some((lead, found)) => lead_said(lead, found, today, units),
        None => quiet(findings, round),
    }
}

/// The finding of a round that leads; none where nothing asks.
fn leading(findings: &[Finding]) -> Option<(&Finding, &RoundFinding)> {
    let mut asking = findings.iter().filter(|f| f.severity > Severity::NoReading);
    asking.find_map(|f| Some((f, f.of_round()?)))
}

/// What to do, then why, by what leads.
fn lead_said(lead: &Finding, found: &RoundFinding, today: Date, units: ReaderUnits) -> String {
    if let Some(said) = after_runs(lead, today) {
        return said;
    }
    let cells = names::cells(&lead.cells);
    let equalize = equalize_first(lead.equalize);
    match (found, equalize) {
        (RoundFinding::SuspectCell { alone: true, .. }, Some(first)) => {
            format!("{first} with cell {cells} as the pilot: it {}.", sunk(found))
        }
        (RoundFinding::SuspectCell { .. }, Some(first)) => format!("{first}: cell {cells} {}.", sunk(found)),
        (RoundFinding::SuspectCell { .. }, None) => format!("Test cell {cells}: it {}.", sunk(found)),
        (RoundFinding::SpreadEqualize { .. }, Some(first)) => format!("{first}: {}.", apart(lead, found)),
        _ => lead_words(lead, found, equalize, &cells, units),
    }
}

/// The verdict where a cell it is about did not answer the last equalize.
fn after_runs(lead: &Finding, today: Date) -> Option<String> {
    if matches!(lead.equalize, EqualizeCall::Barred { .. }) {
        return None;
    }
    let found = lead.of_round()?;
    let (cell, told) = match found {
        RoundFinding::SuspectCell { after_run, .. } => {
            let cell = (*after_run)?;
            (cell, format!("cell {} {} and", cell.cell, lies(found)))
        }
        RoundFinding::LowCells { after_run, lowest, .. } => {
            let cell = (*after_run)?;
            (cell, format!("cell {} stands {} below the bank and", cell.cell, names::points(lowest.value())))
        }
        RoundFinding::SpreadEqualize { after_run, .. } => {
            let cell = (*after_run)?;
            (cell, format!("{}, and {}", apart(lead, found), cell.cell))
        }
        _ => return None,
    };
    // Once, and nothing asks for another equalize: the round speaks for itself.
    if equalize_first(lead.equalize).is_none() && !cell.is_given_up() {
        return None;
    }
    let told = format!("{told} {}", non_responding_clause(cell, today));
    Some(if cell.is_given_up() {
        format!("Plan to replace battery {}: {told}.", cell.cell.battery)
    } else {
        format!("Equalize once more: {told}.")
    })
}

/// "the cells lie 46 points apart, from A2-2 up to A1-1".
fn apart(finding: &Finding, found: &RoundFinding) -> String {
    let by = match found {
        RoundFinding::SpreadEqualize { spread, .. } | RoundFinding::SpreadWatch { spread, .. } => *spread,
        _ => Points::ZERO,
    };
    let by = names::points(by.value());
    match finding.cells.as_slice() {
        [low, high, ..] => format!("the cells lie {by} apart, from {low} up to {high}"),
        _ => format!("the cells lie {by} apart"),
    }
}

/// "has sunk 31 points below the bank, and the gap has grown over 14 months".
fn sunk(kind: &RoundFinding) -> String {
    match kind {
        RoundFinding::SuspectCell { sinking: Some(Sinking { outside_for: Some(days), .. }), .. }
            if *days >= 1.0 =>
        {
            format!("{}, and the gap has grown for {}", lies(kind), names::span(*days))
        }
        _ => lies(kind),
    }
}

/// "has sunk 31 points below the bank".
fn lies(kind: &RoundFinding) -> String {
    let RoundFinding::SuspectCell { deviation, sinking, .. } = kind else {
        return "needs a second look".into();
    };
    let verb = if sinking.is_some() { "has sunk" } else { "stands" };
    format!("{verb} {} below the bank", names::points(deviation.value()))
}

/// "all 24 cells lie within 8 points"; none for a single cell.
fn within(round: &RoundSummary) -> Option<String> {
    let spread = round.spread.unwrap_or(Points::ZERO);
    let how_many = match round.cells_judged {
        0 | 1 => return None,
        2 => "both".to_owned(),
        many => format!("all {many}"),
    };
    Some(if spread.value() < 0.5 {
        format!("{how_many} cells read the same")
    } else {
        format!("{how_many} cells lie within {}", names::points(spread.value()))
    })
}

/// "The bank is even: all 24 cells lie within 8 points."; none where that is not all there is to say.
pub(super) fn even(findings: &[Finding], round: &RoundSummary) -> Option<String> {
    let all_read = round.cells_judged > 0 && round.cells_judged == round.cells_in_bank;
    let quiet = leading(findings).is_none() && round.far_from_full().is_none();
    if !(all_read && quiet) {
        return None;
    }
    Some(match within(round) {
        Some(within) => format!("The bank is even: {within}."),
        None => "The one cell stands as it should.".into(),
    })
}

/// The sentence when nothing leads.
fn quiet(findings: &[Finding], round: &RoundSummary) -> String {
    if let Some(even) = even(findings, round) {
        return format!("{even} Nothing to do before the next round.");
    }
    let unread = round.cells_in_bank.saturating_sub(round.cells_judged);
    match (within(round), round.far_from_full()) {
        // Even half-empty plates sulfate: evenness alone is no good news (CH-5).
        (Some(within), Some(charge)) if unread == 0 => format!(
            "Even, at {charge:.0} % charge: {within}. Charge it fully and read it again; only then it shows whether it fills."
        ),
        (None, _) => format!("One cell read, {unread} not read: nothing to compare it with yet."),
        (Some(_), _) => {
            let spread = round.spread.unwrap_or(Points::ZERO).value();
            let alike = if spread < 0.5 {
                "read the same".into()
            } else {
                format!("lie within {}", names::points(spread))
            };
            format!("Even so far: {} cells {alike}; {unread} not read.", round.cells_judged)
        }
    }
}
