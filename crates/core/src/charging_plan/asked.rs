//! What a year of charging rests on, and what it refuses.

use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::quantity::{OutOfRange, bounds};
use crate::solar::{SolarArray, SolarError, SolarSky};
use crate::water::MonthlyMeans;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Days of the months of a year without a leap day.
pub const MONTH_DAYS: [u32; 12] = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/// An engine that charges: its regulator holds low volts, so it never finishes (CH-4).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EngineUse {
    /// A by the plate of its alternator; it gives half of them when hot.
    pub amperes: f64,
    /// Hours of a run, on a day that it runs.
    pub hours: f64,
    /// Days from one run to the next, 1 is every day.
    pub every_days: u16,
    /// V a cell that its regulator holds; 2.35 when left out.
    #[serde(default = "regulator")]
    pub volts: f64,
    /// Litres an hour.
    #[serde(default)]
    pub litres: f64,
}

fn regulator() -> f64 {
    2.35
}

/// A generator or a plug with its charger: it can finish.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlugUse {
    /// A of its charger.
    pub amperes: f64,
    /// Hours of a charge, on a day that there is one.
    pub hours: f64,
    /// Days from one to the next, 1 is every day.
    pub every_days: u16,
    /// Hour of the day at which it begins.
    pub from: u8,
    /// Litres an hour; 0 for a plug.
    #[serde(default)]
    pub litres: f64,
}

/// Prices in the house's own currency.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Prices {
    /// Of a litre of fuel.
    #[serde(default)]
    pub litre: f64,
    /// Of a kWh from the plug.
    #[serde(default)]
    pub kilowatt_hour: f64,
    /// Of the whole bank, fitted.
    #[serde(default)]
    pub bank: f64,
    /// Of a watt of array, fitted.
    #[serde(default)]
    pub watt: f64,
}

/// What a year of charging rests on.
#[derive(Debug, Clone, PartialEq)]
pub struct ChargingAsked {
    /// The batteries.
    pub model: BatteryModel,
    /// How they stand.
    pub shape: BankShape,
    /// Capacity that is left, per cent of C20.
    pub health: f64,
    /// A drawn from the bank by hour of the day.
    pub loads: [f64; 24],
    /// How many times as much in each month, January first.
    pub loads_by_month: [f64; 12],
    /// Mean of the electrolyte by month.
    pub means: MonthlyMeans,
    /// Its array, and the sky over it; none: no sun.
    pub solar: Option<(SolarArray, SolarSky)>,
    /// Its engine.
    pub engine: Option<EngineUse>,
    /// Its generator.
    pub generator: Option<PlugUse>,
    /// Its shore or workshop plug.
    pub shore: Option<PlugUse>,
    /// How deep the house plans, per cent.
    pub planned_depth: f64,
}

/// Why no year is told.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ChargingError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Sun and sky.
    #[error("{0}")]
    Solar(#[from] SolarError),
    /// Nothing draws.
    #[error("nothing is drawn: a bank without loads needs no source but what holds it full")]
    NoLoad,
}

impl ChargingError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::Solar(own) => own.field(),
            Self::OutOfRange(own) if own.bounds == bounds::CAPACITY_PERCENT => "health",
            Self::OutOfRange(own) if own.bounds == bounds::PRICE => "prices",
            Self::OutOfRange(own) if own.bounds == bounds::RUNTIME_LOAD => "loads",
            Self::OutOfRange(own) if own.bounds == bounds::LOAD_TIMES => "loads_by_month",
            Self::OutOfRange(own) if own.bounds == bounds::CYCLE_DEPTH => "planned_depth",
            Self::OutOfRange(_) => "sources",
            Self::NoLoad => "loads",
        }
    }
}

impl PlugUse {
    fn check(&self) -> Result<(), OutOfRange> {
        bounds::BANK_CURRENT.check(self.amperes)?;
        bounds::HOUR_OF_DAY.check(self.hours)?;
        bounds::HOUR_OF_DAY.check(f64::from(self.from))?;
        bounds::EVERY_DAYS.check(f64::from(self.every_days))?;
        bounds::FUEL.check(self.litres)?;
        Ok(())
    }
}

impl ChargingAsked {
    /// Ah of the bank as it is now.
    pub(super) fn capacity(&self) -> f64 {
        let strings = f64::from(self.shape.parallel);
        self.model.c20.ampere_hours() * strings * (self.health / 100.0).clamp(0.05, 1.0)
    }

    /// Says whether it can be.
    pub(super) fn check(&self) -> Result<(), ChargingError> {
        bounds::CAPACITY_PERCENT.check(self.health)?;
        bounds::CYCLE_DEPTH.check(self.planned_depth)?;
        for own in &self.loads {
            bounds::RUNTIME_LOAD.check(*own)?;
        }
        for own in &self.loads_by_month {
            bounds::LOAD_TIMES.check(*own)?;
        }
        if let Some((array, sky)) = &self.solar {
            array.check()?;
            sky.check()?;
        }
        if let Some(engine) = &self.engine {
            bounds::BANK_CURRENT.check(engine.amperes)?;
            bounds::HOUR_OF_DAY.check(engine.hours)?;
            bounds::EVERY_DAYS.check(f64::from(engine.every_days))?;
            bounds::CELL_VOLTAGE.check(engine.volts)?;
            bounds::FUEL.check(engine.litres)?;
        }
        for own in [&self.generator, &self.shore].into_iter().flatten() {
            own.check()?;
        }
        let drawn = self.loads.iter().sum::<f64>() * self.loads_by_month.iter().sum::<f64>();
        if drawn > 0.0 { Ok(()) } else { Err(ChargingError::NoLoad) }
    }
}
