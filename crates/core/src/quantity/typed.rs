//! What a technician types, turned into a quantity: the short forms of the trade, either decimal
//! sign, and a refusal that says what is accepted.

use super::bounds::{self, Bounds, OutOfRange};
use super::units::{
    LengthUnit, MILLILITRES_PER_US_GALLON, MILLIMETRES_PER_INCH, TemperatureUnit, VolumeUnit,
};
use super::{Length, SpecificGravity, Temperature, Volume};
use thiserror::Error;

/// Why typed text is not the quantity it should be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum EntryError {
    /// Nothing was typed.
    #[error("{quantity} is empty; accepted is {accepted}")]
    Empty {
        /// What was asked for.
        quantity: &'static str,
        /// The accepted form and range.
        accepted: String,
    },
    /// The text is no number.
    #[error("\u{201c}{found}\u{201d} is not a number; {quantity} is accepted as {accepted}")]
    NotANumber {
        /// What was asked for.
        quantity: &'static str,
        /// What was typed, shortened.
        found: String,
        /// The accepted form and range.
        accepted: String,
    },
    /// Too few digits to be a gravity.
    #[error("{found} is too short for a specific gravity; type three digits, 265 for 1.265")]
    TooShort {
        /// What was typed.
        found: String,
    },
    /// Looks like volts.
    #[error(
        "{found} looks like volts, not a specific gravity; accepted is 0.980 to 1.400, typed 265, 1265 or 1.265"
    )]
    LooksLikeVolts {
        /// What was typed.
        found: String,
    },
    /// A number outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// A temperature that is right in the other unit.
    #[error("{refused}. Is it {found} °F, which is {celsius:.0} °C")]
    OtherUnit {
        /// As refused.
        refused: OutOfRange,
        /// What was typed.
        found: String,
        /// What it would be.
        celsius: f64,
    },
    /// A gravity off the scale of any hydrometer.
    #[error(
        "{found} is off the scale; accepted is 0.980 to 1.400. If the float really stands there, record it as {side} the scale"
    )]
    OffScale {
        /// What was typed.
        found: String,
        /// "below" or "above".
        side: &'static str,
    },
}

/// A plain number with a point or a comma as its decimal sign.
///
/// # Errors
/// [`EntryError`] naming the quantity and its range.
pub fn number(text: &str, bounds: Bounds) -> Result<f64, EntryError> {
    Ok(bounds.check(plain(text, bounds.quantity, &bounds.accepted())?)?)
}

/// Hours: `5.2` or, with minutes, `5:12`.
///
/// # Errors
/// [`EntryError`] that says what is accepted.
pub fn hours(text: &str, bounds: Bounds) -> Result<f64, EntryError> {
    let accepted = format!("{}, typed 5:12 or 5.2", bounds.accepted());
    let hours = match text.trim().split_once(':') {
        None => plain(text, bounds.quantity, &accepted)?,
        Some((whole, minutes)) => {
            let short = minutes.trim().len() == 2;
            let minutes = plain(minutes, bounds.quantity, &accepted)?;
            let whole = plain(whole, bounds.quantity, &accepted)?;
            if !short || !(0.0..60.0).contains(&minutes) || whole < 0.0 || whole.fract() > 0.0 {
                let found = text.trim().chars().take(24).collect();
                return Err(EntryError::NotANumber { quantity: bounds.quantity, found, accepted });
            }
            whole + minutes / 60.0
        }
    };
    Ok(bounds.check(hours)?)
}

fn plain(text: &str, quantity: &'static str, accepted: &str) -> Result<f64, EntryError> {
    let text = text.trim();
    if text.is_empty() {
        return Err(EntryError::Empty { quantity, accepted: accepted.to_owned() });
    }
    let refused = || EntryError::NotANumber {
        quantity,
        found: text.chars().take(24).collect(),
        accepted: accepted.to_owned(),
    };
    let unsigned = text.strip_prefix(['-', '+', '\u{2212}']).unwrap_or(text);
    // "1,265.0" and "1.2.6" are ambiguous; "NaN", "inf" and "1e3" are no way to type a reading.
    let signs = unsigned.chars().filter(|c| matches!(c, '.' | ',')).count();
    let digits = unsigned.chars().filter(char::is_ascii_digit).count();
    if signs > 1 || digits == 0 || digits + signs != unsigned.chars().count() {
        return Err(refused());
    }
    let value: f64 = unsigned.replace(',', ".").parse().map_err(|_parse| refused())?;
    Ok(if text.starts_with(['-', '\u{2212}']) { -value } else { value })
}

