//! LF-1: cycles to the end of life by how deep they are.

use crate::battery_model::Construction;
use crate::quantity::{OutOfRange, bounds};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Depths of the table, per cent.
const DEPTHS: [f64; 5] = [20.0, 30.0, 50.0, 80.0, 100.0];
/// Cycles at these depths to 80 % of the capacity (common practice, no source): makers' figures spread by 1.5 to 2.
const FLAT: [f64; 5] = [3000.0, 2000.0, 1200.0, 700.0, 450.0];
const TUBULAR: [f64; 5] = [6300.0, 4200.0, 2500.0, 1400.0, 900.0];
const SEALED: [f64; 5] = [2200.0, 1400.0, 800.0, 450.0, 300.0];
/// Factor that makers' figures and fields spread by, down and up.
pub const LIFE_SPREAD: f64 = 1.5;

/// Years of a life as they are told: best, shortest and longest.
pub fn spread(best: f64) -> [f64; 3] {
    [best, best / LIFE_SPREAD, best * LIFE_SPREAD]
}

/// Why a life cannot be reckoned.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum LifeError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Two tests of one day.
    #[error("two capacities are of {0}; one a day is taken")]
    Twice(Date),
    /// A table of cycles that cannot be.
    #[error("a table of cycles has two rows or more, its depths rise and its cycles fall; {0}")]
    Table(String),
}

/// Cycles by depth, as a maker tells them: depths rise, cycles fall.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CycleTable {
    /// Depth, per cent, and cycles; at least two rows.
    pub rows: Vec<[f64; 2]>,
}

impl CycleTable {
    /// Says whether it can be.
    ///
    /// # Errors
    /// [`LifeError`] with the row.
    pub fn check(&self) -> Result<(), LifeError> {
        for [depth, cycles] in &self.rows {
            bounds::CYCLE_DEPTH.check(*depth)?;
            bounds::CYCLES.check(*cycles)?;
        }
        if self.rows.len() < 2 {
            return Err(LifeError::Table(format!("{} is given", self.rows.len())));
        }
        let odd = self.rows.windows(2).find(|p| p[1][0] <= p[0][0] || p[1][1] >= p[0][1] || p[1][1] <= 0.0);
        odd.map_or(Ok(()), |pair| {
            Err(LifeError::Table(format!("after {} % stands {} %", pair[0][0], pair[1][0])))
        })
    }

    /// What is taken where the maker says nothing.
    pub fn usual(construction: Construction) -> Self {
        let cycles = match construction {
            Construction::Flooded => FLAT,
            Construction::FloodedTubular => TUBULAR,
            Construction::Agm | Construction::Gel => SEALED,
        };
        Self { rows: DEPTHS.into_iter().zip(cycles).map(|(depth, n)| [depth, n]).collect() }
    }
}

/// Cycles with their range.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CyclesAllowed {
    /// As the table has them.
    pub cycles: f64,
    /// Fewest and most: the table spreads by a factor of 1.5.
    pub range: [f64; 2],
}

/// Cycles to 80 % of the capacity at a depth of discharge, 1 to 100 per cent: straight between the rows in logarithms, and
/// under the least of them as many as make the same charge.
///
/// # Errors
/// [`OutOfRange`] for a depth that cannot be.
pub fn cycles_allowed(table: &CycleTable, depth: f64) -> Result<CyclesAllowed, OutOfRange> {
    let depth = bounds::CYCLE_DEPTH.check(depth)?;
    let cycles = between(&table.rows, depth);
    Ok(CyclesAllowed { cycles, range: [cycles / LIFE_SPREAD, cycles * LIFE_SPREAD] })
}

fn between(rows: &[[f64; 2]], depth: f64) -> f64 {
    let Some(first) = rows.first() else { return 0.0 };
    if depth <= first[0] {
        return first[1] * first[0] / depth;
    }
    for pair in rows.windows(2) {
        let ([d0, n0], [d1, n1]) = (pair[0], pair[1]);
        if depth <= d1 {
            let t = (depth.ln() - d0.ln()) / (d1.ln() - d0.ln());
            return (n0.ln() + t * (n1.ln() - n0.ln())).exp();
        }
    }
    rows.last().map_or(0.0, |last| last[1])
}
