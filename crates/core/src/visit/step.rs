//! The path of a visit: its steps in order.

use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// A step of a visit.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    PartialOrd,
    Ord,
    Hash,
    Serialize,
    Deserialize,
    VariantArray,
    strum::IntoStaticStr,
)]
#[serde(rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Step {
    /// Eyes, hands, metal, air, loads, chargers, isolation.
    MakeSafe,
    /// The job that the visit is for, line by line.
    Job,
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
    /// Load and capacity tests, where voltage alone cannot be believed.
    LoadTest,
    /// Millivolts across joints, currents of strings, torque.
    Joints,
    /// Everything back as it was.
    CloseUp,
}

/// What the technician says of a step.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StepState {
    /// Done.
    Done,
    /// Left out, with a reason.
    Skipped,
    /// Taken up again.
    Open,
}

impl Step {
    /// True for what is looked at or measured, and so can be looked at again some time later.
    pub fn can_be_rechecked(self) -> bool {
        matches!(self, Self::LookOver | Self::RestCheck | Self::Round | Self::Water)
    }
}
