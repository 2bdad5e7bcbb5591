//! The path of a visit: its steps in order.

use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// A step of a visit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Step {
    /// Eyes, hands, metal, air, loads, chargers, isolation.
    MakeSafe,
    /// Look over cases, caps, cables, hold-downs, vents.
    LookOver,
    /// Volts at rest, battery by battery, then strings; on sealed banks resistance and case too.
    RestCheck,
    /// Every cell by hydrometer.
    Round,
    /// Levels and water.
    Water,
    /// Equalize, where readings or calendar ask for it.
    Equalize,
    /// Everything back as it was.
    CloseUp,
}

impl Step {
    /// As written on the path.
    pub fn name(self) -> &'static str {
        match self {
            Self::MakeSafe => "Make safe",
            Self::LookOver => "Look over",
            Self::RestCheck => "Rest check",
            Self::Round => "Round",
            Self::Water => "Water",
            Self::Equalize => "Equalize",
            Self::CloseUp => "Close up",
        }
    }
}

/// The steps that apply: a sealed bank has no caps, so no round and no water.
pub fn steps(construction: Construction) -> Vec<Step> {
    let all = [
        Step::MakeSafe,
        Step::LookOver,
        Step::RestCheck,
        Step::Round,
        Step::Water,
        Step::Equalize,
        Step::CloseUp,
    ];
    all.into_iter()
        .filter(|step| construction.has_caps() || !matches!(step, Step::Round | Step::Water | Step::Equalize))
        .collect()
}
