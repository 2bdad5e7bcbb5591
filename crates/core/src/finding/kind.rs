//! The codes of findings, by what was judged, each with its measured quantities.

use super::charger_kind::ChargerFinding;
use super::joint_kind::JointFinding;
use super::load_test_kind::LoadTestFinding;
use crate::bank::{BatteryAddress, CellAddress};
use crate::equalize::{NonRespondingCell, Outcome};
use crate::ohmic::OhmicJudged;
use crate::quantity::{Points, SpecificGravity};
use crate::rest::RestFinding;
use crate::round::{Question, Sinking, Spread, Unusable};
use crate::visit::Check;
use crate::water::Uneven;
use serde::{Deserialize, Serialize};
use strum::IntoStaticStr;

/// What was found, with its measured quantities.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "judged", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FindingKind {
    /// Gravities of a round.
    Round(RoundFinding),
    /// Volts at rest.
    Rest(RestFinding),
    /// Resistances and cases.
    Ohmic(OhmicFinding),
    /// Load and capacity tests.
    LoadTest(LoadTestFinding),
    /// Joints and currents of strings.
    Joints(JointFinding),
    /// Levels and water.
    Water(WaterFinding),
    /// What the eye found.
    Look(LookFinding),
    /// What equalizes did.
    Equalize(EqualizeFinding),
    /// What the charger is set to.
    Charger(ChargerFinding),
}

impl FindingKind {
    /// The code as written: `suspect_cell`.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Round(own) => own.into(),
            Self::Rest(own) => own.into(),
            Self::Ohmic(own) => own.into(),
            Self::LoadTest(own) => own.into(),
            Self::Joints(own) => own.into(),
            Self::Water(own) => own.into(),
            Self::Look(own) => own.into(),
            Self::Equalize(own) => own.into(),
            Self::Charger(own) => own.into(),
        }
    }
}

/// What the deviation of a cell is told from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Against {
    /// The median of the bank.
    #[default]
    Median,
    /// The line of a gradient.
    Line,
    /// The median of its battery, which is low as a whole.
    Battery,
    /// The median of its string, which is low as a whole.
    String,
}

