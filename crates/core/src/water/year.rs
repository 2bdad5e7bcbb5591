//! The year as water use goes through it.

/// Days of a year.
pub(super) const YEAR: f64 = 365.25;
/// Warmest day of the year north of the equator, 20 July, and south of it, 20 January: days from New Year.
pub(super) const WARMEST: (f64, f64) = (200.0, 19.0);
