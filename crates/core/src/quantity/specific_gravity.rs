//! Specific gravity: density of the electrolyte over water.

use super::Points;
use super::bounds::{self, OutOfRange};
use serde::{Deserialize, Serialize};
use std::fmt;

/// Density of the electrolyte over water, a plain number around 1.2.
///
/// Two gravities subtract to [`Points`], they do not add:
///
/// ```
/// # use rainshadow_core::quantity::SpecificGravity;
/// let high = SpecificGravity::new(1.265)?;
/// let low = SpecificGravity::new(1.232)?;
/// assert_eq!((high - low).value(), 33.0);
/// # Ok::<(), rainshadow_core::quantity::OutOfRange>(())
/// ```
/// ```compile_fail,E0369
/// # use rainshadow_core::quantity::SpecificGravity;
/// let cell = SpecificGravity::new(1.265).unwrap();
/// let _ = cell + cell;
/// ```
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SpecificGravity(f64);

impl SpecificGravity {
    /// A gravity as an instrument shows it, 0.980 to 1.400.
    ///
    /// # Errors
    /// [`OutOfRange`] outside that range: such a reading is recorded as below or above the scale.
    pub fn new(value: f64) -> Result<Self, OutOfRange> {
        bounds::GRAVITY.check(value).map(Self)
    }

    /// A gravity after correction, which may lie a little outside what an instrument shows.
    pub(crate) fn corrected(value: f64) -> Self {
        Self(value.clamp(bounds::GRAVITY_CORRECTED.low, bounds::GRAVITY_CORRECTED.high))
    }

    /// The plain number.
    pub fn value(self) -> f64 {
        self.0
    }

    /// This gravity shifted by a difference.
    #[must_use]
    pub fn shifted(self, by: Points) -> Self {
        Self::corrected(self.0 + by.value() / 1000.0)
    }
}

impl TryFrom<f64> for SpecificGravity {
    type Error = OutOfRange;
    /// Accepts what a correction can yield, so a corrected value survives export and import.
    fn try_from(value: f64) -> Result<Self, OutOfRange> {
        bounds::GRAVITY_CORRECTED.check(value).map(Self)
    }
}

impl From<SpecificGravity> for f64 {
    fn from(sg: SpecificGravity) -> f64 {
        sg.0
    }
}

impl std::ops::Sub for SpecificGravity {
    type Output = Points;
    fn sub(self, other: Self) -> Points {
        Points::new((self.0 - other.0) * 1000.0)
    }
}

impl fmt::Display for SpecificGravity {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:.3}", self.0)
    }
}
