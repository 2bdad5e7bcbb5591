//! Resistance of links and cables: copper by section and length, with its lugs.

use crate::quantity::{OutOfRange, bounds};
use serde::{Deserialize, Serialize};

/// Resistivity of annealed copper at 20 °C, mΩ·mm² per m (source key `iec-60028`, from memory).
pub const COPPER: f64 = 17.241;
/// Resistance of one crimped lug, mΩ (common practice, no source).
pub const LUG_MILLIOHMS: f64 = 0.05;

/// How thick a cable is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Section {
    /// Square millimetres, 0.5 to 400.
    SquareMillimetres(f64),
    /// American wire gauge: 20 to 1, and 0, -1, -2, -3 for 1/0, 2/0, 3/0, 4/0.
    Awg(i8),
}

impl Section {
    /// Square millimetres.
    ///
    /// # Errors
    /// [`OutOfRange`] for a section or gauge that no battery cable has.
    pub fn square_millimetres(self) -> Result<f64, OutOfRange> {
        match self {
            Self::SquareMillimetres(own) => bounds::CABLE_SECTION.check(own),
            Self::Awg(gauge) => {
                let gauge = bounds::AWG.check(f64::from(gauge))?;
                // Gauges are a geometric series of diameters: 36 is 0.127 mm, and 39 steps make 92 times as much
                // (source key `astm-b258`, from memory).
                let diameter = 0.127 * 92f64.powf((36.0 - gauge) / 39.0);
                Ok(std::f64::consts::FRAC_PI_4 * diameter * diameter)
            }
        }
    }
}

/// A link or a cable.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cable {
    /// How thick it is.
    pub section: Section,
    /// Length, m, 0.01 to 50.
    pub metres: f64,
    /// Lugs on it, usually 2.
    #[serde(default = "two")]
    pub lugs: u8,
    /// Resistance of one lug, mΩ; 0.05 when left out.
    #[serde(default = "usual_lug")]
    pub lug_milliohms: f64,
}

fn two() -> u8 {
    2
}

fn usual_lug() -> f64 {
    LUG_MILLIOHMS
}

impl Cable {
    /// Resistance, mΩ, lugs included.
    ///
    /// # Errors
    /// [`OutOfRange`] with the figure and what is accepted.
    pub fn milliohms(&self) -> Result<f64, OutOfRange> {
        let section = self.section.square_millimetres()?;
        let metres = bounds::CABLE_LENGTH.check(self.metres)?;
        let lug = bounds::LUG_RESISTANCE.check(self.lug_milliohms)?;
        Ok(COPPER * metres / section + f64::from(self.lugs) * lug)
    }
}
