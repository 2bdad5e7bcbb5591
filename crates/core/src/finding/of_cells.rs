//! Findings about single cells, pairs, batteries and strings (RD-3, RD-5, RD-8).

use super::{Case, Certainty, Finding, FindingKind, RuleId, Tolerance};
use crate::bank::CellAddress;
use crate::house_rules::BalanceLimits;
use crate::quantity::Points;
use crate::round::condition::CellLimits;
use crate::round::pattern::whole_limit;
use crate::round::{JudgedCell, Shape, median};
use crate::severity::Severity;

/// The steady band is the same for all, so nobody's house owns it.
const ANY_HOUSE: &str = "every house rule set";

fn deviation(cell: &JudgedCell) -> Points {
    cell.deviation.unwrap_or(Points::ZERO)
}

fn worst_first(mut cells: Vec<&JudgedCell>) -> Vec<&JudgedCell> {
    cells.sort_by(|a, b| deviation(a).value().total_cmp(&deviation(b).value()).then(a.cell.cmp(&b.cell)));
    cells
}

fn with_condition<'a>(case: &'a Case<'_>, condition: Severity) -> Vec<&'a JudgedCell> {
    worst_first(
        case.assessment.cells.iter().filter(|c| c.condition == condition && c.deviation.is_some()).collect(),
    )
}

fn is_lone(case: &Case<'_>, cell: CellAddress) -> bool {
    case.assessment.shape == Shape::LoneCell { cell }
}

fn judged_by(case: &Case<'_>, limits: BalanceLimits, cell: &JudgedCell) -> Severity {
    CellLimits::new(limits.suspect, case.assessment.uncertainty.deviation)
        .judge(deviation(cell), cell.sinking.is_some())
}

/// Every cell that must be acted on, one finding each.
pub(super) fn suspects(case: &Case<'_>) -> Vec<Finding> {
    with_condition(case, Severity::Act)
        .into_iter()
        .filter_map(|cell| {
            let d = deviation(cell);
            let limit = case.cell_limits.act(cell.sinking.is_some());
            let before = cell.change.zip(cell.change_days).map(|(change, days)| (d - change, days));
            Some(Finding {
                kind: FindingKind::SuspectCell {
                    gravity: cell.corrected?,
                    deviation: d,
                    before,
                    sinking: cell.sinking,
                    alone: is_lone(case, cell.cell),
                },
                condition: Severity::Act,
                cells: vec![cell.cell],
                rule: RuleId::Rd8,
                tolerance: Some(Tolerance { limit, whose: case.house() }),
                certainty: case.certainty(d, limit),
                other_houses: case.others(Severity::Act, |limits| judged_by(case, limits, cell)),
            })
        })
        .collect()
}

/// Cells a pair, battery or string finding speaks for, so that they are not named twice.
fn covered(case: &Case<'_>, cell: CellAddress) -> bool {
    match &case.assessment.shape {
        Shape::Pair { cells } => cells.contains(&cell),
        Shape::Battery { battery } => cell.battery == *battery,
        Shape::String { letter } => crate::bank::string_letter(cell.battery.string) == *letter,
        _ => false,
    }
}

/// The pair, battery or string that is low as a whole.
pub(super) fn whole_group(case: &Case<'_>) -> Option<Finding> {
    let members = worst_first(
        case.assessment.cells.iter().filter(|c| c.deviation.is_some() && covered(case, c.cell)).collect(),
    );
    let (lowest, nearest) = (deviation(members.first()?), deviation(members.last()?));
    let middle = Points::new(median(&mut members.iter().map(|c| deviation(c).value()).collect::<Vec<_>>())?);
    let kind = match &case.assessment.shape {
        Shape::Pair { .. } => FindingKind::LowPair { deviation: middle },
        Shape::Battery { battery } => FindingKind::LowBattery { battery: *battery, nearest, lowest },
        Shape::String { letter } => FindingKind::LowString { letter: *letter, deviation: middle },
        _ => return None,
    };
    let limit = match &case.assessment.shape {
        Shape::Pair { .. } => case.cell_limits.steady,
        _ => whole_limit(case.assessment.uncertainty.deviation),
    };
    Some(Finding {
        kind,
        condition: Severity::Watch,
        cells: members.iter().map(|c| c.cell).collect(),
        rule: RuleId::Rd5,
        tolerance: Some(Tolerance { limit, whose: ANY_HOUSE.into() }),
        certainty: case.certainty(middle, limit),
        other_houses: Vec::new(),
    })
}

