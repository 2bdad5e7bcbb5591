//! What would explain a round nearly as well, in words (RD-5).

use super::names;
use crate::round::Shape;

/// "Battery A3 would explain the figures nearly as well."; empty for a shape that names nothing.
pub(super) fn beside(shape: &Shape) -> String {
    let what = match shape {
        Shape::LoneCell { cell, .. } => format!("cell {cell} by itself"),
        Shape::Cells { cells, .. } => format!("cells {} by themselves", names::cells(cells)),
        Shape::Pair { cells } => format!("the neighbours {}", names::cells(cells)),
        Shape::Battery { battery } => format!("battery {battery} as a whole"),
        Shape::String { letter } => format!("string {letter} as a whole"),
        Shape::Gradient { low_end, high_end } => format!("a fall from {high_end} to {low_end}"),
        Shape::Even | Shape::Drift | Shape::TooFew => return String::new(),
    };
    names::sentence(&format!("{what} would explain the figures nearly as well."))
}
