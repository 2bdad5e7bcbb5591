//! Levels: the trade's steps or millimetres over the plates, what is missing to the mark (WA-3), and
//! what a low level does to gravity (SG-4).

use crate::bank::CellAddress;
use crate::battery_model::BatteryModel;
use crate::quantity::{Bounds, OutOfRange, SpecificGravity, Volume, bounds};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Level in the trade's steps.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LevelStep {
    /// Plates stand out of the liquid.
    PlatesBare,
    /// The liquid just meets the plates.
    AtPlates,
    /// Plates covered, clearly under the mark.
    Low,
    /// At the fill mark.
    AtMark,
    /// Over the fill mark.
    Over,
}

/// A level as the technician noted it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "as", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Level {
    /// By eye.
    Step {
        /// The step.
        step: LevelStep,
    },
    /// Measured, mm over the plates; negative under their tops.
    Millimetres {
        /// mm over the plates.
        mm: f64,
    },
}

/// Height of the mark over the plates where the model publishes none (common practice, no source).
const MARK_UNKNOWN: f64 = 20.0;
/// The plates are as good as bare within this of their tops, mm (common practice, no source).
const ACT_MM: f64 = 5.0;
/// Over the mark by more than this is over, mm (common practice, no source).
const OVER_MM: f64 = 3.0;

/// Height of the fill mark over the plates, mm.
fn mark(model: &BatteryModel) -> f64 {
    model.fill_mark_above_plates.map_or(MARK_UNKNOWN, crate::quantity::Length::millimetres)
}

/// A level found under its mark.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LowLevel {
    /// The cell.
    pub cell: CellAddress,
    /// Under the mark, mm.
    pub below_mark: f64,
}

impl Level {
    /// A measured level.
    ///
    /// # Errors
    /// [`OutOfRange`] outside −50 to 300 mm.
    pub fn measured(mm: f64) -> Result<Self, OutOfRange> {
        const BOUNDS: Bounds = bounds::LEVEL;
        BOUNDS.check(mm).map(|mm| Self::Millimetres { mm })
    }

    /// Height over the plates, mm: as measured, or where the step stands in this model.
    pub fn over_plates(self, model: &BatteryModel) -> f64 {
        match self {
            Self::Millimetres { mm } => mm,
            Self::Step { step } => match step {
                LevelStep::PlatesBare => -5.0,
                LevelStep::AtPlates => 0.0,
                LevelStep::Low => mark(model) / 2.0,
                LevelStep::AtMark => mark(model),
                LevelStep::Over => mark(model) + 5.0,
            },
        }
    }

    /// The step a measured level comes to.
    pub fn step(self, model: &BatteryModel) -> LevelStep {
        match self {
            Self::Step { step } => step,
            Self::Millimetres { mm } if mm < 0.0 => LevelStep::PlatesBare,
            Self::Millimetres { mm } if mm <= ACT_MM => LevelStep::AtPlates,
            Self::Millimetres { mm } if mm > mark(model) + OVER_MM => LevelStep::Over,
            Self::Millimetres { mm } if mm >= mark(model) - OVER_MM => LevelStep::AtMark,
            Self::Millimetres { .. } => LevelStep::Low,
        }
    }

    /// True when plates show.
    pub fn bare(self, model: &BatteryModel) -> bool {
        self.step(model) == LevelStep::PlatesBare
    }

    /// Its condition: bare plates and plates about to show ask for action, low under the margin and
    /// over the mark are watched.
    pub fn condition(self, model: &BatteryModel) -> Severity {
        match self.step(model) {
            LevelStep::PlatesBare | LevelStep::AtPlates => Severity::Act,
            LevelStep::Over => Severity::Watch,
            LevelStep::AtMark => Severity::Steady,
            LevelStep::Low if self.over_plates(model) < super::MARGIN_MM => Severity::Watch,
            // By eye "low" is watched; measured, it is steady while the margin stands.
            LevelStep::Low => match self {
                Self::Step { .. } => Severity::Watch,
                Self::Millimetres { .. } => Severity::Steady,
            },
        }
    }
}

/// WA-3: mL missing to the mark, at least for bare plates; none where the model gives no free area.
pub fn need(level: Level, model: &BatteryModel) -> Option<Volume> {
    let missing = (mark(model) - level.over_plates(model)).max(0.0);
    Volume::from_millilitres(missing * model.free_area?).ok()
}

/// SG-4: gravity after water was lost or added without mixing losses:
/// `SG' = 1 + (SG − 1)·V_full/V_now`. Volumes in mL; both above zero.
pub fn concentrated(sg: SpecificGravity, full_volume: f64, volume_now: f64) -> SpecificGravity {
    SpecificGravity::corrected(1.0 + (sg.value() - 1.0) * full_volume / volume_now)
}