/// A row whose cells fall from one end to the other.
pub(super) fn gradient(case: &Case<'_>) -> Option<Finding> {
    let Shape::Gradient { low_end, high_end } = case.assessment.shape else { return None };
    let of = |end: CellAddress| case.assessment.cells.iter().find(|c| c.cell == end).map(deviation);
    let (low, high) = (of(low_end)?, of(high_end)?);
    let limit = whole_limit(case.assessment.uncertainty.deviation);
    Some(Finding {
        kind: FindingKind::Gradient { low_end, high_end, low, high },
        condition: Severity::Watch,
        cells: vec![low_end, high_end],
        rule: RuleId::Rd5,
        tolerance: Some(Tolerance { limit, whose: ANY_HOUSE.into() }),
        certainty: case.certainty(high - low, limit),
        other_houses: Vec::new(),
    })
}

/// Cells below the steady band that no other finding speaks for.
pub(super) fn low(case: &Case<'_>) -> Option<Finding> {
    let cells: Vec<&JudgedCell> = with_condition(case, Severity::Watch)
        .into_iter()
        .filter(|c| deviation(c) < Points::ZERO && !covered(case, c.cell))
        .collect();
    let (first, last) = (cells.first()?, cells.last()?);
    let alone = is_lone(case, first.cell);
    let kind = FindingKind::LowCells { lowest: deviation(first), nearest: deviation(last), alone };
    let others = case.others(Severity::Watch, |limits| judged_by(case, limits, first));
    let rule = if alone { RuleId::Rd5 } else { RuleId::Rd8 };
    Some(outside_the_band(case, kind, rule, &cells, others))
}

/// Cells above the steady band; never worse than watch.
pub(super) fn high(case: &Case<'_>) -> Option<Finding> {
    let mut cells: Vec<&JudgedCell> = with_condition(case, Severity::Watch)
        .into_iter()
        .filter(|c| deviation(c) > Points::ZERO && !covered(case, c.cell))
        .collect();
    cells.reverse();
    let kind = FindingKind::HighCells { highest: deviation(cells.first()?) };
    Some(outside_the_band(case, kind, RuleId::Rd8, &cells, Vec::new()))
}

fn outside_the_band(
    case: &Case<'_>,
    kind: FindingKind,
    rule: RuleId,
    cells: &[&JudgedCell],
    other_houses: Vec<super::OtherHouse>,
) -> Finding {
    let limit = case.cell_limits.steady;
    Finding {
        kind,
        condition: Severity::Watch,
        cells: cells.iter().map(|c| c.cell).collect(),
        rule,
        tolerance: Some(Tolerance { limit, whose: ANY_HOUSE.into() }),
        certainty: case.certainty(cells.first().map_or(Points::ZERO, |c| deviation(c)), limit),
        other_houses,
    }
}

fn recorded(kind: FindingKind, condition: Severity, cells: Vec<CellAddress>, rule: RuleId) -> Finding {
    Finding {
        kind,
        condition,
        cells,
        rule,
        tolerance: None,
        certainty: Certainty::Recorded,
        other_houses: Vec::new(),
    }
}

/// Readings in question.
pub(super) fn questioned(case: &Case<'_>) -> Vec<Finding> {
    case.assessment
        .cells
        .iter()
        .filter_map(|cell| {
            let question = cell.question?;
            Some(recorded(FindingKind::Reread { question }, Severity::Reread, vec![cell.cell], RuleId::Rd3))
        })
        .collect()
}

/// Floats off the scale.
pub(super) fn off_scale(case: &Case<'_>) -> Vec<Finding> {
    [("below the scale", false, Severity::Act), ("above the scale", true, Severity::Watch)]
        .into_iter()
        .filter_map(|(note, above, condition)| {
            let cells: Vec<CellAddress> = case
                .assessment
                .cells
                .iter()
                .filter(|c| c.condition == condition && c.note.as_deref() == Some(note))
                .map(|c| c.cell)
                .collect();
            (!cells.is_empty())
                .then(|| recorded(FindingKind::OffScale { above }, condition, cells, RuleId::Rd3))
        })
        .collect()
}

/// Cells without a reading: one finding for a reason of its own, one for all the rest.
pub(super) fn not_read(case: &Case<'_>) -> Vec<Finding> {
    if case.round.readings.is_empty() {
        return Vec::new();
    }
    let unread: Vec<&JudgedCell> = case
        .assessment
        .cells
        .iter()
        .filter(|c| c.condition == Severity::NoReading && c.read.is_none())
        .collect();
    let (with_reason, without): (Vec<&JudgedCell>, Vec<&JudgedCell>) =
        unread.into_iter().partition(|c| c.note.as_deref().is_some_and(|n| !n.trim().is_empty()));
    let mut all: Vec<Finding> = with_reason
        .into_iter()
        .map(|cell| {
            let reason = cell.note.clone().unwrap_or_default();
            recorded(FindingKind::NotRead { reason }, Severity::NoReading, vec![cell.cell], RuleId::Rd1)
        })
        .collect();
    if !without.is_empty() {
        let cells = without.iter().map(|c| c.cell).collect();
        all.push(recorded(
            FindingKind::NotRead { reason: String::new() },
            Severity::NoReading,
            cells,
            RuleId::Rd1,
        ));
    }
    all
}
