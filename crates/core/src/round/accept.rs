//! Whether an entry may be added to a round, and what it is asked about (RD-3).

use super::{CellRecord, Question, ReadingKind, RoundEntry, RoundToJudge, RunningRound, Usability, confirms};
use crate::bank::CellAddress;
use crate::log::{ImpossibleTime, possible_time};
use jiff::Timestamp;
use thiserror::Error;

/// A round as far as it has come.
pub struct RoundUnderWay<'a> {
    /// What it is judged by; its own readings are left out of account.
    pub context: &'a RoundToJudge,
    /// Its entries in the order received.
    pub entries: &'a [RoundEntry],
    /// What stands at each cell.
    pub records: &'a [CellRecord],
    /// False when the visit it was taken on is closed: then only what stands there is put right.
    pub taking: bool,
}

/// An entry that may be added.
#[derive(Debug, Clone, PartialEq)]
pub struct AcceptedReading {
    /// The entry; it stands where the technician said so or where it bears out the one it replaces.
    pub entry: RoundEntry,
    /// Why it is in question; none when it is not.
    pub question: Option<Question>,
    /// True when it bears out the reading it replaces, so that it stands without asking again.
    pub confirmed: bool,
}

/// Why an entry of a round is refused.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum ReadingRefused {
    /// The visit it was taken on is closed.
    #[error("the visit of this round is closed")]
    VisitClosed,
    /// The bank has no such cell.
    #[error("this bank has no cell {0}")]
    NoSuchCell(CellAddress),
    /// A withdrawal names the entry it takes back.
    #[error("name the entry that is taken back")]
    NothingTakenBack,
    /// A gravity is a figure.
    #[error("a gravity is needed for a reading of this kind")]
    NoGravity,
    /// It cannot have been taken then.
    #[error(transparent)]
    Time(#[from] ImpossibleTime),
}

/// Decides about an entry; `latest` is the latest time that any clock can show now. An entry that is there
/// already is asked about as it was stored.
///
/// # Errors
/// [`ReadingRefused`]; nothing is added then.
pub fn accept(
    mut entry: RoundEntry,
    round: &RoundUnderWay<'_>,
    latest: Timestamp,
) -> Result<AcceptedReading, ReadingRefused> {
    let before = round.entries.iter().find(|e| e.id == entry.id);
    if before.is_none() {
        possible_time(entry.taken_at, latest)?;
        // A figure is put right later, beside what stood; something new is of a visit that is open.
        if entry.supersedes.is_none() && !round.taking {
            return Err(ReadingRefused::VisitClosed);
        }
    }
    if !round.context.shape.contains(entry.cell) {
        return Err(ReadingRefused::NoSuchCell(entry.cell));
    }
    if entry.kind == ReadingKind::Withdrawn && entry.supersedes.is_none() {
        return Err(ReadingRefused::NothingTakenBack);
    }
    if (entry.kind == ReadingKind::Gravity) != entry.gravity.is_some() {
        return Err(ReadingRefused::NoGravity);
    }
    let confirmed = !entry.stands && bears_out(&entry, round);
    entry.stands |= confirmed;
    let stands = before.map_or(entry.stands, |e| e.stands);
    let judged = Usability::of(&round.context.conditions, round.context.instrument).judged();
    let question = entry.gravity.filter(|_| !stands && judged).and_then(|read| {
        let corrected = round.context.correct(entry.cell, read, entry.temperature);
        RunningRound::with(round.context, round.records).question(entry.cell, read, corrected)
    });
    Ok(AcceptedReading { entry, question, confirmed })
}

/// A second reading of a questioned cell that agrees with the first stands by itself.
fn bears_out(entry: &RoundEntry, round: &RoundUnderWay<'_>) -> bool {
    let replaced = entry.supersedes.as_ref().and_then(|id| round.entries.iter().find(|e| e.id == *id));
    let both = replaced.filter(|e| e.cell == entry.cell).and_then(|e| e.gravity).zip(entry.gravity);
    both.is_some_and(|(first, second)| confirms(first, second, round.context.uncertainty().deviation))
}
