//! Findings about single cells, pairs, batteries and strings (RD-3, RD-5, RD-8).

use super::{Case, Finding, OtherHouse, RoundFinding, RuleId, Tolerance, about, measured};
use crate::bank::CellAddress;
use crate::finding::Bound;
use crate::house_rules::BalanceLimits;
use crate::quantity::Points;
use crate::round::condition::CellLimits;
use crate::round::pattern::whole_limit;
use crate::round::{JudgedCell, OffScale, Shape, median};
use crate::severity::Severity;

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
            let kind = RoundFinding::SuspectCell {
                gravity: cell.corrected?,
                deviation: d,
                before,
                sinking: cell.sinking,
                alone: is_lone(case, cell.cell),
                after_run: None,
            };
            let finding = about(vec![cell.cell], kind, Severity::Act, RuleId::Rd8);
            let tolerance = Tolerance { limit: Bound::Points(limit), whose: case.house() };
            Some(Finding {
                other_houses: case.others(Severity::Act, |limits| judged_by(case, limits, cell)),
                ..measured(finding, tolerance, case.certainty(d, limit))
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
        Shape::Pair { .. } => RoundFinding::LowPair { deviation: middle },
        Shape::Battery { battery } => RoundFinding::LowBattery { battery: *battery, nearest, lowest },
        Shape::String { letter } => RoundFinding::LowString { letter: *letter, deviation: middle },
        _ => return None,
    };
    let limit = match &case.assessment.shape {
        Shape::Pair { .. } => case.cell_limits.steady,
        _ => whole_limit(case.assessment.uncertainty.deviation),
    };
    let finding = about(members.iter().map(|c| c.cell).collect(), kind, Severity::Watch, RuleId::Rd5);
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    Some(measured(finding, tolerance, case.certainty(middle, limit)))
}

/// A row whose cells fall from one end to the other.
pub(super) fn gradient(case: &Case<'_>) -> Option<Finding> {
    let Shape::Gradient { low_end, high_end } = case.assessment.shape else { return None };
    let of = |end: CellAddress| case.assessment.cells.iter().find(|c| c.cell == end).map(deviation);
    let (low, high) = (of(low_end)?, of(high_end)?);
    let limit = whole_limit(case.assessment.uncertainty.deviation);
    let kind = RoundFinding::Gradient { low_end, high_end, low, high };
    let finding = about(vec![low_end, high_end], kind, Severity::Watch, RuleId::Rd5);
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    Some(measured(finding, tolerance, case.certainty(high - low, limit)))
}

/// Cells below the steady band that no other finding speaks for.
pub(super) fn low(case: &Case<'_>) -> Option<Finding> {
    let cells: Vec<&JudgedCell> = with_condition(case, Severity::Watch)
        .into_iter()
        .filter(|c| deviation(c) < Points::ZERO && !covered(case, c.cell))
        .collect();
    let (first, last) = (cells.first()?, cells.last()?);
    let alone = is_lone(case, first.cell);
    let kind = RoundFinding::LowCells { lowest: deviation(first), nearest: deviation(last), alone };
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
    let kind = RoundFinding::HighCells { highest: deviation(cells.first()?) };
    Some(outside_the_band(case, kind, RuleId::Rd8, &cells, Vec::new()))
}

fn outside_the_band(
    case: &Case<'_>,
    kind: RoundFinding,
    rule: RuleId,
    cells: &[&JudgedCell],
    other_houses: Vec<OtherHouse>,
) -> Finding {
    let limit = case.cell_limits.steady;
    let finding = about(cells.iter().map(|c| c.cell).collect(), kind, Severity::Watch, rule);
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    let certainty = case.certainty(cells.first().map_or(Points::ZERO, |c| deviation(c)), limit);
    Finding { other_houses, ..measured(finding, tolerance, certainty) }
}

/// Readings in question.
pub(super) fn questioned(case: &Case<'_>) -> Vec<Finding> {
    case.assessment
        .cells
        .iter()
        .filter_map(|cell| {
            let question = cell.question?;
            Some(about(vec![cell.cell], RoundFinding::Reread { question }, Severity::Reread, RuleId::Rd3))
        })
        .collect()
}

/// Floats off the scale.
pub(super) fn off_scale(case: &Case<'_>) -> Vec<Finding> {
    [(OffScale::Below, Severity::Act), (OffScale::Above, Severity::Watch)]
        .into_iter()
        .filter_map(|(where_to, severity)| {
            let cells: Vec<CellAddress> = case
                .assessment
                .cells
                .iter()
                .filter(|c| c.off_scale == Some(where_to))
                .map(|c| c.cell)
                .collect();
            let kind = RoundFinding::OffScale { above: where_to == OffScale::Above };
            (!cells.is_empty()).then(|| about(cells, kind, severity, RuleId::Rd3))
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
            about(vec![cell.cell], RoundFinding::NotRead { reason }, Severity::NoReading, RuleId::Rd1)
        })
        .collect();
    if !without.is_empty() {
        let cells = without.iter().map(|c| c.cell).collect();
        let kind = RoundFinding::NotRead { reason: String::new() };
        all.push(about(cells, kind, Severity::NoReading, RuleId::Rd1));
    }
    all
}
