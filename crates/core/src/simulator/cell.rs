//! One cell of SM-1.

mod changed;
mod made;
mod shown;

use super::charging::Charging;
use super::curves::rest_volts;
use super::step_cache::{Heat, Knee, Pace, decay, polarized};
use super::{CellKind, ChargeAccount};
use crate::water::millilitres_per_ampere_hour;

/// Longest step under current and at rest, h.
const LONGEST_STEP: f64 = 1.0 / 60.0;
const LONGEST_REST: f64 = 1.0;
/// Current under which a cell rests, 1/h.
const RESTING: f64 = 1e-9;
/// Volts that no cell falls under on discharge, reversed by the others.
const LOWEST: f64 = -1.0;
/// Charge below empty that a reversed cell can be driven to, share of C20.
const DEEPEST: f64 = -0.3;
/// State of charge that the charging resistance is held at.
const FULLEST: f64 = 0.9999;
/// Volts at which water splits without heat.
const THERMONEUTRAL: f64 = 1.48;
/// Hours in a month.
const MONTH: f64 = 730.5;
/// Soft sulfate is a tenth of what lacks in a month at 25 °C, and hardens in so many hours.
const SULFATION: f64 = 0.10;
const HARDENING: f64 = 4400.0;
/// State of charge from which gassing dissolves it.
const DISSOLVES_FROM: f64 = 0.95;
/// Heat that leaves a cell, W per Ah and kelvin.
const COOLING: f64 = 0.0018;
const HOTTEST: f64 = 100.0;
/// Layers of the electrolyte: at most, and how slowly they even out by themselves, h.
const MOST_LAYERED: f64 = 0.06;
const EVENS_OUT: f64 = 1000.0;
/// Gassing that stirs nothing, 1/h.
const STIRS_NOTHING: f64 = 0.002;

/// What keeps a cell warm or cold.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Surroundings {
    /// Held at a temperature, °C.
    Held(f64),
    /// Standing in air of a temperature, °C.
    Air(f64),
}

/// One cell.
#[derive(Debug, Clone, PartialEq)]
pub struct SimCell {
    kind: CellKind,
    /// Capacity at the 20-hour rate when new, Ah.
    capacity: f64,
    /// Self-discharge, times that of a sound cell.
    leak: f64,
    /// Multiplies gassing: 1 for a new cell, to 4.
    age: f64,
    /// Share of capacity worn away for good.
    worn: f64,
    /// Charge, share of C20.
    charge: f64,
    /// Discharge rate as the plates still feel it, 1/h.
    lagged: f64,
    /// Surface voltage, V.
    surface: f64,
    /// How much lighter the electrolyte is on top.
    layered: f64,
    /// Soft and hard sulfate, shares of capacity.
    soft: f64,
    hard: f64,
    /// Water lost, mL.
    lost: f64,
    celsius: f64,
    /// Volts of the last step, where the next solution is looked for.
    volts: f64,
    charge_account: ChargeAccount,
    heat: Heat,
    pace: Pace,
    knee: Knee,
    slow: Slow,
    /// The current that `volts` were last solved for with nothing changed since, 1/h, and the two ways
    /// it goes.
    tried: Option<(f64, Charging)>,
}

/// What slow changes still have to follow: layers, sulfate, heat and water take no step shorter than
/// this, h.
const SLOW_STEP: f64 = 10.0 / 3600.0;

/// What went through since the slow changes last followed.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
struct Slow {
    hours: f64,
    main: f64,
    gas: f64,
    heat: f64,
}

impl SimCell {
    fn electrolyte(&self) -> f64 {
        self.kind.electrolyte * self.capacity
    }

    /// Mean gravity.
    fn gravity(&self) -> f64 {
        let all = self.electrolyte();
        let acid = self.kind.full_gravity - self.kind.gravity_range * (1.0 - self.worn - self.charge) - 1.0;
        1.0 + acid * all / (all - self.lost).max(all * 0.1)
    }

    /// Rest volts of its electrolyte, without surface charge.
    fn rest(&self) -> f64 {
        rest_volts(self.gravity() + 0.5 * self.layered)
    }

