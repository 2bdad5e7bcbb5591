//! Runs of an equalize: opened, written into, thrown away.

use super::App;
use super::equalize_context::EqualizeContext;
use super::refused::{AppError, AppResult};
use super::run_context::RunContext;
use super::visits::EntryWritten;
use crate::db::{
    Db, DbError, NewRun, NewVisit, PlannedRun, RunEntryRow, RunRow, Transaction, VisitRow, Written,
};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::charge::{MOST_PER_CELL, Stage, setpoint};
use rainshadow_core::equalize::{
    Phase, RunEntry, RunEntryQuestion, RunKind, RunRefused, accept, volts_on_charge, watched,
};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;

/// A run that is to be opened.
#[derive(Debug, Clone)]
pub struct RunToOpen {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// What it is for.
    pub kind: RunKind,
    /// Electrolyte temperature now.
    pub temperature: Temperature,
    /// The pilot; none on sealed batteries.
    pub pilot: Option<CellAddress>,
    /// What reads the cells.
    pub instrument: Instrument,
    /// Volts typed into the charger; none: not told.
    pub set_to: Option<f64>,
    /// Who stays with it, on which device.
    pub by: Actor,
    /// The request as sent.
    pub sent: String,
}

/// Volts typed into the charger: not of another bank, and not above what any cell takes.
fn set_to(volts: f64, cells: u16) -> AppResult<f64> {
    let volts = volts_on_charge(volts, cells).map_err(|e| AppError::refused("set_to", &e))?;
    let most = MOST_PER_CELL * f64::from(cells);
    if volts > most {
        let said = format!(
            "{volts:.1} V is {:.2} V a cell; no cell is charged above 2.70 V, {most:.1} V for this bank.",
            volts / f64::from(cells)
        );
        return Err(AppError::field("set_to", said));
    }
    Ok(volts)
}

/// Cells that a run of this bank is watched by, pilot first; none on sealed batteries.
fn watched_by(context: &EqualizeContext, pilot: Option<CellAddress>) -> AppResult<Vec<CellAddress>> {
    if !context.model.construction.has_caps() {
        return Ok(Vec::new());
    }
    let refuse = |said: String| AppError::field("pilot", said);
    let Some(pilot) = pilot else {
        return Err(refuse("Choose the pilot: the cell that the run is watched by.".into()));
    };
    if !context.bank.shape.contains(pilot) {
        return Err(refuse(format!("This bank has no cell {pilot}.")));
    }
    Ok(watched(&context.bank.shape, &context.gravities, pilot))
}

/// Opens a run; a bank has one that is not over at most. It belongs to the open visit of the bank, and
/// opens one where there is none.
///
/// # Errors
/// A plan that cannot be, by its field; a run that is open; whatever the database says no to.
pub async fn open_run(app: &App, open: RunToOpen) -> AppResult<Written> {
    let (now, today) = (app.clock.now(), app.clock.today());
    app.write_or_refuse(move |tx| begin_run(tx, open, (now, today))).await
}

/// Opens a run at a time, inside a write.
///
/// # Errors
/// A plan that cannot be, by its field; a run that is open; whatever the database says no to.
pub fn begin_run(
    tx: &Transaction<'_>,
    open: RunToOpen,
    (now, today): (Timestamp, Date),
) -> AppResult<Written> {
    // The same again, by somebody whose answer was lost: answered before anything is judged.
    if let Ok(before) = RunRow::by_id(tx, &open.id) {
        return if before.sent == open.sent {
            Ok(Written::AlreadyThere)
        } else {
            Err(DbError::OtherBody { what: "run", id: open.id }.into())
        };
    }
    let context = EqualizeContext::read(tx, &open.bank, today)?;
    let cells = context.bank.shape.cells_in_series();
    let set_to = open.set_to.map(|volts| set_to(volts, cells)).transpose()?;
    let (asked, plan) =
        context.planned(open.kind, open.temperature).map_err(|e| AppError::refused(e.field(), &e))?;
    let float = setpoint(&context.model, Stage::Float, cells, open.temperature, context.compensates(), None)
        .map_err(|e| AppError::refused("temperature", &e))?;
    let watched = watched_by(&context, open.pilot)?;
    let zone = context.site.zone.clone();
    let visit = if let Some(visit) = VisitRow::open_of(tx, &open.bank)? {
        visit.id
    } else {
        let visit = NewVisit {
            id: uuid::Uuid::now_v7().to_string(),
            bank: open.bank.clone(),
            started_at: now,
            ended_at: None,
            zone: zone.clone(),
            by: open.by.clone(),
            sent: String::new(),
        };
        VisitRow::create(tx, &visit)?;
        visit.id
    };
    let new = NewRun {
        id: open.id,
        bank: open.bank,
        visit,
        kind: open.kind,
        opened_at: now,
        zone,
        instrument: open.instrument,
        plan: PlannedRun { asked, plan, float: float.to_type, set_to },
        watched,
        by: open.by,
        sent: open.sent,
    };
    Ok(RunRow::create(tx, &new)?)
}

