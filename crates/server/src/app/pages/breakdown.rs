//! A figure and how it comes about, line by line.

use rainshadow_core::charge::Setpoint;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use serde::Serialize;
use utoipa::ToSchema;

/// One line of a computation.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct BreakdownLine {
    /// What.
    pub what: String,
    /// How much, with its unit.
    pub value: String,
}

impl BreakdownLine {
    /// A line.
    pub fn new(what: impl Into<String>, value: impl Into<String>) -> Self {
        Self { what: what.into(), value: value.into() }
    }
}

/// CH-2 line by line: from the cell as the model states it to the volts of the bank.
pub fn setpoint_breakdown(set: &Setpoint, at: Temperature, units: ReaderUnits) -> Vec<BreakdownLine> {
    /// Temperature that setpoints are stated at, °C.
    const STATED_AT: f64 = 25.0;
    let stated = Temperature::from_celsius(STATED_AT).map(|t| units.say_temperature(t)).unwrap_or_default();
    let mut all = vec![BreakdownLine::new(format!("at {stated}, a cell"), format!("{:.3} V", set.stated))];
    if (set.per_cell - set.stated).abs() > 5e-4 {
        let here = format!("at {}, a cell", units.say_temperature(at));
        all.push(BreakdownLine::new(here, format!("{:.3} V", set.per_cell)));
    }
    all.push(BreakdownLine::new(format!("{} cells in series", set.cells), format!("{:.1} V", set.volts)));
    all
}

/// A figure with its interval.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct WithinView {
    /// Lowest.
    pub low: f64,
    /// Best.
    pub best: f64,
    /// Highest.
    pub high: f64,
}
