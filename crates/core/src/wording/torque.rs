//! A torque in words.

use crate::quantity::units::NEWTON_METRES_PER_POUND_FOOT;

fn short(value: f64) -> String {
    if (value - value.round()).abs() < 0.05 { format!("{value:.0}") } else { format!("{value:.1}") }
}

/// A torque in both units that wrenches have: "12 N·m (8.9 lbf·ft)".
pub fn torque(newton_metres: f64) -> String {
    format!("{} N·m ({:.1} lbf·ft)", short(newton_metres), newton_metres / NEWTON_METRES_PER_POUND_FOOT)
}
