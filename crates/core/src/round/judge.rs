//! The judgement of a round: corrected gravities in, conditions and findings out.

use super::assessment::{Assessment, JudgedCell, RoundToJudge};
use super::balance::{Balance, Spreads};
use super::centre;
use super::condition::CellLimits;
use super::over_full::OverFull;
use super::pattern::{self, OffFull, Pattern, PatternLimits};
use super::question::Question;
use super::reading::{CellReading, OffScale};
use super::reread::RunningRound;
use super::rest_check::RestCheck;
use super::shape::Shape;
use super::trend::{self, Sinking};
use super::usable::{Doubt, Usability};
use crate::bank::{BankShape, CellAddress};
use crate::electrolyte::{Correction, plain_rule_error};
use crate::finding::round::{Case, findings};
use crate::instrument::{Limit, Uncertainty, spread_of_noise};
use crate::quantity::{Points, SpecificGravity};
use crate::severity::Severity;

/// Judges a round by RD-1 to RD-9.
pub fn judge(round: &RoundToJudge) -> Assessment {
    // The order in which earlier rounds come is not the caller's to get right.
    if round.past.is_sorted_by(|a, b| a.days_before <= b.days_before) {
        return judge_in_order(round);
    }
    let mut sorted = round.clone();
    sorted.past.sort_by(|a, b| a.days_before.total_cmp(&b.days_before));
    judge_in_order(&sorted)
}

fn judge_in_order(round: &RoundToJudge) -> Assessment {
    let usability = Usability::of(&round.conditions, round.instrument);
    let judged = usability.judged();
    let running = RunningRound::new(round);
    let questions = if judged { running.open_questions() } else { Vec::new() };
    let mut usable: Vec<(CellAddress, SpecificGravity)> = round
        .readings
        .iter()
        .filter(|record| round.shape.contains(record.cell))
        .filter_map(|record| round.corrected(record).map(|sg| (record.cell, sg)))
        .collect();
    // By address, so that the order of entry cannot show in the last digit of a mean.
    usable.sort_unstable_by_key(|(cell, _)| *cell);
    let middle = centre::centre(&usable).filter(|_| judged);
    let uncertainty = widened(round, middle);
    let limits = round.rules.balance_limits(&round.model);
    // A reading in question moves the median little, but would make a spread all by itself.
    let mut certain = usable.clone();
    certain.retain(|(cell, _)| questions.iter().all(|(asked, _)| asked != cell));
    let cell_limits = CellLimits::new(limits.suspect, uncertainty.deviation, certain.len());
    let even = Limit::widened(limits.watch, spread_of_noise(certain.len(), uncertainty.deviation));
    let pattern = pattern::pattern(
        &certain,
        PatternLimits {
            uncertainty: uncertainty.deviation.value(),
            even: even.used.value(),
            steady: cell_limits.steady.used.value(),
            case: round.shape.cells_per_battery,
            series: round.shape.series,
        },
        &lines(&round.shape),
    );
    let over_full = middle.and_then(|_| OverFull::of(round, &certain, &pattern, uncertainty));
    let centre = middle.map(|middle| {
        let left_out = over_full.as_ref().and_then(|over| over.centre_of_others);
        if certain.is_empty() { middle } else { left_out.unwrap_or(pattern.centre()) }
    });
    let deviations: Vec<(CellAddress, Points)> =
        centre.map(|c| usable.iter().map(|(cell, sg)| (*cell, *sg - c)).collect()).unwrap_or_default();
    let sinking = trend::laggards(&deviations, &round.past, round.instrument.kind, cell_limits.steady.used);
    let cells: Vec<JudgedCell> = round
        .shape
        .cells()
        .map(|cell| judge_cell(round, cell, (centre, &pattern), &cell_limits, &questions, &sinking))
        .collect();
    let spread = centre::spread(&certain).filter(|_| judged);
    let acid: &[CellAddress] = over_full.as_ref().map_or(&[], |over| &over.cells);
    let raised = |cell: &CellAddress| !pattern.high.contains(cell) && !acid.contains(cell);
    let low_side: Vec<_> = certain.iter().filter(|(cell, _)| raised(cell)).copied().collect();
    let balance = spread.filter(|_| certain.len() > 1).map(|s| {
        let without_high = centre::spread(&low_side).map_or(Points::ZERO, |s| s.points);
        let spreads = Spreads { all: s.points, without_high, cells: certain.len() };
        Balance::of(spreads, uncertainty.deviation, limits)
    });
    let off_full =
        centre.map(|c| OffFull::of(c, round.model.full_gravity, uncertainty.of_centre(certain.len())));
    let level = off_full.filter(|_| round.conditions.is_proven_full());
    let mean = centre::mean(&usable).filter(|_| judged);
    let mut assessment = Assessment {
        reference_temperature: round.model.reference_temperature,
        correction: round.rules.correction,
        temperature_known: !usability.doubts.contains(&Doubt::TemperatureUnknown),
        uncertainty,
        cells_judged: if judged { usable.len() } else { 0 },
        cells_in_bank: round.shape.cell_count(),
        centre,
        spread,
        balance,
        steady: cell_limits.steady,
        strings: if judged { centre::by_string(&certain) } else { Vec::new() },
        state_of_charge: centre.map(|c| round.model.state_of_charge(c)),
        rest: mean.map(|m| RestCheck::of(m, &round.conditions, &round.shape, &round.rules)),
        shape: if balance.is_some() { pattern.shape.clone() } else { Shape::TooFew },
        beside: pattern.beside.clone().filter(|_| balance.is_some()),
        level: level.map(|off| off.level()),
        condition: Severity::NoReading,
        findings: Vec::new(),
        usability,
        cells,
    };
    assessment.condition = bank_condition(&assessment);
    assessment.findings = findings(&Case {
        round,
        assessment: &assessment,
        limits,
        cell_limits: &cell_limits,
        off_full,
        over_full: over_full.as_ref(),
        cells: certain.len(),
    });
    // A finding about the whole bank (level, rest volts) can be worse than every cell; one unread
    // cell does not make the bank unread.
    let worst = assessment.findings.iter().map(|f| f.severity).filter(|c| *c >= Severity::Watch).max();
    assessment.condition = worst.map_or(assessment.condition, |w| w.max(assessment.condition));
    assessment
}