/// A gravity: `265`, `1265`, `1.265` and `1,265` are all 1.265; `998` is 0.998.
///
/// # Errors
/// [`EntryError`]; `12.65` is named as volts, `0.9` and `1.5` as off the scale.
pub fn gravity(text: &str) -> Result<SpecificGravity, EntryError> {
    const ACCEPTED: &str = "265, 1265 or 1.265";
    let text = text.trim();
    let value = plain(text, bounds::GRAVITY.quantity, ACCEPTED)?;
    let with_sign = text.contains(['.', ',']);
    let digits = text.chars().filter(char::is_ascii_digit).count();
    let found = || text.to_owned();
    let value = match (with_sign, digits) {
        (false, 0..=2) => return Err(EntryError::TooShort { found: found() }),
        // Three digits stand behind "1."; from 980 up only "0." makes a gravity.
        (false, 3) if value >= 980.0 => value / 1000.0,
        (false, 3) => (1000.0 + value) / 1000.0,
        (false, 4) => value / 1000.0,
        _ => value,
    };
    if (1.9..=70.0).contains(&value) && with_sign {
        return Err(EntryError::LooksLikeVolts { found: found() });
    }
    SpecificGravity::new(value).map_err(|refused| EntryError::OffScale {
        found: found(),
        side: if refused.found < bounds::GRAVITY.low { "below" } else { "above" },
    })
}

/// A range of temperatures, °C, in the unit it is typed in.
fn in_unit(range: Bounds, unit: TemperatureUnit) -> Bounds {
    let name = if unit == TemperatureUnit::Celsius { range.unit } else { "°F" };
    Bounds { low: unit.of_celsius(range.low), high: unit.of_celsius(range.high), unit: name, ..range }
}

/// A temperature in the person's unit, within a range in °C.
fn degrees(text: &str, unit: TemperatureUnit, range: Bounds) -> Result<Temperature, EntryError> {
    let value = number(text, in_unit(range, unit)).map_err(|error| match error {
        EntryError::OutOfRange(refused) if unit == TemperatureUnit::Celsius => {
            match Temperature::from_fahrenheit(refused.found) {
                Ok(t) if range.check(t.celsius()).is_ok() => {
                    EntryError::OtherUnit { refused, found: text.trim().into(), celsius: t.celsius() }
                }
                _ => error,
            }
        }
        other => other,
    })?;
    Ok(match unit {
        TemperatureUnit::Celsius => Temperature::from_celsius(value)?,
        TemperatureUnit::Fahrenheit => Temperature::from_fahrenheit(value)?,
    })
}

/// A temperature of electrolyte, case or air in the person's unit.
///
/// # Errors
/// [`EntryError`], with the range in the unit it was typed in.
pub fn temperature(text: &str, unit: TemperatureUnit) -> Result<Temperature, EntryError> {
    degrees(text, unit, bounds::ELECTROLYTE_TEMPERATURE)
}

/// A mean temperature over a month in the person's unit.
///
/// # Errors
/// [`EntryError`], with the range in the unit it was typed in.
pub fn mean_temperature(text: &str, unit: TemperatureUnit) -> Result<Temperature, EntryError> {
    degrees(text, unit, bounds::MEAN_TEMPERATURE)
}

/// The lowest air on record of a month in the person's unit, °C; air is colder than any electrolyte that is read.
///
/// # Errors
/// [`EntryError`], with the range in the unit it was typed in.
pub fn record_low(text: &str, unit: TemperatureUnit) -> Result<f64, EntryError> {
    let shown = number(text, in_unit(bounds::RECORD_LOW, unit))?;
    Ok(if unit == TemperatureUnit::Celsius { shown } else { (shown - 32.0) / 1.8 })
}

/// A number in a unit of `size` canonical units, refused by the canonical range said in that unit.
fn scaled(text: &str, canonical: Bounds, size: f64, unit: &'static str) -> Result<f64, EntryError> {
    let bounds = Bounds { low: canonical.low / size, high: canonical.high / size, unit, ..canonical };
    Ok(number(text, bounds)? * size)
}

