//! Differences of gravity, spoken in points of 0.001.

use serde::{Deserialize, Serialize};
use std::fmt;

/// A difference between two gravities, in points (0.001).
///
/// Held to a millionth of a point, so that 1.265 less 1.235 is exactly 30 points and a limit of 30
/// is met.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Points(f64);

impl Points {
    /// No difference.
    pub const ZERO: Self = Self(0.0);

    /// A difference in points.
    pub const fn new(points: f64) -> Self {
        Self((points * 1e6).round() / 1e6)
    }

    /// The number of points.
    pub fn value(self) -> f64 {
        self.0
    }

    /// The size without the sign.
    #[must_use]
    pub fn abs(self) -> Self {
        Self(self.0.abs())
    }

    /// The larger of two.
    #[must_use]
    pub fn max(self, other: Self) -> Self {
        Self(self.0.max(other.0))
    }
}

impl std::ops::Sub for Points {
    type Output = Self;
    fn sub(self, other: Self) -> Self {
        Self::new(self.0 - other.0)
    }
}

impl std::ops::Neg for Points {
    type Output = Self;
    fn neg(self) -> Self {
        Self(-self.0)
    }
}

impl fmt::Display for Points {
    /// Whole points with a true minus sign: "−31".
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let whole = self.0.round();
        if whole < 0.0 { write!(f, "\u{2212}{:.0}", -whole) } else { write!(f, "{:.0}", whole.abs()) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn points_are_spoken_whole_and_signed() {
        assert_eq!(Points::new(-31.2).to_string(), "\u{2212}31");
        assert_eq!(Points::new(-0.2).to_string(), "0");
        assert_eq!(Points::new(12.6).to_string(), "13");
    }
}
