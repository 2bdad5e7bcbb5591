//! What a run needs before it begins: volts, current, hours, water, air, and what to disconnect.

use super::{Meant, RunKind};
use crate::battery_model::BatteryModel;
use crate::charge::{ChargerTemperature, Setpoint, SetpointError, Stage, setpoint};
use crate::quantity::{Bounds, OutOfRange, Temperature, bounds};
use crate::round::median;
use crate::ventilation::{GassingBank, Ventilation, ventilation};
use crate::water::water_of;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Current of a run, and what it never goes above, share of C20 (EQ-4, common practice, no source).
const CURRENT: (f64, f64) = (0.02, 0.05);
pub(super) const MOST_CURRENT: f64 = 0.10;
/// Electrolyte from which no run begins, °C (EQ-3, common practice, no source).
const TOO_WARM: f64 = 40.0;
/// Volts per cell from which cells gas so much that a fan runs (common practice, no source).
const FAN_FROM: f64 = 2.37;
/// Runs of one's own from which on their own range is told; fewer are widened by `FEW` either way
/// (common practice, no source).
const OWN_RUNS: usize = 3;
const FEW: f64 = 1.5;

/// Something that is connected to the bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Load {
    /// What it is.
    pub name: String,
    /// The highest volts it takes.
    pub highest_volts: f64,
}

/// What is known before a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunToPlan {
    /// What it is for.
    pub kind: RunKind,
    /// The batteries.
    pub model: BatteryModel,
    /// Cells in series.
    pub cells: u16,
    /// Strings in parallel.
    pub strings: u16,
    /// Electrolyte, °C.
    pub temperature: Temperature,
    /// How the charger compensates.
    #[serde(default)]
    pub charger: ChargerTemperature,
    /// Current the source has for the bank, A; none: as much as is asked for.
    #[serde(default)]
    pub source_amperes: Option<f64>,
    /// What is connected.
    #[serde(default)]
    pub loads: Vec<Load>,
    /// Hours that earlier runs of this kind on this bank took.
    #[serde(default)]
    pub earlier_hours: Vec<f64>,
    /// Air around the bank, m³.
    #[serde(default)]
    pub enclosure: Option<f64>,
}

/// Why there is no plan.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum PlanError {
    /// No setpoint.
    #[error("{0}")]
    Setpoint(#[from] SetpointError),
    /// A figure that cannot be.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Too warm to begin.
    #[error("the electrolyte is at {celsius:.0} °C; a run begins under 40 °C")]
    TooWarm {
        /// °C.
        celsius: f64,
    },
    /// A cell gives no volts.
    #[error(
        "no run beside a dead cell: charging against it heats it and overcharges its mates; take its battery out and \
         note what came in its place, or read its volts again"
    )]
    DeadCell,
    /// A case is damaged.
    #[error(
        "no run beside a bulging, cracked, leaking or hot case: that battery is not charged at all; take it out and \
         note what came in its place, or put the finding right"
    )]
    DamagedCase,
}

impl PlanError {
    /// The figure it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::Setpoint(SetpointError::Locked) | Self::DeadCell | Self::DamagedCase => "kind",
            Self::Setpoint(_) | Self::TooWarm { .. } => "temperature",
            Self::OutOfRange(_) => "equipment",
        }
    }
}

/// A range with its middle.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Expected {
    /// Lowest.
    pub low: f64,
    /// Middle.
    pub middle: f64,
    /// Highest.
    pub high: f64,
}

/// A run as planned.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunPlan {
    /// Volts of the bank, and what to type.
    pub setpoint: Setpoint,
    /// Current of the bank, A: low, middle and high of what suits it.
    pub current: Expected,
    /// Never above this, A.
    pub most_current: f64,
    /// True when the source has less than the least that suits.
    pub source_too_small: bool,
    /// Hours.
    pub hours: Expected,
    /// True when they come from earlier runs of this bank.
    pub hours_are_own: bool,
    /// Hours after which it stops unfinished.
    pub cap: f64,
    /// Water that boils off, mL of the whole bank: at most.
    pub water: Expected,
    /// Air for the hydrogen.
    pub air: Ventilation,
    /// Volts of the bank from which a fan runs.
    pub fan_from: f64,
    /// What must be disconnected: it takes less than the run's volts.
    pub disconnect: Vec<Load>,
}

