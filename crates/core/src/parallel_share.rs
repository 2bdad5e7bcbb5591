//! ST-1: how parallel strings share a current, by the resistor network they stand in, and the cheapest change that brings
//! the shares within five per cent of even.

use crate::conductor::Cable;
use crate::quantity::{OutOfRange, bounds};
use nalgebra::{DMatrix, DVector};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// A share may be so far from an even one, relative (our choice, no source).
pub const WITHIN: f64 = 0.05;
/// Resistance below which a link counts as this, mΩ: a network of nothing has no answer.
const LEAST_MILLIOHMS: f64 = 1e-4;

/// A link between two neighbouring strings, or a lead to a busbar.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(untagged)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Link {
    /// Described.
    Cable(Cable),
    /// Measured, mΩ.
    Measured {
        /// mΩ, joints included.
        milliohms: f64,
    },
}

impl Link {
    /// Resistance, mΩ.
    ///
    /// # Errors
    /// [`OutOfRange`] with the figure and what is accepted.
    pub fn milliohms(&self) -> Result<f64, OutOfRange> {
        match self {
            Self::Cable(cable) => cable.milliohms(),
            Self::Measured { milliohms } => bounds::LINK_RESISTANCE.check(*milliohms),
        }
    }
}

/// One string.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ParallelString {
    /// Its volts without load; all alike when left out.
    #[serde(default)]
    pub volts: f64,
    /// Its resistance: batteries, links and joints between its ends, mΩ.
    pub milliohms: f64,
}

/// Where the cables to the system come off.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "at", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TakeOff {
    /// At rails of links from string to string.
    Rails {
        /// String at whose positive post, counted from 1.
        positive: u8,
        /// String at whose negative post, counted from 1.
        negative: u8,
    },
    /// At two busbars, with leads of each string; one lead of each for all when a single one is given.
    Busbar {
        /// Both leads of each string together, mΩ or as cables.
        leads: Vec<Link>,
    },
}

/// A bank of parallel strings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ParallelBank {
    /// Its strings, 2 to 12, in the order of the rails.
    pub strings: Vec<ParallelString>,
    /// Links of the positive rail, one fewer than strings.
    #[serde(default)]
    pub positive: Vec<Link>,
    /// Links of the negative rail.
    #[serde(default)]
    pub negative: Vec<Link>,
    /// Where the cables come off.
    pub take_off: TakeOff,
    /// Current drawn, A.
    pub amperes: f64,
}

/// Why a network has no answer.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ShareError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// One string shares with none.
    #[error("{0} strings are given; accepted are 2 to 12")]
    Strings(usize),
    /// Links that do not fit.
    #[error("{strings} strings need {} links on the {rail} rail, and {given} are given", .strings - 1)]
    Links {
        /// How many strings.
        strings: usize,
        /// Which rail.
        rail: &'static str,
        /// How many links.
        given: usize,
    },
    /// A take-off at a string that is not there.
    #[error("the {rail} take-off is at string {at}, and there are {strings}")]
    TakeOff {
        /// Which rail.
        rail: &'static str,
        /// Where.
        at: u8,
        /// How many strings.
        strings: usize,
    },
    /// Leads that do not fit.
    #[error("{strings} strings need {strings} leads, or one for all, and {given} are given")]
    Leads {
        /// How many strings.
        strings: usize,
        /// How many leads.
        given: usize,
    },
}

/// What each string gives.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shares {
    /// Share of the current that each string gives of the load, in order; together 1.
    pub shares: Vec<f64>,
    /// Current of each string under the load, A; what circulates included.
    pub amperes: Vec<f64>,
    /// Current of each string without load, A: it circulates where their volts differ.
    pub circulating: Vec<f64>,
    /// How far the share furthest from even is, relative: 0.05 is five per cent.
    pub furthest: f64,
    /// True where every share lies within five per cent of even.
    pub even: bool,
}

impl Shares {
    /// Share of each string against an even one: 0 is even, 0.1 a tenth more.
    pub fn off(&self) -> Vec<f64> {
        off_even(&self.shares)
    }
}

/// Shares against an even one: 0 is even, 0.1 a tenth more.
pub fn off_even(shares: &[f64]) -> Vec<f64> {
    let even = 1.0 / f64::from(u32::try_from(shares.len()).unwrap_or(1).max(1));
    shares.iter().map(|own| own / even - 1.0).collect()
}

/// A change that would even the shares.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ShareChange {
    /// Nothing.
    AsItIs,
    /// The negative cable comes off at the other end.
    MoveNegative,
    /// The positive cable comes off at the other end.
    MovePositive,
    /// Links of the rails twice as thick, with take-off at opposite ends.
    ThickerLinks,
    /// Two busbars and leads of one length to every string.
    EqualLeads,
}

