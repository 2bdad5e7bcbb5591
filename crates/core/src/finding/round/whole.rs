//! Findings about the round as a whole (RD-1, RD-5 level, SG-3, SG-6).

use super::{Case, Certainty, Finding, RoundFinding, RuleId, Tolerance, about, measured};
use crate::electrolyte::CROSS_CHECK_LIMIT_VOLTS;
use crate::finding::Bound;
use crate::instrument::Limit;
use crate::quantity::Points;
use crate::round::Level;
use crate::severity::Severity;

/// The round is kept and not judged.
pub(super) fn not_judged(case: &Case<'_>) -> Option<Finding> {
    let reasons = case.assessment.usability.unusable.clone();
    let kind = || RoundFinding::NotJudged { reasons: reasons.clone() };
    (!reasons.is_empty()).then(|| about(Vec::new(), kind(), Severity::NoReading, RuleId::Rd1))
}

/// Short of full, or above it, after a proven full charge.
pub(super) fn level(case: &Case<'_>, level: Option<(Level, Points, Limit)>) -> Option<Finding> {
    let (level, off, limit) = level?;
    let full = case.round.model.full_gravity;
    let (kind, rule) = match level {
        Level::Full => return None,
        Level::Low => (RoundFinding::ShortOfFull { short: off, full }, RuleId::Rd5),
        Level::High => (RoundFinding::AboveFull { above: off, full }, RuleId::Sg6),
    };
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    let finding = about(Vec::new(), kind, Severity::Watch, rule);
    Some(measured(finding, tolerance, case.certainty(off, limit)))
}

/// Settled volts and gravity disagree.
pub(super) fn rest_volts(case: &Case<'_>) -> Option<Finding> {
    let rest = case.assessment.rest.filter(|r| r.disagrees)?;
    let kind = RoundFinding::RestVoltsDisagree {
        measured: rest.measured_cell_volts?,
        expected: rest.expected_cell_volts,
    };
    let limit = Bound::VoltsPerCell { volts: CROSS_CHECK_LIMIT_VOLTS };
    let finding = about(Vec::new(), kind, Severity::Watch, RuleId::Sg3);
    Some(measured(finding, Tolerance::of_every_house(limit), Certainty::Clear))
}
