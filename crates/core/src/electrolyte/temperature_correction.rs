//! SG-1: gravity brought to the reference temperature.

use super::density::{self, TABLE_TEMPERATURE};
use crate::quantity::{Points, SpecificGravity, Temperature};
use serde::{Deserialize, Serialize};

/// 0.004 per 10 °F, in the rounding used by the trade: 0.00072 per °C (source key `bci`, from
/// memory). Other published roundings are 0.0007 and 0.0006 per °C.
pub const PLAIN_COEFFICIENT: f64 = 0.000_72;

/// How gravity is brought to the reference temperature: a house-rule choice.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "method", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Correction {
    /// `SG + k·(T − T_ref)`: right within 0.0011 for 1.20 to 1.30 and 0 to 50 °C; over-corrects
    /// weak acid, by 0.006 at 1.100 and 0 °C.
    Plain {
        /// k, per °C.
        per_celsius: f64,
    },
    /// By measured densities of acid: within 0.0006 over the same range, and right for weak acid.
    MeasuredDensity,
}

impl Default for Correction {
    fn default() -> Self {
        Self::Plain { per_celsius: PLAIN_COEFFICIENT }
    }
}

impl Correction {
    /// The gravity this electrolyte would show at `reference`.
    #[must_use]
    pub fn apply(self, read: SpecificGravity, at: Temperature, reference: Temperature) -> SpecificGravity {
        match self {
            Self::Plain { per_celsius } => {
                SpecificGravity::corrected(read.value() + per_celsius * (at - reference).celsius())
            }
            Self::MeasuredDensity => {
                let at_table = at_table_temperature(read.value(), at.celsius());
                SpecificGravity::corrected(
                    at_table + density::shift_from_table_temperature(at_table, reference.celsius()),
                )
            }
        }
    }

    /// Coefficient used for the uncertainty that an uncertain temperature brings, per °C.
    pub fn coefficient(self) -> f64 {
        match self {
            Self::Plain { per_celsius } => per_celsius,
            Self::MeasuredDensity => PLAIN_COEFFICIENT,
        }
    }
}

/// Gravity at 26.7 °C of acid that shows `read` at `celsius`; the slope depends weakly on the
/// answer, so a few rounds settle it far below any instrument.
fn at_table_temperature(read: f64, celsius: f64) -> f64 {
    let mut sg = read + PLAIN_COEFFICIENT * (celsius - TABLE_TEMPERATURE);
    for _ in 0..12 {
        sg = read - density::shift_from_table_temperature(sg, celsius);
    }
    sg
}

/// Temperatures between which densities were measured, °C.
const MEASURED_BETWEEN: std::ops::RangeInclusive<f64> = 0.0..=50.0;

/// How far the plain rule may be off at this gravity and temperature: the largest published error
/// between 0 and 50 °C, in proportion to the distance from the reference. It widens the
/// uncertainty below 1.20.
pub fn plain_rule_error(sg: SpecificGravity, at: Temperature, reference: Temperature) -> Points {
    if sg.value() >= 1.20 {
        // Right within 0.0011 from 0 to 50 °C; beyond that as far as it lies from the measured densities.
        if MEASURED_BETWEEN.contains(&at.celsius()) {
            return Points::ZERO;
        }
        let [rule, measured] =
            [Correction::default(), Correction::MeasuredDensity].map(|own| own.apply(sg, at, reference));
        return (rule - measured).abs();
    }
    let share = (at - reference).celsius().abs() / TABLE_TEMPERATURE;
    Points::new(density::plain_rule_largest_error(sg.value()) * 1000.0 * share)
}
