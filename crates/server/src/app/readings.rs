//! One reading: accepted by the core, on disk.

use super::App;
use super::live_rounds::LiveRound;
use super::refused::{AppError, AppResult};
use crate::db::{Transaction, Written};
use jiff::Timestamp;
use rainshadow_core::round::{AcceptedReading, ReadingRefused, RoundEntry, accept};

/// Records one entry of a round. When this answers, it is on disk.
///
/// # Errors
/// What the core refuses, by its field, and whatever the database says no to.
pub async fn write_reading(
    app: &App,
    round: &str,
    entry: RoundEntry,
) -> AppResult<(AcceptedReading, Written)> {
    let (now, latest) = (app.clock.now(), app.clock.latest());
    let (shared, id) = (app.clone(), round.to_owned());
    let written = app
        .db
        .write_row(move |tx| {
            shared.with_live_round(tx, &id, |live| {
                let (accepted, written) = add_reading(tx, live, entry, (now, latest))?;
                Ok((accepted, written, live.row.finished_at.is_some()))
            })
        })
        .await;
    if written.is_err() {
        // What is in memory may be ahead of the disk.
        app.live.forget(round);
    }
    let (accepted, written, finished) = written?;
    if finished {
        // A late reading changes what later rounds are compared with.
        app.changed();
    }
    Ok((accepted, written))
}

/// Records one entry of a round that is in memory, inside a write; `latest` is the latest that any clock
/// can show.
///
/// # Errors
/// What the core refuses, by its field, and whatever the database says no to.
pub fn add_reading(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    entry: RoundEntry,
    (now, latest): (Timestamp, Timestamp),
) -> AppResult<(AcceptedReading, Written)> {
    let accepted = match accept(entry, &live.under_way(), latest) {
        Ok(accepted) => accepted,
        Err(why) => {
            if why == ReadingRefused::VisitClosed {
                live.taking()?;
            }
            return Err(AppError::refused(field(&why), &why));
        }
    };
    let written = live.append(tx, &accepted.entry, now)?;
    Ok((accepted, written))
}

/// The field of the request that a refusal is about.
fn field(why: &ReadingRefused) -> &'static str {
    match why {
        ReadingRefused::VisitClosed => "round",
        ReadingRefused::NoSuchCell(_) => "cell",
        ReadingRefused::NothingTakenBack => "supersedes",
        ReadingRefused::NoGravity => "typed",
        ReadingRefused::Time(_) => "taken_at",
    }
}
