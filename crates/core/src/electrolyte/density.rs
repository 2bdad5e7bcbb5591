//! Measured change of gravity with temperature, by gravity.
//!
//! Slopes of the density of sulphuric acid at fixed composition, from the polynomial of Vehkamäki
//! et al. 2002 (source key `vehkamaki-2002`, coefficients from memory).

use crate::interpolate::line;

/// Gravity at 26.7 °C; dSG/dT at 0, 25 and 40 °C in 1e-5 per °C; largest error of the plain
/// 0.00072 rule between 0 and 50 °C.
const ROWS: [[f64; 5]; 27] = [
    [1.06, -32.7, -42.7, -48.6, 0.00907],
    [1.07, -36.4, -45.2, -50.5, 0.00825],
    [1.08, -39.9, -47.7, -52.4, 0.00746],
    [1.09, -43.2, -50.0, -54.1, 0.00671],
    [1.10, -46.4, -52.3, -55.9, 0.006],
    [1.11, -49.3, -54.4, -57.5, 0.00532],
    [1.12, -52.1, -56.4, -59.0, 0.00469],
    [1.13, -54.7, -58.3, -60.5, 0.0041],
    [1.14, -57.1, -60.1, -61.9, 0.00355],
    [1.15, -59.3, -61.7, -63.2, 0.00304],
    [1.16, -61.4, -63.2, -64.4, 0.00257],
    [1.17, -63.2, -64.6, -65.5, 0.00214],
    [1.18, -64.9, -65.9, -66.5, 0.00175],
    [1.19, -66.4, -67.1, -67.4, 0.0014],
    [1.20, -67.8, -68.1, -68.3, 0.00107],
    [1.21, -69.1, -69.1, -69.1, 0.00078],
    [1.22, -70.2, -70.0, -69.8, 0.00052],
    [1.23, -71.2, -70.7, -70.5, 0.00035],
    [1.24, -72.1, -71.5, -71.1, 0.0002],
    [1.25, -72.9, -72.1, -71.6, 0.00013],
    [1.26, -73.6, -72.7, -72.1, 0.0003],
    [1.27, -74.3, -73.2, -72.6, 0.00046],
    [1.28, -74.9, -73.7, -73.0, 0.0006],
    [1.29, -75.4, -74.2, -73.4, 0.00073],
    [1.30, -75.9, -74.6, -73.8, 0.00086],
    [1.31, -76.4, -75.0, -74.1, 0.00097],
    [1.32, -76.8, -75.4, -74.5, 0.00108],
];

/// Temperature the gravities of [`ROWS`] are stated at, °C (80 °F).
pub(super) const TABLE_TEMPERATURE: f64 = 26.7;

/// Change of gravity when acid of gravity `sg` (at 26.7 °C) goes from 26.7 °C to `celsius`.
pub(super) fn shift_from_table_temperature(sg: f64, celsius: f64) -> f64 {
    let slope = [[0.0, line(&ROWS, 1, sg)], [25.0, line(&ROWS, 2, sg)], [40.0, line(&ROWS, 3, sg)]];
    // The slope is taken as straight between its three temperatures, so each stretch integrates
    // exactly by its midpoint; 25 °C is where the stretches meet.
    let stretch = |a: f64, b: f64| (b - a) * line(&slope, 1, f64::midpoint(a, b));
    let knee = 25.0;
    let shift = if (celsius - knee) * (TABLE_TEMPERATURE - knee) < 0.0 {
        stretch(TABLE_TEMPERATURE, knee) + stretch(knee, celsius)
    } else {
        stretch(TABLE_TEMPERATURE, celsius)
    };
    shift * 1e-5
}

/// Largest error of the plain rule between 0 and 50 °C at this gravity.
pub(super) fn plain_rule_largest_error(sg: f64) -> f64 {
    line(&ROWS, 4, sg.clamp(1.0, 1.32)).max(0.0)
}
