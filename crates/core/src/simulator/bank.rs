//! Strings in parallel: one voltage at the terminals, and currents that share so that it is the same
//! over every string and its link (ST-1).

use super::{Drive, SimString, StringReading, Surroundings};

/// Volts over which terminals are the same.
const SAME: f64 = 1e-4;
/// Steps of halving, enough for a microvolt over a hundred volts.
const HALVINGS: u32 = 48;
/// Longest step under current: shares move as fast as the cells do, h.
const LONGEST_STEP: f64 = 1.0 / 60.0;

/// A bank of strings in parallel.
#[derive(Debug, Clone, PartialEq)]
pub struct SimBank {
    strings: Vec<SimString>,
    /// Resistance of each string's links to the terminals, Ω.
    links: Vec<f64>,
}

/// What a bank shows after a step.
#[derive(Debug, Clone, PartialEq)]
pub struct BankReading {
    /// Volts at the terminals.
    pub volts: f64,
    /// Amperes of the bank; charge positive.
    pub amperes: f64,
    /// Amperes of each string.
    pub shares: Vec<f64>,
}

impl SimBank {
    /// Strings with the resistance of their links, Ω; what is left out counts as a milliohm.
    pub fn new(strings: Vec<SimString>, links: &[f64]) -> Self {
        let links = (0..strings.len()).map(|i| links.get(i).copied().unwrap_or(0.001).max(1e-6)).collect();
        Self { strings, links }
    }

    /// The strings.
    pub fn strings(&self) -> &[SimString] {
        &self.strings
    }

    /// The strings, to water or to age a cell.
    pub fn strings_mut(&mut self) -> &mut [SimString] {
        &mut self.strings
    }

    /// What every string takes at some volts of the terminals.
    fn shares_at(&mut self, volts: f64) -> Vec<f64> {
        self.strings.iter_mut().zip(&self.links).map(|(s, link)| s.amperes_at(volts, *link)).collect()
    }

    /// Volts and shares at which the strings together take a current. What a string takes rises with
    /// the volts and may jump where charge turns to discharge; there the strings take a part of the
    /// jump each.
    fn shares_of(&mut self, amperes: f64) -> (f64, Vec<f64>) {
        let rest: Vec<f64> = self.strings.iter().map(SimString::rest_volts).collect();
        let middle = rest.iter().copied().reduce(f64::midpoint).unwrap_or_default();
        let (mut low, mut high) = (middle, middle);
        let mut width = 0.05;
        let (mut at_low, mut at_high) = (self.shares_at(low), Vec::new());
        while at_low.iter().sum::<f64>() > amperes && width < 1e4 {
            low -= width;
            width *= 2.0;
            at_low = self.shares_at(low);
        }
        width = 0.05;
        while at_high.is_empty() || (at_high.iter().sum::<f64>() < amperes && width < 1e4) {
            high += width;
            width *= 2.0;
            at_high = self.shares_at(high);
        }
        for _ in 0..HALVINGS {
            if high - low < SAME {
                break;
            }
            let half = f64::midpoint(low, high);
            let shares = self.shares_at(half);
            if shares.iter().sum::<f64>() > amperes {
                (high, at_high) = (half, shares);
            } else {
                (low, at_low) = (half, shares);
            }
        }
        let (under, over) = (at_low.iter().sum::<f64>(), at_high.iter().sum::<f64>());
        let part =
            if over - under > 1e-12 { ((amperes - under) / (over - under)).clamp(0.0, 1.0) } else { 0.0 };
        let shares = at_low.iter().zip(&at_high).map(|(a, b)| a + part * (b - a)).collect();
        (low + part * (high - low), shares)
    }

    fn shares(&mut self, drive: Drive) -> (f64, Vec<f64>) {
        match drive {
            Drive::Current(amperes) => self.shares_of(amperes),
            Drive::Charger { volts, amperes } => {
                // A charger takes nothing out of a bank: what flows between strings is theirs.
                let shares = self.shares_at(volts);
                let all: f64 = shares.iter().sum();
                if all > amperes {
                    self.shares_of(amperes)
                } else if all >= 0.0 {
                    (volts, shares)
                } else {
                    self.shares_of(0.0)
                }
            }
        }
    }

    /// The drive acts for so many hours.
    pub fn step(&mut self, drive: Drive, hours: f64, around: Surroundings) -> BankReading {
        let mut left = hours;
        let mut reading = BankReading { volts: 0.0, amperes: 0.0, shares: Vec::new() };
        while left > 1e-12 {
            let part = left.min(LONGEST_STEP);
            let (volts, shares) = self.shares(drive);
            for (string, share) in self.strings.iter_mut().zip(&shares) {
                let StringReading { .. } = string.step(Drive::Current(*share), part, around);
            }
            reading = BankReading { volts, amperes: shares.iter().sum(), shares };
            left -= part;
        }
        reading
    }
}