/// A change with what it comes to.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShareOption {
    /// Which.
    pub change: ShareChange,
    /// The shares then.
    pub shares: Shares,
}

/// A bank with the changes that could be made, the cheapest first.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShareJudged {
    /// As it is.
    pub now: Shares,
    /// What could be changed, the cheapest first.
    pub options: Vec<ShareOption>,
    /// The cheapest change that brings every share within five per cent; none: it is even as it is, or none does.
    pub cheapest: Option<ShareChange>,
}

/// The network in mΩ.
struct Network {
    volts: Vec<f64>,
    strings: Vec<f64>,
    positive: Vec<f64>,
    negative: Vec<f64>,
    at: (usize, usize),
}

fn rail(links: &[Link], strings: usize, rail: &'static str) -> Result<Vec<f64>, ShareError> {
    if links.len() + 1 != strings {
        return Err(ShareError::Links { strings, rail, given: links.len() });
    }
    links.iter().map(|link| Ok(link.milliohms()?.max(LEAST_MILLIOHMS))).collect()
}

impl Network {
    fn of(bank: &ParallelBank) -> Result<Self, ShareError> {
        let strings = bank.strings.len();
        if !(2..=12).contains(&strings) {
            return Err(ShareError::Strings(strings));
        }
        bounds::TEST_CURRENT.check(bank.amperes)?;
        let mut own: Vec<f64> = Vec::with_capacity(strings);
        for string in &bank.strings {
            own.push(bounds::STRING_RESISTANCE.check(string.milliohms)?);
            bounds::VOLTAGE.check(string.volts)?;
        }
        let volts = bank.strings.iter().map(|s| s.volts).collect();
        let place = |at: u8, rail| {
            let fits = (1..=strings).contains(&usize::from(at));
            if fits { Ok(usize::from(at) - 1) } else { Err(ShareError::TakeOff { rail, at, strings }) }
        };
        Ok(match &bank.take_off {
            TakeOff::Rails { positive, negative } => Self {
                volts,
                strings: own,
                positive: rail(&bank.positive, strings, "positive")?,
                negative: rail(&bank.negative, strings, "negative")?,
                at: (place(*positive, "positive")?, place(*negative, "negative")?),
            },
            TakeOff::Busbar { leads } => {
                let given = leads.len();
                if given != 1 && given != strings {
                    return Err(ShareError::Leads { strings, given });
                }
                let lead = |i: usize| leads[if given == 1 { 0 } else { i }].milliohms();
                for (i, string) in own.iter_mut().enumerate() {
                    *string += lead(i)?;
                }
                // Everything meets at one point of each busbar: there are no rails.
                Self { volts, strings: own, positive: Vec::new(), negative: Vec::new(), at: (0, 0) }
            }
        })
    }

    /// Current of each string, A, under a load; none where the network has no answer.
    fn currents(&self, amperes: f64) -> Option<Vec<f64>> {
        let n = self.strings.len();
        if self.positive.is_empty() {
            return Some(self.between_busbars(amperes));
        }
        // Nodes: the positive posts, then the negative ones; the negative take-off is zero.
        let mut conductance = DMatrix::<f64>::zeros(2 * n, 2 * n);
        let mut into = DVector::<f64>::zeros(2 * n);
        let mut join = |a: usize, b: usize, milliohms: f64| {
            let own = 1000.0 / milliohms;
            conductance[(a, a)] += own;
            conductance[(b, b)] += own;
            conductance[(a, b)] -= own;
            conductance[(b, a)] -= own;
        };
        for (i, milliohms) in self.strings.iter().enumerate() {
            join(i, n + i, *milliohms);
        }
        for (i, milliohms) in self.positive.iter().enumerate() {
            join(i, i + 1, *milliohms);
        }
        for (i, milliohms) in self.negative.iter().enumerate() {
            join(n + i, n + i + 1, *milliohms);
        }
        for (i, (volts, milliohms)) in self.volts.iter().zip(&self.strings).enumerate() {
            into[i] += 1000.0 * volts / milliohms;
            into[n + i] -= 1000.0 * volts / milliohms;
        }
        into[self.at.0] -= amperes;
        into[n + self.at.1] += amperes;
        let ground = n + self.at.1;
        let solved =
            conductance.remove_row(ground).remove_column(ground).lu().solve(&into.remove_row(ground))?;
        let volts = |node: usize| match node.cmp(&ground) {
            std::cmp::Ordering::Less => solved[node],
            std::cmp::Ordering::Equal => 0.0,
            std::cmp::Ordering::Greater => solved[node - 1],
        };
        let of = |i: usize| 1000.0 * (self.volts[i] - (volts(i) - volts(n + i))) / self.strings[i];
        Some((0..n).map(of).collect())
    }

