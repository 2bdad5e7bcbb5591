//! Findings about the round as a whole (RD-1, RD-5 level, SG-3, SG-6).

use super::{Case, Certainty, Finding, FindingKind, RuleId, Tolerance};
use crate::instrument::Limit;
use crate::quantity::Points;
use crate::round::Level;
use crate::severity::Severity;

/// A finding that names no cell.
fn of_the_bank(kind: FindingKind, condition: Severity, rule: RuleId, certainty: Certainty) -> Finding {
    Finding { kind, condition, cells: Vec::new(), rule, tolerance: None, certainty, other_houses: Vec::new() }
}

/// The round is kept and not judged.
pub(super) fn not_judged(case: &Case<'_>) -> Option<Finding> {
    let reasons = case.assessment.usability.unusable.clone();
    let kind = || FindingKind::NotJudged { reasons: reasons.clone() };
    (!reasons.is_empty()).then(|| of_the_bank(kind(), Severity::NoReading, RuleId::Rd1, Certainty::Recorded))
}

/// Short of full, or above it, after a proven full charge.
pub(super) fn level(case: &Case<'_>, level: Option<(Level, Points, Limit)>) -> Option<Finding> {
    let (level, off, limit) = level?;
    let full = case.round.model.full_gravity;
    let (kind, rule) = match level {
        Level::Full => return None,
        Level::Low => (FindingKind::ShortOfFull { short: off, full }, RuleId::Rd5),
        Level::High => (FindingKind::AboveFull { above: off, full }, RuleId::Sg6),
    };
    let tolerance = Some(Tolerance { limit, whose: "every house rule set".into() });
    Some(Finding { tolerance, ..of_the_bank(kind, Severity::Watch, rule, case.certainty(off, limit)) })
}

/// Settled volts and gravity disagree.
pub(super) fn rest_volts(case: &Case<'_>) -> Option<Finding> {
    let rest = case.assessment.rest.filter(|r| r.disagrees)?;
    let kind = FindingKind::RestVoltsDisagree {
        measured: rest.measured_cell_volts?,
        expected: rest.expected_cell_volts,
    };
    Some(of_the_bank(kind, Severity::Watch, RuleId::Sg3, Certainty::Clear))
}
