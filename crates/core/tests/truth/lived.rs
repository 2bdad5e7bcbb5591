//! Banks that lived: day by day by a physics of their own, with what is wrong with them known.
//!
//! Not the application's simulator and not its table of weights: shares of a rated cell, a charger, a weather, an owner with
//! a watering can. Rates are judgement (no source); Faraday's 0.337 mL an ampere-hour is published.

use super::ails::Ails;
use super::chance::Chance;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use std::f64::consts::TAU;

/// Days of a life that are lived through.
pub const DAYS: usize = 540;
/// Acid an ampere-hour of a flooded cell, mL.
const ACID: f64 = 13.0;

/// One cell, in shares of its rated capacity.
#[derive(Debug, Clone)]
pub struct Cell {
    /// Charge held.
    pub charge: f64,
    /// Capacity that is gone for good.
    pub worn: f64,
    /// Sulfate that a long charge takes away, and that none does.
    pub soft: f64,
    pub hard: f64,
    /// Gravity that the top is short of the mean.
    pub layered: f64,
    /// Acid held, 1 when filled.
    pub acid: f64,
    /// Water lost, share of the electrolyte.
    pub lost: f64,
    /// Lost a day by itself at 25 °C.
    pub leak: f64,
    /// Resistance, times a new one.
    pub resistance: f64,
    /// Dead: no volts.
    pub dead: bool,
}

impl Cell {
    pub fn capacity(&self) -> f64 {
        let dry = 2.2 * (self.lost - 0.12).max(0.0);
        (1.0 - self.worn - self.soft - self.hard - dry).max(0.05)
    }

    /// Gravity of the mean electrolyte over 1.000, in points, of a model.
    pub fn points(&self, full: f64, empty: f64) -> f64 {
        // Sulfate and what is discharged hold acid; what fell off the plates holds none.
        let bound = (full - empty) * (1.0 - self.worn - self.charge).max(0.0);
        (full - bound) * self.acid / (1.0 - self.lost)
    }
}

/// A day as a monitor keeps it.
#[derive(Debug, Clone, Copy, Default)]
pub struct Day {
    pub temperature: f64,
    pub out: f64,
    pub back: f64,
    pub full: bool,
    pub gassing_hours: f64,
    /// Held volts a cell.
    pub held: f64,
}

/// A fill: day, share of the electrolyte by cell.
pub struct Fill {
    pub day: usize,
    pub by_cell: Vec<f64>,
}

/// A bank with its life.
pub struct Lived {
    pub shape: BankShape,
    pub model: BatteryModel,
    pub sealed: bool,
    pub standby: bool,
    pub ails: Ails,
    pub age: f64,
    pub design_life: f64,
    pub cells: Vec<Cell>,
    pub days: Vec<Day>,
    pub fills: Vec<Fill>,
    /// Share of the current by string, summing to 1.
    pub shares: Vec<f64>,
    /// Cells as they stood on the days a technician came, by day.
    pub seen: Vec<(usize, Vec<Cell>, bool)>,
    mean_temperature: f64,
    swing: f64,
}

/// What is lived through in one day, by all cells of a string.
struct Charging {
    bulk: f64,
    hours: f64,
    gas: f64,
}

