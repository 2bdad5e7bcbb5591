//! What a figure of a test is asked about, and why something of a test is refused.

use crate::bank::BatteryAddress;
use crate::discharge::DischargePlanError;
use crate::load_test::RealLoadError;
use crate::quantity::OutOfRange;
use thiserror::Error;

/// What a figure of a test is asked about; it can be kept.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum TestQuestion {
    /// It shows more volts than at the last reading under the same load.
    Rose {
        /// V then.
        before: f64,
        /// V now.
        now: f64,
        /// The battery; none: the place under test.
        battery: Option<BatteryAddress>,
    },
    /// The current is not the one that was meant.
    CurrentOff {
        /// A that was meant.
        meant: f64,
        /// A that was read.
        read: f64,
    },
    /// It fell so far that a clamp may have slipped.
    FellFar {
        /// V at the end of the load.
        volts: f64,
    },
    /// No cell shows that as a rule.
    OddCell {
        /// V.
        volts: f64,
    },
}

/// Why something of a test is refused.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum TestRefused {
    /// A figure outside its range.
    #[error("{why}")]
    OutOfRange {
        /// The field.
        field: &'static str,
        /// What is accepted.
        why: OutOfRange,
    },
    /// The plan of a discharge.
    #[error(transparent)]
    Plan(#[from] DischargePlanError),
    /// What a real load cannot have been.
    #[error(transparent)]
    RealLoad(#[from] RealLoadError),
    /// More volts under the load than before it.
    #[error(
        "{at_end:.2} V under the load and {before:.2} V before it: a load never raises volts; read both again"
    )]
    Raised {
        /// V before.
        before: f64,
        /// V at its end.
        at_end: f64,
    },
    /// It is noted elsewhere.
    #[error("this is noted at {wanted}, not at {at}")]
    OtherPlace {
        /// Where.
        wanted: &'static str,
        /// Where it was noted.
        at: String,
    },
    /// Nobody said what loads the batteries.
    #[error("say first what loads the batteries, and for how many seconds")]
    NoSetUp,
    /// One is on.
    #[error("a discharge is on; end it before another begins")]
    UnderWay,
    /// None is on.
    #[error("no discharge is on")]
    NoneOn,
    /// It is paused.
    #[error("the discharge is paused; there is nothing to pause")]
    PausedAlready,
    /// It is not paused.
    #[error("the discharge is not paused; there is nothing to resume")]
    NotPaused,
    /// Nothing was read.
    #[error("nothing is typed yet; type at least one figure")]
    NoFigure,
    /// Volts of a battery that is not under test.
    #[error("{battery} is not under test; accepted are batteries of {of}")]
    NotUnderTest {
        /// Which.
        battery: BatteryAddress,
        /// What is.
        of: String,
    },
    /// A discharge timed by a watch has a current.
    #[error("the current is missing; type it, A")]
    NoCurrent,
    /// The load was switched off without having been on.
    #[error("no load was switched on; switch it on first")]
    NothingToSwitchOff,
    /// A load without a name.
    #[error("say what the load was: \u{201c}fridge and lamps\u{201d}")]
    NoLoad,
}

impl TestRefused {
    /// The part of the entry that it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange { field, .. } => field,
            Self::Plan(DischargePlanError::EndTooHigh(_)) => "end_per_cell",
            Self::RealLoad(RealLoadError::Raised { .. }) => "at_five_minutes",
            Self::NoCurrent
            | Self::Plan(DischargePlanError::OutOfRange(_))
            | Self::RealLoad(RealLoadError::OutOfRange(_)) => "amperes",
            Self::Raised { .. } => "at_end",
            Self::OtherPlace { .. } => "place",
            Self::NotUnderTest { .. } => "batteries",
            Self::NoLoad => "load",
            Self::NoFigure => "volts",
            Self::NoSetUp
            | Self::UnderWay
            | Self::NoneOn
            | Self::PausedAlready
            | Self::NotPaused
            | Self::NothingToSwitchOff => "what",
        }
    }
}
