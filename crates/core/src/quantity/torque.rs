//! Torque as it is typed and shown on either kind of wrench.

use super::typed::{EntryError, number};
use super::units::{LengthUnit, ReaderUnits, TorqueUnit, plain};
use super::{Bounds, bounds};

/// A torque as typed, N·m.
///
/// # Errors
/// [`EntryError`] outside the range, told in the unit of the wrench.
pub fn typed_torque(text: &str, unit: TorqueUnit) -> Result<f64, EntryError> {
    let (size, name) = unit.size();
    let wrench = Bounds {
        low: bounds::TORQUE.low / size,
        high: bounds::TORQUE.high / size,
        unit: name,
        ..bounds::TORQUE
    };
    Ok(number(text, wrench)? * size)
}

/// The wrench of a reader: who measures in inches turns in pound-feet.
pub fn torque_unit(units: ReaderUnits) -> TorqueUnit {
    match units.length {
        LengthUnit::Millimetre => TorqueUnit::NewtonMetre,
        LengthUnit::Inch => TorqueUnit::PoundFoot,
    }
}

/// A torque, N·m, as the reader would type it.
pub fn show_torque(newton_metres: f64, units: ReaderUnits) -> String {
    plain(newton_metres / torque_unit(units).size().0)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_torque_is_typed_and_shown_on_either_wrench() {
        // 1 lbf·ft is 1.3558 N·m (NIST SP 811, appendix B.8)
        assert!((typed_torque("8.9", TorqueUnit::PoundFoot).unwrap() - 12.067).abs() < 0.001);
        let inches = ReaderUnits { length: LengthUnit::Inch, ..ReaderUnits::default() };
        assert_eq!(
            (show_torque(12.067, inches), show_torque(12.0, ReaderUnits::default())),
            ("8.9".into(), "12".into())
        );
        assert!(typed_torque("9000", TorqueUnit::PoundFoot).unwrap_err().to_string().contains("lbf·ft"));
    }
}