impl Lived {
    /// A bank as it begins.
    pub fn begin(
        shape: BankShape,
        model: BatteryModel,
        standby: bool,
        ails: Ails,
        chance: &mut Chance,
    ) -> Self {
        let sealed = !model.construction.has_caps();
        let design_life = chance.one_of(&[6.0, 8.0, 10.0, 12.0]) - if sealed { 1.0 } else { 0.0 };
        let age = ails.age(chance) * design_life;
        let cells = (0..shape.cell_count()).map(|_| {
            let wear = 0.10 * age / design_life;
            Cell {
                charge: 0.9,
                worn: (wear + 0.012 * chance.normal()).max(0.0),
                soft: 0.0,
                hard: 0.01 * chance.unit(),
                layered: 0.0,
                acid: 1.0 + 0.008 * chance.normal(),
                lost: 0.02 * chance.unit(),
                leak: if sealed { 0.0008 } else { 0.0018 } * (1.0 + 0.3 * chance.unit()),
                resistance: 1.0 + 0.8 * wear + 0.03 * chance.normal(),
                dead: false,
            }
        });
        let cells = cells.collect();
        let strings = usize::from(shape.parallel);
        let mut own = Self {
            sealed,
            standby,
            age,
            design_life,
            cells,
            days: Vec::new(),
            fills: Vec::new(),
            shares: vec![1.0; strings],
            seen: Vec::new(),
            mean_temperature: chance.between(8.0, 24.0),
            swing: chance.between(5.0, 13.0),
            shape,
            model,
            ails,
        };
        own.ails.clone().strike(&mut own, chance);
        let sum: f64 = own.shares.iter().sum();
        own.shares.iter_mut().for_each(|s| *s /= sum);
        own
    }

    pub fn in_string(&self) -> usize {
        usize::from(self.shape.cells_in_series())
    }

    /// Lives through all days; a technician comes on some, after a full charge or not.
    pub fn live(&mut self, visits: &[(usize, bool)], draw: [f64; 2], chance: &mut Chance) {
        let draw = chance.between(draw[0], draw[1]);
        let interval = 40 + chance.below(70);
        let mut weather = 0.0;
        for day in 0..DAYS {
            let season = (TAU * (to_f64(day) - 200.0) / 365.0).cos();
            let temperature = self.mean_temperature + self.swing * season + 2.0 * chance.normal();
            weather = 0.6 * weather + 0.8 * chance.normal();
            let kept = self.one_day(temperature, draw, weather, chance);
            self.days.push(kept);
            self.ails.clone().each_day(self, day, chance);
            if day % interval == interval - 1 && !self.sealed && !self.ails.forgets_water(day) {
                self.water(day, chance);
            }
            if let Some((_, full)) = visits.iter().find(|(at, _)| *at == day) {
                let mut there = self.cells.clone();
                if *full {
                    there.chunks_mut(self.in_string()).for_each(|own| fully(own, self.sealed));
                    // What a full charge gives stays: the bank goes on from there.
                    self.cells.clone_from(&there);
                }
                self.seen.push((day, there, *full));
            }
        }
    }

    fn one_day(&mut self, temperature: f64, draw: f64, weather: f64, chance: &mut Chance) -> Day {
        let warm = 2f64.powf((temperature - 25.0) / 10.0);
        let charger = self.ails.charger();
        let mut out = if self.standby { 0.0 } else { draw * chance.between(0.6, 1.4) };
        out += charger.standing;
        let supply =
            if self.standby { 0.6 } else { (draw * 1.5 * (1.0 + 0.45 * weather)).max(0.02) * charger.supply };
        let want = if self.standby { 2.25 } else { 2.45 };
        let follows = if charger.compensates { 0.0 } else { 0.005 * (temperature - 25.0) };
        // Volts over what this temperature asks for.
        let over = charger.off + follows;
        let hours = charger.hours * if self.standby { 1.0 } else { chance.between(0.5, 1.1) };
        let (mut back, mut gassing, mut full) = (0.0, 0.0, true);
        let n = self.in_string();
        for (string, share) in self.shares.clone().into_iter().enumerate() {
            let part = share * to_f64(self.shares.len());
            let cells = &mut self.cells[string * n..(string + 1) * n];
            for cell in cells.iter_mut() {
                cell.charge -= out * part + cell.leak * warm * cell.charge.max(0.0);
                cell.charge = cell.charge.max(-0.05);
            }
            let charging = charging(cells, supply * part, over, hours, (self.standby, self.sealed), part);
            for cell in cells.iter_mut() {
                take(cell, &charging, warm, (self.sealed, charger.layers));
            }
            back += 1.02 * (charging.bulk + charging.gas) / to_f64(self.shares.len());
            gassing += charging.hours / to_f64(self.shares.len());
            // A charger goes by volts and tail current: one cell more or less it does not see.
            let mut state: Vec<f64> = cells.iter().map(|c| c.charge / c.capacity()).collect();
            state.sort_by(f64::total_cmp);
            full &= state[n / 2] > 0.97;
        }
        let held = want - 0.005 * (temperature - 25.0) + over;
        Day { temperature, out, back, full, gassing_hours: gassing, held }
    }

