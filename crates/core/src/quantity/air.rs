//! Air around a bank in the reader's units: rooms, openings, pipes and what moves.

use super::bounds;
use super::typed::{EntryError, number};
use super::units::{LengthUnit, METRES_PER_FOOT, MILLIMETRES_PER_INCH, ReaderUnits};
use super::{Bounds, OutOfRange};

/// m³/h in one of the reader's unit, and its name.
fn flow(unit: LengthUnit) -> (f64, &'static str) {
    match unit {
        LengthUnit::Millimetre => (1.0, "m³/h"),
        LengthUnit::Inch => (60.0 * METRES_PER_FOOT.powi(3), "ft³/min"),
    }
}

/// cm² in one of the reader's unit, and its name.
fn area(unit: LengthUnit) -> (f64, &'static str) {
    match unit {
        LengthUnit::Millimetre => (1.0, "cm²"),
        LengthUnit::Inch => (MILLIMETRES_PER_INCH.powi(2) / 100.0, "in²"),
    }
}

/// m³ in one of the reader's unit, and its name.
fn room(unit: LengthUnit) -> (f64, &'static str) {
    match unit {
        LengthUnit::Millimetre => (1.0, "m³"),
        LengthUnit::Inch => (METRES_PER_FOOT.powi(3), "ft³"),
    }
}

fn typed_in(text: &str, (size, unit): (f64, &'static str), range: Bounds) -> Result<f64, EntryError> {
    let own = Bounds { low: range.low / size, high: range.high / size, unit, ..range };
    Ok(number(text, own)? * size)
}

/// The air of a room or box as typed in the reader's unit, m³.
///
/// # Errors
/// [`EntryError`] outside 0.001 to 10,000 m³.
pub fn typed_room(text: &str, unit: LengthUnit) -> Result<f64, EntryError> {
    typed_in(text, room(unit), bounds::ENCLOSURE)
}

/// What a fan moves as typed in the reader's unit, m³/h.
///
/// # Errors
/// [`EntryError`] outside 0 to 100,000 m³/h.
pub fn typed_airflow(text: &str, unit: LengthUnit) -> Result<f64, EntryError> {
    typed_in(text, flow(unit), bounds::AIRFLOW)
}

/// The free area of an opening as typed in the reader's unit, cm².
///
/// # Errors
/// [`EntryError`] outside 0 to 100,000 cm².
pub fn typed_area(text: &str, unit: LengthUnit) -> Result<f64, EntryError> {
    typed_in(text, area(unit), bounds::OPENING)
}

/// The free area of so many round pipes of an inner width in mm, cm².
///
/// # Errors
/// [`OutOfRange`] for pipes that make no opening that is accepted.
pub fn area_of_pipes(width: f64, count: u8) -> Result<f64, OutOfRange> {
    const OPENING: Bounds = bounds::OPENING;
    OPENING.check(f64::from(count) * std::f64::consts::PI * (width / 20.0).powi(2))
}

/// The area of an opening, cm², as it would be typed in the reader's unit.
pub fn show_area(square_centimetres: f64, unit: LengthUnit) -> String {
    super::units::plain(square_centimetres / area(unit).0)
}

/// The air of a room, m³, as it would be typed in the reader's unit.
pub fn show_room(cubic_metres: f64, unit: LengthUnit) -> String {
    super::units::plain(cubic_metres / room(unit).0)
}

impl ReaderUnits {
    /// Air that moves, m³/h, as a figure in the reader's unit, and that unit.
    pub fn show_airflow(&self, cubic_metres_an_hour: f64) -> (f64, &'static str) {
        let (size, unit) = flow(self.length);
        (cubic_metres_an_hour / size, unit)
    }

    /// Air that moves, m³/h, for the reader: "20.2 m³ an hour", "11.9 cubic feet a minute".
    pub fn say_airflow(&self, cubic_metres_an_hour: f64) -> String {
        let (value, _) = self.show_airflow(cubic_metres_an_hour);
        match self.length {
            LengthUnit::Millimetre => format!("{value:.1} m³ an hour"),
            LengthUnit::Inch => format!("{value:.1} cubic feet a minute"),
        }
    }

    /// The area of an opening, cm², for the reader: "564 cm²", "87 in²".
    pub fn say_area(&self, square_centimetres: f64) -> String {
        let (size, unit) = area(self.length);
        format!("{:.0} {unit}", square_centimetres / size)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const INCHES: ReaderUnits = ReaderUnits {
        temperature: super::super::units::TemperatureUnit::Fahrenheit,
        volume: super::super::units::VolumeUnit::UsGallon,
        length: LengthUnit::Inch,
    };

    #[test]
    fn air_is_said_in_either_system() {
        // 20.16 m³/h ÷ 0.3048³ ÷ 60 and 564.48 cm² ÷ 2.54², by the definitions of foot and inch.
        let metric = ReaderUnits::default();
        assert_eq!(INCHES.say_airflow(20.16), "11.9 cubic feet a minute");
        assert_eq!(metric.say_airflow(20.16), "20.2 m³ an hour");
        assert_eq!((INCHES.say_area(564.48), metric.say_area(564.48)), ("87 in²".into(), "564 cm²".into()));
    }

    #[test]
    fn pipes_have_the_area_of_their_circles() {
        // π·(100 mm ÷ 2)² is 78.54 cm²
        assert!((area_of_pipes(100.0, 1).unwrap() - 78.54).abs() < 0.01);
        assert!((area_of_pipes(50.0, 2).unwrap() - 39.27).abs() < 0.01);
        assert!(area_of_pipes(1000.0, 20).is_err());
    }

    #[test]
    fn what_is_refused_is_told_in_the_unit_that_was_typed() {
        let refused = typed_room("0", LengthUnit::Inch).unwrap_err().to_string();
        assert!(refused.contains("ft³") && !refused.contains("m³"), "{refused}");
        assert!(typed_airflow("many", LengthUnit::Inch).unwrap_err().to_string().contains("ft³/min"));
        assert!(typed_area("-1", LengthUnit::Millimetre).unwrap_err().to_string().contains("cm²"));
    }

    proptest! {
        #[test]
        fn what_is_typed_in_one_system_is_shown_as_typed(value in 1.0..1000.0_f64) {
            let text = format!("{value:.1}");
            let value: f64 = text.parse().unwrap();
            let air = typed_airflow(&text, LengthUnit::Inch).unwrap();
            prop_assert!((INCHES.show_airflow(air).0 - value).abs() < 1e-6);
        }
    }
}
