//! LF-2: what the years and the cycles have used of a life.

use super::cycles::{CycleTable, LIFE_SPREAD, LifeError, cycles_allowed};
use crate::battery_model::Construction;
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};

/// Temperature that a design life is stated at, °C.
const STATED_AT: f64 = 25.0;
/// °C by which a life halves.
const HALVES: f64 = 10.0;
/// Cold saves no more than this share.
const LEAST: f64 = 0.5;

/// Design life at 25 °C, years, where the maker says nothing (common practice, no source).
pub const fn design_life(construction: Construction) -> f64 {
    match construction {
        Construction::Flooded => 10.0,
        Construction::FloodedTubular => 12.0,
        Construction::Agm | Construction::Gel => 7.0,
    }
}

/// Years at a temperature.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CalendarShare {
    /// Years, 0 to 100.
    pub years: f64,
    /// Mean temperature of the electrolyte or case, °C.
    pub temperature: f64,
}

/// How a bank was used.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LifeUse {
    /// Cycles by depth: per cent and how many.
    pub cycles: Vec<[f64; 2]>,
    /// Years by temperature.
    pub calendar: Vec<CalendarShare>,
    /// Design life at 25 °C, years; none: what such batteries have.
    #[serde(default)]
    pub design_life: Option<f64>,
    /// Cycles by depth as the maker tells them; none: what such batteries have.
    #[serde(default)]
    pub table: Option<CycleTable>,
}

/// What was used of a life; 1 is 80 % of the capacity.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wear {
    /// By cycles.
    pub cycles: f64,
    /// By years.
    pub calendar: f64,
    /// Both together.
    pub total: f64,
    /// Years that it took.
    pub years: f64,
}

/// What a use took of a life (LF-2): cycles against those allowed, and years, which heat makes count double with every 10 °C.
///
/// # Errors
/// [`LifeError`] for a figure that cannot be.
pub fn wear(used: &LifeUse, construction: Construction) -> Result<Wear, LifeError> {
    let usual = CycleTable::usual(construction);
    let table = used.table.as_ref().unwrap_or(&usual);
    table.check()?;
    let life = bounds::DESIGN_LIFE.check(used.design_life.unwrap_or(design_life(construction)))?;
    let mut cycles = 0.0;
    for [depth, count] in &used.cycles {
        cycles += bounds::CYCLES.check(*count)? / cycles_allowed(table, *depth)?.cycles;
    }
    let (mut calendar, mut years) = (0.0, 0.0);
    for own in &used.calendar {
        let warm = 2f64.powf((bounds::LIFE_TEMPERATURE.check(own.temperature)? - STATED_AT) / HALVES);
        calendar += bounds::YEARS.check(own.years)? * warm.max(LEAST) / life;
        years += own.years;
    }
    Ok(Wear { cycles, calendar, total: cycles + calendar, years })
}

/// Years that a new battery lasts to 80 % of its capacity with one cycle a day of a depth, per cent, at a mean temperature, °C
/// (LF-1 and LF-2): as the table of its kind has it, fewest and most.
pub fn daily_cycle_life(construction: Construction, depth: f64, celsius: f64) -> [f64; 3] {
    let table = CycleTable::usual(construction);
    let warm = ((celsius - STATED_AT) / HALVES).exp2().max(LEAST);
    let of = |cycles: f64| 1.0 / (365.25 / cycles + warm / design_life(construction));
    let own = cycles_allowed(&table, depth.clamp(1.0, 100.0));
    own.map_or([0.0; 3], |own| [of(own.cycles), of(own.range[0]), of(own.range[1])])
}

/// Years left by wear at the rate so far: best, shortest, longest; none: nothing is used yet. To 80 % of the capacity.
pub fn remaining_by_wear(wear: &Wear) -> Option<[f64; 3]> {
    let rate = wear.total / wear.years;
    let left = |factor: f64| ((1.0 / factor - wear.total) / rate).max(0.0);
    (wear.years > 0.0 && rate > 0.0).then(|| [left(1.0), left(LIFE_SPREAD), left(1.0 / LIFE_SPREAD)])
}
