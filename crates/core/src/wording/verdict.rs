//! The one plain sentence on top: what to do, then why.

use super::non_responding::non_responding_clause;
use super::{names, unusable};
use crate::equalize::NonRespondingCell;
use crate::finding::{Finding, RoundFinding};
use crate::quantity::Points;
use crate::round::{Assessment, RoundSummary};
use crate::severity::Severity;
use jiff::civil::Date;

/// The verdict of a round by itself, made from its worst finding.
pub fn verdict(assessment: &Assessment) -> String {
    // Without runs there is no day to tell.
    round_verdict(&assessment.findings, &assessment.summary(), Date::ZERO)
}

/// The verdict of a round from its findings, with what the runs before it say of the cells it is about.
pub fn round_verdict(findings: &[Finding], round: &RoundSummary, today: Date) -> String {
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
    let suspect = of(|k| matches!(k, RoundFinding::SuspectCell { .. }));
    let equalize = of(|k| matches!(k, RoundFinding::SpreadEqualize { .. }));
    if let Some(said) = after_runs(suspect, equalize, today) {
        return said;
    }
    match (suspect, equalize) {
        (Some((cell, found)), Some((_, spread))) => {
            format!("{}: cell {} {}.", equalize_first(spread), cell.cells[0], sunk(found))
        }
        (Some((cell, found)), None) => format!("Test cell {}: it {}.", cell.cells[0], sunk(found)),
        (None, Some((finding, spread))) => format!("{}: {}.", equalize_first(spread), apart(finding, spread)),
        (None, None) => mild(findings, round),
    }
}

type Found<'a> = Option<(&'a Finding, &'a RoundFinding)>;

/// The verdict where a cell it is about did not answer the last equalize.
fn after_runs(suspect: Found<'_>, equalize: Found<'_>, today: Date) -> Option<String> {
    let (cell, told): (NonRespondingCell, String) = match (suspect, equalize) {
        (Some((_, found @ RoundFinding::SuspectCell { after_run, .. })), asked) => {
            let cell = (*after_run)?;
            // Once, and nothing asks for another equalize: the round speaks for itself.
            if asked.is_none() && !cell.is_given_up() {
                return None;
            }
            (cell, format!("cell {} {} and", cell.cell, lies(found)))
        }
        (None, Some((finding, found @ RoundFinding::SpreadEqualize { after_run, .. }))) => {
            let cell = (*after_run)?;
            (cell, format!("{}, and {}", apart(finding, found), cell.cell))
        }
        _ => return None,
    };
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

fn equalize_first(kind: &RoundFinding) -> &'static str {
    match kind {
        RoundFinding::SpreadEqualize { proven_full: true, .. } => "Equalize",
        _ => "Charge fully, then equalize",
    }
}

/// "has sunk 31 points below the bank, and the gap has grown over 14 months".
fn sunk(kind: &RoundFinding) -> String {
    match kind {
        RoundFinding::SuspectCell { sinking: Some(sinking), .. } => {
            format!("{}, and the gap has grown for {}", lies(kind), names::span(sinking.days))
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

/// The finding of a round that asks for most; none where nothing asks.
fn asking(findings: &[Finding]) -> Option<(&Finding, &RoundFinding)> {
    let mut asking = findings.iter().filter(|f| f.severity > Severity::NoReading);
    asking.find_map(|f| Some((f, f.of_round()?)))
}

/// "all 24 cells lie within 8 points".
fn within(round: &RoundSummary) -> String {
    let spread = round.spread.unwrap_or(Points::ZERO);
    format!("all {} cells lie within {}", round.cells_judged, names::points(spread.value()))
}

/// "The bank is even: all 24 cells lie within 8 points."; none where that is not all there is to say.
pub(super) fn even(findings: &[Finding], round: &RoundSummary) -> Option<String> {
    let all_read = round.cells_judged > 0 && round.cells_judged == round.cells_in_bank;
    let quiet = asking(findings).is_none() && round.far_from_full().is_none();
    (all_read && quiet).then(|| format!("The bank is even: {}.", within(round)))
}

/// The sentence when nothing asks for an equalize or a hunt.
fn mild(findings: &[Finding], round: &RoundSummary) -> String {
    if let Some(even) = even(findings, round) {
        return format!("{even} Nothing to do before the next round.");
    }
    let spread = round.spread.unwrap_or(Points::ZERO);
    let within = within(round);
    let Some((finding, found)) = asking(findings) else {
        let unread = round.cells_in_bank - round.cells_judged;
        let far = round.far_from_full();
        return if let (0, Some(charge)) = (unread, far) {
            // Even half-empty plates sulfate: evenness alone is no good news (CH-5).
            format!(
                "Even, at {charge:.0} % charge: {within}. Charge it fully and read it again; only then it shows whether it fills."
            )
        } else {
            let few = round.cells_judged == 1;
            if few {
                return format!("One cell read, {unread} not read: nothing to compare it with yet.");
            }
            format!(
                "Even so far: {} cells lie within {}; {unread} not read.",
                round.cells_judged,
                names::points(spread.value())
            )
        };
    };
    let cells = names::cells(&finding.cells);
    match found {
        RoundFinding::LowCells { lowest, alone: true, .. } => format!(
            "Watch cell {cells}: it stands alone, {} below an even bank.",
            names::points(lowest.value())
        ),
        RoundFinding::LowCells { lowest, .. } if finding.cells.len() == 1 => {
            format!("Watch cell {cells}: it stands {} below the bank.", names::points(lowest.value()))
        }
        RoundFinding::LowCells { lowest, .. } => format!(
            "Watch {} low cells, {} the lowest at {} below the bank.",
            names::number_word(finding.cells.len()),
            finding.cells[0],
            names::points(lowest.value())
        ),
        RoundFinding::HighCells { highest } => format!(
            "Watch {cells}: {} above the bank at most; high cells hint at a low level.",
            names::points(highest.value())
        ),
        RoundFinding::LowPair { .. } => {
            format!("Watch {cells}: two neighbours in one case are low together.")
        }
        RoundFinding::LowBattery { battery, .. } => {
            format!("Watch battery {battery}: all of its cells are low together.")
        }
        RoundFinding::Gradient { low_end, high_end, .. } => {
            format!(
                "Watch the row from {high_end} to {low_end}: it falls towards {low_end}, as from warm to cold."
            )
        }
        RoundFinding::LowString { letter, .. } => format!("Watch string {letter}: it stands low as a whole."),
        RoundFinding::SpreadWatch { spread, .. } => format!(
            "Watch the spread: the cells lie {} apart, wider than an even bank.",
            names::points(spread.value())
        ),
        RoundFinding::ShortOfFull { short, .. } => format!(
            "Find out why it does not fill: the bank stands {} short of full after a full charge.",
            names::points(short.value())
        ),
        RoundFinding::NeverFull { now, before } => format!(
            "Find out how it is charged: it stood at {now:.0} % on the last round and at {before:.0} % on the one before."
        ),
        RoundFinding::AboveFull { above, .. } => format!(
            "Check the levels before anything else: the bank stands {} above full.",
            names::points(above.value())
        ),
        RoundFinding::RestVoltsDisagree { .. } => {
            "Check the meter and the hydrometer: rest volts and gravity tell different stories.".into()
        }
        RoundFinding::Reread { .. } => format!("Re-read {cells} before this round is judged."),
        RoundFinding::OffScale { above } => format!(
            "Find out what is in {cells}: the float stood {} the scale.",
            if *above { "above" } else { "below" }
        ),
        _ => format!("Look at {cells}."),
    }
}
