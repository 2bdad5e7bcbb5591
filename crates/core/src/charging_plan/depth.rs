//! LF-1: how depth buys capacity with life, and what a delivered kWh costs.

use crate::battery_model::Construction;
use crate::life::{CycleTable, cycles_allowed};
use serde::{Deserialize, Serialize};

/// A depth with its life.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DepthPoint {
    /// Depth of a daily cycle, per cent.
    pub depth: f64,
    /// Cycles to 80 % of the capacity: as the table has them, fewest and most.
    pub cycles: [f64; 3],
    /// Years of a cycle a day, its years counted too: a life never longer than its design.
    pub years: f64,
    /// Full charges that go through it in its life.
    pub throughput: f64,
}

/// Depth from 10 to 100 % of a kind of battery whose years alone last so many.
pub fn depth_curve(construction: Construction, calendar_years: f64) -> Vec<DepthPoint> {
    let table = CycleTable::usual(construction);
    let at = |tenths: u8| {
        let depth = f64::from(tenths) * 5.0;
        let own = cycles_allowed(&table, depth).ok()?;
        let by_cycles = own.cycles / 365.25;
        let years = 1.0 / (1.0 / by_cycles + 1.0 / calendar_years.max(0.1));
        Some(DepthPoint {
            depth,
            cycles: [own.cycles, own.range[0], own.range[1]],
            years,
            throughput: own.cycles.min(years * 365.25) * depth / 100.0,
        })
    };
    (2..=20).filter_map(at).collect()
}
