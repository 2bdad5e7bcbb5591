//! A reading of a discharge with where it stands in it.

use super::log::DischargedBattery;
use serde::{Deserialize, Serialize};

/// One reading with where it stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargePoint {
    /// Its entry.
    pub id: String,
    /// Hours of load until then.
    pub hours: f64,
    /// True when the load was on.
    pub under_load: bool,
    /// Current, A.
    pub amperes: Option<f64>,
    /// Volts of the place under test.
    pub volts: Option<f64>,
    /// Battery by battery.
    pub batteries: Vec<DischargedBattery>,
    /// Hottest electrolyte or case, °C.
    pub celsius: Option<f64>,
}
