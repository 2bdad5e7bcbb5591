//! What is wrong with a made bank, and what it does to its cells, its charger, its owner.

use super::chance::Chance;
use super::lived::{Lived, to_f64};
use super::world::World;
use rainshadow_core::diagnosis::Hypothesis;

/// How the charger does.
#[derive(Debug, Clone, Copy)]
pub struct Charger {
    /// Volts a cell off what it should hold.
    pub off: f64,
    pub compensates: bool,
    /// Hours of absorption.
    pub hours: f64,
    /// What comes in, times what is needed.
    pub supply: f64,
    /// Drawn a day all the time, share of the capacity.
    pub standing: f64,
    /// How fast acid layers, times the usual.
    pub layers: f64,
}

/// What a bank has: none for a sound one, one, or two.
#[derive(Debug, Clone)]
pub struct Ails {
    pub what: Vec<Hypothesis>,
    /// How bad each is, 0 to 1.
    pub severity: Vec<f64>,
    charger: Charger,
}

/// Pairs that one bank does not have, or that nobody could tell apart.
fn excluded(a: Hypothesis, b: Hypothesis) -> bool {
    use Hypothesis::{AcidAdded, Diluted, Overcharge, StandingDraw, Undercharge};
    let pair = |x, y| a == x && b == y || a == y && b == x;
    a == b || pair(Undercharge, Overcharge) || pair(AcidAdded, Diluted) || pair(StandingDraw, Overcharge)
}

impl Ails {
    /// Draws what is wrong: a fifth sound, a fifth with two.
    pub fn draw((has_caps, standby): (bool, bool), strings: u8, world: &World, chance: &mut Chance) -> Self {
        let mut all: Vec<Hypothesis> = super::diagnosed::faults(has_caps, strings);
        if standby {
            // On float day and night these do not come about.
            use Hypothesis::{Overcharge, Stratified, Undercharge};
            all.retain(|own| ![Undercharge, Overcharge, Stratified].contains(own));
        }
        let kind = chance.unit();
        let mut what = Vec::new();
        if kind >= 0.2 {
            what.push(chance.one_of(&all));
        }
        while kind >= 0.8 && what.len() < 2 {
            let own = chance.one_of(&all);
            if !excluded(own, what[0]) {
                what.push(own);
            }
        }
        let severity: Vec<f64> = what.iter().map(|_| chance.unit().powf(world.mildness)).collect();
        let mut own = Self { what, severity, charger: Self::sound_charger(chance) };
        own.set_charger(chance);
        own
    }

    fn sound_charger(chance: &mut Chance) -> Charger {
        Charger {
            off: 0.010 * chance.normal(),
            compensates: true,
            hours: chance.between(2.2, 3.8),
            supply: chance.between(1.0, 1.5),
            standing: 0.001 * chance.unit(),
            layers: 1.0,
        }
    }

    fn set_charger(&mut self, chance: &mut Chance) {
        for (what, severity) in self.what.clone().into_iter().zip(self.severity.clone()) {
            let own = &mut self.charger;
            match what {
                Hypothesis::WrongSetpoint => {
                    let by = 0.06 + 0.12 * severity;
                    own.off += if chance.unit() < 0.6 { -by } else { by };
                }
                Hypothesis::NoTemperatureSensing => own.compensates = false,
                Hypothesis::Undercharge => {
                    if chance.unit() < 0.6 {
                        own.supply = 0.78 - 0.25 * severity;
                    } else {
                        own.hours = 0.7 - 0.5 * severity;
                        own.supply *= 0.8;
                    }
                }
                Hypothesis::Overcharge => {
                    own.hours = 6.5 + 5.0 * severity;
                    own.supply = own.supply.max(1.3);
                }
                Hypothesis::Stratified => {
                    // Tall cells, a charge that ends as it begins to gas.
                    own.hours = 1.0;
                    own.supply = own.supply.max(1.25);
                    own.layers = 2.5 + 2.5 * severity;
                }
                Hypothesis::StandingDraw => own.standing = 0.012 + 0.03 * severity,
                Hypothesis::DriedOut => own.hours *= 1.4,
                _ => {}
            }
        }
    }

    pub fn charger(&self) -> Charger {
        self.charger
    }

    pub fn has(&self, what: Hypothesis) -> Option<f64> {
        self.what.iter().position(|own| *own == what).map(|at| self.severity[at])
    }

    /// Age as a share of the design life.
    pub fn age(&self, chance: &mut Chance) -> f64 {
        match self.has(Hypothesis::WornOut) {
            Some(severity) => 0.75 + 0.5 * severity + 0.1 * chance.unit(),
            None => chance.between(0.05, 0.85),
        }
    }

    pub fn forgets_water(&self, day: usize) -> bool {
        self.has(Hypothesis::DriedOut).is_some() && day > 60
    }

