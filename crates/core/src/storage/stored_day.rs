//! A stored bank on a day, and why it is charged.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Charge at which a stored bank is charged, per cent (SD-2; common practice, no source).
pub const RECHARGE_AT: f64 = 75.0;

/// Why a stored bank is charged.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RechargeWhy {
    /// It is down to 75 %.
    Charge,
    /// The day after, it would stand within the freezing margin.
    Freezing,
}

/// A bank on a day of its spell, at midnight after it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StoredDay {
    /// The day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// State of charge, per cent.
    pub charge: f64,
    /// Gravity of its cells.
    pub gravity: f64,
    /// Where they freeze, °C.
    pub freezes: f64,
    /// The coldest to expect, °C.
    pub coldest: f64,
    /// Mean of the electrolyte, °C.
    pub mean: f64,
}

impl StoredDay {
    /// °C between the coldest to expect and the freezing point.
    pub fn margin(&self) -> f64 {
        self.coldest - self.freezes
    }
}
