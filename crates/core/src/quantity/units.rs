//! The units a person chooses to see, and the definitions that convert them.

pub use super::conversion::{
    METRES_PER_FOOT, MILLILITRES_PER_US_GALLON, MILLIMETRES_PER_INCH, NEWTON_METRES_PER_POUND_FOOT,
};
use super::{Length, Temperature, Volume};
use serde::{Deserialize, Serialize};

/// US fluid ounces of a US gallon, by definition.
pub const OUNCES_PER_GALLON: f64 = 128.0;
/// US quarts of a US gallon, by definition.
pub const QUARTS_PER_GALLON: f64 = 4.0;
/// US pints of a US gallon, by definition.
pub const PINTS_PER_GALLON: f64 = 8.0;
/// US cups of a US gallon, by definition.
pub const CUPS_PER_GALLON: f64 = 16.0;

/// How a person reads and types temperature.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TemperatureUnit {
    /// Degrees Celsius.
    #[default]
    #[serde(rename = "C")]
    Celsius,
    /// Degrees Fahrenheit.
    #[serde(rename = "F")]
    Fahrenheit,
}

impl TemperatureUnit {
    /// A temperature, °C, in this unit; air and freezing points may lie under any electrolyte.
    pub fn of_celsius(self, celsius: f64) -> f64 {
        match self {
            Self::Celsius => celsius,
            Self::Fahrenheit => celsius * 1.8 + 32.0,
        }
    }
}

/// How a person reads and types volume.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum VolumeUnit {
    /// Litres and millilitres.
    #[default]
    Litre,
    /// US gallons.
    UsGallon,
}

/// How a person reads and types length.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LengthUnit {
    /// Millimetres.
    #[default]
    Millimetre,
    /// Inches.
    Inch,
}

impl LengthUnit {
    /// What one of it is in mm, and its name.
    pub fn size(self) -> (f64, &'static str) {
        match self {
            Self::Millimetre => (1.0, "mm"),
            Self::Inch => (MILLIMETRES_PER_INCH, "in"),
        }
    }
}

/// What a torque wrench shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TorqueUnit {
    /// Newton metres.
    #[default]
    NewtonMetre,
    /// Pound-force feet.
    PoundFoot,
}

impl TorqueUnit {
    /// What one of it is in N·m, and its name.
    pub fn size(self) -> (f64, &'static str) {
        match self {
            Self::NewtonMetre => (1.0, "N·m"),
            Self::PoundFoot => (NEWTON_METRES_PER_POUND_FOOT, "lbf·ft"),
        }
    }
}

/// The units of one reader.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReaderUnits {
    /// Temperature.
    #[serde(default)]
    pub temperature: TemperatureUnit,
    /// Volume.
    #[serde(default)]
    pub volume: VolumeUnit,
    /// Length.
    #[serde(default)]
    pub length: LengthUnit,
}

impl ReaderUnits {
    /// A temperature in the reader's unit: "18 °C", "64 °F".
    pub fn say_temperature(&self, t: Temperature) -> String {
        let unit = match self.temperature {
            TemperatureUnit::Celsius => "°C",
            TemperatureUnit::Fahrenheit => "°F",
        };
        let tenths = (self.show_temperature(t) * 10.0).round() / 10.0;
        let text = if (tenths - tenths.round()).abs() < 1e-9 {
            format!("{tenths:.0}")
        } else {
            format!("{tenths:.1}")
        };
        format!("{} {unit}", text.replace('-', "\u{2212}"))
    }

    /// A temperature as the reader would type it: "25", "77".
    pub fn type_temperature(&self, t: Temperature) -> String {
        plain(self.show_temperature(t))
    }

    /// A temperature in degrees of the reader's unit, for a scale of a chart.
    pub fn show_temperature(&self, t: Temperature) -> f64 {
        match self.temperature {
            TemperatureUnit::Celsius => t.celsius(),
            TemperatureUnit::Fahrenheit => t.fahrenheit(),
        }
    }

    /// A volume as the reader would type it, in litres or US gallons: "5.1", "1.347".
    pub fn type_volume(&self, v: Volume) -> String {
        match self.volume {
            VolumeUnit::Litre => plain(v.millilitres() / 1000.0),
            VolumeUnit::UsGallon => plain(v.us_gallons()),
        }
    }

