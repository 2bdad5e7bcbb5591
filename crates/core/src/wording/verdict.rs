//! The one plain sentence on top: what to do, then why.

use super::{names, unusable};
use crate::finding::{Finding, FindingKind};
use crate::quantity::Points;
use crate::round::Assessment;
use crate::schedule::FAR_FROM_FULL;
use crate::severity::Severity;

/// The verdict of a round, made from its worst finding.
pub fn verdict(assessment: &Assessment) -> String {
    let of = |pick: fn(&FindingKind) -> bool| assessment.findings.iter().find(|f| pick(&f.kind));
    if let Some(Finding { kind: FindingKind::NotJudged { reasons }, .. }) =
        of(|k| matches!(k, FindingKind::NotJudged { .. }))
    {
        let why: Vec<&str> = reasons.iter().map(|r| unusable(*r)).collect();
        return format!("Kept, not judged: {}. Read the cells again at rest.", why.join(", and "));
    }
    if assessment.centre.is_none() {
        return "No cell has a reading yet.".into();
    }
    let suspect = of(|k| matches!(k, FindingKind::SuspectCell { .. }));
    let equalize = of(|k| matches!(k, FindingKind::SpreadEqualize { .. }));
    match (suspect, equalize) {
        (Some(cell), Some(spread)) => {
            format!("{}: cell {}.", equalize_first(&spread.kind), suspect_clause(cell))
        }
        (Some(cell), None) => format!("Test cell {}: it {}.", cell.cells[0], sunk(&cell.kind)),
        (None, Some(spread)) => {
            format!("{}: {}.", equalize_first(&spread.kind), apart(assessment, spread))
        }
        (None, None) => mild(assessment),
    }
}

/// "the cells lie 46 points apart, from A2-2 up to A1-1".
pub(super) fn apart(assessment: &Assessment, spread: &Finding) -> String {
    let by = assessment.spread.map_or(Points::ZERO, |s| s.points);
    format!(
        "the cells lie {} apart, from {} up to {}",
        names::points(by.value()),
        spread.cells[0],
        spread.cells[1]
    )
}

fn equalize_first(kind: &FindingKind) -> &'static str {
    match kind {
        FindingKind::SpreadEqualize { proven_full: true, .. } => "Equalize",
        _ => "Charge fully, then equalize",
    }
}

fn suspect_clause(finding: &Finding) -> String {
    format!("{} {}", finding.cells[0], sunk(&finding.kind))
}

/// "has sunk 31 points below the bank, and the gap has grown over 14 months".
fn sunk(kind: &FindingKind) -> String {
    match kind {
        FindingKind::SuspectCell { sinking: Some(sinking), .. } => {
            format!("{}, and the gap has grown for {}", lies(kind), names::span(sinking.days))
        }
        _ => lies(kind),
    }
}

/// "has sunk 31 points below the bank".
pub(super) fn lies(kind: &FindingKind) -> String {
    let FindingKind::SuspectCell { deviation, sinking, .. } = kind else {
        return "needs a second look".into();
    };
    let verb = if sinking.is_some() { "has sunk" } else { "stands" };
    format!("{verb} {} below the bank", names::points(deviation.value()))
}

/// The sentence when nothing asks for an equalize or a hunt.
fn mild(assessment: &Assessment) -> String {
    let worst = assessment.findings.first();
    let spread = assessment.spread.map_or(Points::ZERO, |s| s.points);
    let within =
        format!("all {} cells lie within {}", assessment.cells_judged, names::points(spread.value()));
    let Some(finding) = worst.filter(|f| f.condition > Severity::NoReading) else {
        let unread = assessment.cells_in_bank - assessment.cells_judged;
        let far =
            assessment.state_of_charge.filter(|s| s.percent < FAR_FROM_FULL && assessment.level.is_none());
        return if let (0, Some(charge)) = (unread, far) {
            // Even half-empty plates sulfate: evenness alone is no good news (CH-5).
            format!(
                "Even, at {:.0} % charge: {within}. Charge it fully and read it again; only then it shows whether it fills.",
                charge.percent
            )
        } else if unread == 0 {
            format!("The bank is even: {within}. Nothing to do before the next round.")
        } else {
            let few = assessment.cells_judged == 1;
            if few {
                return format!("One cell read, {unread} not read: nothing to compare it with yet.");
            }
            format!(
                "Even so far: {} cells lie within {}; {unread} not read.",
                assessment.cells_judged,
                names::points(spread.value())
            )
        };
    };
    let cells = names::cells(&finding.cells);
    match &finding.kind {
        FindingKind::LowCells { lowest, alone: true, .. } => format!(
            "Watch cell {cells}: it stands alone, {} below an even bank.",
            names::points(lowest.value())
        ),
        FindingKind::LowCells { lowest, .. } if finding.cells.len() == 1 => {
            format!("Watch cell {cells}: it stands {} below the bank.", names::points(lowest.value()))
        }
        FindingKind::LowCells { lowest, .. } => format!(
            "Watch {} low cells, {} the lowest at {} below the bank.",
            names::number_word(finding.cells.len()),
            finding.cells[0],
            names::points(lowest.value())
        ),
        FindingKind::HighCells { highest } => format!(
            "Watch {cells}: {} above the bank at most; high cells hint at a low level.",
            names::points(highest.value())
        ),
        FindingKind::LowPair { .. } => format!("Watch {cells}: two neighbours in one case are low together."),
        FindingKind::LowBattery { battery, .. } => {
            format!("Watch battery {battery}: all of its cells are low together.")
        }
        FindingKind::Gradient { low_end, high_end, .. } => {
            format!(
                "Watch the row from {high_end} to {low_end}: it falls towards {low_end}, as from warm to cold."
            )
        }
        FindingKind::LowString { letter, .. } => format!("Watch string {letter}: it stands low as a whole."),
        FindingKind::SpreadWatch { spread } => format!(
            "Watch the spread: the cells lie {} apart, wider than an even bank.",
            names::points(spread.value())
        ),
        FindingKind::ShortOfFull { short, .. } => format!(
            "Find out why it does not fill: the bank stands {} short of full after a full charge.",
            names::points(short.value())
        ),
        FindingKind::AboveFull { above, .. } => format!(
            "Check the levels before anything else: the bank stands {} above full.",
            names::points(above.value())
        ),
        FindingKind::RestVoltsDisagree { .. } => {
            "Check the meter and the hydrometer: rest volts and gravity tell different stories.".into()
        }
        FindingKind::Reread { .. } => format!("Re-read {cells} before this round is judged."),
        FindingKind::OffScale { above } => format!(
            "Find out what is in {cells}: the float stood {} the scale.",
            if *above { "above" } else { "below" }
        ),
        _ => format!("Look at {cells}."),
    }
}
