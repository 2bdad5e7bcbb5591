//! Links and cables of a bank, described once.

use crate::conductor::Cable;
use crate::joints::Pole;
use crate::parallel_share::{Link, ShareChange, TakeOff, moved_take_off};
use crate::quantity::OutOfRange;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// How parallel strings come together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "by", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Coupling {
    /// Cables from string to string on both rails; one stands for all where a single one is given.
    Rails {
        /// Of the plus, one fewer than strings, from A on.
        positive: Vec<Cable>,
        /// Of the minus.
        negative: Vec<Cable>,
        /// String that the plus is taken off at, counted from 1.
        plus_at: u8,
        /// String that the minus is taken off at.
        minus_at: u8,
    },
    /// Leads of every string to two busbars; one stands for all where a single one is given.
    Busbars {
        /// Of the plus.
        positive: Vec<Cable>,
        /// Of the minus.
        negative: Vec<Cable>,
    },
}

/// How a bank is wired.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wiring {
    /// The link from a battery to the next of its string; none: not told.
    #[serde(default)]
    pub link: Option<Cable>,
    /// How the strings come together; none: not told, or one string.
    #[serde(default)]
    pub coupling: Option<Coupling>,
}

/// One end of a string: which string, 0 is A, and which pole.
pub type StringEnd = (u8, Pole);

/// Why a wiring cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum WiringError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Cables that do not fit.
    #[error("{strings} strings have {} cables between them on a rail, or one description for all, and {given} are given", .strings - 1)]
    Rails {
        /// How many strings.
        strings: usize,
        /// How many cables.
        given: usize,
    },
    /// Leads that do not fit.
    #[error("{strings} strings have {strings} leads, or one description for all, and {given} are given")]
    Leads {
        /// How many strings.
        strings: usize,
        /// How many leads.
        given: usize,
    },
    /// A take-off at a string that is not there.
    #[error("the take-off is at string {at}, and the bank has {strings}")]
    TakeOff {
        /// Where.
        at: u8,
        /// How many strings.
        strings: u8,
    },
    /// One string is not coupled to any.
    #[error("one string is coupled to none; accepted are links only")]
    OneString,
}

/// One description for all of them, or one each.
fn spread(all: &[Cable], wanted: usize) -> Option<Vec<Cable>> {
    match all {
        [one] => Some(vec![*one; wanted]),
        _ if all.len() == wanted => Some(all.to_vec()),
        _ => None,
    }
}

impl Coupling {
    /// The cables of a pole, one each, for so many strings.
    ///
    /// # Errors
    /// [`WiringError`] where their number does not fit.
    pub fn cables(&self, pole: Pole, strings: u8) -> Result<Vec<Cable>, WiringError> {
        let strings = usize::from(strings);
        let (Self::Rails { positive, negative, .. } | Self::Busbars { positive, negative }) = self;
        let own = if pole == Pole::Positive { positive } else { negative };
        let given = own.len();
        match self {
            Self::Rails { .. } => spread(own, strings - 1).ok_or(WiringError::Rails { strings, given }),
            Self::Busbars { .. } => spread(own, strings).ok_or(WiringError::Leads { strings, given }),
        }
    }

    /// Where the cables to the system come off, as ST-1 takes it.
    pub(super) fn take_off(&self, strings: u8) -> Result<TakeOff, WiringError> {
        Ok(match self {
            Self::Rails { plus_at, minus_at, .. } => {
                TakeOff::Rails { positive: *plus_at, negative: *minus_at }
            }
            Self::Busbars { .. } => {
                let both = self
                    .cables(Pole::Positive, strings)?
                    .into_iter()
                    .zip(self.cables(Pole::Negative, strings)?);
                let lead = |(plus, minus): (Cable, Cable)| -> Result<Link, WiringError> {
                    Ok(Link::Measured { milliohms: plus.milliohms()? + minus.milliohms()? })
                };
                TakeOff::Busbar { leads: both.map(lead).collect::<Result<_, _>>()? }
            }
        })
    }
}

