//! SD-1: what a bank loses by itself.

use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// Per cent a month by which an aged flat-plate battery with antimony loses more, a year of its age (our choice between 6.5 when
/// new and 15 when old; common practice, no source).
const AGED_BY_YEAR: f64 = 0.85;
/// The most that an aged one loses, per cent a month.
const MOST: f64 = 15.0;
/// Days of a month.
const MONTH: f64 = 30.4;

/// What is lost by itself in a month, per cent of the charge that is left.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MonthlyLoss {
    /// Inside, at 25 °C: it doubles with every 10 °C.
    pub inside: f64,
    /// Over dirty, wet tops, 0 to 10: it does not double.
    #[serde(default)]
    pub tops: f64,
}

impl MonthlyLoss {
    /// Share of the charge that is lost a day at a temperature, °C.
    pub fn a_day(&self, celsius: f64) -> f64 {
        let rate = |percent: f64| -(1.0 - percent / 100.0).ln() / MONTH;
        rate(self.inside) * ((celsius - 25.0) / 10.0).exp2() + rate(self.tops)
    }
}

/// Per cent a month at 25 °C that a battery of an age, years, loses, with the range of its kind (common practice, no source).
pub fn usual_self_discharge(construction: Construction, years: f64) -> (f64, [f64; 2]) {
    match construction {
        Construction::Flooded => {
            let own = (6.5 + AGED_BY_YEAR * years).min(MOST);
            (own, [(own - 1.5).max(4.0), (own + 1.5).min(MOST)])
        }
        Construction::FloodedTubular => (3.0, [3.0, 5.0]),
        Construction::Agm | Construction::Gel => (2.5, [2.0, 3.0]),
    }
}
