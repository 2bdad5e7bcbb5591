//! ST-1 on a bank that is described: what each string gives, why they differ, and what would even them.

use super::described::rail_currents;
use super::options::{WiringOption, options};
use super::resistances::{BatteryResistance, Resistances, ShareOrWiring, StringPath, WiringKnown};
use crate::parallel_share::{Link, ParallelBank, Shares, TakeOff, shares};

/// What makes one string give less than the string that gives most, mΩ each; what is against it is negative.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WhyUneven {
    /// The string that gives most, 0 is A.
    pub most: u8,
    /// The string that gives least.
    pub least: u8,
    /// More of cable.
    pub leads: f64,
    /// More in its batteries.
    pub batteries: f64,
    /// More in its joints.
    pub joints: f64,
}

/// How a bank shares as it is wired.
#[derive(Debug, Clone, PartialEq)]
pub struct WiringShare {
    /// As it is.
    pub now: Shares,
    /// Current of the rails from string to string, plus and minus, A; empty at busbars.
    pub rails: [Vec<f64>; 2],
    /// Each string, mΩ.
    pub paths: Vec<StringPath>,
    /// How well the batteries are known.
    pub resistance: BatteryResistance,
    /// Why they are uneven; none: they are even.
    pub why: Option<WhyUneven>,
    /// What could be done and is worth its minutes, the least work first, as far as the first that evens them; a new
    /// battery comes last where one would help.
    pub options: Vec<WiringOption>,
    /// Which of them is the least work that evens them; none: it is even, or none does.
    pub cheapest: Option<usize>,
}

fn why(paths: &[StringPath], now: &Shares) -> Option<WhyUneven> {
    let by = |pick: fn(f64, f64) -> bool| {
        let mut best = 0;
        for (i, share) in now.shares.iter().enumerate() {
            if pick(*share, now.shares[best]) {
                best = i;
            }
        }
        best
    };
    let (most, least) = (by(|a, b| a > b), by(|a, b| a < b));
    let (rich, poor) = (paths.get(most)?, paths.get(least)?);
    Some(WhyUneven {
        most: u8::try_from(most).ok()?,
        least: u8::try_from(least).ok()?,
        leads: poor.leads - rich.leads,
        batteries: poor.batteries - rich.batteries,
        joints: poor.joints - rich.joints,
    })
    .filter(|_| !now.even)
}

/// mΩ of the rails between a string and the take-off on both poles, or of its leads.
fn lead(bank: &ParallelBank, string: usize) -> f64 {
    let between = |links: &[Link], at: u8| -> f64 {
        let at = usize::from(at.saturating_sub(1));
        let part = &links[at.min(string)..at.max(string)];
        part.iter().filter_map(|l| l.milliohms().ok()).sum()
    };
    match &bank.take_off {
        TakeOff::Rails { positive, negative } => {
            between(&bank.positive, *positive) + between(&bank.negative, *negative)
        }
        TakeOff::Busbar { leads } => leads.get(string).and_then(|l| l.milliohms().ok()).unwrap_or(0.0),
    }
}

/// Solves a bank as it is wired for a current (ST-1); none where nobody told how its strings come together.
///
/// # Errors
/// [`ShareOrWiring`] for what cannot be.
pub fn judge_wiring(known: &WiringKnown<'_>, amperes: f64) -> Result<Option<WiringShare>, ShareOrWiring> {
    let (bank, resistance) = Resistances::of(known);
    let Some(own) = bank.bank(amperes, &[], None)? else { return Ok(None) };
    let now = shares(&own)?;
    let taken_off = known.wiring.taken_off_rails();
    let rails = taken_off.map_or_else(Default::default, |at| at.map(|at| rail_currents(&now.amperes, at)));
    let mut paths = Vec::new();
    for string in 0..known.shape.parallel {
        let path = bank.path(string, &[], None)?;
        paths.push(StringPath { leads: lead(&own, usize::from(string)), ..path });
    }
    let (options, cheapest) = options(&bank, amperes, &now)?;
    Ok(Some(WiringShare { why: why(&paths, &now), now, rails, paths, resistance, options, cheapest }))
}
