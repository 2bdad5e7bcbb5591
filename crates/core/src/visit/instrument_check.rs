//! An instrument held against what it should show: a hydrometer in distilled water, a meter beside another.

use crate::diagnosis::{HYDROMETER_OFF, METER_OFF};
use crate::instrument::InstrumentKind;
use crate::quantity::{OutOfRange, bounds};
use serde::{Deserialize, Serialize};
use strum::{IntoStaticStr, VariantArray};

/// What distilled water has at room temperature.
pub const DISTILLED: f64 = 1.000;
/// Points in distilled water, and V on 12 V beside another meter, from which the check itself is asked about (our choice,
/// no source).
const ODD: [f64; 2] = [20.0, 0.6];

/// What is checked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, VariantArray, IntoStaticStr)]
#[serde(rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CheckedInstrument {
    /// A glass float.
    Hydrometer,
    /// A drop on a prism.
    Refractometer,
    /// An electronic density meter.
    Digital,
    /// A voltmeter.
    Meter,
}

/// What a check came to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InstrumentChecked {
    /// What was checked.
    pub instrument: CheckedInstrument,
    /// What it showed: gravity, V.
    pub shown: f64,
    /// What it should have shown.
    pub should: f64,
}

impl From<InstrumentKind> for CheckedInstrument {
    fn from(kind: InstrumentKind) -> Self {
        match kind {
            InstrumentKind::Hydrometer => Self::Hydrometer,
            InstrumentKind::Refractometer => Self::Refractometer,
            InstrumentKind::Digital => Self::Digital,
        }
    }
}

impl CheckedInstrument {
    /// Every instrument that can be checked.
    pub const ALL: &'static [Self] = Self::VARIANTS;

    /// Its key, which evidence names it by: `hydrometer`.
    pub fn key(self) -> &'static str {
        self.into()
    }

    /// True for what reads gravity.
    pub const fn reads_gravity(self) -> bool {
        !matches!(self, Self::Meter)
    }
}

impl InstrumentChecked {
    /// What it is off by: points, or V on 12 V; more than 0: it reads high.
    pub fn off(&self) -> f64 {
        let off = if self.instrument.reads_gravity() {
            1000.0 * (self.shown - self.should)
        } else {
            12.0 * (self.shown / self.should - 1.0)
        };
        // A reading on a limit is within it, whatever the last bit says.
        (1e6 * off).round() / 1e6
    }

    /// True where it is off by more than a diagnosis lets pass.
    pub fn matters(&self) -> bool {
        let limit = if self.instrument.reads_gravity() { HYDROMETER_OFF } else { METER_OFF };
        self.off().abs() > limit
    }

    /// True where the check itself may be wrong: acid in the water, or other posts.
    pub fn is_odd(&self) -> bool {
        self.off().abs() > ODD[usize::from(!self.instrument.reads_gravity())]
    }

    /// Refuses what cannot be: water far from 1.000, no volts.
    ///
    /// # Errors
    /// [`OutOfRange`] with what is accepted.
    pub fn possible(&self) -> Result<(), OutOfRange> {
        let range =
            if self.instrument.reads_gravity() { bounds::GRAVITY_OF_WATER } else { bounds::COMPARED_VOLTS };
        range.check(self.shown)?;
        range.check(self.should).map(|_| ())
    }
}
