//! A stay of some days with these loads: does the bank last, and when is it charged?

use super::asked::{ChargingAsked, ChargingError};
use super::year::{ChargingDay, from_full};
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};

/// How a stay goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stay {
    /// Day by day from its beginning, full.
    pub days: Vec<ChargingDay>,
    /// First day, from 1, on which the planned depth is passed; none: it lasts.
    pub charge_on: Option<u32>,
    /// First day on which the loads miss something; none: never.
    pub empty_on: Option<u32>,
    /// Lowest charge of it, per cent.
    pub lowest: f64,
}

/// A stay of so many days in a month, 1 to 12, begun full, without the engine, the generator and the plug.
///
/// # Errors
/// [`ChargingError`] for what cannot be.
pub fn stay(asked: &ChargingAsked, month: u8, days: u16) -> Result<Stay, ChargingError> {
    asked.check()?;
    bounds::STAY_DAYS.check(f64::from(days))?;
    let own = from_full(asked, month, days);
    let deep = 100.0 - asked.planned_depth;
    let first =
        |of: &dyn Fn(&ChargingDay) -> bool| own.iter().position(of).and_then(|at| u32::try_from(at + 1).ok());
    Ok(Stay {
        charge_on: first(&|day| day.lowest < deep),
        empty_on: first(&|day| day.lowest <= 0.01),
        lowest: own.iter().map(|day| day.lowest).fold(100.0, f64::min),
        days: own,
    })
}
