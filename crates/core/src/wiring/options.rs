//! What would even the strings, and what it takes.

use super::resistances::{Resistances, ShareOrWiring};
use crate::bank::BatteryAddress;
use crate::joints::Joint;
use crate::parallel_share::{ShareChange, Shares, changed, shares};

/// Minutes that a joint takes to be remade, and each change, with its cables (our choice, no source).
const REMAKE_MINUTES: f64 = 10.0;
const MOVE_MINUTES: f64 = 25.0;
const LEADS_MINUTES: f64 = 60.0;
const LINKS_MINUTES: f64 = 90.0;
const BATTERY_MINUTES: f64 = 45.0;
/// A battery so far over the middle of its mates is one that a new one would help, relative (OH-1 watches from there).
const RISEN: f64 = 0.20;

/// Something that could be done.
#[derive(Debug, Clone, PartialEq)]
pub struct WiringOption {
    /// Joints that are remade.
    pub remade: Vec<Joint>,
    /// What is changed.
    pub change: ShareChange,
    /// The battery that is replaced.
    pub renewed: Option<BatteryAddress>,
    /// Minutes of work.
    pub minutes: f64,
    /// The shares then.
    pub shares: Shares,
}

fn minutes(change: ShareChange, remade: &[Joint], renewed: bool) -> f64 {
    let own = match change {
        ShareChange::AsItIs => 0.0,
        ShareChange::MoveNegative | ShareChange::MovePositive => MOVE_MINUTES,
        ShareChange::EqualLeads => LEADS_MINUTES,
        ShareChange::ThickerLinks => LINKS_MINUTES,
    };
    let joints = f64::from(u32::try_from(remade.len()).unwrap_or(u32::MAX));
    own + REMAKE_MINUTES * joints + if renewed { BATTERY_MINUTES } else { 0.0 }
}

const CHANGES: [ShareChange; 5] = [
    ShareChange::AsItIs,
    ShareChange::MoveNegative,
    ShareChange::MovePositive,
    ShareChange::EqualLeads,
    ShareChange::ThickerLinks,
];

/// Every change with these joints remade and this battery new; doing nothing is left out.
fn with(
    bank: &Resistances<'_>,
    amperes: f64,
    remade: &[Joint],
    renewed: Option<BatteryAddress>,
) -> Result<Vec<WiringOption>, ShareOrWiring> {
    let Some(own) = bank.bank(amperes, remade, renewed)? else { return Ok(Vec::new()) };
    let mut all = Vec::new();
    for change in CHANGES {
        let nothing = change == ShareChange::AsItIs && remade.is_empty() && renewed.is_none();
        let then = if change == ShareChange::AsItIs { Some(own.clone()) } else { changed(&own, change) };
        let Some(then) = then.filter(|_| !nothing) else { continue };
        all.push(WiringOption {
            remade: remade.to_vec(),
            change,
            renewed,
            minutes: minutes(change, remade, renewed.is_some()),
            shares: shares(&then)?,
        });
    }
    Ok(all)
}

/// What is worth its minutes: nothing that takes less of them comes nearer to even.
fn worth_it(mut all: Vec<WiringOption>, now: &Shares) -> Vec<WiringOption> {
    all.sort_by(|a, b| a.minutes.total_cmp(&b.minutes).then(a.shares.furthest.total_cmp(&b.shares.furthest)));
    let mut nearest = now.furthest;
    all.retain(|own| {
        let nearer = own.shares.furthest < nearest - 1e-9;
        nearest = nearest.min(own.shares.furthest);
        nearer
    });
    all
}

/// What could be done, the least work first, as far as the first that evens them, and which that is. A new battery comes
/// last: it costs more than work.
pub(super) fn options(
    bank: &Resistances<'_>,
    amperes: f64,
    now: &Shares,
) -> Result<(Vec<WiringOption>, Option<usize>), ShareOrWiring> {
    let bad = bank.known.bad;
    let mut all = with(bank, amperes, &[], None)?;
    if !bad.is_empty() {
        all.extend(with(bank, amperes, bad, None)?);
    }
    if now.even {
        // Nothing has to be moved; a bad joint is remade all the same.
        let remade = all.into_iter().filter(|own| own.change == ShareChange::AsItIs);
        return Ok((remade.collect(), None));
    }
    let mut all = worth_it(all, now);
    // What is bad is remade, whatever else is done.
    let mut cheapest = all.iter().position(|own| own.shares.even && own.remade.len() == bad.len());
    all.truncate(cheapest.map_or(all.len(), |at| at + 1));
    if let Some(renewed) = risen(bank) {
        let mut new = with(bank, amperes, bad, Some(renewed))?;
        new.sort_by(|a, b| a.minutes.total_cmp(&b.minutes));
        // With what evens them already, or the least work that does with a new battery.
        let same = cheapest.and_then(|at| all.get(at)).map(|own| own.change);
        let own = new.into_iter().find(|own| match same {
            Some(change) => own.change == change,
            None => own.shares.even,
        });
        if let Some(own) = own {
            cheapest = cheapest.or(Some(all.len()));
            all.push(own);
        }
    }
    Ok((all, cheapest))
}

/// The battery that stands furthest over its mates, where one does.
fn risen(bank: &Resistances<'_>) -> Option<BatteryAddress> {
    let over = |own: &(&BatteryAddress, &f64)| *own.1 > bank.usual * (1.0 + RISEN);
    let worst = bank.known.batteries.iter().filter(over).max_by(|a, b| a.1.total_cmp(b.1))?;
    Some(*worst.0)
}
