//! SG-3: rest voltage of one cell from its gravity.

use crate::interpolate::line;
use crate::quantity::SpecificGravity;

/// A settled battery and its gravity agree within this, volts per cell; beyond it one of the two
/// is wrong (SG-3).
pub const CROSS_CHECK_LIMIT_VOLTS: f64 = 0.02;

/// Measured open-circuit voltage of one cell at 25 °C (source key `bode-1977`), gravity and volts.
pub(crate) const MEASURED: [[f64; 2]; 28] = [
    [1.050, 1.9147],
    [1.060, 1.9263],
    [1.070, 1.9369],
    [1.080, 1.9469],
    [1.090, 1.9565],
    [1.100, 1.9657],
    [1.110, 1.9747],
    [1.120, 1.9836],
    [1.130, 1.9924],
    [1.140, 2.0012],
    [1.150, 2.0099],
    [1.160, 2.0187],
    [1.170, 2.0274],
    [1.180, 2.0363],
    [1.190, 2.0451],
    [1.200, 2.0541],
    [1.210, 2.0631],
    [1.220, 2.0722],
    [1.230, 2.0814],
    [1.240, 2.0907],
    [1.250, 2.1001],
    [1.260, 2.1096],
    [1.270, 2.1192],
    [1.280, 2.129],
    [1.290, 2.1388],
    [1.300, 2.1488],
    [1.310, 2.159],
    [1.320, 2.1692],
];

/// The rule of the trade, `SG + 0.845` volts per cell at 25 °C (common practice, 0.84 to 0.85):
/// 4 to 9 mV under the measured curve at 1.20 to 1.30, about 20 mV under it at 1.05 to 1.10.
pub fn rule_rest_voltage(sg: SpecificGravity) -> f64 {
    sg.value() + 0.845
}

/// The measured curve, volts per cell at 25 °C, linear between rows of 0.010: what the cross-check
/// uses. Outside 1.05 to 1.32 the outermost stretch goes on.
pub fn measured_rest_voltage(sg: SpecificGravity) -> f64 {
    line(&MEASURED, 1, sg.value())
}

/// The gravity at which the measured curve stands at these volts per cell, 25 °C; held to 1.00 to 1.40.
pub fn gravity_at_rest_volts(cell_volts: f64) -> SpecificGravity {
    let (mut low, mut high) = (1.0, 1.4);
    // The curve rises all the way.
    for _ in 0..40 {
        let middle = f64::midpoint(low, high);
        if line(&MEASURED, 1, middle) < cell_volts { low = middle } else { high = middle }
    }
    SpecificGravity::corrected(f64::midpoint(low, high))
}

/// Gravities between which the curve was measured; beyond them its outermost stretch goes on.
pub fn measured_range() -> (f64, f64) {
    (MEASURED[0][0], MEASURED[MEASURED.len() - 1][0])
}
