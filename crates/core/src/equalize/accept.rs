//! Whether something may be written down of a run, and what it is asked about.

use super::question::{RunQuestion, moved, much_current, warmed};
use super::{EndWhy, LoggedEntry, PauseWhy, Phase, RESUME_BELOW, RunEntry, RunNow};
use crate::bank::CellAddress;
use crate::quantity::{OutOfRange, Points, SpecificGravity};
use thiserror::Error;

/// Seconds for which a stop can be taken back, by the clock of the run.
pub const TAKE_BACK: f64 = 10.0;
/// Seconds more that a request is under way.
const UNDER_WAY: f64 = 2.0;
/// Most characters of a note.
const LONGEST_NOTE: usize = 1000;

/// A run that something is to be written down of.
#[derive(Debug, Clone, Copy)]
pub struct RunUnderWay<'a> {
    /// Where it stands.
    pub now: &'a RunNow,
    /// Cells it is watched by, pilot first.
    pub watched: &'a [CellAddress],
    /// Standard uncertainty of one cell against itself, points.
    pub noise: Points,
    /// Capacity of the whole bank, Ah.
    pub capacity: f64,
    /// Seconds since it was over; none: it is not.
    pub over_for: Option<f64>,
    /// What is written down so far.
    pub log: &'a [LoggedEntry],
    /// Seconds of its clock that pass in one.
    pub pace: f64,
}

impl RunUnderWay<'_> {
    /// The last gravity of a watched cell, by its place among them.
    fn last_gravity(&self, watched: usize) -> Option<SpecificGravity> {
        self.now.readings.iter().rev().find_map(|r| r.gravities.get(watched).copied().flatten())
    }

    /// A reading that stands, or what took one back.
    fn can_be_taken_back(&self, entry: &str) -> bool {
        let took_back = |l: &LoggedEntry| l.id == entry && matches!(l.entry, RunEntry::Withdrawn { .. });
        self.now.readings.iter().any(|r| r.id == entry) || self.log.iter().any(took_back)
    }

    /// The last temperature, °C.
    fn last_celsius(&self) -> Option<f64> {
        self.now.readings.iter().rev().find_map(|r| r.celsius)
    }
}

/// Why an entry of a run is refused.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum RunRefused {
    /// A note is short and says something.
    #[error("a note has 1 to {LONGEST_NOTE} characters")]
    NoteLength,
    /// A check is left out without a reason.
    #[error("say why it is left out; the report shows it")]
    NoReason,
    /// It is over.
    #[error("the run is over; nothing more is written into it but notes")]
    Over {
        /// Why.
        why: EndWhy,
    },
    /// It is not over.
    #[error("the run is not stopped; there is nothing to take back")]
    NotStopped,
    /// It was stopped too long ago.
    #[error("a stop can be taken back for ten seconds. It is over; open a new run if it must go on")]
    StoppedLongAgo,
    /// It has begun.
    #[error("the run has begun already")]
    BegunAlready,
    /// Checks are neither confirmed nor left out with a reason.
    #[error("checks are neither confirmed nor left out with a reason")]
    ChecksOpen,
    /// It is not on.
    #[error("the run is not on; there is nothing to pause")]
    NotOn,
    /// It is not paused.
    #[error("the run is not paused; there is nothing to resume")]
    NotPaused,
    /// It has not begun.
    #[error("the charger has not been switched on yet. Leave the run, or begin it")]
    NotBegun,
    /// Something is taken back that is no reading of this run.
    #[error("only a reading of this run can be taken back")]
    NoSuchReading,
    /// A reading without a figure.
    #[error("nothing is typed yet; type at least one figure")]
    NoFigure,
    /// A current that cannot be.
    #[error(transparent)]
    Current(#[from] OutOfRange),
}

impl RunRefused {
    /// The part of the entry that it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::NoteLength => "text",
            Self::NoReason => "reason",
            Self::NoSuchReading => "entry",
            Self::NoFigure => "gravities[0]",
            Self::Current(_) => "amperes",
            _ => "what",
        }
    }
}

/// What an entry of a run is asked about; it can be kept.
#[derive(Debug, Clone, PartialEq)]
pub enum RunEntryQuestion {
    /// Figures of a reading, each with its cell where it is of one.
    Reading(Vec<(RunQuestion, Option<CellAddress>)>),
    /// It goes on although it was too hot when it was read last, °C.
    StillHot(f64),
}

/// Decides about an entry that is new in a run; `stands` when it was asked about and is kept.
///
/// # Errors
/// [`RunRefused`]; nothing is added then.
pub fn accept(
    entry: &RunEntry,
    stands: bool,
    run: &RunUnderWay<'_>,
) -> Result<Option<RunEntryQuestion>, RunRefused> {
    let phase = run.now.phase;
    let ended = if let Phase::Ended { why } = phase { Some(why) } else { None };
    match entry {
        RunEntry::Note { text } => {
            let length = text.trim().chars().count();
            return if (1..=LONGEST_NOTE).contains(&length) { Ok(None) } else { Err(RunRefused::NoteLength) };
        }
        RunEntry::TakenBack => {
            let most = TAKE_BACK * run.pace + UNDER_WAY;
            return match run.over_for {
                None => Err(RunRefused::NotStopped),
                Some(seconds) if (-UNDER_WAY..=most).contains(&seconds) => Ok(None),
                Some(_) => Err(RunRefused::StoppedLongAgo),
            };
        }
        // The clock is set whether anybody runs or not.
        RunEntry::ClockSet { .. } => return Ok(None),
        _ => {}
    }
    if let Some(why) = ended {
        return Err(RunRefused::Over { why });
    }
    match entry {
        RunEntry::Skipped { reason, .. } if reason.trim().is_empty() => Err(RunRefused::NoReason),
        RunEntry::Began if phase != Phase::Before => Err(RunRefused::BegunAlready),
        RunEntry::Began if !run.now.open_checks.is_empty() => Err(RunRefused::ChecksOpen),
        RunEntry::Paused { .. } if phase != Phase::Running => Err(RunRefused::NotOn),
        RunEntry::Ended { .. } if phase == Phase::Before => Err(RunRefused::NotBegun),
        RunEntry::Withdrawn { entry } if !run.can_be_taken_back(entry) => Err(RunRefused::NoSuchReading),
        RunEntry::Resumed => match phase {
            Phase::Paused { why } => {
                let hot = run.last_celsius().filter(|c| why == PauseWhy::Heat && *c >= RESUME_BELOW);
                Ok(hot.filter(|_| !stands).map(RunEntryQuestion::StillHot))
            }
            _ => Err(RunRefused::NotPaused),
        },
        RunEntry::Read { gravities, celsius, volts, amperes } => {
            let any = gravities.iter().any(Option::is_some);
            if !any && celsius.is_none() && volts.is_none() && amperes.is_none() {
                return Err(RunRefused::NoFigure);
            }
            let mut asked = Vec::new();
            for (place, (cell, gravity)) in run.watched.iter().zip(gravities).enumerate() {
                let question = gravity.and_then(|now| moved(run.last_gravity(place), now, run.noise));
                asked.extend(question.map(|q| (q, Some(*cell))));
            }
            asked.extend(celsius.and_then(|now| warmed(run.last_celsius(), now)).map(|q| (q, None)));
            if let Some(amperes) = amperes {
                asked.extend(much_current(*amperes, run.capacity)?.map(|q| (q, None)));
            }
            Ok((!asked.is_empty() && !stands).then_some(RunEntryQuestion::Reading(asked)))
        }
        _ => Ok(None),
    }
}
