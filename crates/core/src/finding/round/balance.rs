//! Findings about the spread of the whole bank (RD-4).

use super::{Case, Finding, RoundFinding, RuleId, Tolerance, about, measured};
use crate::finding::Bound;
use crate::round::{Balance, BalanceVerdict};
use crate::severity::Severity;

pub(super) fn spread(case: &Case<'_>) -> Option<Finding> {
    let balance = case.assessment.balance?;
    let (spread, ends) = (balance.spread, case.assessment.spread);
    let (kind, severity, limit, whose) = match balance.verdict {
        BalanceVerdict::Even => return None,
        BalanceVerdict::Watch => {
            (RoundFinding::SpreadWatch { spread, ends }, Severity::Watch, balance.watch, case.house())
        }
        BalanceVerdict::Equalize => (
            RoundFinding::SpreadEqualize {
                spread,
                proven_full: case.round.conditions.proven_full.is_some(),
                ends,
                after_run: None,
            },
            Severity::Act,
            balance.equalize,
            case.equalize_owner(),
        ),
    };
    let cells = case.assessment.spread.map(|s| vec![s.lowest, s.highest]).unwrap_or_default();
    let finding = about(cells, kind, severity, RuleId::Rd4);
    let tolerance = Tolerance { limit: Bound::Points(limit), whose };
    Some(Finding {
        other_houses: case.others(severity, |limits| {
            let u = case.assessment.uncertainty.deviation;
            let certain =
                case.assessment.cells.iter().filter(|c| c.deviation.is_some() && c.question.is_none());
            Balance::of(spread, certain.count(), u, limits).condition()
        }),
        ..measured(finding, tolerance, case.certainty(spread, limit))
    })
}
