//! Findings about single cells, pairs, batteries and strings (RD-3, RD-5, RD-8).

use super::{Case, Finding, OtherHouse, RoundFinding, RuleId, Tolerance, about, measured};
use crate::bank::CellAddress;
use crate::finding::{Against, Bound};
use crate::house_rules::BalanceLimits;
use crate::instrument::Limit;
use crate::quantity::Points;
use crate::round::condition::CellLimits;
use crate::round::shape::WHOLE_POINTS;
use crate::round::{JudgedCell, OffScale, Shape, Side, median};
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

/// The one low cell that the pattern names.
fn is_lone(case: &Case<'_>, cell: CellAddress) -> bool {
    matches!(case.assessment.shape, Shape::LoneCell { cell: own, side: Side::Low } if own == cell)
}

/// True where it stands alone below a bank that is even without it.
fn stands_alone(case: &Case<'_>, cell: CellAddress) -> bool {
    let Some(balance) = case.assessment.balance.filter(|_| is_lone(case, cell)) else { return false };
    let others = case.assessment.cells.iter().filter(|c| c.cell != cell && c.question.is_none());
    let (low, high) = ends(others.filter_map(|c| c.deviation));
    low > high || Points::new(high - low) < balance.watch.used
}

/// Lowest and highest of some deviations.
fn ends(all: impl Iterator<Item = Points>) -> (f64, f64) {
    all.map(Points::value).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), d| (l.min(d), h.max(d)))
}

/// What a cell is judged by: what its pattern leaves of its deviation, else that.
fn judged_of(cell: &JudgedCell) -> Points {
    cell.residual.unwrap_or_else(|| deviation(cell))
}

/// What the deviation of a cell is told from: where a pattern moves it, its deviation from the median tells of
/// the pattern.
fn against(case: &Case<'_>, cell: CellAddress) -> Against {
    match &case.assessment.shape {
        Shape::Gradient { .. } => Against::Line,
        Shape::Battery { .. } if covered(case, cell) => Against::Battery,
        Shape::String { .. } if covered(case, cell) => Against::String,
        _ => Against::Median,
    }
}

/// The deviation that is told of a cell outside the band.
fn told(case: &Case<'_>, cell: &JudgedCell) -> Points {
    if against(case, cell.cell) == Against::Median { deviation(cell) } else { judged_of(cell) }
}

fn judged_by(case: &Case<'_>, limits: BalanceLimits, cell: &JudgedCell) -> Severity {
    CellLimits::new(limits.suspect, case.assessment.uncertainty.deviation, case.cells)
        .judge(judged_of(cell), cell.sinking.is_some())
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
                alone: stands_alone(case, cell.cell),
                after_run: None,
            };
            let finding = about(vec![cell.cell], kind, Severity::Act, RuleId::Rd8);
            let tolerance = Tolerance { limit: Bound::Points(limit), whose: case.house() };
            Some(Finding {
                other_houses: case.others(Severity::Act, |limits| judged_by(case, limits, cell)),
                ..measured(finding, tolerance, case.certainty(judged_of(cell), limit))
            })
        })
        .collect()
}

/// Cells a pair, battery or string finding speaks for, so that they are not named twice.
fn covered(case: &Case<'_>, cell: CellAddress) -> bool {
    let shape = &case.assessment.shape;
    matches!(shape, Shape::Pair { .. } | Shape::Battery { .. } | Shape::String { .. }) && shape.names(cell)
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
        _ => whole_limit(),
    };
    let finding = about(members.iter().map(|c| c.cell).collect(), kind, Severity::Watch, RuleId::Rd5);
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    let finding = measured(finding, tolerance, case.certainty(middle, limit));
    Some(Finding { beside: case.assessment.beside.clone(), ..finding })
}

/// How far the middle of a battery, a string or the ends of a row lie apart to be told.
fn whole_limit() -> Limit {
    Limit::widened(Points::new(WHOLE_POINTS), Points::ZERO)
}

/// Strings whose cells fall from one end to the other.
pub(super) fn gradient(case: &Case<'_>) -> Option<Finding> {
    let Shape::Gradient { low_end, high_end } = case.assessment.shape else { return None };
    // What the line says of a cell is what its residual leaves of its deviation.
    let (low, high) = ends(case.assessment.cells.iter().filter_map(|c| Some(c.deviation? - c.residual?)));
    if low > high {
        return None;
    }
    let (low, high, limit) = (Points::new(low), Points::new(high), whole_limit());
    let kind = RoundFinding::Gradient { low_end, high_end, low, high };
    let finding = about(vec![low_end, high_end], kind, Severity::Watch, RuleId::Rd5);
    let tolerance = Tolerance::of_every_house(Bound::Points(limit));
    let finding = measured(finding, tolerance, case.certainty(high - low, limit));
    Some(Finding { beside: case.assessment.beside.clone(), ..finding })
}

