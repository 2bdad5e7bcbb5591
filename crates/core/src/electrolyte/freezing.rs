//! SG-5: where the electrolyte freezes.

use crate::interpolate::line;
use crate::quantity::SpecificGravity;

/// °C that the coldest electrolyte to expect stays above its freezing point (SG-5; common practice, no source).
pub const FREEZING_MARGIN: f64 = 6.0;

/// First ice by gravity, °C. Below 1.20 from published water activities; above: Vinal, Storage Batteries (from memory),
/// held at −60 °C, since books that print −70 near 1.29 tell of the metastable point.
const FREEZES: [[f64; 2]; 34] = [
    [1.000, 0.0],
    [1.010, -0.6],
    [1.020, -1.2],
    [1.030, -1.9],
    [1.040, -2.5],
    [1.050, -3.3],
    [1.060, -4.0],
    [1.070, -4.9],
    [1.080, -5.8],
    [1.090, -6.8],
    [1.100, -7.9],
    [1.110, -9.1],
    [1.120, -10.4],
    [1.130, -11.8],
    [1.140, -13.4],
    [1.150, -15.0],
    [1.160, -16.9],
    [1.170, -19.1],
    [1.180, -21.6],
    [1.190, -24.4],
    [1.200, -27.6],
    [1.210, -31.1],
    [1.220, -35.2],
    [1.230, -40.0],
    [1.240, -45.3],
    [1.250, -51.4],
    [1.260, -57.0],
    [1.270, -60.0],
    [1.280, -60.0],
    [1.290, -60.0],
    [1.300, -60.0],
    [1.320, -58.0],
    [1.350, -49.0],
    [1.400, -36.0],
];

/// Where electrolyte of a gravity begins to freeze, °C: straight between the rows of the table, 0 for water.
pub fn freezing_point(sg: SpecificGravity) -> f64 {
    line(&FREEZES, 1, sg.value().clamp(1.0, 1.4))
}
