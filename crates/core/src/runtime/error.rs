//! What a runtime refuses.

use crate::quantity::{OutOfRange, bounds};
use thiserror::Error;

/// Why no hours are told.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum RuntimeError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Nothing draws.
    #[error("nothing draws: without a load a bank lasts until it has lost its charge by itself")]
    NoLoad,
    /// A burst longer than its pace.
    #[error("a run of {seconds} s does not fit into {every} s; it would run on without a pause")]
    RunsIntoTheNext {
        /// As given.
        seconds: f64,
        /// As given.
        every: f64,
    },
    /// The alarm goes after the bank is empty.
    #[error("the alarm at {alarm} V lies under {empty} V, where the bank is empty: it would never go")]
    AlarmUnderEmpty {
        /// As given.
        alarm: f64,
        /// As given, or 1.75 V a cell.
        empty: f64,
    },
    /// The range of health the wrong way round.
    #[error("a health of {best} % does not lie between {low} and {high} %")]
    HealthOutsideRange {
        /// As given.
        low: f64,
        /// As given.
        best: f64,
        /// As given.
        high: f64,
    },
}

impl RuntimeError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange(own) => match own.bounds.quantity {
                q if q == bounds::ELECTROLYTE_TEMPERATURE.quantity => "temperature",
                q if q == bounds::CAPACITY_PERCENT.quantity => "health",
                q if q == bounds::STATE_OF_CHARGE.quantity => "charged",
                q if q == bounds::CYCLE_DEPTH.quantity => "depth",
                q if q == bounds::PEUKERT.quantity => "exponent",
                q if q == bounds::END_CELL_VOLTS.quantity => "empty",
                q if q == bounds::ALARM_CELL_VOLTS.quantity => "alarm",
                q if q == bounds::INVERTER_EFFICIENCY.quantity => "efficiency",
                q if q == bounds::INVERTER_IDLE.quantity => "idle",
                _ => "load",
            },
            Self::NoLoad | Self::RunsIntoTheNext { .. } => "load",
            Self::AlarmUnderEmpty { .. } => "alarm",
            Self::HealthOutsideRange { .. } => "health",
        }
    }
}
