//! What a runtime rests on.

use super::error::RuntimeError;
use super::load::{Inverter, RuntimeLoad};
use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::discharge::USUAL_END;
use crate::quantity::bounds;

/// A bank on its own under a load.
#[derive(Debug, Clone, PartialEq)]
pub struct RuntimeAsked {
    /// The batteries.
    pub model: BatteryModel,
    /// How they stand.
    pub shape: BankShape,
    /// What draws.
    pub load: RuntimeLoad,
    /// What stands between; none: the load is in A at the bank.
    pub inverter: Option<Inverter>,
    /// Mean of the electrolyte, °C.
    pub temperature: f64,
    /// Capacity that is left, per cent of C20; above 100 nothing is gained.
    pub health: f64,
    /// Between which it lies; none: not known.
    pub health_range: Option<[f64; 2]>,
    /// Charge it begins with, per cent.
    pub charged: f64,
    /// How deep it may go, per cent of what it gives.
    pub depth: f64,
    /// Peukert's exponent; none: the rate table of the model, or what is usual.
    pub exponent: Option<f64>,
    /// V of the bank at which its alarm goes; none: it has none.
    pub alarm: Option<f64>,
    /// V of the bank at which it counts as empty; none: 1.75 V a cell.
    pub empty: Option<f64>,
}

impl RuntimeAsked {
    /// V of the bank at which it counts as empty.
    pub fn empty_volts(&self) -> f64 {
        self.empty.unwrap_or(USUAL_END * self.cells())
    }

    pub(super) fn cells(&self) -> f64 {
        f64::from(self.shape.cells_in_series())
    }

    pub(super) fn strings(&self) -> f64 {
        f64::from(self.shape.parallel)
    }

    /// Says whether it can be.
    pub(super) fn check(&self) -> Result<(), RuntimeError> {
        self.load.check()?;
        if let Some(inverter) = self.inverter {
            bounds::INVERTER_EFFICIENCY.check(inverter.efficiency)?;
            bounds::INVERTER_IDLE.check(inverter.idle)?;
        }
        bounds::ELECTROLYTE_TEMPERATURE.check(self.temperature)?;
        bounds::CAPACITY_PERCENT.check(self.health)?;
        bounds::STATE_OF_CHARGE.check(self.charged)?;
        bounds::CYCLE_DEPTH.check(self.depth)?;
        self.exponent.map(|k| bounds::PEUKERT.check(k)).transpose()?;
        if let Some([low, high]) = self.health_range {
            bounds::CAPACITY_PERCENT.check(low)?;
            bounds::CAPACITY_PERCENT.check(high)?;
            if !(low..=high).contains(&self.health) {
                return Err(RuntimeError::HealthOutsideRange { low, best: self.health, high });
            }
        }
        let cells = self.cells();
        bounds::END_CELL_VOLTS.check(self.empty_volts() / cells)?;
        if let Some(alarm) = self.alarm {
            bounds::ALARM_CELL_VOLTS.check(alarm / cells)?;
            let empty = self.empty_volts();
            if alarm < empty {
                return Err(RuntimeError::AlarmUnderEmpty { alarm, empty });
            }
        }
        let volts = f64::from(self.shape.system_voltage);
        let draws = self.load.stretches(self.inverter, volts).iter().any(|own| own.amperes > 1e-6);
        if draws { Ok(()) } else { Err(RuntimeError::NoLoad) }
    }
}
