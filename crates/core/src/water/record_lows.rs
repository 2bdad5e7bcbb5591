//! The lowest that was ever seen in each month at a site: what a stored bank has to come through (SD-2, SG-5).

use super::climate::{ClimateRefused, MeanRefused, MonthlyMeans};
use crate::quantity::bounds::{Bounds, OutOfRange, RECORD_LOW};
use serde::{Deserialize, Serialize};

/// Lowest air temperatures on record, January first, °C, each within the table.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "[f64; 12]", into = "[f64; 12]")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
pub struct RecordLows([f64; 12]);

impl TryFrom<[f64; 12]> for RecordLows {
    type Error = ClimateRefused;

    fn try_from(lows: [f64; 12]) -> Result<Self, ClimateRefused> {
        for (month, celsius) in lows.iter().enumerate() {
            RECORD_LOW
                .check(*celsius)
                .map_err(|refused| ClimateRefused { month, why: MeanRefused { refused } })?;
        }
        Ok(Self(lows))
    }
}

impl From<RecordLows> for [f64; 12] {
    fn from(lows: RecordLows) -> Self {
        lows.0
    }
}

impl RecordLows {
    /// January to December, °C.
    pub const fn celsius(&self) -> [f64; 12] {
        self.0
    }

    /// Lows that lie so much under the means of their months, °C, no lower than the table goes.
    pub fn under(means: &MonthlyMeans, degrees: f64) -> Self {
        Self(means.celsius().map(|mean| (mean - degrees).clamp(RECORD_LOW.low, RECORD_LOW.high)))
    }

    /// Itself where none lies above the mean of its month.
    ///
    /// # Errors
    /// [`ClimateRefused`] with the month and what it may be at most.
    pub fn beside(self, means: &MonthlyMeans) -> Result<Self, ClimateRefused> {
        for (month, (low, mean)) in self.0.iter().zip(means.celsius()).enumerate() {
            if *low > mean {
                let bounds = Bounds { high: mean, ..RECORD_LOW };
                let why = MeanRefused { refused: OutOfRange { found: *low, bounds } };
                return Err(ClimateRefused { month, why });
            }
        }
        Ok(self)
    }
}