    /// What it does at the start.
    pub fn strike(&self, own: &mut Lived, chance: &mut Chance) {
        for (what, severity) in self.what.iter().zip(&self.severity) {
            strike(*what, *severity, own, chance);
        }
    }

    /// What happens on a day.
    pub fn each_day(&self, own: &mut Lived, day: usize, chance: &mut Chance) {
        let at = super::lived::DAYS - 150;
        for (what, severity) in self.what.iter().zip(&self.severity).filter(|_| day == at) {
            happen(*what, *severity, own, chance);
        }
    }
}

fn cells_of(own: &Lived, share: f64, chance: &mut Chance) -> Vec<usize> {
    let n = own.cells.len();
    let mut all: Vec<usize> = (0..n).collect();
    while all.len() > 2 && to_f64(all.len()) > share * to_f64(n) {
        all.remove(chance.below(all.len()));
    }
    all
}

fn strike(what: Hypothesis, severity: f64, own: &mut Lived, chance: &mut Chance) {
    match what {
        Hypothesis::Sulfated => {
            for cell in &mut own.cells {
                cell.hard += (0.12 + 0.18 * severity) * chance.between(0.8, 1.2);
                cell.soft += 0.06;
                cell.resistance += 0.5 * severity + 0.15;
            }
        }
        Hypothesis::WornOut => {
            for cell in &mut own.cells {
                let by = (0.18 + 0.25 * severity) * chance.between(0.85, 1.15);
                cell.worn += by;
                cell.resistance += 1.1 * by + 0.15;
            }
        }
        Hypothesis::SelfDischarge => {
            let leak = 0.008 + 0.015 * severity;
            own.cells.iter_mut().for_each(|cell| cell.leak += leak * chance.between(0.7, 1.3));
        }
        Hypothesis::UnevenStrings => {
            let last = own.shares.len() - 1;
            own.shares[last] *= 0.62 - 0.25 * severity;
        }
        Hypothesis::BadJoint => {
            let string = chance.below(own.shares.len());
            if own.shares.len() > 1 {
                own.shares[string] *= 0.5 - 0.45 * severity;
            }
        }
        Hypothesis::EarthLeakage => {
            let n = own.in_string();
            let string = chance.below(own.shares.len());
            let run = (2 + chance.below(n / 2)).min(n - 1);
            let from_start = chance.unit() < 0.5;
            for at in 0..run {
                let cell = if from_start { at } else { n - 1 - at };
                own.cells[string * n + cell].leak += 0.010 + 0.02 * severity;
            }
        }
        _ => {}
    }
}

fn happen(what: Hypothesis, severity: f64, own: &mut Lived, chance: &mut Chance) {
    let n = own.cells.len();
    match what {
        Hypothesis::WeakCell => {
            let cell = &mut own.cells[chance.below(n)];
            cell.worn += 0.2 + 0.35 * severity;
            cell.leak += 0.006 + 0.006 * severity;
            cell.resistance += 0.4 + 1.8 * severity;
        }
        Hypothesis::ShortedCell => {
            let cell = &mut own.cells[chance.below(n)];
            cell.leak += 0.08 + 0.6 * severity;
            cell.dead = severity > 0.45;
            cell.resistance += 0.3 * chance.unit();
        }
        Hypothesis::AcidAdded => {
            let some = chance.unit() < 0.45;
            let by = 0.09 + 0.12 * severity;
            let which = if some { cells_of(own, 0.3, chance) } else { (0..n).collect() };
            for at in which {
                own.cells[at].acid += by * chance.between(0.8, 1.2);
            }
        }
        Hypothesis::Diluted => {
            let some = chance.unit() < 0.55;
            let by = 0.08 + 0.14 * severity;
            let which = if some { cells_of(own, 0.3, chance) } else { (0..n).collect() };
            for at in which {
                own.cells[at].acid -= by * chance.between(0.7, 1.2);
            }
        }
        Hypothesis::DriedOut => {
            let by = if own.sealed { 0.18 + 0.2 * severity } else { 0.10 + 0.12 * severity };
            for cell in &mut own.cells {
                cell.lost += by * chance.between(0.8, 1.2);
                cell.resistance += 0.3 + 0.5 * severity;
            }
        }
        Hypothesis::Frozen => {
            let per = usize::from(own.shape.cells_per_battery);
            let batteries = n / per;
            let hurt = (batteries / 3).clamp(if batteries > 2 { 2 } else { 1 }, 6);
            for _ in 0..hurt {
                let battery = chance.below(batteries);
                for cell in &mut own.cells[battery * per..(battery + 1) * per] {
                    cell.worn += (0.12 + 0.25 * severity) * chance.between(0.6, 1.3);
                    cell.resistance += 0.35 + 0.6 * severity;
                    if chance.unit() < 0.4 {
                        cell.leak += 0.01 + 0.02 * chance.unit();
                        cell.acid -= 0.06 * chance.unit();
                    }
                }
            }
        }
        _ => {}
    }
}
