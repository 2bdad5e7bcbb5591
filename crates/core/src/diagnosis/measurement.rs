//! What can be measured, how long it takes, and where it applies (SC-2).

use serde::{Deserialize, Serialize};
use strum::{EnumString, IntoStaticStr, VariantArray};

/// A measurement.
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
    EnumString,
    IntoStaticStr,
)]
#[serde(rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = DiagnosticMeasurement))]
pub enum Measurement {
    /// Look it over.
    LookOver,
    /// Every cell by hydrometer.
    Round,
    /// The instrument in distilled water.
    DistilledWater,
    /// Volts at rest.
    RestVolts,
    /// The meter against another.
    MeterCheck,
    /// A short load.
    ShortLoad,
    /// Held disconnected.
    Holding,
    /// Water logged by fill.
    WaterLog,
    /// Resistances.
    Ohmic,
    /// A timed discharge.
    Discharge,
    /// The record of a controller or monitor.
    Record,
    /// The charger's settings.
    Settings,
    /// Millivolts over the joints.
    Joints,
    /// Currents of the strings.
    Currents,
    /// Volts from the posts to the case.
    Earth,
}

impl Measurement {
    /// Minutes of attention on a bank of so many cells and batteries; waiting is not counted.
    pub fn minutes(self, cells: f64, batteries: f64) -> f64 {
        match self {
            Self::LookOver => 15.0 + batteries,
            Self::Round => 10.0 + 0.75 * cells,
            Self::DistilledWater => 3.0,
            Self::RestVolts | Self::Ohmic | Self::Joints => 5.0 + batteries,
            Self::MeterCheck => 2.0,
            Self::ShortLoad => 10.0 * batteries,
            Self::Holding => 10.0 + 2.0 * batteries,
            Self::WaterLog | Self::Currents | Self::Earth => 5.0,
            Self::Discharge => 35.0,
            Self::Record => 15.0,
            Self::Settings => 10.0,
        }
    }

    /// Every measurement that such a bank allows.
    pub fn possible(has_caps: bool, strings: u8) -> Vec<Self> {
        Self::VARIANTS.iter().copied().filter(|own| own.applies(has_caps, strings)).collect()
    }

    /// True where a bank can be measured so: gravity and water need caps, currents of strings need two.
    pub const fn applies(self, has_caps: bool, strings: u8) -> bool {
        match self {
            Self::Round | Self::DistilledWater | Self::WaterLog => has_caps,
            Self::Currents => strings > 1,
            _ => true,
        }
    }
}