/// Ways along which a gradient can run: the strings, and the rows where they stand otherwise.
fn lines(shape: &BankShape) -> Vec<Vec<Vec<CellAddress>>> {
    let strings: Vec<Vec<CellAddress>> = (0..shape.parallel)
        .map(|string| shape.cells().filter(|c| c.battery.string == string).collect())
        .collect();
    let rows = walked_rows(shape);
    if rows == strings { vec![strings] } else { vec![strings, rows] }
}

/// SG-7's uncertainty, widened below 1.20 by what the plain rule may be off there (SG-1).
fn widened(round: &RoundToJudge, centre: Option<SpecificGravity>) -> Uncertainty {
    let own = round.uncertainty();
    let temperature = round.shape.batteries().next().and_then(|b| round.conditions.temperature_of(b));
    match (round.rules.correction, centre, temperature) {
        (Correction::Plain { .. }, Some(centre), Some(at)) if !round.instrument.corrects_for_temperature => {
            let rule = plain_rule_error(centre, at, round.model.reference_temperature);
            let wider = |points: Points| Points::new(points.value().hypot(rule.value()));
            Uncertainty { gravity: wider(own.gravity), common: wider(own.common), ..own }
        }
        _ => own,
    }
}

fn judge_cell(
    round: &RoundToJudge,
    cell: CellAddress,
    (centre, pattern): (Option<SpecificGravity>, &Pattern),
    limits: &CellLimits,
    questions: &[(CellAddress, Question)],
    sinking: &[(CellAddress, Sinking)],
) -> JudgedCell {
    let record = round.readings.iter().find(|r| r.cell == cell);
    let mut judged = JudgedCell {
        cell,
        condition: Severity::NoReading,
        read: None,
        corrected: None,
        deviation: None,
        residual: None,
        change: None,
        change_days: None,
        state_of_charge: None,
        off_scale: None,
        note: None,
        question: None,
        sinking: sinking.iter().find(|(c, _)| *c == cell).map(|(_, s)| *s),
    };
    let Some(record) = record else { return judged };
    match &record.reading {
        CellReading::Gravity { read } => judged.read = Some(*read),
        // A float off the scale is the loudest of all readings: nothing healthy stands there.
        CellReading::BelowScale => {
            judged.off_scale = Some(OffScale::Below);
            judged.condition = Severity::Act;
        }
        CellReading::AboveScale => {
            judged.off_scale = Some(OffScale::Above);
            judged.condition = Severity::Watch;
        }
        CellReading::NotRead { reason } => judged.note = Some(reason.clone()),
    }
    judged.corrected = round.corrected(record);
    let (Some(corrected), Some(centre)) = (judged.corrected, centre) else { return judged };
    let deviation = corrected - centre;
    judged.deviation = Some(deviation);
    judged.state_of_charge = Some(round.model.state_of_charge(corrected).percent);
    let last = trend::last_of(&round.past, round.instrument.kind, cell);
    judged.change = last.map(|(_, past)| deviation - past.deviation);
    judged.change_days = last.map(|(then, _)| then.days_before);
    // A cell of a string, battery, pair or gradient is judged by what the pattern leaves of it.
    let told = pattern.expected.iter().find(|(own, _)| *own == cell);
    judged.residual = told.map(|(_, e)| corrected - SpecificGravity::corrected(1.0 + e / 1000.0));
    judged.question = questions.iter().find(|(c, _)| *c == cell).map(|(_, q)| *q);
    judged.condition = if judged.question.is_some() {
        Severity::Reread
    } else {
        limits.judge(judged.residual.unwrap_or(deviation), judged.sinking.is_some())
    };
    judged
}

/// A bank is as bad as the worse of its balance and its worst cell (RD-8); a bank with nothing
/// judged has no condition.
fn bank_condition(assessment: &Assessment) -> Severity {
    if assessment.centre.is_none() {
        return Severity::NoReading;
    }
    let balance = assessment.balance.map_or(Severity::Steady, |b| b.condition());
    assessment
        .cells
        .iter()
        .map(|c| c.condition)
        .filter(|c| *c != Severity::NoReading)
        .fold(balance, Severity::max)
}

/// The rows of the bank as they stand, each from left to right.
fn walked_rows(shape: &BankShape) -> Vec<Vec<CellAddress>> {
    let rows = shape.plan().rows.into_iter();
    rows.map(|row| row.batteries.into_iter().flat_map(|b| b.cells).collect()).collect()
}
