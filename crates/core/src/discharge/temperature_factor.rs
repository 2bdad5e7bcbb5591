//! Temperature factors: of a capacity test, and of sizing. They are not inverses of each other.

use crate::interpolate::line;
use crate::quantity::Temperature;
use std::ops::RangeInclusive;

/// Temperatures at which a capacity test tells anything, °C (source key `ieee-450`, from memory).
pub const TESTABLE: RangeInclusive<f64> = 4.4..=37.8;

/// Time-adjusted test factor by °C (source key `ieee-450`, from memory, ±0.005).
const TEST: [[f64; 2]; 12] = [
    [4.4, 0.67],
    [7.2, 0.735],
    [10.0, 0.79],
    [12.8, 0.84],
    [15.6, 0.882],
    [18.3, 0.92],
    [21.1, 0.955],
    [25.0, 1.0],
    [26.7, 1.011],
    [32.2, 1.065],
    [35.0, 1.09],
    [37.8, 1.112],
];

/// Cell size factor by °C: the size that gives in the cold what gives it at 25 °C (source key `ieee-485`, from memory).
const SIZING: [[f64; 2]; 21] = [
    [-3.9, 1.52],
    [-1.1, 1.43],
    [1.7, 1.35],
    [4.4, 1.30],
    [7.2, 1.25],
    [10.0, 1.19],
    [12.8, 1.15],
    [15.6, 1.11],
    [18.3, 1.08],
    [21.1, 1.04],
    [25.0, 1.00],
    [26.7, 0.98],
    [29.4, 0.96],
    [32.2, 0.94],
    [35.0, 0.93],
    [37.8, 0.91],
    [40.6, 0.89],
    [43.3, 0.88],
    [46.1, 0.87],
    [48.9, 0.86],
    [51.7, 0.85],
];

/// Factor that a rated time is multiplied with at a temperature (CT-1); none where a test tells nothing.
pub fn test_factor(at: Temperature) -> Option<f64> {
    TESTABLE.contains(&at.celsius()).then(|| line(&TEST, 1, at.celsius()))
}

/// Factor that a size is multiplied with at a temperature; none outside −3.9 to 51.7 °C.
pub fn sizing_factor(at: Temperature) -> Option<f64> {
    (SIZING[0][0]..=SIZING[20][0]).contains(&at.celsius()).then(|| line(&SIZING, 1, at.celsius()))
}

/// Under the table the share of capacity falls by this per degree, to a quarter (SM-1; our choice, no source).
const COLDER: f64 = 0.011;
const LEAST_SHARE: f64 = 0.25;

/// Share of the capacity at 25 °C that a temperature, °C, leaves: one over the size factor, and further down the colder it is.
pub fn capacity_share(celsius: f64) -> f64 {
    let [coldest, hottest] = [SIZING[0], SIZING[SIZING.len() - 1]];
    if celsius <= coldest[0] {
        return (1.0 / coldest[1] - COLDER * (coldest[0] - celsius)).max(LEAST_SHARE);
    }
    let above = SIZING.iter().position(|row| row[0] >= celsius).filter(|i| *i > 0);
    let size = above.map_or(hottest[1], |i| {
        let (a, b) = (SIZING[i - 1], SIZING[i]);
        a[1] + (b[1] - a[1]) * (celsius - a[0]) / (b[0] - a[0])
    });
    1.0 / size
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cold_takes_capacity_down_to_a_quarter() {
        assert!((capacity_share(25.0) - 1.0).abs() < 1e-9);
        assert!((capacity_share(-3.9) - 1.0 / 1.52).abs() < 1e-9);
        assert!((capacity_share(-13.9) - (1.0 / 1.52 - 0.11)).abs() < 1e-9);
        assert!((capacity_share(-80.0) - 0.25).abs() < 1e-9);
        assert!((capacity_share(70.0) - 1.0 / 0.85).abs() < 1e-9);
    }
}
