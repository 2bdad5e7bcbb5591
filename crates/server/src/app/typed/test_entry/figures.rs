//! Figures of a test as typed: what may be left out, what may not, and what is accepted.

use crate::app::typed::faults::{Faults, filled};
use rainshadow_core::quantity::{Bounds, bounds, typed};

/// A figure that may be left out.
pub(super) fn maybe(f: &mut Faults, field: &str, text: &str, range: Bounds) -> Option<f64> {
    filled(Some(&text.to_owned())).and_then(|t| f.take(field, typed::number(t, range)))
}

/// A figure that may not.
pub(super) fn must(f: &mut Faults, field: &str, text: &str, range: Bounds) -> Option<f64> {
    f.take(field, typed::number(text, range))
}

/// Volts between posts with so many cells between them.
pub(super) fn of_cells(cells: u16, quantity: &'static str) -> Bounds {
    let (own, all) = (bounds::LOADED_CELL_VOLTS, f64::from(cells));
    Bounds { quantity, low: own.low * all, high: own.high * all, ..own }
}
