//! What charges a bank and what hangs on it, as far as charging and equalizing are planned by it.

use crate::charge::ChargerSettings;
use crate::equalize::{DaySource, Load};
use serde::{Deserialize, Serialize};

/// The equipment of a bank.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Equipment {
    /// What the charger is set to.
    #[serde(default)]
    pub charger: ChargerSettings,
    /// Current the source has for the bank, A; none: not told.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// Sun, fuel and dark.
    #[serde(default)]
    pub day: DaySource,
    /// What is connected and what it takes.
    #[serde(default)]
    pub loads: Vec<Load>,
    /// Air around the bank, m³; none: not told.
    #[serde(default)]
    pub enclosure: Option<f64>,
}
