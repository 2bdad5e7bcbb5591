//! Curves that the cell reads its volts and its share of capacity from.

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
}
