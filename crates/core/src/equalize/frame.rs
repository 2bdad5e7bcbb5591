//! What a run is judged by besides its entries.

use super::{BeforeCheck, Meant, RunKind};
use crate::quantity::SpecificGravity;

/// What a run is judged by besides its entries.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunFrame<'a> {
    /// What it is for.
    pub kind: RunKind,
    /// Cells in series.
    pub cells: u16,
    /// Cells that are watched.
    pub watched: usize,
    /// What is seen to before it.
    pub checks: &'a [BeforeCheck],
    /// Uncertainty of one reading, points.
    pub noise: f64,
    /// Full gravity of the model.
    pub full: SpecificGravity,
    /// Current that was meant, A: counts until one is read.
    pub meant_amperes: f64,
    /// What it is driven by, as planned; none: not looked at.
    pub meant: Option<Meant>,
}