    /// A length as the reader would type it, in millimetres or inches: "38", "1.496".
    pub fn type_length(&self, l: Length) -> String {
        match self.length {
            LengthUnit::Millimetre => plain(l.millimetres()),
            LengthUnit::Inch => plain(l.inches()),
        }
    }

    /// A volume in the reader's unit, in the measure that people use for so much: "60 mL", "5.8 L", "3.4 US fl oz",
    /// "2.5 US qt", "1.53 US gal".
    pub fn say_volume(&self, v: Volume) -> String {
        match self.volume {
            VolumeUnit::Litre if v.millilitres() < 1000.0 => format!("{:.0} mL", v.millilitres()),
            VolumeUnit::Litre => format!("{:.1} L", v.millilitres() / 1000.0),
            VolumeUnit::UsGallon if v.us_gallons() < 0.25 => {
                format!("{:.1} US fl oz", v.us_gallons() * OUNCES_PER_GALLON)
            }
            VolumeUnit::UsGallon if v.us_gallons() < 1.0 => {
                format!("{:.1} US qt", v.us_gallons() * QUARTS_PER_GALLON)
            }
            VolumeUnit::UsGallon => format!("{:.2} US gal", v.us_gallons()),
        }
    }

    /// How much warmer one thing is than another, °C, in degrees of the reader's unit: "5 °C", "9 °F".
    pub fn say_warmer(&self, celsius: f64) -> String {
        match self.temperature {
            TemperatureUnit::Celsius => format!("{celsius:.0} °C"),
            TemperatureUnit::Fahrenheit => format!("{:.0} °F", celsius * 1.8),
        }
    }

    /// A length in the reader's unit: "25 mm", "0.98 in".
    pub fn say_length(&self, l: Length) -> String {
        match self.length {
            LengthUnit::Millimetre => format!("{:.0} mm", l.millimetres()),
            LengthUnit::Inch => format!("{:.2} in", l.inches()),
        }
    }
}

/// A number to three decimals, without the zeros at its end.
pub(super) fn plain(value: f64) -> String {
    let text = format!("{value:.3}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_same_values_are_said_in_either_system() {
        let us = ReaderUnits {
            temperature: TemperatureUnit::Fahrenheit,
            volume: VolumeUnit::UsGallon,
            length: LengthUnit::Inch,
        };
        let t = Temperature::from_celsius(25.0).unwrap();
        assert_eq!(ReaderUnits::default().say_temperature(t), "25 °C");
        assert_eq!(us.say_temperature(t), "77 °F");
        // 46 °C, by the definition °F = 1.8·°C + 32.
        let pause = Temperature::from_celsius(46.0).unwrap();
        assert!((us.show_temperature(pause) - 114.8).abs() < 1e-9);
        assert!((ReaderUnits::default().show_temperature(pause) - 46.0).abs() < 1e-9);
        let v = Volume::from_us_gallons(1.0).unwrap();
        assert_eq!(us.say_volume(v), "1.00 US gal");
        assert_eq!(ReaderUnits::default().say_volume(v), "3.8 L");
        let l = Length::from_inches(1.0).unwrap();
        assert_eq!(us.say_length(l), "1.00 in");
        assert_eq!(ReaderUnits::default().say_length(l), "25 mm");
        assert_eq!(
            (us.say_warmer(5.0), ReaderUnits::default().say_warmer(5.0)),
            ("9 °F".into(), "5 °C".into())
        );
    }

    #[test]
    fn values_are_offered_for_typing_without_needless_zeros() {
        let us = ReaderUnits {
            temperature: TemperatureUnit::Fahrenheit,
            volume: VolumeUnit::UsGallon,
            length: LengthUnit::Inch,
        };
        let metric = ReaderUnits::default();
        let t = Temperature::from_celsius(25.0).unwrap();
        assert_eq!((metric.type_temperature(t), us.type_temperature(t)), ("25".into(), "77".into()));
        let v = Volume::from_millilitres(5_100.0).unwrap();
        assert_eq!((metric.type_volume(v), us.type_volume(v)), ("5.1".into(), "1.347".into()));
        let l = Length::from_millimetres(38.0).unwrap();
        assert_eq!((metric.type_length(l), us.type_length(l)), ("38".into(), "1.496".into()));
    }

    #[test]
    fn cold_is_said_with_a_minus_sign() {
        let t = Temperature::from_celsius(-6.4).unwrap();
        assert_eq!(ReaderUnits::default().say_temperature(t), "\u{2212}6.4 °C");
    }
}
