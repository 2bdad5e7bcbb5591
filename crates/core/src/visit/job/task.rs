//! The lines of each job, and what answers them.

use super::Job;
use crate::battery_model::Construction;
use crate::visit::{Check, Step, Work};
use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// One line of a job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum JobTask {
    /// Photographs of how everything stands and is wired.
    Photographed,
    /// Cases looked at for cracks, before anything is charged.
    CasesLookedAt,
    /// Age on record and on the date codes.
    AgeRead,
    /// Loads off, then apart, the grounded end first.
    TakenApart,
    /// What came in and where the old ones went stands in the record.
    ChangeOnRecord,
    /// Polarity of every battery that came in, by the meter, before it is joined.
    PolarityRead,
    /// Joined as photographed, the grounded end last.
    Joined,
    /// Tops and joints cleaned.
    Cleaned,
    /// Plates covered before a charge.
    LevelsLookedAt,
    /// The round before the charge.
    ReadBeforeCharge,
    /// Charged full.
    ChargedFull,
    /// Volts, settled.
    VoltsRead,
    /// Volts once more a day later.
    VoltsAgain,
    /// The round after the charge.
    ReadAfterCharge,
    /// Equalized where the round asks for it.
    EqualizedIfNeeded,
    /// Water to the mark, after the charge.
    WateredToMark,
    /// Hold-downs fast.
    HoldDownsFast,
    /// Joints at their torque.
    Torqued,
    /// Joints coated against corrosion.
    Coated,
    /// Disconnected from whatever draws.
    Disconnected,
    /// Nothing draws from it while it is put away.
    NothingDraws,
    /// Charged full where its volts ask for it.
    ChargedIfAsked,
    /// The check itself, from which the next is counted.
    StorageChecked,
    /// Screens and vents clear.
    VentsClear,
    /// New ones labelled with place, date code and day.
    Labelled,
    /// Old ones made safe to carry, their history with them.
    OldOnesSafe,
}

/// What answers a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum TaskBy {
    /// A tick of its own.
    Tick,
    /// Work that the calendar counts from.
    Work(Work),
    /// A step of the visit that is done, or left out with its reason.
    Step(Step),
    /// Something looked at on the look-over.
    Check(Check),
    /// A level, or water, anywhere.
    Level,
    /// A round that was finished before the charge.
    RoundBefore,
    /// A round that was finished after the charge.
    RoundAfter,
    /// Volts that are to be read again.
    Recheck,
    /// A photograph of the visit.
    Photograph,
    /// The record of batteries that changed.
    Record,
    /// The polarity of every battery that came in.
    Polarity,
}

impl JobTask {
    /// What answers it.
    pub const fn by(self) -> TaskBy {
        match self {
            Self::Photographed => TaskBy::Photograph,
            Self::CasesLookedAt => TaskBy::Check(Check::Case),
            Self::HoldDownsFast => TaskBy::Check(Check::HoldDown),
            Self::ChangeOnRecord => TaskBy::Record,
            Self::PolarityRead => TaskBy::Polarity,
            Self::Cleaned => TaskBy::Work(Work::Cleaned),
            Self::ChargedFull | Self::ChargedIfAsked => TaskBy::Work(Work::ChargedFull),
            Self::StorageChecked => TaskBy::Work(Work::StorageChecked),
            Self::Torqued => TaskBy::Work(Work::Retorqued),
            Self::LevelsLookedAt => TaskBy::Level,
            Self::ReadBeforeCharge => TaskBy::RoundBefore,
            Self::ReadAfterCharge => TaskBy::RoundAfter,
            Self::VoltsRead => TaskBy::Step(Step::RestCheck),
            Self::VoltsAgain => TaskBy::Recheck,
            Self::EqualizedIfNeeded => TaskBy::Step(Step::Equalize),
            Self::WateredToMark => TaskBy::Step(Step::Water),
            Self::AgeRead
            | Self::TakenApart
            | Self::Joined
            | Self::Coated
            | Self::Disconnected
            | Self::NothingDraws
            | Self::VentsClear
            | Self::Labelled
            | Self::OldOnesSafe => TaskBy::Tick,
        }
    }

    /// The step where it is written down; none: in the list itself, or in no step.
    pub const fn step(self) -> Option<Step> {
        match self.by() {
            TaskBy::Step(step) => Some(step),
            TaskBy::Check(_) => Some(Step::LookOver),
            TaskBy::Level => Some(Step::Water),
            TaskBy::RoundBefore | TaskBy::RoundAfter => Some(Step::Round),
            TaskBy::Work(Work::Retorqued) => Some(Step::Joints),
            TaskBy::Tick
            | TaskBy::Work(_)
            | TaskBy::Recheck
            | TaskBy::Photograph
            | TaskBy::Record
            | TaskBy::Polarity => None,
        }
    }

    /// True where the list itself takes it: a tick that stands nowhere else, or that there is none.
    pub const fn is_taken(self, none_here: bool) -> bool {
        matches!(self.by(), TaskBy::Tick) || (none_here && self.may_be_missing())
    }

    /// True for what not every bank has or wants: it can be answered with "none here".
    pub const fn may_be_missing(self) -> bool {
        matches!(self, Self::Coated | Self::VentsClear | Self::OldOnesSafe | Self::ChargedIfAsked)
    }
}

/// The lines of a job in the order they are done; a sealed bank has no gravity, no water and no equalize, its volts
/// take the place of the round.
pub fn job_tasks(job: Job, construction: Construction) -> Vec<JobTask> {
    use JobTask as Do;
    let flooded: &[Do] = match job {
        Job::StoragePreparation => &[
            Do::ChargedFull,
            Do::ReadAfterCharge,
            Do::EqualizedIfNeeded,
            Do::WateredToMark,
            Do::Cleaned,
            Do::Torqued,
            Do::Disconnected,
            Do::VentsClear,
        ],
        Job::SpringCheck => &[
            Do::CasesLookedAt,
            Do::AgeRead,
            Do::Cleaned,
            Do::LevelsLookedAt,
            Do::ReadBeforeCharge,
            Do::ChargedFull,
            Do::VoltsRead,
            Do::ReadAfterCharge,
            Do::VoltsAgain,
            Do::HoldDownsFast,
            Do::Torqued,
            Do::Coated,
        ],
        Job::Replacement => &[
            Do::Photographed,
            Do::TakenApart,
            Do::ChangeOnRecord,
            Do::PolarityRead,
            Do::Joined,
            Do::Torqued,
            Do::ChargedFull,
            Do::ReadAfterCharge,
            Do::Labelled,
            Do::OldOnesSafe,
        ],
        Job::StorageCheck => &[
            Do::CasesLookedAt,
            Do::NothingDraws,
            Do::VoltsRead,
            Do::ChargedIfAsked,
            Do::VentsClear,
            Do::StorageChecked,
        ],
    };
    let caps = construction.has_caps();
    let sealed = |task: Do| match task {
        Do::ReadBeforeCharge | Do::EqualizedIfNeeded | Do::WateredToMark | Do::LevelsLookedAt => None,
        // Its volts are on the list already, or stand for the round.
        Do::ReadAfterCharge if flooded.contains(&Do::VoltsRead) => None,
        Do::ReadAfterCharge => Some(Do::VoltsRead),
        other => Some(other),
    };
    flooded.iter().filter_map(|task| if caps { Some(*task) } else { sealed(*task) }).collect()
}
