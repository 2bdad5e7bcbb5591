//! What other units are by definition.

/// US gallon, exact by definition.
pub const MILLILITRES_PER_US_GALLON: f64 = 3_785.411_784;

/// Inch, exact by definition.
pub const MILLIMETRES_PER_INCH: f64 = 25.4;

/// Foot in metres, exact by definition.
pub const METRES_PER_FOOT: f64 = 0.3048;

/// Pound-force foot, by the definitions of the pound, the foot and standard gravity (NIST Special Publication
/// 811, appendix B.8).
pub const NEWTON_METRES_PER_POUND_FOOT: f64 = 1.355_817_948_331_4;
