//! WA-2: what is known between two fills, and the days a forecast tells.

use crate::quantity::Charge;
use serde::{Deserialize, Serialize};

/// Margin over the plates that a forecast keeps, mm (WA-2).
pub const MARGIN_MM: f64 = 10.0;
/// One stretch between two fills to the mark.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Interval {
    /// Days between the fills, above zero.
    pub days: f64,
    /// Water at its end to come back to the mark, mL per cell.
    pub millilitres: f64,
    /// Mean electrolyte temperature, °C; none: unknown, read as 25.
    #[serde(default)]
    pub temperature: Option<f64>,
}

/// Days with their range.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DaysRange {
    /// One in ten is sooner.
    pub p10: f64,
    /// Half are sooner.
    pub p50: f64,
    /// Nine in ten are sooner.
    pub p90: f64,
}

/// What a cycled cell drinks before anything is known of it, mL a day at 25 °C: two per cent of C20
/// gassed a day (common practice, no source).
pub fn prior_rate(c20: Charge) -> f64 {
    0.02 * c20.ampere_hours() * super::millilitres_per_ampere_hour()
}
