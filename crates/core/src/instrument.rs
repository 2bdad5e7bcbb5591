//! SG-7: the instrument that reads gravity, and what it can tell.

use crate::electrolyte::Correction;
use crate::quantity::{OutOfRange, Points, bounds};
use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// Kind of instrument.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum InstrumentKind {
    /// Glass float in a syringe.
    Hydrometer,
    /// One drop on a prism.
    Refractometer,
    /// Electronic density meter.
    Digital,
}

/// What reads the cells.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Instrument {
    /// Kind.
    pub kind: InstrumentKind,
    /// Distance of its marks, points.
    pub resolution: Points,
    /// Scatter of repeated readings of one sample, points.
    pub repeatability: Points,
    /// True when it shows gravity already corrected for temperature.
    pub corrects_for_temperature: bool,
}

/// Uncertainty of the temperature that was typed, °C.
pub const TEMPERATURE_UNCERTAINTY: f64 = 2.0;
/// Uncertainty when nobody knows the temperature: electrolyte indoors and out lies within about
/// 10 °C of the reference (common practice, no source).
pub const UNKNOWN_TEMPERATURE_UNCERTAINTY: f64 = 10.0;

/// What is known of the electrolyte temperature of a round.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TemperatureKnowledge {
    /// One temperature for all cells: it drops out of every deviation.
    OneForAll,
    /// Read at each battery.
    PerBattery,
    /// Not known.
    Unknown,
}

/// Standard uncertainties of one reading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Uncertainty {
    /// Of the corrected gravity itself.
    pub gravity: Points,
    /// Of a cell against its mates: what is common to all cells drops out.
    pub deviation: Points,
    /// What all cells share: the temperature, and below 1.20 the plain rule that corrects for it.
    #[serde(default)]
    pub common: Points,
}

impl Uncertainty {
    /// Of the median of `cells` cells (SG-7): the median of normal scatter is 1.25 times as uncertain as
    /// their mean.
    pub fn of_centre(self, cells: usize) -> Points {
        let n = f64::from(u32::try_from(cells.max(1)).unwrap_or(u32::MAX));
        Points::new((1.25 * self.deviation.value() / n.sqrt()).hypot(self.common.value()))
    }
}

impl Instrument {
    /// Hydrometer with marks of 5 points (SG-7).
    pub fn hydrometer() -> Self {
        Self {
            kind: InstrumentKind::Hydrometer,
            resolution: Points::new(5.0),
            repeatability: Points::new(3.0),
            corrects_for_temperature: false,
        }
    }

    /// Refractometer with automatic temperature compensation, marks of 5 points (SG-7).
    pub fn refractometer() -> Self {
        Self {
            kind: InstrumentKind::Refractometer,
            resolution: Points::new(5.0),
            repeatability: Points::new(2.5),
            corrects_for_temperature: true,
        }
    }

    /// Digital density meter showing single points (SG-7).
    pub fn digital() -> Self {
        Self {
            kind: InstrumentKind::Digital,
            resolution: Points::new(1.0),
            repeatability: Points::new(2.0),
            corrects_for_temperature: true,
        }
    }

    /// One of each kind.
    pub fn of_each_kind() -> Vec<Self> {
        InstrumentKind::VARIANTS.iter().map(|kind| Self::of(*kind)).collect()
    }

    /// An instrument of a kind, with the figures of its kind (SG-7).
    pub fn of(kind: InstrumentKind) -> Self {
        match kind {
            InstrumentKind::Hydrometer => Self::hydrometer(),
            InstrumentKind::Refractometer => Self::refractometer(),
            InstrumentKind::Digital => Self::digital(),
        }
    }

    /// An instrument with its own numbers.
    ///
    /// # Errors
    /// [`OutOfRange`] for a resolution outside 0.1 to 20 points or a repeatability outside 0 to 20.
    pub fn checked(self) -> Result<Self, OutOfRange> {
        bounds::RESOLUTION.check(self.resolution.value())?;
        bounds::REPEATABILITY.check(self.repeatability.value())?;
        Ok(self)
    }

    /// Uncertainty of one reading: resolution/√12, repeatability and temperature in quadrature.
    pub fn uncertainty(self, temperature: TemperatureKnowledge, correction: Correction) -> Uncertainty {
        let own = (self.resolution.value().powi(2) / 12.0 + self.repeatability.value().powi(2)).sqrt();
        let per_degree = if self.corrects_for_temperature { 0.0 } else { correction.coefficient() * 1000.0 };
        let (absolute, between_cells) = match temperature {
            TemperatureKnowledge::OneForAll => (TEMPERATURE_UNCERTAINTY, 0.0),
            TemperatureKnowledge::PerBattery => (TEMPERATURE_UNCERTAINTY, TEMPERATURE_UNCERTAINTY),
            // Nobody knows the level, but the cells of one bank stand in one room.
            TemperatureKnowledge::Unknown => (UNKNOWN_TEMPERATURE_UNCERTAINTY, TEMPERATURE_UNCERTAINTY),
        };
        Uncertainty {
            gravity: Points::new(own.hypot(absolute * per_degree)),
            deviation: Points::new(own.hypot(between_cells * per_degree)),
            common: Points::new(absolute * per_degree),
        }
    }
}

