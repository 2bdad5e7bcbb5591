//! What a figure of a joint is asked about, and why something of joints is refused.

use crate::quantity::OutOfRange;
use thiserror::Error;

/// What a figure of a joint is asked about; it can be kept.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum JointQuestion {
    /// So much resistance that a probe may have stood elsewhere.
    FarTooMuch {
        /// mV.
        millivolts: f64,
        /// A of the bank.
        amperes: f64,
    },
    /// It runs against the other strings: the clamp may have been the other way round.
    AgainstTheOthers {
        /// A.
        amperes: f64,
    },
    /// Far from the torque of the model.
    OffTorque {
        /// N·m that was set.
        set: f64,
        /// N·m that the model asks for.
        asked: f64,
    },
}

/// Why something of joints is refused.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum JointRefused {
    /// A figure outside its range.
    #[error("{why}")]
    OutOfRange {
        /// The field.
        field: &'static str,
        /// What is accepted.
        why: OutOfRange,
    },
    /// It is noted elsewhere.
    #[error("this is noted at {wanted}, not at {at}")]
    OtherPlace {
        /// Where.
        wanted: &'static str,
        /// Where it was noted.
        at: String,
    },
    /// A lead that nobody described.
    #[error(
        "no lead of its own is bolted there; describe first how the strings are joined, under Joints of the bank"
    )]
    NoLead,
    /// One string has no share.
    #[error("the bank has one string: its current is that of the bank")]
    OneString,
}

impl JointRefused {
    /// The part of the entry that it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange { field, .. } => field,
            Self::OtherPlace { .. } => "place",
            Self::NoLead => "part",
            Self::OneString => "what",
        }
    }
}
