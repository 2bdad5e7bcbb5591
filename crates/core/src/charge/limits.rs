//! Within what a bank is charged: volts of each stage in the cold, at 25 °C and in the heat, current, temperature.

use super::{ChargerTemperature, HOTTEST_CHARGE, SetpointError, Stage, setpoint};
use crate::bank::BankShape;
use crate::battery_model::{BatteryModel, Construction};
use crate::quantity::Temperature;

/// Temperatures that are told, °C: a cold bank, the one that makers state volts at, a hot one.
pub const TOLD_AT: [f64; 3] = [5.0, 25.0, 40.0];

/// Volts of one stage.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StageVolts {
    /// The stage.
    pub stage: Stage,
    /// V of the bank at [`TOLD_AT`]; none: this type has no such stage, or not at that temperature.
    pub volts: [Option<f64>; 3],
    /// True where the type has no such stage at all (EQ-1).
    pub locked: bool,
}

/// Within what a bank is charged.
#[derive(Debug, Clone, PartialEq)]
pub struct ChargeLimits {
    /// Absorption, float, equalize.
    pub stages: Vec<StageVolts>,
    /// A of the whole bank that suit it, from least to most.
    pub amperes: [f64; 2],
    /// °C of the battery above which nothing is charged.
    pub hottest: f64,
}

/// Share of C20 an hour that suits a type, from least to most (CH-4; common practice, no source; of gel our choice, on the
/// careful side).
pub const fn charging_current(construction: Construction) -> [f64; 2] {
    match construction {
        Construction::Flooded | Construction::FloodedTubular => [0.10, 0.13],
        Construction::Agm => [0.10, 0.30],
        Construction::Gel => [0.10, 0.20],
    }
}

/// The limits of charge of a bank (CH-1, CH-2, CH-4).
pub fn charge_limits(model: &BatteryModel, shape: &BankShape) -> ChargeLimits {
    let of = |stage| {
        let at = |celsius: f64| {
            let at = Temperature::from_celsius(celsius).ok()?;
            Some(setpoint(model, stage, shape.cells_in_series(), at, ChargerTemperature::default(), None))
        };
        let told = TOLD_AT.map(at);
        StageVolts {
            stage,
            locked: told.iter().flatten().all(|own| matches!(own, Err(SetpointError::Locked))),
            volts: told.map(|own| own.and_then(Result::ok).map(|own| own.volts)),
        }
    };
    let c20 = model.c20.ampere_hours() * f64::from(shape.parallel);
    ChargeLimits {
        stages: [Stage::Absorption, Stage::Float, Stage::Equalize].map(of).to_vec(),
        amperes: charging_current(model.construction).map(|share| share * c20),
        hottest: HOTTEST_CHARGE,
    }
}
