//! What is to be done, and what waiting does (SC-1).

use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// What waiting does (SC-1), worst first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Consequence {
    /// Cells or people come to harm.
    Harm,
    /// Capacity or money is slowly lost.
    Loss,
    /// The calendar only.
    Routine,
}

impl Consequence {
    /// Its mark, the same as that of a finding.
    pub const fn condition(self) -> Severity {
        match self {
            Self::Harm => Severity::Act,
            Self::Loss => Severity::Watch,
            Self::Routine => Severity::Steady,
        }
    }
}

/// What is to be done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Task {
    /// Cover plates that show.
    CoverPlates,
    /// A cell to equalize with as pilot, or to test.
    SuspectCell,
    /// Something found on a look-over.
    SeenFinding,
    /// Look at the levels and fill.
    Water,
    /// A round: gravity, or volts and resistance on sealed banks.
    Round,
    /// Equalize.
    Equalize,
    /// Find out why the bank does not fill, or stands above full.
    Charge,
    /// Retorque and clean.
    RetorqueAndClean,
    /// Load or capacity test.
    LoadTest,
    /// Standby check before the wet season.
    StandbyWet,
    /// Standby check after the first hard frost.
    StandbyFrost,
    /// Storage check.
    StorageCheck,
    /// A full charge before the season closes.
    ChargeForStorage,
    /// Say when a stored bank is used again.
    SayWhenUsed,
    /// Look into every cell behind a watering kit.
    KitInspection,
    /// Something is looked at or measured again.
    Recheck,
    /// The charge that has to follow a discharge.
    Recharge,
    /// A reminder of one's own.
    Reminder,
}
