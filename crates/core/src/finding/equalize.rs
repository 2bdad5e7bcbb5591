//! What equalizes did (EQ-5).

use super::{EqualizeFinding, Finding, FindingKind, RoundFinding, RuleId, Subject};
use crate::bank::CellAddress;
use crate::equalize::{NonRespondingCell, non_responding};
use crate::severity::Severity;

/// Cells that did not answer twice running: for replacement.
pub fn given_up(cells: &[NonRespondingCell]) -> Vec<Finding> {
    let given_up = cells.iter().filter(|cell| cell.is_given_up());
    given_up
        .map(|own| {
            let kind = FindingKind::Equalize(EqualizeFinding::NonResponding { cell: *own });
            let subject = Subject::Cell(own.cell);
            let finding = Finding::recorded(subject, kind, Severity::Act, RuleId::Eq5);
            Finding { id: format!("non_responding {}", own.cell), cells: vec![own.cell], ..finding }
        })
        .collect()
}

/// A finding of a round with what the runs before say of the cell it is about.
#[must_use]
pub fn after_runs(mut finding: Finding, runs: &[NonRespondingCell]) -> Finding {
    let about = |cells: &[CellAddress]| non_responding(runs, *cells.first()?).copied();
    // A house that only watches it is not told to act.
    if finding.severity == Severity::Act
        && let FindingKind::Round(
            RoundFinding::SuspectCell { after_run, .. } | RoundFinding::SpreadEqualize { after_run, .. },
        ) = &mut finding.kind
    {
        *after_run = about(&finding.cells);
    }
    finding
}
