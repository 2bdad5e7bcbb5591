//! Joints, currents of strings and torque of the demo, as a technician would have written them down.

use rainshadow_core::joints::{JointPart, Pole};
use rainshadow_core::visit::JointEntry;

/// Something of joints with where it was written down.
pub(super) type Jointed = (String, JointEntry);

/// Millivolts across a joint at a current of the bank, by a meter of tenths.
pub(super) fn drop_at(
    (battery, pole, part): (&str, Pole, JointPart),
    millivolts: f64,
    amperes: f64,
) -> Jointed {
    (battery.into(), JointEntry::Drop { pole, part, millivolts, amperes, resolution: 0.1, stands: false })
}

/// The current of a string by clamp meter.
pub(super) fn clamped(string: &str, amperes: f64) -> Jointed {
    (string.into(), JointEntry::Current { amperes, stands: false })
}

/// Every joint of the bank set to torque.
pub(super) fn torqued(newton_metres: f64) -> Jointed {
    let (newton_metres, note) = (Some(newton_metres), String::new());
    (String::new(), JointEntry::Torqued { newton_metres, asked: None, remade: false, note, stands: false })
}
