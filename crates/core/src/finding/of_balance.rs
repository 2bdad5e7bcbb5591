//! Findings about the spread of the whole bank (RD-4).

use super::{Case, Finding, FindingKind, RuleId, Tolerance};
use crate::round::{Balance, BalanceVerdict};
use crate::severity::Severity;

pub(super) fn spread(case: &Case<'_>) -> Option<Finding> {
    let balance = case.assessment.balance?;
    let spread = balance.spread;
    let (kind, condition, limit, whose) = match balance.verdict {
        BalanceVerdict::Even => return None,
        BalanceVerdict::Watch => {
            (FindingKind::SpreadWatch { spread }, Severity::Watch, balance.watch, case.house())
        }
        BalanceVerdict::Equalize => (
            FindingKind::SpreadEqualize { spread, proven_full: case.round.conditions.proven_full.is_some() },
            Severity::Act,
            balance.equalize,
            case.equalize_owner(),
        ),
    };
    let cells = case.assessment.spread.map(|s| vec![s.lowest, s.highest]).unwrap_or_default();
    Some(Finding {
        kind,
        condition,
        cells,
        rule: RuleId::Rd4,
        tolerance: Some(Tolerance { limit, whose }),
        certainty: case.certainty(spread, limit),
        other_houses: case.others(condition, |limits| {
            let u = case.assessment.uncertainty.deviation;
            let certain =
                case.assessment.cells.iter().filter(|c| c.deviation.is_some() && c.question.is_none());
            Balance::of(spread, certain.count(), u, limits).condition()
        }),
    })
}
