//! What equalizes did (EQ-5).

use super::{
    Bound, Certainty, EqualizeFinding, Finding, FindingKind, RoundFinding, RuleId, Subject, Tolerance,
};
use crate::bank::CellAddress;
use crate::equalize::{NonRespondingCell, Outcome, RunAfter, non_responding};
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

/// What a run did, by its id; `house` is whose limit an even bank is judged by.
pub fn run_outcome(run: &str, after: &RunAfter, house: &str) -> Finding {
    let cells = match &after.outcome {
        Outcome::DidNotAnswer { cells } => cells.clone(),
        _ => Vec::new(),
    };
    let deviations = after.cells.iter().filter(|c| cells.contains(&c.cell)).map(|c| c.after);
    let kind = FindingKind::Equalize(EqualizeFinding::RunOutcome {
        outcome: after.outcome.clone(),
        before: after.before,
        after: after.after,
        told: after.told,
        lowest: deviations.reduce(|a, b| if a < b { a } else { b }),
    });
    let by_noise = after.even.noise_rules();
    Finding {
        id: format!("run_outcome {run}"),
        cells,
        tolerance: Some(Tolerance { limit: Bound::Points(after.even), whose: house.to_owned() }),
        certainty: if by_noise { Certainty::WithinInstrument } else { Certainty::Clear },
        ..Finding::recorded(Subject::Bank, kind, after.outcome.condition(), RuleId::Eq5)
    }
}

/// A finding of a round with what the runs before say of the cell it is about.
#[must_use]
pub fn after_runs(mut finding: Finding, runs: &[NonRespondingCell]) -> Finding {
    let about = |cells: &[CellAddress]| non_responding(runs, *cells.first()?).copied();
    // A house that only watches it is not told to act.
    if finding.severity == Severity::Act
        && let FindingKind::Round(
            RoundFinding::SuspectCell { after_run, .. }
            | RoundFinding::LowCells { after_run, .. }
            | RoundFinding::SpreadEqualize { after_run, .. },
        ) = &mut finding.kind
    {
        *after_run = about(&finding.cells);
    }
    finding
}
