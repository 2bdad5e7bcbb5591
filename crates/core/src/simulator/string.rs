//! Cells in series: one current, and volts that add up.

use super::{SimCell, Surroundings};

/// What drives a string.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Drive {
    /// A current, A; charge positive.
    Current(f64),
    /// A charger: so many amperes at most, and never more than so many volts over the string.
    Charger {
        /// Volts it holds to.
        volts: f64,
        /// Amperes it has.
        amperes: f64,
    },
}

/// What a string shows after a step.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StringReading {
    /// Volts over all cells.
    pub volts: f64,
    /// Amperes through all of them; charge positive.
    pub amperes: f64,
}

/// Cells in series.
#[derive(Debug, Clone, PartialEq)]
pub struct SimString {
    cells: Vec<SimCell>,
    /// How many cells each of them stands for.
    counts: Vec<f64>,
    /// Current of the last step, where the next solution is looked for.
    amperes: f64,
}

/// Longest step under current, h.
const LONGEST_STEP: f64 = 1.0 / 60.0;

impl SimString {
    /// Cells as they stand, positive end first.
    pub fn new(cells: Vec<SimCell>) -> Self {
        Self { counts: vec![1.0; cells.len()], cells, amperes: 0.0 }
    }

    /// Cells that each stand for so many alike.
    pub fn of_alike(cells: Vec<(SimCell, f64)>) -> Self {
        let (cells, counts) = cells.into_iter().unzip();
        Self { cells, counts, amperes: 0.0 }
    }

    /// The cells.
    pub fn cells(&self) -> &[SimCell] {
        &self.cells
    }

    /// The cells, to water or to age one.
    pub fn cells_mut(&mut self) -> &mut [SimCell] {
        &mut self.cells
    }

    /// Volts of all cells at a current and how fast they rise with it, V per A.
    fn try_at(&mut self, amperes: f64) -> (f64, f64) {
        let all = self.cells.iter_mut().zip(&self.counts).map(|(c, n)| (c.try_at(amperes), n));
        all.fold((0.0, 0.0), |(v, s), ((u, d), n)| (v + n * u, s + n * d))
    }

    /// The current that a charger drives: all it has, or what its volts leave.
    fn charging_amperes(&mut self, limit: f64, most: f64) -> f64 {
        if most <= 0.0 {
            return 0.0;
        }
        let mut amperes = if self.amperes > 0.0 { self.amperes.min(most) } else { most };
        for _ in 0..40 {
            let (volts, slope) = self.try_at(amperes);
            let over = volts - limit;
            // Volts are printed to a hundredth: half a millivolt decides nothing.
            if over.abs() < 5e-4 || (amperes >= most && over < 0.0) {
                return amperes;
            }
            if slope <= 0.0 {
                return 0.0;
            }
            let next = (amperes - over / slope).min(most);
            // A bank above the charger's volts takes nothing.
            if next <= most * 1e-6 && amperes <= most * 1e-6 {
                return 0.0;
            }
            amperes = next.max(amperes * 0.05).max(most * 1e-7);
        }
        amperes
    }

    /// Volts at rest, surface charge among them.
    pub fn rest_volts(&self) -> f64 {
        self.cells.iter().zip(&self.counts).map(|(c, n)| n * c.volts_at(0.0).0).sum()
    }

    /// Amperes at which the string with its link, Ω, shows so many volts; charge positive. It rises
    /// with the volts, and jumps by what surface charge gives where charge turns to discharge.
    pub fn amperes_at(&mut self, volts: f64, link: f64) -> f64 {
        let charges = volts > self.rest_volts();
        let at = |string: &mut Self, size: f64| -> (f64, f64) {
            let (v, slope) = if charges {
                string.try_at(size)
            } else {
                let all = string.cells.iter().zip(&string.counts).map(|(c, n)| (c.volts_at(-size), n));
                all.fold((0.0, 0.0), |(v, s), ((u, d), n)| (v + n * u, s + n * d))
            };
            // How far too far it goes, and how fast that grows with the size of the current.
            let over = if charges { v + link * size - volts } else { volts + link * size - v };
            (over, slope + link)
        };
        let mut most = self.cells.iter().map(SimCell::capacity).fold(f64::MAX, f64::min) * 20.0;
        let mut least = 0.0;
        let known = self.amperes.abs();
        let mut size = if known > 1e-6 && known < most { known } else { most * 0.001 };
        for _ in 0..60 {
            let (over, slope) = at(self, size);
            if over.abs() < 5e-5 {
                break;
            }
            if over > 0.0 {
                most = size;
            } else {
                least = size;
            }
            let next = size - over / slope.max(1e-9);
            size = if next > least && next < most { next } else { f64::midpoint(least, most) };
            if most - least < 1e-9 {
                break;
            }
        }
        if charges { size } else { -size }
    }

    /// The drive acts for so many hours.
    pub fn step(&mut self, drive: Drive, hours: f64, around: Surroundings) -> StringReading {
        let mut left = hours;
        let mut reading = StringReading { volts: 0.0, amperes: 0.0 };
        while left > 1e-12 {
            let part = match drive {
                Drive::Current(amperes) if amperes.abs() < 1e-12 => left,
                _ => left.min(LONGEST_STEP),
            };
            let amperes = match drive {
                Drive::Current(amperes) => amperes,
                Drive::Charger { volts, amperes } => self.charging_amperes(volts, amperes),
            };
            self.amperes = amperes;
            let cells = self.cells.iter_mut().zip(&self.counts);
            let volts = cells.map(|(c, n)| n * c.step(amperes, part, around)).sum();
            reading = StringReading { volts, amperes };
            left -= part;
        }
        reading
    }
}
