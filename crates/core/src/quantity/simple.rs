//! Voltage, charge, volume and length: quantities that need no arithmetic of their own yet.

use super::bounds::{self, OutOfRange};
use super::conversion as units;
use serde::{Deserialize, Serialize};

macro_rules! quantity {
    ($(#[$doc:meta])* $name:ident, $from:ident, $to:ident, $bounds:expr) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
        #[serde(try_from = "f64", into = "f64")]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub struct $name(f64);

        impl $name {
            /// From the canonical unit.
            ///
            /// # Errors
            /// [`OutOfRange`] outside the accepted range of [`bounds`].
            pub fn $from(value: f64) -> Result<Self, OutOfRange> {
                $bounds.check(value).map(Self)
            }
            /// In the canonical unit.
            pub fn $to(self) -> f64 {
                self.0
            }
        }
        impl TryFrom<f64> for $name {
            type Error = OutOfRange;
            fn try_from(value: f64) -> Result<Self, OutOfRange> {
                Self::$from(value)
            }
        }
        impl From<$name> for f64 {
            fn from(quantity: $name) -> f64 {
                quantity.0
            }
        }
    };
}

quantity!(
    /// An electric potential, in volts.
    Voltage, from_volts, volts, bounds::VOLTAGE
);
quantity!(
    /// A quantity of charge, in ampere-hours.
    Charge, from_ampere_hours, ampere_hours, bounds::CAPACITY
);
quantity!(
    /// A volume of liquid, in millilitres.
    Volume, from_millilitres, millilitres, bounds::VOLUME
);
quantity!(
    /// A length, in millimetres.
    Length, from_millimetres, millimetres, bounds::LENGTH
);

impl Volume {
    /// From US gallons.
    ///
    /// # Errors
    /// [`OutOfRange`] outside the accepted range of a volume.
    pub fn from_us_gallons(value: f64) -> Result<Self, OutOfRange> {
        Self::from_millilitres(value * units::MILLILITRES_PER_US_GALLON)
    }
    /// In US gallons.
    pub fn us_gallons(self) -> f64 {
        self.0 / units::MILLILITRES_PER_US_GALLON
    }
}

impl Length {
    /// From inches.
    ///
    /// # Errors
    /// [`OutOfRange`] outside the accepted range of a length.
    pub fn from_inches(value: f64) -> Result<Self, OutOfRange> {
        Self::from_millimetres(value * units::MILLIMETRES_PER_INCH)
    }
    /// In inches.
    pub fn inches(self) -> f64 {
        self.0 / units::MILLIMETRES_PER_INCH
    }
}