impl Wiring {
    /// True when something of it is told.
    pub const fn is_told(&self) -> bool {
        self.link.is_some() || self.coupling.is_some()
    }

    /// The wiring itself when it can be that of a bank of so many strings.
    ///
    /// # Errors
    /// [`WiringError`] with the figure and what is accepted.
    pub fn checked(self, strings: u8) -> Result<Self, WiringError> {
        self.link.map(|link| link.milliohms()).transpose()?;
        let Some(coupling) = &self.coupling else { return Ok(self) };
        if strings < 2 {
            return Err(WiringError::OneString);
        }
        for pole in [Pole::Positive, Pole::Negative] {
            for cable in coupling.cables(pole, strings)? {
                cable.milliohms()?;
            }
        }
        if let Coupling::Rails { plus_at, minus_at, .. } = coupling {
            for at in [*plus_at, *minus_at] {
                if at == 0 || at > strings {
                    return Err(WiringError::TakeOff { at, strings });
                }
            }
        }
        Ok(self)
    }

    /// Strings that plus and minus are taken off at on rails, 0 is A; none at busbars, or where it is not told.
    pub fn taken_off_rails(&self) -> Option<[usize; 2]> {
        match &self.coupling {
            Some(Coupling::Rails { plus_at, minus_at, .. }) => {
                Some([*plus_at, *minus_at].map(|at| usize::from(at.saturating_sub(1))))
            }
            _ => None,
        }
    }

    /// The same after a change; none where it takes neither cable off elsewhere.
    pub fn taken_off_after(&self, change: ShareChange, strings: u8) -> Option<[usize; 2]> {
        let Some(Coupling::Rails { plus_at, minus_at, .. }) = self.coupling else { return None };
        let moved = moved_take_off([plus_at, minus_at], change, strings)?;
        Some(moved.map(|at| usize::from(at.saturating_sub(1))))
    }

    /// Ends of strings where a lead of its own is bolted: on rails where the cable to the next string leaves, away from
    /// the take-off; at busbars of every string.
    pub fn leads(&self, strings: u8) -> Vec<StringEnd> {
        match &self.coupling {
            None => Vec::new(),
            Some(Coupling::Busbars { .. }) => {
                (0..strings).flat_map(|s| [(s, Pole::Positive), (s, Pole::Negative)]).collect()
            }
            Some(Coupling::Rails { plus_at, minus_at, .. }) => {
                let ends = |at: u8, pole| {
                    let takes = at.saturating_sub(1);
                    // The first and the last string are ends of the rail: nothing goes on from there, unless it is
                    // taken off there.
                    (0..strings)
                        .filter(move |s| *s == takes || (*s > 0 && *s + 1 < strings))
                        .map(move |s| (s, pole))
                };
                ends(*plus_at, Pole::Positive).chain(ends(*minus_at, Pole::Negative)).collect()
            }
        }
    }
}

/// Current of what hangs behind a string, away from the string that is taken off; at that one all others.
pub(super) fn rail_beyond(strings: &[f64], own: usize, at: usize) -> f64 {
    match own.cmp(&at) {
        std::cmp::Ordering::Less => strings[..own].iter().sum(),
        std::cmp::Ordering::Equal => strings.iter().sum::<f64>() - strings[own],
        std::cmp::Ordering::Greater => strings[own + 1..].iter().sum(),
    }
}

/// Currents of the cables of a rail, one fewer than strings, from the currents of the strings; `at` is the string that is
/// taken off, 0 is A.
pub(super) fn rail_currents(strings: &[f64], at: usize) -> Vec<f64> {
    let split = |next: usize| if next <= at { &strings[..next] } else { &strings[next..] };
    (1..strings.len()).map(|next| split(next).iter().sum()).collect()
}
