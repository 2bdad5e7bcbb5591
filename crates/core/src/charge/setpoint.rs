//! CH-1 and CH-2: the volts of a stage for a bank at its temperature, and what to type into the
//! charger.

use crate::battery_model::{BatteryModel, Setpoints};
use crate::quantity::{Bounds, OutOfRange, Temperature, bounds};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Volts per cell and degree by which setpoints fall with temperature (CH-2, common practice, no
/// source; makers state 0.003 to 0.005).
pub const COEFFICIENT: f64 = -0.005;
/// No stage goes above this, volts per cell (CH-2, common practice, no source).
pub const MOST_PER_CELL: f64 = 2.70;
/// Float never goes below this, volts per cell (CH-2, common practice, no source).
pub const FLOAT_LEAST: f64 = 2.17;
/// No charge above this, °C (CH-2, common practice, no source).
pub const HOTTEST_CHARGE: f64 = 50.0;
/// No equalize below this, °C (CH-2, common practice, no source).
pub const COLDEST_EQUALIZE: f64 = 5.0;
/// Temperature that setpoints of a model are stated at, °C.
const STATED_AT: f64 = 25.0;

/// A stage of charging with a setpoint.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Stage {
    /// Absorption.
    Absorption,
    /// Float.
    Float,
    /// Equalize.
    Equalize,
}

impl Stage {
    /// The word of the trade.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Absorption => "absorption",
            Self::Float => "float",
            Self::Equalize => "equalize",
        }
    }

    /// Volts per cell at 25 °C in a model; none for a stage it does not have.
    pub const fn of(self, setpoints: &Setpoints) -> Option<f64> {
        match self {
            Self::Absorption => Some(setpoints.absorption),
            Self::Float => Some(setpoints.float),
            Self::Equalize => setpoints.equalize,
        }
    }
}

/// What the charger does about temperature.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargerTemperature {
    /// Temperature its settings are meant for, °C: 20 or 25 as a rule. Bounds: 10 to 35.
    #[serde(default = "stated_at")]
    pub reference: f64,
    /// Volts per cell and degree it adds by itself; negative. Bounds: −0.010 to 0.
    #[serde(default = "coefficient")]
    pub per_degree: f64,
}

fn stated_at() -> f64 {
    STATED_AT
}

fn coefficient() -> f64 {
    COEFFICIENT
}

impl Default for ChargerTemperature {
    fn default() -> Self {
        Self { reference: STATED_AT, per_degree: COEFFICIENT }
    }
}

impl ChargerTemperature {
    /// Volts per cell that the charger adds at a temperature.
    pub fn adds(self, at: Temperature) -> f64 {
        self.per_degree * (at.celsius() - self.reference)
    }

    /// Itself when it is possible.
    ///
    /// # Errors
    /// [`OutOfRange`] outside −0.010 to 0 V per °C and cell, or a reference outside 10 to 35 °C.
    pub fn checked(self) -> Result<Self, OutOfRange> {
        const COMPENSATION: Bounds = bounds::COMPENSATION;
        const REFERENCE: Bounds = bounds::REFERENCE_TEMPERATURE;
        Ok(Self {
            reference: REFERENCE.check(self.reference)?,
            per_degree: COMPENSATION.check(self.per_degree)?,
        })
    }
}

/// What holds a setpoint where it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Held {
    /// The lowest limit of anything that stays connected.
    Equipment,
    /// 2.70 V per cell.
    MostPerCell,
    /// 2.17 V per cell of float.
    FloatLeast,
}

/// A setpoint for a bank at its temperature.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Setpoint {
    /// Stage.
    pub stage: Stage,
    /// Cells in series.
    pub cells: u16,
    /// Volts per cell at 25 °C, as the model states them.
    pub stated: f64,
    /// Volts of the bank at its temperature: also what to type into a charger that does not
    /// compensate.
    pub volts: f64,
    /// Volts per cell of that.
    pub per_cell: f64,
    /// Volts to type into a charger that compensates by itself.
    pub to_type: f64,
    /// What holds it below or above what the temperature asks for.
    pub held: Option<Held>,
}

