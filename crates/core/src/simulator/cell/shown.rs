//! What a cell shows to its instruments, and what the model knows of it.

use super::SimCell;
use crate::simulator::ChargeAccount;

impl SimCell {
    /// Capacity now, share of C20.
    pub fn full(&self) -> f64 {
        (1.0 - self.worn - self.soft - self.hard).max(1e-3)
    }

    /// State of charge of what is left of it.
    pub fn state_of_charge(&self) -> f64 {
        self.charge / self.full()
    }

    /// Charge, Ah.
    pub fn ampere_hours(&self) -> f64 {
        self.charge * self.capacity
    }

    /// Temperature, °C.
    pub fn celsius(&self) -> f64 {
        self.celsius
    }

    /// Water lost, mL.
    pub fn water_lost(&self) -> f64 {
        self.lost
    }

    /// Capacity when new, Ah.
    pub fn capacity(&self) -> f64 {
        self.capacity
    }

    /// Volts of the last step.
    pub fn volts(&self) -> f64 {
        self.volts
    }

    /// Where its ampere-hours went.
    pub fn charge_account(&self) -> ChargeAccount {
        self.charge_account
    }

    /// Gravity as a hydrometer draws it from the top.
    pub fn gravity_on_top(&self) -> f64 {
        self.gravity() - self.layered
    }

    /// What a meter of internal resistance shows, mΩ: what the plates, their connectors and the acid
    /// oppose at once, without what follows slowly.
    pub fn milliohms(&self) -> f64 {
        let worse = 1.0 + 2.0 * (self.worn + self.soft + self.hard);
        1000.0 * self.kind.discharge_resistance * worse * self.heat.discharging / self.capacity
    }
}
