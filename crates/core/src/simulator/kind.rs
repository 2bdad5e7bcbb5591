//! The two kinds of cells that the simulator knows.

use super::charging::tafel;
use super::curves::rest_volts;
use super::step_cache::Heat;
use crate::battery_model::Construction;

/// Constants of a kind of cell, per unit of its 20-hour capacity (SM-1).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct CellKind {
    /// Gravity when full.
    pub full_gravity: f64,
    /// Fall of gravity from full to empty.
    pub gravity_range: f64,
    /// Electrolyte, mL per Ah.
    pub electrolyte: f64,
    /// Peukert exponent at the twenty-hour rate.
    pub peukert: f64,
    /// How much more it is for each e-fold of rate above that.
    pub peukert_rise: f64,
    /// Resistance on discharge, V per 1/h.
    pub discharge_resistance: f64,
    /// Height of the knee at the end of a discharge, V.
    pub knee: f64,
    /// Resistance on charge, V per 1/h.
    pub charge_resistance: f64,
    /// What full plates add to it, V per 1/h.
    pub full_resistance: f64,
    /// Gassing at 2.23 V and 25 °C, 1/h.
    pub gassing: f64,
    /// Share of the gas that recombines to water.
    pub recombined: f64,
    /// Self-discharge at 25 °C, 1/h.
    pub self_discharge: f64,
    /// How charging layers the electrolyte.
    pub layering: f64,
    /// Gassing that mixes it within an hour, 1/h; none: it is never mixed by gas.
    pub mixing: Option<f64>,
    /// Gassing that dissolves soft sulfate within an hour, 1/h.
    pub dissolving: f64,
    /// Heat that warms it, Wh per Ah and kelvin.
    pub heat_capacity: f64,
}

impl CellKind {
    /// The kind that stands for a construction.
    pub const fn of(construction: Construction) -> Self {
        match construction {
            Construction::Flooded | Construction::FloodedTubular => Self::FLOODED,
            Construction::Agm | Construction::Gel => Self::AGM,
        }
    }

    /// What charges and what gasses in a new cell at a state of charge, share, held at volts at a temperature, °C, per unit of
    /// its 20-hour capacity, 1/h.
    pub fn charging_at(&self, charged: f64, volts: f64, celsius: f64) -> (f64, f64) {
        let z = charged.clamp(0.0, 0.9999);
        let heat = Heat::of(celsius);
        let gravity = self.full_gravity - self.gravity_range * (1.0 - z);
        let resistance = (self.charge_resistance + self.full_resistance * z / (1.0 - z)) * heat.charging;
        let main = ((volts - rest_volts(gravity)) / resistance).max(0.0);
        (main, self.gassing_at(1.0, volts, celsius))
    }

    /// What gasses in a cell of an age (1 to 4) held at volts at a temperature, °C, per unit of its 20-hour capacity, 1/h.
    pub fn gassing_at(&self, age: f64, volts: f64, celsius: f64) -> f64 {
        self.gassing * age * Heat::of(celsius).gassing * tafel(volts)
    }

    /// Flooded deep-cycle.
    pub const FLOODED: Self = Self {
        full_gravity: 1.265,
        gravity_range: 0.145,
        electrolyte: 13.7,
        peukert: 1.18,
        peukert_rise: 0.0,
        discharge_resistance: 0.12,
        knee: 0.20,
        charge_resistance: 0.35,
        full_resistance: 0.70,
        gassing: 8e-4,
        recombined: 0.0,
        self_discharge: 8.47e-5,
        layering: 0.25,
        mixing: Some(0.012),
        dissolving: 0.12,
        heat_capacity: 0.0115,
    };
    /// AGM.
    pub const AGM: Self = Self {
        full_gravity: 1.300,
        gravity_range: 0.200,
        electrolyte: 9.8,
        peukert: 1.05,
        peukert_rise: 0.012,
        discharge_resistance: 0.06,
        knee: 0.19,
        charge_resistance: 0.20,
        full_resistance: 0.35,
        gassing: 6e-4,
        recombined: 0.98,
        self_discharge: 3.47e-5,
        layering: 0.05,
        mixing: None,
        dissolving: 0.25,
        heat_capacity: 0.0105,
    };
}
