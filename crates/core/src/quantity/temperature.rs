//! Temperatures and differences of temperature.

use super::bounds::{self, OutOfRange};
use serde::{Deserialize, Serialize};

/// A temperature, kept in °C.
///
/// Two readings subtract to a [`TemperatureStep`]; they do not add.
///
/// ```
/// # use rainshadow_core::quantity::Temperature;
/// let warm = Temperature::from_celsius(30.0)?;
/// let cold = Temperature::from_celsius(5.0)?;
/// assert_eq!((warm - cold).celsius(), 25.0);
/// # Ok::<(), rainshadow_core::quantity::OutOfRange>(())
/// ```
/// ```compile_fail,E0369
/// # use rainshadow_core::quantity::Temperature;
/// let cell = Temperature::from_celsius(20.0).unwrap();
/// let _ = cell + cell;
/// ```
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Temperature(f64);

impl Temperature {
    /// From degrees Celsius, −40 to 80.
    ///
    /// # Errors
    /// [`OutOfRange`] outside that range.
    pub fn from_celsius(value: f64) -> Result<Self, OutOfRange> {
        bounds::ELECTROLYTE_TEMPERATURE.check(value).map(Self)
    }

    /// From degrees Fahrenheit, −40 to 176.
    ///
    /// # Errors
    /// [`OutOfRange`] outside that range.
    pub fn from_fahrenheit(value: f64) -> Result<Self, OutOfRange> {
        Self::from_celsius((value - 32.0) / 1.8)
    }

    /// In degrees Celsius.
    pub fn celsius(self) -> f64 {
        self.0
    }

    /// In degrees Fahrenheit.
    pub fn fahrenheit(self) -> f64 {
        1.8 * self.0 + 32.0
    }
}

impl TryFrom<f64> for Temperature {
    type Error = OutOfRange;
    fn try_from(value: f64) -> Result<Self, OutOfRange> {
        Self::from_celsius(value)
    }
}

impl From<Temperature> for f64 {
    fn from(t: Temperature) -> f64 {
        t.0
    }
}

impl std::ops::Sub for Temperature {
    type Output = TemperatureStep;
    fn sub(self, other: Self) -> TemperatureStep {
        TemperatureStep(self.0 - other.0)
    }
}

/// A difference between two temperatures, in °C.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TemperatureStep(f64);

impl TemperatureStep {
    /// A step in °C.
    pub fn from_celsius(value: f64) -> Self {
        Self(value)
    }

    /// In °C.
    pub fn celsius(self) -> f64 {
        self.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn fahrenheit_there_and_back_is_the_same(c in -40.0..80.0f64) {
            let there = Temperature::from_celsius(c).unwrap();
            let back = Temperature::from_fahrenheit(there.fahrenheit().clamp(-40.0, 176.0)).unwrap();
            prop_assert!((back.celsius() - c).abs() < 1e-9);
        }
    }

    #[test]
    fn freezing_and_boiling_points_agree_with_the_definition_of_the_scale() {
        assert!((Temperature::from_celsius(0.0).unwrap().fahrenheit() - 32.0).abs() < 1e-12);
        assert!((Temperature::from_fahrenheit(122.0).unwrap().celsius() - 50.0).abs() < 1e-12);
    }
}
