//! What other units are by definition.

/// US gallon, exact by definition.
pub const MILLILITRES_PER_US_GALLON: f64 = 3_785.411_784;

/// Inch, exact by definition.
pub const MILLIMETRES_PER_INCH: f64 = 25.4;
