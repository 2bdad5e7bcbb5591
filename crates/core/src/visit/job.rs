//! Jobs that a whole visit is for, and their lines in the order of the trade (SD-3, RP-2; commissioning: polarity,
//! freshening charge, baseline round).

mod line;
mod polarity;
mod task;

pub use line::{JobLine, JobSeen, TaskState, job_lines};
pub(super) use polarity::question as polarity_question;
pub use polarity::{Polarity, PolarityQuestion, polarities};
pub use task::{JobTask, TaskBy, job_tasks};

use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// What a visit is for, where it is for more than a look.
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
pub enum Job {
    /// The bank is made ready for the time that nobody uses it.
    StoragePreparation,
    /// The bank is taken into use again after that time.
    SpringCheck,
    /// Batteries are replaced.
    Replacement,
    /// A bank that is put away is looked at.
    StorageCheck,
}

impl Job {
    /// Days before its own on which a visit for a job answers a reminder of it: it was done early (our choice, no source).
    /// Checks come every month or two, and one answers no two of them.
    pub const fn done_early(self) -> i32 {
        match self {
            Self::StorageCheck => 14,
            Self::StoragePreparation | Self::SpringCheck | Self::Replacement => 45,
        }
    }

    /// Jobs whose reminders a visit for it answers: taking a bank into use ends the checks of its storage.
    pub const fn answers(self) -> &'static [Self] {
        match self {
            Self::StoragePreparation => &[Self::StoragePreparation],
            Self::SpringCheck => &[Self::SpringCheck, Self::StorageCheck],
            Self::Replacement => &[Self::Replacement],
            Self::StorageCheck => &[Self::StorageCheck],
        }
    }
}