/// Cells below the steady band: those that explain the round best, and what else stands there.
pub(super) fn low(case: &Case<'_>) -> Vec<Finding> {
    let own = match &case.assessment.shape {
        Shape::Cells { cells, side: Side::Low } => cells.as_slice(),
        _ => &[],
    };
    let judged = case.assessment.cells.iter().filter(|c| c.deviation.is_some());
    let (named, others): (Vec<&JudgedCell>, Vec<&JudgedCell>) =
        worst_first(judged.collect()).into_iter().partition(|c| own.contains(&c.cell));
    let others: Vec<&JudgedCell> = others
        .into_iter()
        .filter(|c| c.condition == Severity::Watch && judged_of(c) < Points::ZERO)
        .collect();
    let (alone, others): (Vec<_>, Vec<_>) = others.into_iter().partition(|c| is_lone(case, c.cell));
    // A cell that its battery or string leaves low is low beside its own mates.
    let (beyond, others): (Vec<_>, Vec<_>) = others.into_iter().partition(|c| covered(case, c.cell));
    [(named, true, false), (alone, true, true), (others, false, false), (beyond, false, false)]
        .into_iter()
        .filter_map(|(mut cells, named, alone)| {
            cells.sort_by(|a, b| told(case, a).value().total_cmp(&told(case, b).value()));
            let (first, last) = (*cells.first()?, *cells.last()?);
            let alone = alone && stands_alone(case, first.cell);
            let kind = RoundFinding::LowCells {
                lowest: told(case, first),
                nearest: told(case, last),
                alone,
                from: against(case, first.cell),
                named,
                after_run: None,
            };
            let other_houses = case.others(Severity::Watch, |limits| judged_by(case, limits, first));
            let rule = if named { RuleId::Rd5 } else { RuleId::Rd8 };
            Some(of_pattern(outside_the_band(case, kind, rule, &cells, other_houses), case, named))
        })
        .collect()
}

/// Cells above the steady band; never worse than watch. Those with acid in them are told so.
pub(super) fn high(case: &Case<'_>) -> Vec<Finding> {
    let acid = case.over_full.map_or(&[][..], |over| &over.cells);
    let own = |cell: CellAddress| {
        matches!(
            case.assessment.shape,
            Shape::LoneCell { side: Side::High, .. } | Shape::Cells { side: Side::High, .. }
        ) && case.assessment.shape.names(cell)
    };
    let mut all: Vec<&JudgedCell> = with_condition(case, Severity::Watch)
        .into_iter()
        .filter(|c| judged_of(c) > Points::ZERO && !covered(case, c.cell) && !acid.contains(&c.cell))
        .collect();
    all.sort_by(|a, b| told(case, b).value().total_cmp(&told(case, a).value()));
    let (named, others): (Vec<_>, Vec<_>) = all.into_iter().partition(|c| own(c.cell));
    [(named, true), (others, false)]
        .into_iter()
        .filter_map(|(cells, named)| {
            let kind = RoundFinding::HighCells {
                highest: told(case, cells.first()?),
                from: against(case, cells.first()?.cell),
                named,
            };
            Some(of_pattern(outside_the_band(case, kind, RuleId::Rd8, &cells, Vec::new()), case, named))
        })
        .collect()
}

/// RD-9: cells by themselves explain the spread where they are few and the rest lies within the watch limit.
pub(super) fn singles_explain_the_spread(case: &Case<'_>) -> bool {
    let Some(balance) = case.assessment.balance else { return false };
    let judged = case.assessment.cells.iter().filter(|c| c.deviation.is_some() && c.question.is_none());
    let (rest, singles): (Vec<&JudgedCell>, Vec<&JudgedCell>) =
        judged.partition(|c| c.condition == Severity::Steady);
    let (low, high) = ends(rest.into_iter().map(deviation));
    let few = singles.len() <= (case.cells / 8).max(3);
    !singles.is_empty() && few && (low > high || Points::new(high - low) < balance.watch.used)
}

/// A finding of cells that are the pattern of the round, told apart from other cells outside the band, with
/// what would explain them nearly as well.
fn of_pattern(finding: Finding, case: &Case<'_>, named: bool) -> Finding {
    if !named {
        let beyond = finding.cells.first().is_some_and(|cell| covered(case, *cell));
        let id = if beyond { format!("{} beyond", finding.id) } else { finding.id.clone() };
        return Finding { id, ..finding };
    }
    let id = if finding.cells.len() > 1 { format!("{} together", finding.id) } else { finding.id.clone() };
    Finding { id, beside: case.assessment.beside.clone(), ..finding }
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
    let certainty = case.certainty(cells.first().map_or(Points::ZERO, |c| judged_of(c)), limit);
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
