//! How much more the plates gas than new ones did (the age of the cell model, SM-1): antimony wanders, capacity goes, and
//! the bank drinks more.

use super::wear::design_life;
use crate::battery_model::Construction;
use crate::quantity::bounds::CELL_AGE;
use crate::water::WaterUse;
use serde::{Deserialize, Serialize};

/// Gassing of plates at the end of their design life, times that of new ones (SM-1 has 1 to 3, SM-2 old ones at 4).
const AT_THE_END: f64 = 4.0;
/// Fills from which the growth of its thirst is believed (our choice, no source).
const FILLS: usize = 4;
/// Sum of squares of the fills' times from which they span enough, years²: four over a year and more.
const SPAN: f64 = 0.5;

/// What tells how much a bank gasses.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GassingBy {
    /// The growth of its own thirst.
    Water {
        /// Growth a year, per cent.
        a_year: f64,
        /// Fills it rests on.
        fills: usize,
    },
    /// Its years in service.
    Age {
        /// Years.
        years: f64,
    },
    /// Nothing: taken as new.
    Unknown,
}

/// How much more a bank gasses than when it was new.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gassing {
    /// Times as much as new plates, 1 to 4.
    pub times: f64,
    /// What tells it.
    pub by: GassingBy,
}

/// By the growth of its thirst over its years where enough fills tell it, else by its years against the design life of its
/// kind.
pub fn gassing(construction: Construction, years: Option<f64>, water: Option<&WaterUse>) -> Gassing {
    let Some(years) = years else { return Gassing { times: 1.0, by: GassingBy::Unknown } };
    let held = |times: f64| times.clamp(CELL_AGE.low, CELL_AGE.high);
    match water.filter(|own| own.fills >= FILLS && own.time_spread >= SPAN) {
        Some(own) => Gassing {
            times: held((own.growth * years).exp()),
            by: GassingBy::Water { a_year: 100.0 * (own.growth.exp() - 1.0), fills: own.fills },
        },
        None => Gassing {
            times: held(1.0 + (AT_THE_END - 1.0) * years / design_life(construction)),
            by: GassingBy::Age { years },
        },
    }
}
