//! Rounds: opened, described anew, finished.

use super::App;
use super::judge_rounds::derive_missing;
use super::refused::{AppError, AppResult};
use crate::db::{
    BankRow, Changed, Connection, DbError, ModelRow, NewRound, Origin, RoundRow, Site, Transaction, VisitRow,
    Written,
};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::log::possible_time;
use rainshadow_core::round::Conditions;

/// A round as its opening is typed.
#[derive(Debug, Clone)]
pub struct RoundToOpen {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// When it begins; none: now.
    pub started_at: Option<Timestamp>,
    /// Conditions.
    pub conditions: Conditions,
    /// What reads the cells.
    pub instrument: Instrument,
    /// True to walk the path from its end.
    pub reversed: bool,
    /// Who, on which device.
    pub by: Actor,
    /// The opening as typed, with its units.
    pub typed: Option<String>,
    /// The request as sent.
    pub sent: String,
}

/// The round, on its bank.
fn new_round(
    tx: &Connection,
    open: RoundToOpen,
    (now, latest): (Timestamp, Timestamp),
) -> AppResult<NewRound> {
    let bank = BankRow::by_id(tx, &open.bank)?;
    let zone = Site::by_id(tx, &bank.site_id)?.zone;
    // A round of a visit that is typed later is of the day of the visit.
    let past = VisitRow::open_of(tx, &bank.id)?.filter(VisitRow::is_typed_later);
    let started_at = open.started_at.or(past.map(|visit| visit.started_at)).unwrap_or(now);
    possible_time(started_at, latest).map_err(|e| AppError::refused("started_at", &e))?;
    if !ModelRow::by_id(tx, &bank.model_id)?.construction.has_caps() {
        let said = "This bank is sealed: it has no caps and no gravity to read. Nobody opens it.";
        return Err(AppError::field("bank", said));
    }
    Ok(NewRound {
        id: open.id,
        bank: bank.id,
        visit: None,
        origin: Origin::Walked,
        started_at,
        finished_at: None,
        zone,
        conditions: open.conditions,
        instrument: open.instrument,
        reversed: open.reversed,
        by: open.by,
        typed: open.typed,
        sent: open.sent,
    })
}

/// Opens a round.
///
/// # Errors
/// A sealed bank, and whatever the database says no to.
pub async fn open_round(app: &App, open: RoundToOpen) -> AppResult<Written> {
    let times = (app.clock.now(), app.clock.latest());
    app.write_or_refuse(move |tx| begin_round(tx, open, times)).await
}

/// Opens a round inside a write; the second time is the latest that any clock can show.
///
/// # Errors
/// A sealed bank, and whatever the database says no to.
pub fn begin_round(
    tx: &Transaction<'_>,
    open: RoundToOpen,
    times: (Timestamp, Timestamp),
) -> AppResult<Written> {
    Ok(RoundRow::create(tx, &new_round(tx, open, times)?)?)
}

/// Changes the conditions, the instrument or the direction of a round that still has the version the
/// person saw.
///
/// # Errors
/// A sealed bank, and whatever the database says no to.
pub async fn edit_round(app: &App, version: i64, open: RoundToOpen) -> AppResult<Changed<RoundRow>> {
    let times = (app.clock.now(), app.clock.latest());
    app.write_or_refuse(move |tx| {
        let change = new_round(tx, open, times)?;
        Ok(RoundRow::edit(tx, &change.id, version, &change)?)
    })
    .await
}

/// Finishes a round; it is judged and joins the history.
///
/// # Errors
/// Whatever the database says no to.
pub async fn finish_round(app: &App, id: String, version: i64, by: Actor) -> AppResult<Changed<RoundRow>> {
    let now = app.clock.now();
    Ok(app.write(move |tx| end_round(tx, (&id, version), &by, now)).await?)
}

/// Finishes a round at a time, inside a write.
///
/// # Errors
/// Whatever the database says no to.
pub fn end_round(
    tx: &Transaction<'_>,
    (id, version): (&str, i64),
    by: &Actor,
    now: Timestamp,
) -> Result<Changed<RoundRow>, DbError> {
    let outcome = RoundRow::finish(tx, id, version, by, now)?;
    if let Changed::Done(row) = &outcome {
        derive_missing(tx, &row.bank_id)?;
    }
    Ok(outcome)
}
