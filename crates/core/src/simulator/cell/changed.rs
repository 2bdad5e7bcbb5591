//! What happens to a cell besides current: water, a shake, wear and faults.

use super::SimCell;

impl SimCell {
    /// Water is added to it, mL: it lies on top until it is mixed.
    pub fn water(&mut self, millilitres: f64) {
        self.lost -= millilitres;
        let volume = (self.electrolyte() - self.lost).max(1e-3);
        self.layered += 3.0 * (self.gravity() - 1.0) * millilitres / volume;
    }

    /// It is shaken, as in a coach under way: so much of its layers is left, 0 to 1.
    pub fn shake(&mut self, left: f64) {
        self.layered *= left.clamp(0.0, 1.0);
    }

    /// So much more of its capacity is worn away for good, share of C20.
    pub fn wear(&mut self, share: f64) {
        self.worn = (self.worn + share).clamp(0.0, 0.9);
        self.spill();
    }

    /// So much more of it is sulfated hard, share of capacity: no charge brings that back.
    pub fn harden(&mut self, share: f64) {
        self.hard = (self.hard + share).clamp(0.0, 0.4);
        self.spill();
    }

    /// It loses by itself so many times what a sound cell loses: a wet lid, a bridge between plates.
    pub fn leak(&mut self, times: f64) {
        self.leak = times.max(0.0);
    }

    /// Charge of plates that are gone is lost by itself.
    fn spill(&mut self) {
        let over = (self.charge - self.full()).max(0.0);
        self.charge -= over;
        self.charge_account.self_discharged += over * self.capacity;
    }
}