/// 95 % bound of the range of n normal samples, in standard deviations. Six and more from
/// simulation (SG-7); below six the studentized range at infinite degrees of freedom (source key
/// `studentized-range`, from memory).
const RANGE_OF_NOISE: [(f64, f64); 9] = [
    (2.0, 2.77),
    (3.0, 3.31),
    (4.0, 3.63),
    (5.0, 3.86),
    (6.0, 4.0),
    (12.0, 4.6),
    (24.0, 5.1),
    (48.0, 5.6),
    (96.0, 6.1),
];

/// The spread that instrument noise alone explains among `cells` truly even cells, 95 % bound;
/// interpolated in log n.
pub fn spread_of_noise(cells: usize, deviation: Points) -> Points {
    let n = f64::from(u32::try_from(cells).unwrap_or(u32::MAX));
    if n < 2.0 {
        return Points::ZERO;
    }
    let rows = &RANGE_OF_NOISE;
    let i = rows.iter().skip(1).position(|row| n <= row.0).unwrap_or(rows.len() - 2);
    let ((n0, q0), (n1, q1)) = (rows[i], rows[i + 1]);
    let q = q0 + (q1 - q0) * (n.ln() - n0.ln()) / (n1.ln() - n0.ln());
    Points::new(q * deviation.value())
}

/// Share of the noise of a spread that one cell among them explains by itself (SG-7).
const ONE_CELL: f64 = 0.6;

/// How far noise alone can set one of `cells` truly even cells off their middle (SG-7).
pub fn noise_of_a_cell(cells: usize, deviation: Points) -> Points {
    Points::new(ONE_CELL * spread_of_noise(cells, deviation).value())
}

/// A limit of a rule, and what it becomes with this instrument.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Limit {
    /// The limit that was used.
    pub used: Points,
    /// The limit of the rule before noise.
    pub rule: Points,
    /// What noise explains.
    pub noise: Points,
}

impl Limit {
    /// The rule's limit widened by what noise explains (SG-7): noise adds to real scatter, so the two are
    /// taken in quadrature.
    pub fn widened(rule: Points, noise: Points) -> Self {
        Self { used: Points::new(rule.value().hypot(noise.value())), rule, noise }
    }

    /// True when noise explains more than the rule allows, and the finding must say so.
    pub fn noise_rules(self) -> bool {
        self.noise > self.rule
    }

    /// True where the two limits are told apart in whole points.
    pub fn is_widened(self) -> bool {
        self.used.value().round() > self.rule.value().round()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_hydrometer_with_one_temperature_tells_a_cell_within_about_three_points() {
        // √(5²/12 + 3²) = 3.33; by hand, SG-7.
        let u = Instrument::hydrometer().uncertainty(TemperatureKnowledge::OneForAll, Correction::default());
        assert!((u.deviation.value() - 3.3292).abs() < 1e-3, "{u:?}");
        // with ±2 °C · 0.72 points = 1.44 in quadrature: 3.63
        assert!((u.gravity.value() - 3.6273).abs() < 1e-3, "{u:?}");
    }

    #[test]
    fn a_corrected_instrument_carries_no_temperature_uncertainty() {
        let u = Instrument::digital().uncertainty(TemperatureKnowledge::Unknown, Correction::default());
        assert_eq!(u.gravity, u.deviation);
    }

    #[test]
    fn an_unknown_temperature_is_wider_than_a_known_one() {
        let with = |k| Instrument::hydrometer().uncertainty(k, Correction::default());
        assert!(with(TemperatureKnowledge::Unknown).gravity > with(TemperatureKnowledge::OneForAll).gravity);
        assert!(
            with(TemperatureKnowledge::Unknown).deviation > with(TemperatureKnowledge::OneForAll).deviation
        );
    }

    #[test]
    fn the_noise_table_is_met_at_its_rows_and_grows_with_the_bank() {
        for (n, q) in [(6, 4.0), (12, 4.6), (24, 5.1), (48, 5.6), (96, 6.1)] {
            assert!((spread_of_noise(n, Points::new(1.0)).value() - q).abs() < 1e-6);
        }
        for n in 2..192 {
            assert!(spread_of_noise(n, Points::new(3.0)) <= spread_of_noise(n + 1, Points::new(3.0)));
        }
        assert_eq!(spread_of_noise(1, Points::new(3.0)), Points::ZERO);
    }
}
