//! Findings about the spread of the whole bank (RD-4), and whether it asks for an equalize (RD-9).

use super::{Case, Finding, RoundFinding, RuleId, Tolerance, about, measured};
use crate::finding::{BarredBy, Bound, EqualizeCall};
use crate::round::rest_check::UNEXPLAINED_VOLTS;
use crate::round::{Balance, BalanceVerdict, Spreads};
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
                proven_full: case.round.conditions.is_proven_full(),
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
    let spreads = Spreads { all: spread, without_high: balance.without_high, cells: case.cells };
    Some(Finding {
        other_houses: case.others(severity, |limits| {
            Balance::of(spreads, case.assessment.uncertainty.deviation, limits).condition()
        }),
        ..measured(finding, tolerance, case.certainty(spread, limit))
    })
}

/// What the round says about an equalize; what forbids one goes before what asks for it.
pub(super) fn call(case: &Case<'_>, findings: &[Finding]) -> EqualizeCall {
    let has = |pick: fn(&RoundFinding) -> bool| findings.iter().filter_map(Finding::of_round).any(pick);
    let short = case.assessment.rest.filter(|r| r.settled).map_or(0.0, |r| r.short);
    let bars = [
        (has(|f| matches!(f, RoundFinding::DeadCell { .. })), BarredBy::DeadCell),
        (!case.round.model.construction.has_caps(), BarredBy::Sealed),
        (
            has(|f| matches!(f, RoundFinding::AboveFull { .. } | RoundFinding::AcidInCells { .. })),
            BarredBy::Acid,
        ),
        (has(|f| matches!(f, RoundFinding::LowLevels { .. })), BarredBy::LowLevels),
        (short >= UNEXPLAINED_VOLTS, BarredBy::MissingVolts),
        (has(|f| matches!(f, RoundFinding::Stratified { .. })), BarredBy::Layered),
        (has(|f| matches!(f, RoundFinding::FarFromFull { .. })), BarredBy::FarFromFull),
    ];
    if let Some((_, by)) = bars.into_iter().find(|(is_so, _)| *is_so) {
        return EqualizeCall::Barred { by };
    }
    match case.assessment.balance {
        Some(balance) if balance.verdict == BalanceVerdict::Equalize => {
            EqualizeCall::Asked { proven_full: case.round.conditions.is_proven_full() }
        }
        _ => EqualizeCall::NotAsked,
    }
}