impl Setpoint {
    /// Volts to type into a charger that adds for the temperature by itself, so that the bank gets
    /// these.
    pub fn typed_into(&self, charger: ChargerTemperature, at: Temperature) -> f64 {
        self.volts - charger.adds(at) * f64::from(self.cells)
    }
}

/// Why there is no setpoint.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum SetpointError {
    /// The stage is not for this construction (EQ-1).
    #[error(
        "a sealed battery is not equalized unless its maker gives a conditioning voltage; the model carries none"
    )]
    Locked,
    /// Too hot.
    #[error("the electrolyte is at {celsius:.0} °C; nothing is charged above 50 °C")]
    TooHot {
        /// °C.
        celsius: f64,
    },
    /// Too cold to equalize.
    #[error("the electrolyte is at {celsius:.0} °C; nothing is equalized below 5 °C")]
    TooCold {
        /// °C.
        celsius: f64,
    },
    /// What stays connected holds an equalize down to absorption.
    #[error(
        "what stays connected takes {limit:.1} V at most, and {absorption:.1} V is absorption already: that is no equalize; disconnect what has the lowest limit first"
    )]
    NoEqualize {
        /// The limit, V.
        limit: f64,
        /// Absorption at this temperature, V.
        absorption: f64,
    },
    /// Something connected takes less than the bank needs to stay charged.
    #[error(
        "{limit:.1} V is the highest that what stays connected can take; that is under {least:.1} V, below which {cells} cells are never full"
    )]
    LimitTooLow {
        /// The limit, V.
        limit: f64,
        /// The least, V.
        least: f64,
        /// Cells in series.
        cells: u16,
    },
}

/// Volts a cell at a temperature of what is stated at 25 °C (CH-2), before any limit.
pub(crate) fn compensated(stated: f64, celsius: f64) -> f64 {
    stated + COEFFICIENT * (celsius - STATED_AT)
}

/// CH-2: `V = N·(V25 + c·(T − 25))`, never above the limit of what stays connected nor 2.70 V per cell,
/// float never below 2.17 V. `coefficient` is the model maker's, volts per cell and degree; `limit` is
/// the lowest limit of anything that stays connected, V.
///
/// # Errors
/// [`SetpointError`] where the stage is locked, the temperature forbids it, or the limit leaves no
/// room to charge.
pub fn setpoint(
    model: &BatteryModel,
    stage: Stage,
    cells: u16,
    at: Temperature,
    charger: ChargerTemperature,
    limit: Option<f64>,
) -> Result<Setpoint, SetpointError> {
    let stated = stage.of(&model.setpoints).ok_or(SetpointError::Locked)?;
    let celsius = at.celsius();
    if celsius > HOTTEST_CHARGE {
        return Err(SetpointError::TooHot { celsius });
    }
    if stage == Stage::Equalize && celsius < COLDEST_EQUALIZE {
        return Err(SetpointError::TooCold { celsius });
    }
    let n = f64::from(cells);
    let mut held = None;
    let mut per_cell = compensated(stated, celsius);
    if stage == Stage::Float && per_cell < FLOAT_LEAST {
        (per_cell, held) = (FLOAT_LEAST, Some(Held::FloatLeast));
    }
    if per_cell > MOST_PER_CELL {
        (per_cell, held) = (MOST_PER_CELL, Some(Held::MostPerCell));
    }
    if let Some(limit) = limit.filter(|limit| *limit < per_cell * n) {
        let least = FLOAT_LEAST * n;
        if limit < least {
            return Err(SetpointError::LimitTooLow { limit, least, cells });
        }
        // At or under absorption it is charged as every day, whatever it is called.
        let absorption = compensated(model.setpoints.absorption, celsius) * n;
        if stage == Stage::Equalize && limit <= absorption {
            return Err(SetpointError::NoEqualize { limit, absorption });
        }
        (per_cell, held) = (limit / n, Some(Held::Equipment));
    }
    let set = Setpoint { stage, cells, stated, volts: per_cell * n, per_cell, to_type: 0.0, held };
    Ok(Setpoint { to_type: set.typed_into(charger, at), ..set })
}