/// What a round shows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RoundFinding {
    /// The round is kept and not judged.
    NotJudged {
        /// Why.
        reasons: Vec<Unusable>,
    },
    /// One cell far below its mates, or sinking.
    SuspectCell {
        /// Its corrected gravity.
        gravity: SpecificGravity,
        /// Its deviation.
        deviation: Points,
        /// Its deviation in the round before, and how many days ago.
        before: Option<(Points, f64)>,
        /// How fast it sinks, where it does.
        sinking: Option<Sinking>,
        /// True when every other cell is even.
        alone: bool,
        /// What the runs before say of it, where it did not answer the last.
        #[serde(default)]
        after_run: Option<NonRespondingCell>,
    },
    /// Cells below the steady band.
    LowCells {
        /// Deviation of the lowest.
        lowest: Points,
        /// Deviation of the one nearest the band.
        nearest: Points,
        /// True for one cell alone below an even bank.
        alone: bool,
        /// What the deviations are from.
        #[serde(default)]
        from: Against,
        /// True where they are what explains the round best.
        #[serde(default)]
        named: bool,
        /// What the runs before say of the lowest, where it did not answer the last.
        #[serde(default)]
        after_run: Option<NonRespondingCell>,
    },
    /// Cells above the steady band.
    HighCells {
        /// Deviation of the highest.
        highest: Points,
        /// What it is from.
        #[serde(default)]
        from: Against,
        /// True where they are what explains the round best.
        #[serde(default)]
        named: bool,
    },
    /// Cells over full while the others are not: acid in them (SG-6).
    AcidInCells {
        /// Highest of them less full gravity.
        above: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// Gravity over full that the recorded levels explain (SG-4, SG-6).
    LowLevels {
        /// Most that a level lies under its mark, mm.
        below_mark: f64,
        /// Over full gravity, the bank or its highest cell.
        above: Points,
    },
    /// Nobody proved it full, and it stands short of full by more than the instrument's doubt (RD-9).
    FarFromFull {
        /// Centre less full gravity.
        short: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// Settled volts say fuller than the gravity drawn from the top (SG-3).
    Stratified {
        /// Volts per cell as measured.
        measured: f64,
        /// Volts per cell that the gravity leads to.
        expected: f64,
    },
    /// Volts of the bank are short by one cell or more (SG-3).
    DeadCell {
        /// Volts missing.
        short: f64,
        /// Cells that give nothing.
        cells: u32,
        /// True where the bank is one battery, which has it then.
        #[serde(default)]
        one_battery: bool,
    },
    /// Two neighbours in one case are low.
    LowPair {
        /// Their median deviation.
        deviation: Points,
    },
    /// One battery low as a whole.
    LowBattery {
        /// The battery.
        battery: BatteryAddress,
        /// Deviation of its highest cell.
        nearest: Points,
        /// Deviation of its lowest cell.
        lowest: Points,
    },
    /// One string low as a whole.
    LowString {
        /// Its letter.
        letter: char,
        /// Its median against the bank's.
        deviation: Points,
    },
    /// Cells fall along the strings.
    Gradient {
        /// Low end of the row.
        low_end: CellAddress,
        /// High end of the row.
        high_end: CellAddress,
        /// Deviation of the low end's cells.
        low: Points,
        /// Deviation of the high end's cells.
        high: Points,
    },
    /// The spread asks for a corrective equalize.
    SpreadEqualize {
        /// Highest less lowest.
        spread: Points,
        /// True when the round was proven full.
        proven_full: bool,
        /// Its ends, where they are known.
        #[serde(default)]
        ends: Option<Spread>,
        /// What the runs before say of the lowest cell, where it did not answer the last.
        #[serde(default)]
        after_run: Option<NonRespondingCell>,
    },
    /// The spread is wider than even.
    SpreadWatch {
        /// Highest less lowest.
        spread: Points,
        /// Its ends, where they are known.
        #[serde(default)]
        ends: Option<Spread>,
    },
    /// The whole bank stands short of full after a proven full charge.
    ShortOfFull {
        /// Median less full gravity.
        short: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// Two rounds running the bank was neither proven full nor near it (CH-5).
    NeverFull {
        /// Charge now, per cent.
        now: f64,
        /// Charge on the round before, per cent.
        before: f64,
    },
    /// The whole bank stands above full (SG-6).
    AboveFull {
        /// Median less full gravity.
        above: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// Settled volts and gravity tell different stories (SG-3).
    RestVoltsDisagree {
        /// Volts per cell as measured.
        measured: f64,
        /// Volts per cell that the gravity leads to.
        expected: f64,
    },
    /// A reading is in question.
    Reread {
        /// Why.
        question: Question,
    },
    /// The float stood off the scale.
    OffScale {
        /// True above, false below.
        above: bool,
    },
    /// Cells without a reading.
    NotRead {
        /// The reason, where one cell has one.
        reason: String,
    },
}

/// What resistances and cases show (OH-1).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OhmicFinding {
    /// Resistance rose; the case may be hotter too.
    ResistanceRise {
        /// The battery as judged.
        battery: OhmicJudged,
    },
    /// A case hotter than its mates, with a resistance that says nothing.
    HotCase {
        /// The battery.
        battery: BatteryAddress,
        /// °C over the median case.
        hotter: f64,
    },
}

/// What levels and fills show.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum WaterFinding {
    /// Plates that showed and were not covered (WA-4).
    PlatesBare,
    /// Levels that stood at the plates and got no water (WA-4).
    LevelsAtPlates,
    /// A cell that drinks unlike its mates (WA-5).
    UnevenConsumption {
        /// How unlike.
        uneven: Uneven,
    },
}

/// Something the eye found (LO-1).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LookFinding {
    /// Something out of order.
    Seen {
        /// What was looked at.
        check: Check,
        /// Key of what was found.
        kind: String,
        /// Play in mm, or volts to the tray, where measured.
        measured: Option<f64>,
        /// In the technician's words.
        note: String,
    },
}

/// What equalizes did (EQ-5).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EqualizeFinding {
    /// A cell that did not answer twice running.
    NonResponding {
        /// The cell, and how often.
        cell: NonRespondingCell,
    },
    /// What one run did.
    RunOutcome {
        /// What.
        outcome: Outcome,
        /// Spread before.
        before: Points,
        /// Spread after.
        after: Points,
        /// Gain of one cell that the instrument can tell.
        told: Points,
        /// Deviation of the lowest cell that did not answer; none: each answered.
        lowest: Option<Points>,
    },
}
