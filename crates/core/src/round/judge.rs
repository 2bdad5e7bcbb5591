//! The judgement of a round: corrected gravities in, conditions and findings out.

use super::balance::Balance;
use super::centre::{self, Spread, StringFigures};
use super::condition::CellLimits;
use super::pattern::{self, Level, Shape};
use super::reread::{Question, RunningRound};
use super::trend::{self, PastRound, Sinking};
use super::usable::Usability;
use super::{CellReading, CellRecord, Conditions, RestCheck};
use crate::bank::{BankShape, CellAddress};
use crate::battery_model::BatteryModel;
use crate::electrolyte::{Correction, StateOfCharge, plain_rule_error};
use crate::finding::{Finding, findings};
use crate::house_rules::HouseRules;
use crate::instrument::{Instrument, Limit, Uncertainty};
use crate::quantity::{Points, SpecificGravity, Temperature};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

fn shipped() -> Vec<HouseRules> {
    HouseRules::shipped().to_vec()
}

/// Everything a round is judged by.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoundToJudge {
    /// The bank.
    pub shape: BankShape,
    /// Its batteries.
    pub model: BatteryModel,
    /// The house rules that judge; Maker first when left out.
    #[serde(default = "HouseRules::maker_first")]
    pub rules: HouseRules,
    /// House rules to compare with; the three that ship when left out.
    #[serde(default = "shipped")]
    pub other_rules: Vec<HouseRules>,
    /// What read the cells.
    pub instrument: Instrument,
    /// Conditions of the round.
    pub conditions: Conditions,
    /// One reading that stands for each cell; cells left out were not read.
    pub readings: Vec<CellRecord>,
    /// Earlier rounds, newest first.
    #[serde(default)]
    pub past: Vec<PastRound>,
}

/// One cell, judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JudgedCell {
    /// The cell.
    pub cell: CellAddress,
    /// Its condition.
    pub condition: Severity,
    /// Gravity as read.
    pub read: Option<SpecificGravity>,
    /// Corrected to the reference temperature.
    pub corrected: Option<SpecificGravity>,
    /// Deviation from the bank median.
    pub deviation: Option<Points>,
    /// Change of its deviation since the last comparable round.
    pub change: Option<Points>,
    /// Days since that round.
    pub change_days: Option<f64>,
    /// State of charge, per cent.
    pub state_of_charge: Option<f64>,
    /// Why there is no number: "below the scale", or the technician's reason.
    pub note: Option<String>,
    /// Why it is in question.
    pub question: Option<Question>,
    /// How fast it sinks, where it does.
    pub sinking: Option<Sinking>,
}

/// What a round says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Assessment {
    /// Whether it was judged, and what is not known.
    pub usability: Usability,
    /// Temperature every corrected gravity is stated at.
    pub reference_temperature: Temperature,
    /// How gravities were corrected.
    pub correction: Correction,
    /// True when the temperatures were known or the instrument corrects by itself.
    pub temperature_known: bool,
    /// Standard uncertainties.
    pub uncertainty: Uncertainty,
    /// Cells with a usable gravity.
    pub cells_judged: usize,
    /// Cells of the bank.
    pub cells_in_bank: usize,
    /// Bank median of corrected gravities.
    pub centre: Option<SpecificGravity>,
    /// Spread of the bank.
    pub spread: Option<Spread>,
    /// Spread against its limits.
    pub balance: Option<Balance>,
    /// Within this of the median a cell is steady (RD-8).
    pub steady: Limit,
    /// Every string.
    pub strings: Vec<StringFigures>,
    /// State of charge at the median.
    pub state_of_charge: Option<StateOfCharge>,
    /// Rest volts against gravity.
    pub rest: Option<RestCheck>,
    /// Who is different.
    pub shape: Shape,
    /// How full, for a proven-full round.
    pub level: Option<Level>,
    /// Every cell of the bank in electrical order.
    pub cells: Vec<JudgedCell>,
    /// What was found, worst first.
    pub findings: Vec<Finding>,
    /// Condition of the bank.
    pub condition: Severity,
}

impl RoundToJudge {
    /// Uncertainties of this round's readings.
    pub fn uncertainty(&self) -> Uncertainty {
        self.instrument.uncertainty(self.conditions.temperature_knowledge(), self.rules.correction)
    }

    /// SG-1 for one reading; an instrument that corrects by itself, or an unknown temperature,
    /// leaves it as read.
    pub fn correct(
        &self,
        cell: CellAddress,
        read: SpecificGravity,
        temperature: Option<Temperature>,
    ) -> SpecificGravity {
        let at = temperature.or_else(|| self.conditions.temperature_of(cell.battery));
        match at {
            Some(at) if !self.instrument.corrects_for_temperature => {
                self.rules.correction.apply(read, at, self.model.reference_temperature)
            }
            _ => read,
        }
    }

    /// Corrected gravity of a record that has a number.
    pub fn corrected(&self, record: &CellRecord) -> Option<SpecificGravity> {
        match record.reading {
            CellReading::Gravity { read } => Some(self.correct(record.cell, read, record.temperature)),
            _ => None,
        }
    }
}

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
        temperature_known: !usability.doubts.contains(&super::Doubt::TemperatureUnknown),
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
    let worst = assessment.findings.iter().map(|f| f.condition).filter(|c| *c >= Severity::Watch).max();
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
        note: None,
        question: None,
        sinking: sinking.iter().find(|(c, _)| *c == cell).map(|(_, s)| *s),
    };
    let Some(record) = record else { return judged };
    match &record.reading {
        CellReading::Gravity { read } => judged.read = Some(*read),
        // A float off the scale is the loudest of all readings: nothing healthy stands there.
        CellReading::BelowScale => {
            judged.note = Some("below the scale".into());
            judged.condition = Severity::Act;
        }
        CellReading::AboveScale => {
            judged.note = Some("above the scale".into());
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