    fn water(&mut self, day: usize, chance: &mut Chance) {
        let by_cell = self.cells.iter_mut().map(|cell| {
            let left = 0.004 * chance.unit();
            let given = (cell.lost - left).max(0.0);
            cell.lost -= given;
            given
        });
        let by_cell = by_cell.collect();
        self.fills.push(Fill { day, by_cell });
    }
}

/// What the charger gives a string in a day: bulk, hours of gassing, and the charge that gasses.
fn charging(
    cells: &[Cell],
    supply: f64,
    over: f64,
    hours: f64,
    (standby, sealed): (bool, bool),
    part: f64,
) -> Charging {
    let n = to_f64(cells.len());
    let need = cells.iter().map(|c| (c.capacity() - c.charge).max(0.0)).sum::<f64>() / n;
    let quick = (0.88 * need).min(supply);
    let left = supply - quick;
    // Time runs out: the last part takes hours, and volts make it quicker.
    let slow = 1.3 * (-over / 0.07).exp() / part.clamp(0.2, 1.2);
    let reached = if left > 0.0 { (need - quick) * (1.0 - (-hours / slow).exp()) } else { 0.0 };
    let slowly = reached.min(left);
    let at_it = if left <= 0.0 { 0.0 } else { hours * (left / 0.03).min(1.0) };
    let aged = 1.0 + cells.iter().map(|c| c.worn).sum::<f64>() / n * 4.0;
    let rate =
        if standby { 3.5e-4 } else { 1.1e-2 } * aged * (11.0 * over).exp() * if sealed { 0.4 } else { 1.0 };
    let time = if standby { 24.0 } else { at_it };
    let gas = rate.min(0.05) * time;
    Charging { bulk: quick + slowly, hours: time, gas }
}

/// What one cell makes of it.
fn take(cell: &mut Cell, charging: &Charging, warm: f64, (sealed, layers): (bool, f64)) {
    let before = cell.charge;
    let most = cell.capacity();
    cell.charge = (before + charging.bulk + charging.gas).min(most).max(before.min(most));
    let stored = cell.charge - before;
    let gassed = (charging.bulk + charging.gas - stored).max(0.0);
    let escapes = if sealed { 0.06 } else { 1.0 };
    cell.lost = (cell.lost + escapes * gassed * 0.337 / ACID).min(0.6);
    let up = if sealed { 0.0 } else { 0.020 * layers * charging.bulk };
    cell.layered = ((cell.layered + up) * (-gassed / (0.012 * layers)).exp()).min(0.06);
    let empty = (1.0 - cell.charge / most).max(0.0);
    cell.soft = (cell.soft + 0.0028 * empty * warm - cell.soft * (gassed / 0.15).min(0.5)).clamp(0.0, 0.5);
    let hardens = cell.soft / 190.0;
    cell.hard = (cell.hard + hardens).min(0.5);
    cell.soft -= hardens;
    cell.charge = cell.charge.min(cell.capacity());
}

/// A long charge of a string by the technician before he reads: what leaks more than its mates stays behind.
pub fn fully(cells: &mut [Cell], sealed: bool) {
    let mut leaks: Vec<f64> = cells.iter().map(|c| c.leak).collect();
    leaks.sort_by(f64::total_cmp);
    let usual = leaks[leaks.len() / 2];
    for cell in cells {
        let lags = ((cell.leak - usual) * 12.0 - 0.03).max(0.0);
        cell.soft *= 0.7;
        cell.charge = (cell.capacity() - lags).max(0.0);
        if !sealed {
            cell.layered *= 0.5;
        }
    }
}

pub fn to_f64(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}
