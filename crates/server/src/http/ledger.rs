//! A figure and how it comes about, line by line.

use serde::Serialize;
use utoipa::ToSchema;

/// One line of a computation.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct LedgerLine {
    /// What.
    pub what: String,
    /// How much, with its unit.
    pub value: String,
}

impl LedgerLine {
    /// A line.
    pub fn new(what: impl Into<String>, value: impl Into<String>) -> Self {
        Self { what: what.into(), value: value.into() }
    }
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