/// Something typed of a run.
pub struct TypedOfRun {
    /// The entry it comes to by what the run is.
    pub entry: RunEntry,
    /// True when it was asked about and is kept.
    pub stands: bool,
}

/// Why an entry of a run is refused, with every check that is open.
fn refused(why: &RunRefused, context: &RunContext) -> AppError {
    if *why != RunRefused::ChecksOpen {
        return AppError::field(why.field(), wording::run_refused(why));
    }
    let open = context.now.open_checks.iter().map(|check| {
        let (name, _) = wording::before_check(*check, &context.run.plan.plan, ReaderUnits::default());
        let field = serde_json::to_value(check).ok().and_then(|v| v.as_str().map(ToOwned::to_owned));
        (field.unwrap_or_default(), format!("{name}: confirm it, or leave it out with a reason."))
    });
    let faults: Vec<_> = open.collect();
    let said = match faults.as_slice() {
        [(_, one)] => one.clone(),
        all => format!("{} checks are neither confirmed nor left out with a reason.", all.len()),
    };
    AppError::Fields { faults, said: Some(said) }
}

/// Writes one thing down of a run. Its time is the server's: phones go wrong.
///
/// # Errors
/// What `typed` or the core refuses, by its field, and whatever the database says no to.
pub async fn write_run_entry(
    app: &App,
    (run, id): (String, String),
    (by, text): (Actor, Option<String>),
    typed: impl FnOnce(&RunContext) -> AppResult<TypedOfRun> + Send + 'static,
) -> AppResult<EntryWritten<RunEntryQuestion>> {
    let (now, pace) = (app.clock.now(), app.clock.speed());
    app.write_or_refuse(move |tx| {
        let context = RunContext::read(tx, &run, now)?;
        add_entry(tx, &context, id, (by, text), pace, typed)
    })
    .await
}

/// Writes one thing down of a run, inside a write, at the time its context was read for. `pace` is how
/// many times faster than the wall its clock runs.
///
/// # Errors
/// What `typed` or the core refuses, by its field, and whatever the database says no to.
pub fn add_entry(
    tx: &Transaction<'_>,
    context: &RunContext,
    id: String,
    (by, text): (Actor, Option<String>),
    pace: f64,
    typed: impl FnOnce(&RunContext) -> AppResult<TypedOfRun>,
) -> AppResult<EntryWritten<RunEntryQuestion>> {
    // What a lost answer sends again is told apart by its body, not by what is possible now.
    let entry = if RunRow::has_entry(tx, &id)? {
        match context.entries.iter().find(|e| e.id == id) {
            Some(before) => before.entry.clone(),
            None => return Err(DbError::OtherBody { what: "entry of a run", id }.into()),
        }
    } else {
        let typed = typed(context)?;
        match accept(&typed.entry, typed.stands, &context.under_way(pace)) {
            Ok(None) => typed.entry,
            Ok(Some(question)) => return Ok(Err(question)),
            Err(why) => return Err(refused(&why, context)),
        }
    };
    let ended = match context.with(&entry, &id).phase {
        Phase::Ended { why } => Some((context.run.ended_at.unwrap_or(context.at), why)),
        _ => None,
    };
    let new = RunEntryRow { id, entry, typed: text, by, at: context.at };
    Ok(Ok(context.run.append(tx, &new, ended)?))
}

/// Throws a run away that has not begun.
///
/// # Errors
/// A run that has begun, and whatever the database says no to.
pub async fn discard_run(app: &App, id: String) -> AppResult<()> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| {
        let context = RunContext::read(tx, &id, now)?;
        if context.now.phase != Phase::Before {
            return Err(AppError::field("what", "The run has begun; it is stopped, not thrown away."));
        }
        Ok(context.run.discard(tx)?)
    })
    .await
}

/// Writes into every run that is not over that the clock of this machine was set, by so many hours.
///
/// # Errors
/// Whatever the write fails with.
pub async fn note_clock_set(db: &Db, hours: f64, now: Timestamp) -> Result<(), DbError> {
    db.write(move |tx| {
        for run in RunRow::open(tx)? {
            let entry = RunEntryRow {
                id: uuid::Uuid::now_v7().to_string(),
                entry: RunEntry::ClockSet { hours },
                typed: None,
                by: Actor::named("", "this machine"),
                at: now,
            };
            run.append(tx, &entry, None)?;
        }
        Ok(())
    })
    .await
}
