//! What a bank is for.

use serde::{Deserialize, Serialize};

/// What a bank does, as far as its calendar cares.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Duty {
    /// Charged and discharged in use.
    Cycled,
    /// Kept full for the day it is needed.
    Standby,
}

impl Duty {
    /// From the shop's own words: what says standby is standby, everything else cycles.
    pub fn of(words: &str) -> Self {
        if words.to_lowercase().contains("standby") { Self::Standby } else { Self::Cycled }
    }
}
