//! Findings about the round as a whole (RD-1, RD-5 level, RD-9, SG-3, SG-4, SG-6).

use super::{Case, Certainty, Finding, RoundFinding, RuleId, Tolerance, about, measured};
use crate::electrolyte::CROSS_CHECK_LIMIT_VOLTS;
use crate::finding::Bound;
use crate::round::rest_check::{DEAD_CELL_VOLTS, LAYERED_VOLTS};
use crate::round::{Level, RestStory};
use crate::severity::Severity;

/// The round is kept and not judged.
pub(super) fn not_judged(case: &Case<'_>) -> Option<Finding> {
    let reasons = case.assessment.usability.unusable.clone();
    let kind = || RoundFinding::NotJudged { reasons: reasons.clone() };
    (!reasons.is_empty()).then(|| about(Vec::new(), kind(), Severity::NoReading, RuleId::Rd1))
}

/// What stands over full, by acid or by low levels.
pub(super) fn over_full(case: &Case<'_>) -> Option<Finding> {
    let over = case.over_full?;
    let full = case.round.model.full_gravity;
    let (kind, rule) = match over.low_level {
        Some(below_mark) => (RoundFinding::LowLevels { below_mark, above: over.by }, RuleId::Sg4),
        None if over.all => (RoundFinding::AboveFull { above: over.by, full }, RuleId::Sg6),
        None => (RoundFinding::AcidInCells { above: over.by, full }, RuleId::Sg6),
    };
    let finding = about(over.cells.clone(), kind, Severity::Watch, rule);
    let tolerance = Tolerance::of_every_house(Bound::Points(over.limit));
    Some(measured(finding, tolerance, case.certainty(over.by, over.limit)))
}

/// Short of full after a proven full charge, or far from it where nobody proved it.
pub(super) fn short_of_full(case: &Case<'_>) -> Option<Finding> {
    let off = case.off_full.filter(|off| off.level() == Level::Low)?;
    let (short, full) = (off.off, case.round.model.full_gravity);
    let (kind, rule) = if case.round.conditions.is_proven_full() {
        (RoundFinding::ShortOfFull { short, full }, RuleId::Rd5)
    } else {
        (RoundFinding::FarFromFull { short, full }, RuleId::Rd9)
    };
    let tolerance = Tolerance::of_every_house(Bound::Points(off.low));
    let finding = about(Vec::new(), kind, Severity::Watch, rule);
    Some(measured(finding, tolerance, case.certainty(short, off.low)))
}

/// What settled volts say beside the gravity.
pub(super) fn rest_volts(case: &Case<'_>) -> Option<Finding> {
    let rest = case.assessment.rest?;
    let (measured_volts, expected) = (rest.measured_cell_volts?, rest.expected_cell_volts);
    let per_cell = |volts| Bound::VoltsPerCell { volts };
    let (kind, severity, limit) = match rest.story {
        RestStory::Agree => return None,
        RestStory::Layered => (
            RoundFinding::Stratified { measured: measured_volts, expected },
            Severity::Watch,
            per_cell(LAYERED_VOLTS),
        ),
        RestStory::DeadCells { cells } => (
            RoundFinding::DeadCell {
                short: rest.short,
                cells,
                one_battery: case.round.shape.batteries().count() == 1,
            },
            Severity::Act,
            Bound::Volts { volts: DEAD_CELL_VOLTS, by_meter: false },
        ),
        RestStory::Under | RestStory::OnCharge => (
            RoundFinding::RestVoltsDisagree { measured: measured_volts, expected },
            Severity::Watch,
            per_cell(CROSS_CHECK_LIMIT_VOLTS),
        ),
    };
    let finding = about(Vec::new(), kind, severity, RuleId::Sg3);
    Some(measured(finding, Tolerance::of_every_house(limit), Certainty::Clear))
}
