//! What was found in a file on the way to its end.

use super::OtherWay;
use serde::{Deserialize, Serialize};

/// What a file brought, and what of it was odd.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReadToEnd {
    /// Lines with a time.
    pub samples: u64,
    /// Minutes that they make.
    pub minutes: u64,
    /// Minutes from one row to the next, as most are.
    pub step: i64,
    /// Lines or fields that were not taken.
    pub not_taken: u64,
    /// Lines of a clock that was not set, or stood in the future.
    pub clock_not_set: u64,
    /// Lines that lay before the one above them.
    pub backwards: u64,
    /// Times that a counter was set.
    pub counter_set: u64,
    /// Times that the file begins anew.
    pub restarts: u64,
    /// Gaps of more than five steps.
    pub gaps: u64,
    /// Hours of them.
    pub gap_hours: f64,
    /// Words of state that are not known.
    pub unknown_states: Vec<String>,
    /// Stretches in which the current runs the other way than it was said to.
    pub other_way: Vec<OtherWay>,
    /// The first minute and the last, since 1970, UTC.
    pub span: (i64, i64),
}