    fn charging(&self) -> Charging {
        let z = self.state_of_charge().clamp(0.0, FULLEST);
        Charging {
            rest: self.rest(),
            resistance: (self.kind.charge_resistance + self.kind.full_resistance * z / (1.0 - z))
                * self.heat.charging,
            gassing: self.kind.gassing * self.age * self.heat.gassing,
        }
    }

    /// Follows the lagged rate: the faster the plates are drawn on, the less of them is reached.
    fn follow(&mut self, rate: f64) {
        if (self.lagged - self.knee.lagged).abs() > 1e-4 * self.lagged {
            let times = 20.0 * self.lagged;
            let exponent = self.kind.peukert + self.kind.peukert_rise * times.ln().max(0.0);
            self.knee.share = times.powf(1.0 - exponent).min(1.0);
            self.knee.lagged = self.lagged;
        }
        if (rate - self.knee.rate).abs() > 1e-9 {
            self.knee.rate = rate;
            self.knee.polarized = polarized(rate);
        }
    }

    fn discharging_volts(&self, rate: f64, rest: f64) -> f64 {
        let full = self.full();
        let y = ((full - self.charge) / (full * self.knee.share * self.heat.share)).max(0.0);
        let worse = 1.0 + 2.0 * (self.worn + self.soft + self.hard);
        let ohmic = self.kind.discharge_resistance * worse * self.heat.discharging * rate;
        let y2 = y * y;
        let y4 = y2 * y2;
        let polarized =
            if (rate - self.knee.rate).abs() <= 1e-9 { self.knee.polarized } else { polarized(rate) };
        let volts = rest + self.surface - ohmic - polarized - self.kind.knee * y4 * y4;
        volts.max(LOWEST)
    }

    /// Volts and slope at a current, A; the next solution is looked for from there.
    pub(super) fn try_at(&mut self, amperes: f64) -> (f64, f64) {
        let current = amperes / self.capacity;
        if current <= RESTING {
            return self.volts_at(amperes);
        }
        let way = self.charging();
        let (volts, slope) = way.solve(current, self.volts);
        self.volts = volts;
        self.tried = Some((current, way));
        (volts, slope / self.capacity)
    }

    /// Volts at a current, A (charge positive), and how fast they rise with it, V per A.
    pub fn volts_at(&self, amperes: f64) -> (f64, f64) {
        let current = amperes / self.capacity;
        if current > RESTING {
            let (volts, slope) = self.charging().solve(current, self.volts);
            (volts, slope / self.capacity)
        } else if current < -RESTING {
            let rest = self.rest();
            let here = self.discharging_volts(-current, rest);
            let more = self.discharging_volts(-current * 1.001 + 1e-6, rest);
            (here, ((here - more) / (current.abs() * 0.001 + 1e-6) / self.capacity).max(0.0))
        } else {
            (self.rest() + self.surface, 0.0)
        }
    }

    /// A current, A (charge positive), flows for so many hours. Volts at the end of it.
    pub fn step(&mut self, amperes: f64, hours: f64, around: Surroundings) -> f64 {
        let current = amperes / self.capacity;
        let longest = if current.abs() < RESTING { LONGEST_REST } else { LONGEST_STEP };
        let mut left = hours;
        while left > 1e-12 {
            let part = left.min(longest);
            self.one_step(current, part, around);
            left -= part;
        }
        self.volts
    }

