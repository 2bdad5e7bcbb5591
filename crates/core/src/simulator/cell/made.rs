//! A cell as it is at the beginning.

use super::{LONGEST_STEP, MOST_LAYERED, SimCell, Slow};
use crate::simulator::step_cache::{Heat, Knee, Pace};
use crate::simulator::{CellKind, ChargeAccount};

impl SimCell {
    /// A new cell, full, at 25 °C. Capacity in Ah, above zero.
    pub fn new(kind: CellKind, capacity: f64) -> Self {
        Self::aged(kind, capacity, 1.0, 0.0)
    }

    /// A cell of an age (1 to 4: how much more it gasses) that lost a share of its capacity for good
    /// (0 to 0.9), full, at 25 °C.
    pub fn aged(kind: CellKind, capacity: f64, age: f64, worn: f64) -> Self {
        let worn = worn.clamp(0.0, 0.9);
        let mut cell = Self {
            kind,
            capacity: capacity.max(1e-3),
            leak: 1.0,
            age: age.clamp(0.5, 10.0),
            worn,
            charge: 1.0 - worn,
            lagged: 0.0,
            surface: 0.0,
            layered: 0.0,
            soft: 0.0,
            hard: 0.0,
            lost: 0.0,
            celsius: 25.0,
            volts: 0.0,
            charge_account: ChargeAccount::default(),
            heat: Heat::of(25.0),
            pace: Pace::of(LONGEST_STEP),
            knee: Knee { lagged: 0.0, share: 1.0, rate: 0.0, polarized: 0.0 },
            slow: Slow::default(),
            tried: None,
        };
        cell.volts = cell.rest();
        cell
    }

    /// This cell at a state of charge, 0 to 1.
    #[must_use]
    pub fn charged_to(mut self, share: f64) -> Self {
        self.charge = share.clamp(0.0, 1.0) * self.full();
        self.volts = self.rest();
        self
    }

    /// This cell with sulfate on its plates, shares of capacity: soft dissolves as it gasses, hard does
    /// not.
    #[must_use]
    pub fn sulfated(mut self, soft: f64, hard: f64) -> Self {
        (self.soft, self.hard) = (soft.clamp(0.0, 0.5), hard.clamp(0.0, 0.4));
        self.charge = self.charge.min(self.full());
        self.volts = self.rest();
        self
    }

    /// This cell with so much of its electrolyte lighter on top.
    #[must_use]
    pub fn layered(mut self, by: f64) -> Self {
        self.layered = by.clamp(0.0, MOST_LAYERED);
        self.volts = self.rest();
        self
    }

    /// This cell at a temperature, °C.
    #[must_use]
    pub fn at(mut self, celsius: f64) -> Self {
        self.celsius = celsius;
        self.heat = Heat::of(celsius);
        self
    }
}
