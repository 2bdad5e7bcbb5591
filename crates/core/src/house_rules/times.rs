//! How long work takes (SC-2), as far as a shop plans by it.

use serde::{Deserialize, Serialize};

/// Times that work is planned by, until one's own visits tell better (common practice, no source).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WorkTimes {
    /// Reading one cell on a round, seconds.
    pub round_cell_seconds: u16,
    /// Looking into one cell and filling it, seconds.
    pub fill_cell_seconds: u16,
    /// Getting at the bank and making it safe for either, minutes.
    pub set_up_minutes: u16,
    /// Load test of one battery, minutes.
    pub test_battery_minutes: u16,
    /// Look-over of a bank beside one minute for each battery, minutes.
    pub look_over_minutes: u16,
}

impl Default for WorkTimes {
    fn default() -> Self {
        Self {
            round_cell_seconds: 45,
            fill_cell_seconds: 30,
            set_up_minutes: 10,
            test_battery_minutes: 10,
            look_over_minutes: 15,
        }
    }
}