    fn one_step(&mut self, current: f64, hours: f64, around: Surroundings) {
        if (self.pace.hours - hours).abs() > f64::EPSILON {
            self.pace = Pace::of(hours);
        }
        let pace = self.pace;
        let (main, gas, heat);
        if current > RESTING {
            // The string has perhaps just looked for this very current.
            let known = self.tried.filter(|(tried, _)| (tried - current).abs() < f64::EPSILON);
            let (way, volts) = if let Some((_, way)) = known {
                (way, self.volts)
            } else {
                let way = self.charging();
                (way, way.solve(current, self.volts).0)
            };
            main = ((volts - way.rest) / way.resistance).min(current);
            gas = current - main;
            let split = 1.0 - self.kind.recombined;
            heat = main * (volts - way.rest) + gas * (volts - split * THERMONEUTRAL);
            self.surface += (0.27 * (volts - way.rest) - self.surface) * (1.0 - pace.charging);
            self.lagged *= pace.lagged;
            self.volts = volts;
            self.charge_account.charged += current * hours * self.capacity;
            self.charge_account.gassed += gas * hours * self.capacity;
        } else if current < -RESTING {
            let rate = -current;
            self.lagged += (rate - self.lagged) * (1.0 - pace.lagged);
            self.follow(rate);
            let rest = self.rest();
            let volts = self.discharging_volts(rate, rest);
            (main, gas) = (current, 0.0);
            heat = current * (volts - rest);
            self.surface *= decay(hours * (1.0 / 2.5 + rate / 0.003));
            self.volts = volts;
            self.charge_account.discharged += rate * hours * self.capacity;
        } else {
            (main, gas, heat) = (0.0, 0.0, 0.0);
            self.lagged *= pace.lagged;
            self.surface *= pace.resting;
            self.volts = self.rest() + self.surface;
        }
        self.tried = None;
        self.store(main * hours);
        let slow = &mut self.slow;
        slow.hours += hours;
        slow.main += main * hours;
        slow.gas += gas * hours;
        slow.heat += heat * hours;
        if slow.hours >= SLOW_STEP {
            self.follow_slowly(around);
        }
    }

    /// Layers, sulfate, water, heat and self-discharge follow what went through.
    fn follow_slowly(&mut self, around: Surroundings) {
        let Slow { hours, main, gas, heat } = std::mem::take(&mut self.slow);
        let lost = self.leak * self.kind.self_discharge * self.heat.doubling * self.charge.max(0.0) * hours;
        self.charge_account.self_discharged += lost * self.capacity;
        self.store(-lost);
        self.layer(main / hours, gas / hours, hours);
        self.sulfate(gas, hours);
        let split = gas * self.capacity * (1.0 - self.kind.recombined);
        self.lost += millilitres_per_ampere_hour() * split;
        self.warm(heat / hours, hours, around);
    }

    fn store(&mut self, share: f64) {
        let wanted = self.charge + share;
        self.charge = wanted.clamp(DEEPEST, self.full());
        self.charge_account.beyond += (wanted - self.charge) * self.capacity;
    }

    fn layer(&mut self, main: f64, gas: f64, hours: f64) {
        let stirred = self.kind.mixing.map_or(0.0, |mixing| (gas - STIRS_NOTHING).max(0.0) / mixing);
        let rate = stirred + 1.0 / EVENS_OUT;
        let made = self.kind.layering * self.kind.gravity_range * main.max(0.0);
        // Exact for a step in which nothing else moves: fast stirring stays stable.
        let end = made / rate;
        self.layered = (end + (self.layered - end) * decay(rate * hours)).min(MOST_LAYERED);
    }

    fn sulfate(&mut self, gas: f64, hours: f64) {
        let lacking = (self.full() - self.charge).max(0.0);
        let hardened = self.soft / HARDENING;
        let dissolved = if self.state_of_charge() > DISSOLVES_FROM {
            self.soft * gas / self.kind.dissolving / hours
        } else {
            0.0
        };
        let made = SULFATION / MONTH * lacking * self.heat.doubling;
        self.soft = (self.soft + (made - hardened - dissolved) * hours).max(0.0);
        self.hard += hardened * hours;
    }

    fn warm(&mut self, heat: f64, hours: f64, around: Surroundings) {
        match around {
            Surroundings::Held(celsius) => self.celsius = celsius,
            Surroundings::Air(celsius) => {
                let rate = COOLING / self.kind.heat_capacity;
                let end = celsius + heat / COOLING;
                self.celsius = (end + (self.celsius - end) * decay(rate * hours)).min(HOTTEST);
            }
        }
        if (self.celsius - self.heat.at).abs() > 0.01 {
            self.heat = Heat::of(self.celsius);
        }
    }
}
