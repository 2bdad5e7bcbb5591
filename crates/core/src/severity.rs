//! RD-8: how bad something is, in five fixed words.

use serde::{Deserialize, Serialize};

/// How bad something is, best first; the words are fixed. Of a cell or a bank it is its condition.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Severity {
    /// Nothing to do.
    Steady,
    /// Not read, or nothing that can be judged.
    #[default]
    NoReading,
    /// The reading is in question.
    Reread,
    /// Keep an eye on it.
    Watch,
    /// Something is to be done.
    Act,
}

impl Severity {
    /// The fixed, lower-case word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Steady => "steady",
            Self::NoReading => "no reading",
            Self::Reread => "re-read",
            Self::Watch => "watch",
            Self::Act => "act",
        }
    }
}
