//! RD-3: why a reading is in question.

use crate::instrument::Limit;
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Why a reading is in question.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "why", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Question {
    /// Outside 1.050 to 1.330 as read.
    OutsideUsual {
        /// As read.
        read: SpecificGravity,
    },
    /// Moved against its mates since the last comparable round.
    Moved {
        /// Change of its deviation.
        change: Points,
        /// Days since then.
        days: f64,
        /// Limit that was passed.
        limit: Limit,
        /// Largest move among its neighbours in the same case or next to it, where known.
        neighbours: Option<Points>,
    },
    /// Far from the mates, without a history to explain it.
    FarFromMates {
        /// Distance from the median of the others.
        deviation: Points,
        /// Limit that was passed.
        limit: Limit,
    },
}
