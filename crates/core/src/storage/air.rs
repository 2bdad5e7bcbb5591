//! Air at a site through a storage spell: monthly means, and the coldest that was ever seen.

use crate::water::{ClimateRefused, MonthlyMeans, RecordLows};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// °C that the coldest night is taken to lie under the mean of its month where no record lows are told (our choice, no
/// source).
pub const LOWS_UNDER_MEANS: f64 = 18.0;

/// Air at a site by month, January first, °C.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StorageAir {
    /// Mean of each month.
    pub means: MonthlyMeans,
    /// Lowest on record in each month; none: so much under the mean as [`LOWS_UNDER_MEANS`].
    #[serde(default)]
    pub lows: Option<RecordLows>,
}

impl StorageAir {
    /// Itself when its lows are possible and none lies above its mean.
    ///
    /// # Errors
    /// [`ClimateRefused`] for the month.
    pub fn checked(self) -> Result<Self, ClimateRefused> {
        self.lows.map(|lows| lows.beside(&self.means)).transpose()?;
        Ok(self)
    }

    /// Mean air on a day, °C: straight lines between the middles of the months.
    pub fn mean(&self, day: Date) -> f64 {
        self.means.on_day(day_of_year(day))
    }

    /// The coldest to expect on a day, °C, alike.
    pub fn low(&self, day: Date) -> f64 {
        let lows = self.lows.unwrap_or_else(|| RecordLows::under(&self.means, LOWS_UNDER_MEANS));
        MonthlyMeans::between(&lows.celsius(), day_of_year(day))
    }
}

fn day_of_year(day: Date) -> f64 {
    f64::from(day.day_of_year() - 1) + 0.5
}