    /// Current of each string, A, between two busbars: all stand under the same volts.
    fn between_busbars(&self, amperes: f64) -> Vec<f64> {
        let all = || self.volts.iter().zip(&self.strings);
        let conductance: f64 = self.strings.iter().map(|milliohms| 1000.0 / milliohms).sum();
        let short: f64 = all().map(|(volts, milliohms)| 1000.0 * volts / milliohms).sum();
        let volts = (short - amperes) / conductance;
        all().map(|(own, milliohms)| 1000.0 * (own - volts) / milliohms).collect()
    }

    fn shares(&self, amperes: f64) -> Shares {
        let n = self.strings.len();
        let under = self.currents(amperes).unwrap_or_else(|| vec![0.0; n]);
        let circulating = self.currents(0.0).unwrap_or_else(|| vec![0.0; n]);
        let shares: Vec<f64> =
            under.iter().zip(&circulating).map(|(own, idle)| (own - idle) / amperes).collect();
        let furthest = off_even(&shares).into_iter().map(f64::abs).fold(0.0, f64::max);
        Shares { shares, amperes: under, circulating, furthest, even: furthest <= WITHIN + 1e-9 }
    }
}

/// How the strings of a bank share a current.
///
/// # Errors
/// [`ShareError`] for what cannot be.
pub fn shares(bank: &ParallelBank) -> Result<Shares, ShareError> {
    Ok(Network::of(bank)?.shares(bank.amperes))
}

/// Where plus and minus come off after a change, strings counted from 1; none where it takes neither off elsewhere.
pub fn moved_take_off([plus, minus]: [u8; 2], change: ShareChange, strings: u8) -> Option<[u8; 2]> {
    let other = |at: u8| if at == 1 { strings } else { 1 };
    match change {
        ShareChange::MoveNegative | ShareChange::ThickerLinks => Some([plus, other(plus)]),
        ShareChange::MovePositive => Some([other(minus), minus]),
        ShareChange::AsItIs | ShareChange::EqualLeads => None,
    }
}

/// A bank on rails as it would be after a change; none where it is that already.
pub fn changed(bank: &ParallelBank, change: ShareChange) -> Option<ParallelBank> {
    let TakeOff::Rails { positive, negative } = bank.take_off else { return None };
    let last = u8::try_from(bank.strings.len()).ok()?;
    let moved = || {
        let [positive, negative] = moved_take_off([positive, negative], change, last)?;
        Some(ParallelBank { take_off: TakeOff::Rails { positive, negative }, ..bank.clone() })
    };
    let own = match change {
        ShareChange::AsItIs => return None,
        ShareChange::MoveNegative | ShareChange::MovePositive => moved()?,
        ShareChange::ThickerLinks => {
            let half = |links: &[Link]| -> Option<Vec<Link>> {
                links.iter().map(|l| Some(Link::Measured { milliohms: l.milliohms().ok()? / 2.0 })).collect()
            };
            let (plus, minus) = (half(&bank.positive)?, half(&bank.negative)?);
            ParallelBank { positive: plus, negative: minus, ..moved()? }
        }
        ShareChange::EqualLeads => {
            // Every lead as long as the whole rail and back, so that one length reaches every string.
            let rail = |links: &[Link]| links.iter().filter_map(|l| l.milliohms().ok()).sum::<f64>();
            let milliohms = rail(&bank.positive) + rail(&bank.negative);
            ParallelBank {
                take_off: TakeOff::Busbar { leads: vec![Link::Measured { milliohms }] },
                ..bank.clone()
            }
        }
    };
    (own != *bank).then_some(own)
}

/// How the strings of a bank share, what could be changed, and the cheapest that evens them (ST-1).
///
/// # Errors
/// [`ShareError`] for what cannot be.
pub fn judge_shares(bank: &ParallelBank) -> Result<ShareJudged, ShareError> {
    let now = shares(bank)?;
    // In the order of what they cost: a cable moved, leads made, links replaced.
    let order = [
        ShareChange::MoveNegative,
        ShareChange::MovePositive,
        ShareChange::EqualLeads,
        ShareChange::ThickerLinks,
    ];
    let mut options = Vec::new();
    for change in order {
        if let Some(own) = changed(bank, change) {
            options.push(ShareOption { change, shares: shares(&own)? });
        }
    }
    let cheapest = options.iter().find(|own| own.shares.even && !now.even).map(|own| own.change);
    Ok(ShareJudged { now, options, cheapest })
}