/// A volume in litres or US gallons.
///
/// # Errors
/// [`EntryError`], with the range in the unit it was typed in.
pub fn volume(text: &str, unit: VolumeUnit) -> Result<Volume, EntryError> {
    let millilitres = match unit {
        VolumeUnit::Litre => scaled(text, bounds::VOLUME, 1000.0, "L")?,
        VolumeUnit::UsGallon => scaled(text, bounds::VOLUME, MILLILITRES_PER_US_GALLON, "US gal")?,
    };
    Ok(Volume::from_millilitres(millilitres)?)
}

/// A length in millimetres or inches.
///
/// # Errors
/// [`EntryError`], with the range in the unit it was typed in.
pub fn length(text: &str, unit: LengthUnit) -> Result<Length, EntryError> {
    let millimetres = match unit {
        LengthUnit::Millimetre => scaled(text, bounds::LENGTH, 1.0, "mm")?,
        LengthUnit::Inch => scaled(text, bounds::LENGTH, MILLIMETRES_PER_INCH, "in")?,
    };
    Ok(Length::from_millimetres(millimetres)?)
}

/// A length in the person's unit within a range of its own, mm.
///
/// # Errors
/// [`EntryError`] outside the range.
pub fn length_in(text: &str, unit: LengthUnit, range: Bounds) -> Result<f64, EntryError> {
    let (size, name) = unit.size();
    scaled(text, range, size, name)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn the_four_ways_to_type_a_gravity_mean_the_same() {
        for typed in ["265", "1265", "1.265", "1,265", " 265 "] {
            assert_eq!(gravity(typed).unwrap(), SpecificGravity::new(1.265).unwrap(), "{typed}");
        }
        assert!((gravity("998").unwrap().value() - 0.998).abs() < 1e-12);
        assert!((gravity("1,4").unwrap().value() - 1.4).abs() < 1e-12);
    }

    #[test]
    fn every_kind_of_bad_gravity_is_told_what_is_wrong() {
        let say = |t: &str| gravity(t).unwrap_err().to_string();
        assert!(say("").contains("is empty"));
        assert!(say("abc").contains("\u{201c}abc\u{201d} is not a number"));
        assert!(say("NaN").contains("is not a number"));
        assert!(say("inf").contains("is not a number"));
        assert!(say("26").contains("too short"));
        assert!(say("12.65").contains("looks like volts"));
        assert!(say("12,65").contains("looks like volts"));
        assert!(say("0.9").contains("record it as below the scale"));
        assert!(say("1.5").contains("record it as above the scale"));
        assert!(say("-265").contains("below the scale"));
        assert!(say("1.2.6").contains("is not a number"));
    }

    #[test]
    fn a_temperature_is_refused_in_the_unit_it_was_typed_in() {
        let said = temperature("200", TemperatureUnit::Fahrenheit).unwrap_err().to_string();
        assert!(said.contains("-40 to 176 °F"), "{said}");
        assert!((temperature("68", TemperatureUnit::Fahrenheit).unwrap().celsius() - 20.0).abs() < 1e-9);
        assert!((temperature("21,5", TemperatureUnit::Celsius).unwrap().celsius() - 21.5).abs() < 1e-9);
    }

    #[test]
    fn volumes_and_lengths_are_understood_in_either_system_and_refused_in_it() {
        // 1 US gal = 3785.411784 mL, 1 in = 25.4 mm, exact by definition.
        assert!((volume("1,5", VolumeUnit::UsGallon).unwrap().millilitres() - 5_678.117_676).abs() < 1e-6);
        assert!((volume("5.1", VolumeUnit::Litre).unwrap().millilitres() - 5_100.0).abs() < 1e-9);
        assert!((length("1.5", LengthUnit::Inch).unwrap().millimetres() - 38.1).abs() < 1e-9);
        assert!((length("38", LengthUnit::Millimetre).unwrap().millimetres() - 38.0).abs() < 1e-9);
        let said = volume("-1", VolumeUnit::UsGallon).unwrap_err().to_string();
        assert!(said.contains("0 to 26 US gal"), "{said}");
        let said = length("50", LengthUnit::Inch).unwrap_err().to_string();
        assert!(said.contains("0 to 39 in"), "{said}");
    }

    proptest! {
        #[test]
        fn what_is_shown_can_be_typed_back(points in 980u32..=1400) {
            let sg = SpecificGravity::new(f64::from(points) / 1000.0).unwrap();
            prop_assert_eq!(gravity(&sg.to_string()).unwrap(), sg);
        }

        #[test]
        fn no_text_makes_it_panic(text in ".{0,40}") {
            let _ = gravity(&text);
            let _ = temperature(&text, TemperatureUnit::Celsius);
        }
    }
}
