//! What an entry of a visit is asked about, and why it is refused.

use super::{
    Check, InstrumentChecked, JointQuestion, JointRefused, Place, PolarityQuestion, TestQuestion, TestRefused,
};
use crate::log::ImpossibleTime;
use crate::rest::{VoltsQuestion, VoltsState};
use crate::water::AmountQuestion;
use thiserror::Error;

/// What an entry is asked about; it can be kept.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum EntryQuestion {
    /// Volts of a battery that a rested one does not show.
    Volts {
        /// Why.
        question: VoltsQuestion,
        /// V.
        volts: f64,
        /// Cells of the place that was read.
        cells: u16,
        /// What the bank did then.
        state: VoltsState,
    },
    /// An amount of water.
    Amount {
        /// Why.
        question: AmountQuestion,
        /// Where it was poured.
        place: Place,
    },
    /// A resistance that no battery of this kind shows.
    Resistance {
        /// mΩ.
        milliohms: f64,
        /// mΩ that such a battery shows, about.
        usual: f64,
    },
    /// An instrument that is off by so much that the check itself is in doubt.
    Instrument {
        /// The check.
        checked: InstrumentChecked,
    },
    /// A figure of a joint.
    Joint {
        /// What is odd.
        question: JointQuestion,
        /// Where it was read.
        place: Place,
    },
    /// The polarity of a battery before it is joined.
    Polarity {
        /// What is odd.
        question: PolarityQuestion,
        /// Which battery.
        place: Place,
    },
    /// A figure of a test.
    Test {
        /// What is odd.
        question: TestQuestion,
        /// Where it was read.
        place: Place,
    },
}

/// Why an entry is refused.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum EntryRefused {
    /// The visit is closed.
    #[error("this visit is closed")]
    VisitClosed,
    /// It cannot have been written down then.
    #[error(transparent)]
    Time(#[from] ImpossibleTime),
    /// The bank has no such place.
    #[error("this bank has no {0}")]
    NoSuchPlace(String),
    /// It is noted elsewhere.
    #[error("this is noted at {wanted}, not at {at}")]
    OtherPlace {
        /// Where: "a battery".
        wanted: &'static str,
        /// Where it was noted.
        at: String,
    },
    /// A sealed battery has neither levels nor water.
    #[error("this bank is sealed: there is no {what} to note, and nobody opens it")]
    Sealed {
        /// "level" or "water".
        what: &'static str,
    },
    /// A sealed battery has no caps.
    #[error("a sealed battery has no caps to look at")]
    NoCaps,
    /// Batteries with caps have no lid that stays shut.
    #[error("these batteries have caps: what is opened there is looked at as caps")]
    NotSealed,
    /// No bank is without it.
    #[error(
        "every bank has it: it is fine, or something is found; a bank can be without fuse and disconnect, vent path and fan, temperature sensor, something above, a metal tray"
    )]
    AlwaysThere,
    /// Something measured where nothing is.
    #[error("nothing is measured at this check")]
    NothingMeasured,
    /// Something that is not found at this check.
    #[error("“{kind}” is nothing that is found here; accepted is {}", .check.kinds().iter().map(|k| k.key).collect::<Vec<_>>().join(", "))]
    NotFoundHere {
        /// What is said to be found.
        kind: String,
        /// Where it was looked.
        check: Check,
    },
    /// Done about a measurement, and nobody knows what.
    #[error("say in your words what was done")]
    SayWhat,
    /// Found, and neither watch nor act.
    #[error("what was found is watch or act")]
    FoundFine,
    /// A repair of something that is not found at this check.
    #[error("“{kind}” is nothing that is found here; accepted is {}", .check.kinds().iter().map(|k| k.key).collect::<Vec<_>>().join(", "))]
    NoSuchFault {
        /// What is said to be repaired.
        kind: String,
        /// Where it was looked.
        check: Check,
    },
    /// Nothing was done, and it is in order all the same.
    #[error(
        "nothing was done about it, so it was left as it was found; if it is in order, say what was done"
    )]
    NothingDone,
    /// A torque where nothing is tightened.
    #[error("a torque is noted where a joint is tightened, remade, replaced or fitted")]
    NoTorque,
    /// A recheck of what is not looked at twice.
    #[error(
        "a recheck is of the look-over, the volts, the round or the levels; accepted is look_over, rest_check, round, water"
    )]
    NoRecheck,
    /// A step that a bank of this kind does not have.
    #[error("this bank is sealed: it has no round, no water and no equalize")]
    NoSuchStep,
    /// A line of a job on a visit that is for none.
    #[error(
        "this visit is for no job: begin one for storage, for a check of it, for spring or for a replacement"
    )]
    NoJob,
    /// A line that the job does not have, or that something else answers.
    #[error("that is not ticked on this list: it belongs to another job, or to the step where it is done")]
    NotOfTheJob,
    /// Batteries are said to be joined while one of them reads reversed.
    #[error("{0} reads reversed: read it again, or take it out, before anything is joined")]
    ReversedStands(String),
    /// A line that every bank has.
    #[error("that is never missing; only a coating, vents, old batteries and a charge in storage can be")]
    TaskAlwaysThere,
    /// Something of a test that cannot be.
    #[error(transparent)]
    Test(#[from] TestRefused),
    /// Something of joints that cannot be.
    #[error(transparent)]
    Joint(#[from] JointRefused),
    /// A step is left out without a reason.
    #[error("a step that is left out needs its reason, for the next visitor")]
    NoReason,
    /// A note without a text.
    #[error("the note is empty")]
    NoteEmpty,
    /// An entry is taken back that this visit does not have.
    #[error("there is no such entry on this visit")]
    NoSuchEntry,
}

impl EntryRefused {
    /// The part of the entry that it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::VisitClosed => "visit",
            Self::Time(_) => "taken_at",
            Self::NoSuchPlace(_) | Self::OtherPlace { .. } => "place",
            Self::Sealed { .. } => "what",
            Self::NoCaps | Self::NotSealed | Self::AlwaysThere => "check",
            Self::SayWhat => "note",
            Self::NothingMeasured => "measured",
            Self::NotFoundHere { .. } => "found.kind",
            Self::NoSuchFault { .. } => "found",
            Self::NothingDone => "left",
            Self::NoTorque => "torque",
            Self::FoundFine => "found.severity",
            Self::NoRecheck | Self::NoSuchStep => "step",
            Self::Test(why) => why.field(),
            Self::Joint(why) => why.field(),
            Self::NoJob | Self::NotOfTheJob | Self::ReversedStands(_) => "task",
            Self::TaskAlwaysThere => "none_here",
            Self::NoReason => "reason",
            Self::NoteEmpty => "text",
            Self::NoSuchEntry => "entry",
        }
    }
}
