//! What a round is judged from, and what the judgement says.

use super::balance::Balance;
use super::centre::{Spread, StringFigures};
use super::pattern::Level;
use super::question::Question;
use super::reading::{CellReading, CellRecord, Conditions, OffScale};
use super::rest_check::RestCheck;
use super::shape::Shape;
use super::trend::{PastRound, Sinking};
use super::usable::Usability;
use crate::bank::{BankShape, CellAddress};
use crate::battery_model::BatteryModel;
use crate::electrolyte::{Correction, StateOfCharge};
use crate::finding::Finding;
use crate::house_rules::HouseRules;
use crate::instrument::{Instrument, Limit, Uncertainty};
use crate::quantity::{Points, SpecificGravity, Temperature};
use crate::severity::Severity;
use crate::water::LowLevel;
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
    /// Earlier rounds, in any order.
    #[serde(default)]
    pub past: Vec<PastRound>,
    /// Levels under their mark that were found on the same visit (SG-4); cells left out were at their mark,
    /// or nobody looked.
    #[serde(default)]
    pub low_levels: Vec<LowLevel>,
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
    /// Deviation from the centre of the bank.
    pub deviation: Option<Points>,
    /// What is left of it by the pattern the cell belongs to, where it belongs to one: it is judged by that.
    #[serde(default)]
    pub residual: Option<Points>,
    /// Change of its deviation since the last comparable round.
    pub change: Option<Points>,
    /// Days since that round.
    pub change_days: Option<f64>,
    /// State of charge, per cent.
    pub state_of_charge: Option<f64>,
    /// Where the float stood, when it was off the scale.
    #[serde(default)]
    pub off_scale: Option<OffScale>,
    /// Why there is no number, in the technician's words.
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
    /// Middle of the corrected gravities outside what is different.
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
    /// What explains the cells nearly as well.
    #[serde(default)]
    pub beside: Option<Shape>,
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
