//! A cell that did not answer an equalize, in words.

use super::due::short_day;
use super::verdict::{apart, lies};
use super::{SpokenFinding, verdict};
use crate::equalize::{SilentCell, silent};
use crate::finding::FindingKind;
use crate::round::Assessment;
use crate::severity::Severity;
use jiff::civil::Date;

/// "did not answer the equalize of 26 Aug".
pub(super) fn silent_clause(cell: SilentCell, today: Date) -> String {
    let last = short_day(cell.last, today);
    match cell.times {
        0 | 1 => format!("did not answer the equalize of {last}"),
        n => format!(
            "did not answer {} equalizes running, the last of {last}",
            super::names::number_word(n.into())
        ),
    }
}

fn advice(cell: SilentCell) -> String {
    let battery = cell.cell.battery;
    if cell.is_given_up() {
        format!("Plan to replace {battery}; a load test tells how much it holds back.")
    } else {
        format!(
            "Equalize once more with {} as the pilot; if it does not answer again, replace {battery}.",
            cell.cell
        )
    }
}

/// The verdict of a round, with what the runs before it say of the cell it is about.
pub fn verdict_after_runs(assessment: &Assessment, runs: &[SilentCell], today: Date) -> String {
    let of = |pick: fn(&FindingKind) -> bool| {
        let finding = assessment.findings.iter().find(|f| pick(&f.kind))?;
        Some((finding, *silent(runs, *finding.cells.first()?)?))
    };
    let suspect = of(|k| matches!(k, FindingKind::SuspectCell { .. }));
    let spread = of(|k| matches!(k, FindingKind::SpreadEqualize { .. }));
    let asked = assessment.findings.iter().any(|f| matches!(f.kind, FindingKind::SpreadEqualize { .. }));
    let (cell, told) = match (suspect, spread) {
        // Once silent, and nothing asks for another equalize: the round speaks for itself.
        (Some((_, cell)), _) if !asked && !cell.is_given_up() => return verdict(assessment),
        (Some((finding, cell)), _) => (cell, format!("cell {} {} and", cell.cell, lies(&finding.kind))),
        (None, Some((finding, cell))) => (cell, format!("{}, and {}", apart(assessment, finding), cell.cell)),
        (None, None) => return verdict(assessment),
    };
    let told = format!("{told} {}", silent_clause(cell, today));
    if cell.is_given_up() {
        format!("Plan to replace battery {}: {told}.", cell.cell.battery)
    } else {
        format!("Equalize once more: {told}.")
    }
}

/// A finding about a cell, or a spread down to it, with what the runs say of that cell.
#[must_use]
pub fn finding_after_runs(finding: SpokenFinding, runs: &[SilentCell], today: Date) -> SpokenFinding {
    let lowest = finding.cells.first();
    let about = runs.iter().find(|own| lowest.is_some_and(|cell| *cell == own.cell.to_string()));
    // A house that only watches it is not told to act.
    let asks = finding.condition == Severity::Act
        && ["RD-8", "RD-4"].iter().any(|rule| finding.rule.starts_with(rule));
    let Some(cell) = about.copied().filter(|_| asks) else { return finding };
    let seen = format!("{} {} {}.", finding.seen, cell.cell, silent_clause(cell, today));
    SpokenFinding { seen, advice: advice(cell), ..finding }
}

/// Why a run is worth it or not for a cell that did not answer, as a reason of the page that decides.
pub fn silent_reason(cell: SilentCell, today: Date) -> String {
    let clause = silent_clause(cell, today);
    if cell.is_given_up() {
        format!(
            "{} {clause}: another one brings the others together, not this cell. Replace {} first.",
            cell.cell, cell.cell.battery
        )
    } else {
        format!("{} {clause}; one that does not answer twice is replaced.", cell.cell)
    }
}
