//! Curves that the cell reads its volts and its share of capacity from.

use crate::discharge::SIZING;
use crate::electrolyte::MEASURED;

/// Volts per unit of gravity under and over the measured curve (SM-1).
const UNDER: f64 = 1.1;
const OVER: f64 = 1.02;
const LOWEST: f64 = 1.05;
const STEP: f64 = 0.01;

/// Rest volts of a cell by its gravity, linear between the measured rows of 0.010.
pub(super) fn rest_volts(gravity: f64) -> f64 {
    let place = (gravity - LOWEST) / STEP;
    if place <= 0.0 {
        return MEASURED[0][1] + UNDER * (gravity - LOWEST);
    }
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "positive and bounded below")]
    let row = place as usize;
    if let (Some(a), Some(b)) = (MEASURED.get(row), MEASURED.get(row + 1)) {
        a[1] + (b[1] - a[1]) * (gravity - a[0]) / STEP
    } else {
        let last = MEASURED[MEASURED.len() - 1];
        last[1] + OVER * (gravity - last[0])
    }
}

/// Under the table the share of capacity falls by this per degree, to a quarter (SM-1).
const COLDER: f64 = 0.011;
const LEAST_SHARE: f64 = 0.25;

/// Share of the capacity at 25 °C that a temperature leaves.
pub(super) fn share_at(celsius: f64) -> f64 {
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
    fn rest_volts_go_on_where_the_measured_curve_ends() {
        assert!((rest_volts(1.260) - 2.1096).abs() < 1e-9);
        assert!((rest_volts(1.265) - f64::midpoint(2.1096, 2.1192)).abs() < 1e-9);
        assert!((rest_volts(1.00) - (1.9147 - 0.055)).abs() < 1e-9);
        assert!((rest_volts(1.340) - (2.1692 + 0.0204)).abs() < 1e-9);
        let mut last = 0.0;
        for i in 0..500 {
            let own = rest_volts(0.95 + f64::from(i) * 0.001);
            assert!(own > last, "{i}");
            last = own;
        }
    }

    #[test]
    fn cold_takes_capacity_down_to_a_quarter() {
        assert!((share_at(25.0) - 1.0).abs() < 1e-9);
        assert!((share_at(-3.9) - 1.0 / 1.52).abs() < 1e-9);
        assert!((share_at(-13.9) - (1.0 / 1.52 - 0.11)).abs() < 1e-9);
        assert!((share_at(-80.0) - 0.25).abs() < 1e-9);
        assert!((share_at(70.0) - 1.0 / 0.85).abs() < 1e-9);
    }
}
