//! What a storage plan refuses.

use crate::quantity::{OutOfRange, bounds};
use crate::water::ClimateRefused;
use jiff::civil::Date;
use thiserror::Error;

/// Why nothing is planned.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum StorageError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// A temperature of a month.
    #[error("{0}")]
    Climate(#[from] ClimateRefused),
    /// The two days.
    #[error("from {from} to {until} is no storage spell; accepted is 1 day to two years")]
    Spell {
        /// As given.
        from: Date,
        /// As given.
        until: Date,
    },
    /// Nothing to compare.
    #[error("no way to leave it is named; name one at least")]
    NoWay,
    /// Inside it is never colder than its own mean.
    #[error("the coldest indoors, {low} °C, lies above its mean, {mean} °C")]
    LowOverMean {
        /// As given.
        low: f64,
        /// As given.
        mean: f64,
    },
}

impl StorageError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange(own) if own.bounds == bounds::STATE_OF_CHARGE => "charged",
            Self::OutOfRange(own) if own.bounds == bounds::CAPACITY_PERCENT => "health",
            Self::OutOfRange(own) if own.bounds == bounds::MONTHLY_LOSS => "self_discharge",
            Self::OutOfRange(own) if own.bounds == bounds::DIRTY_TOPS => "tops",
            Self::OutOfRange(own) if own.bounds == bounds::CELL_AGE => "age",
            Self::Climate(_) => "air",
            Self::Spell { .. } => "until",
            Self::OutOfRange(_) | Self::NoWay | Self::LowOverMean { .. } => "ways",
        }
    }
}
