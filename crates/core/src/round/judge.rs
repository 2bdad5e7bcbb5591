//! The judgement of a round: corrected gravities in, conditions and findings out.

use super::assessment::{Assessment, JudgedCell, RoundToJudge};
use super::balance::Balance;
use super::centre;
use super::condition::CellLimits;
use super::pattern::{self, Level};
use super::question::Question;
use super::reading::{CellReading, OffScale};
use super::reread::RunningRound;
use super::rest_check::RestCheck;
use super::shape::Shape;
use super::trend::{self, Sinking};
use super::usable::{Doubt, Usability};
use crate::bank::{BankShape, CellAddress};
use crate::electrolyte::{Correction, plain_rule_error};
use crate::finding::round::findings;
use crate::instrument::Uncertainty;
use crate::quantity::{Points, SpecificGravity};
use crate::severity::Severity;

/// Judges a round by RD-1 to RD-8.
pub fn judge(round: &RoundToJudge) -> Assessment {
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
    let centre = centre::centre(&usable).filter(|_| judged);
    let uncertainty = widened(round, centre);
    let deviations: Vec<(CellAddress, Points)> =
        centre.map(|c| usable.iter().map(|(cell, sg)| (*cell, *sg - c)).collect()).unwrap_or_default();
    let sinking = trend::laggards(&deviations, &round.past, round.instrument.kind);
    let limits = round.rules.balance_limits(&round.model);
    let cell_limits = CellLimits::new(limits.suspect, uncertainty.deviation);
    let cells: Vec<JudgedCell> = round
        .shape
        .cells()
        .map(|cell| judge_cell(round, cell, centre, &cell_limits, &questions, &sinking))
        .collect();
    // A reading in question moves the median little, but would make a spread all by itself.
    let mut certain = usable.clone();
    certain.retain(|(cell, _)| questions.iter().all(|(asked, _)| asked != cell));
    let spread = centre::spread(&certain).filter(|_| judged);
    let balance = spread
        .filter(|_| certain.len() > 1)
        .map(|s| Balance::of(s.points, certain.len(), uncertainty.deviation, limits));
    let shape = match (centre, &balance) {
        (Some(centre), Some(balance)) => pattern::shape(
            &certain,
            centre,
            uncertainty.deviation,
            balance.watch.used,
            &walked_rows(&round.shape),
        ),
        _ => Shape::TooFew,
    };
    let level = centre
        .filter(|_| round.conditions.proven_full.is_some())
        .map(|c| Level::of(c, round.model.full_gravity, uncertainty.gravity));
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
        shape,
        level: level.map(|(level, _, _)| level),
        condition: Severity::NoReading,
        findings: Vec::new(),
        usability,
        cells,
    };
    assessment.condition = bank_condition(&assessment);
    assessment.findings = findings(round, &assessment, &cell_limits, level);
    // A finding about the whole bank (level, rest volts) can be worse than every cell; one unread
    // cell does not make the bank unread.
    let worst = assessment.findings.iter().map(|f| f.severity).filter(|c| *c >= Severity::Watch).max();
    assessment.condition = worst.map_or(assessment.condition, |w| w.max(assessment.condition));
    assessment
}

/// SG-7's uncertainty, widened below 1.20 by what the plain rule may be off there (SG-1).
fn widened(round: &RoundToJudge, centre: Option<SpecificGravity>) -> Uncertainty {
    let own = round.uncertainty();
    let temperature = round.shape.batteries().next().and_then(|b| round.conditions.temperature_of(b));
    match (round.rules.correction, centre, temperature) {
        (Correction::Plain { .. }, Some(centre), Some(at)) if !round.instrument.corrects_for_temperature => {
            let rule = plain_rule_error(centre, at, round.model.reference_temperature);
            Uncertainty { gravity: Points::new(own.gravity.value().hypot(rule.value())), ..own }
        }
        _ => own,
    }
}

fn judge_cell(
    round: &RoundToJudge,
    cell: CellAddress,
    centre: Option<SpecificGravity>,
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
    judged.question = questions.iter().find(|(c, _)| *c == cell).map(|(_, q)| *q);
    judged.condition = if judged.question.is_some() {
        Severity::Reread
    } else {
        limits.judge(deviation, judged.sinking.is_some())
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