/// Hours by the rule, until a run of the bank is known (common practice, no source).
const fn usual(kind: RunKind) -> Expected {
    match kind {
        RunKind::Corrective => Expected { low: 3.0, middle: 4.5, high: 8.0 },
        RunKind::Preventive => Expected { low: 2.0, middle: 2.5, high: 3.0 },
        RunKind::Stir => Expected { low: 0.5, middle: 1.0, high: 1.0 },
    }
}

fn hours(asked: &RunToPlan) -> (Expected, bool) {
    let usual = usual(asked.kind);
    let mut own: Vec<f64> = asked.earlier_hours.clone();
    let few = if own.len() < OWN_RUNS { FEW } else { 1.0 };
    let low = own.iter().copied().fold(f64::INFINITY, f64::min);
    let high = own.iter().copied().fold(0.0, f64::max);
    let Some(middle) = median(&mut own) else { return (usual, false) };
    {
        // No run of this kind goes beyond its cap, however long others took.
        let held = |hours: f64| hours.min(asked.kind.cap());
        (Expected { low: held(low / few), middle: held(middle), high: held(high * few) }, true)
    }
}

impl RunPlan {
    /// What the run is driven by: the setpoint at its temperature and the least current, or all that the
    /// source has.
    pub fn meant(&self, asked: &RunToPlan) -> Meant {
        Meant {
            volts: self.setpoint.volts,
            celsius: asked.temperature.celsius(),
            amperes: asked.source_amperes.map_or(self.current.low, |source| source.min(self.current.low)),
        }
    }
}

/// Plans a run (EQ-1, EQ-3, EQ-4, CH-2, VE-1, WA-1).
///
/// # Errors
/// [`PlanError`] where the bank may not be equalized, now or ever, or a figure cannot be.
pub fn plan_run(asked: &RunToPlan) -> Result<RunPlan, PlanError> {
    const AMPERES: Bounds = bounds::BANK_CURRENT;
    const HOURS: Bounds = bounds::HOURS;
    const VOLTAGE: Bounds = bounds::VOLTAGE;
    let setpoint =
        setpoint(&asked.model, Stage::Equalize, asked.cells, asked.temperature, asked.charger, None)?;
    let celsius = asked.temperature.celsius();
    if celsius >= TOO_WARM {
        return Err(PlanError::TooWarm { celsius });
    }
    for load in &asked.loads {
        VOLTAGE.check(load.highest_volts)?;
    }
    for hours in &asked.earlier_hours {
        HOURS.check(*hours)?;
    }
    let source = asked.source_amperes.map(|a| AMPERES.check(a)).transpose()?;
    let capacity = asked.model.c20.ampere_hours() * f64::from(asked.strings.max(1));
    let (low, high) = (CURRENT.0 * capacity, CURRENT.1 * capacity);
    let high = source.map_or(high, |s| s.min(high));
    let current = Expected { low: low.min(high), middle: f64::midpoint(low.min(high), high), high };
    let (hours, hours_are_own) = hours(asked);
    // Every cell of a string carries the string's share of the current: all cells and that share are
    // the cells in series and the whole current.
    let water = |amperes: f64, hours: f64| water_of(amperes * hours, u32::from(asked.cells));
    let air = ventilation(&GassingBank {
        construction: asked.model.construction,
        cells: asked.cells,
        capacity,
        stage: Stage::Equalize,
        current: Some(high),
        enclosure: asked.enclosure,
    })?;
    Ok(RunPlan {
        current,
        most_current: MOST_CURRENT * capacity,
        source_too_small: source.is_some_and(|s| s < low),
        hours,
        hours_are_own,
        cap: asked.kind.cap(),
        water: Expected {
            low: water(current.low, hours.low),
            middle: water(current.middle, hours.middle),
            high: water(high, hours.high.min(asked.kind.cap())),
        },
        air,
        fan_from: FAN_FROM * f64::from(asked.cells),
        disconnect: asked.loads.iter().filter(|l| l.highest_volts < setpoint.volts).cloned().collect(),
        setpoint,
    })
}
