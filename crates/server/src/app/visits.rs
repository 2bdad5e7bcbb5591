//! Visits: opened, written into, closed, opened again, thrown away.

use super::App;
use super::bank_state::refresh;
use super::refused::{AppError, AppResult};
use super::report_context::ReportContext;
use crate::db::{
    BankRow, Changed, Db, DbError, ModelRow, NewVisit, RoundRow, RunRow, Site, Transaction, VisitRow,
    Written, visit_entries,
};
use crate::words;
use jiff::civil::Date;
use jiff::{Timestamp, ToSpan};
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::DischargeEvent;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{
    Entry, EntryQuestion, EntryRefused, Job, Place, Step, TestEntry, VisitEntry, VisitUnderWay, accept,
    discharge_under_way,
};

/// When a visit of a day began: now, or noon of an earlier day that is entered later.
fn started(day: Option<Date>, bank: &BankRow, zone: &str, now: Timestamp) -> AppResult<Timestamp> {
    let Some(day) = day else { return Ok(now) };
    let refuse = |said: String| AppError::field("day", said);
    let today = words::local_day(now, zone);
    if day > today {
        let said = format!("{} lies in the future; a visit is of today or earlier.", words::day(day));
        return Err(refuse(said));
    }
    if let Some(first) = bank.in_service_from().filter(|first| day < *first) {
        let said =
            format!("{} lies before the bank went into service on {}.", words::day(day), words::day(first));
        return Err(refuse(said));
    }
    if day == today {
        return Ok(now);
    }
    // A day without an hour is noon, as for a notebook round.
    let noon = day.at(12, 0, 0, 0).in_tz(zone).or_else(|_zone| day.at(12, 0, 0, 0).in_tz("UTC"));
    noon.map(|z| z.timestamp()).map_err(|e| refuse(format!("{e}.")))
}

/// A visit that is to be opened.
#[derive(Debug, Clone)]
pub struct VisitToOpen {
    /// Its id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Its civil day at the site; none: today.
    pub day: Option<Date>,
    /// The one step it is for; none: a whole visit.
    pub only: Option<Step>,
    /// The job it is for; none: a visit like others.
    pub job: Option<Job>,
    /// Who, on which device.
    pub by: Actor,
    /// The request as sent.
    pub sent: String,
}

/// Opens a visit; a bank has one open visit at most.
///
/// # Errors
/// A day that cannot be, an open visit, and whatever the database says no to.
pub async fn open_visit(app: &App, open: VisitToOpen) -> AppResult<Written> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| begin_visit(tx, open, now)).await
}

/// Opens a visit at a time, inside a write.
///
/// # Errors
/// A day that cannot be, an open visit, and whatever the database says no to.
pub fn begin_visit(tx: &Transaction<'_>, open: VisitToOpen, now: Timestamp) -> AppResult<Written> {
    let bank = BankRow::by_id(tx, &open.bank)?;
    let zone = Site::by_id(tx, &bank.site_id)?.zone;
    let visit = NewVisit {
        started_at: started(open.day, &bank, &zone, now)?,
        id: open.id,
        bank: bank.id,
        ended_at: None,
        zone,
        by: open.by,
        sent: open.sent,
    };
    let written = VisitRow::create(tx, &visit)?;
    if written == Written::Created {
        let step = open.only.map(|step| ("only", Entry::Only { step }));
        let job = open.job.map(|job| ("job", Entry::Job { job }));
        for (field, entry) in step.into_iter().chain(job) {
            opened_for(tx, &VisitRow::by_id(tx, &visit.id)?, (field, entry), now)?;
        }
    }
    Ok(written)
}

/// Says what a visit that was just opened is for: one step alone, or a job.
fn opened_for(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    (field, entry): (&'static str, Entry),
    now: Timestamp,
) -> AppResult<()> {
    let only = VisitEntry {
        id: uuid::Uuid::now_v7().to_string(),
        place: Place::Bank,
        entry,
        typed: None,
        by: visit.by.clone(),
        taken_at: now,
    };
    match add_entry(tx, visit, &only, (now, now))? {
        Ok(_) => Ok(()),
        Err(_) => Err(AppError::field(field, "Nothing is asked about a visit that is opened.")),
    }
}

/// What is typed on a visit is of: the bank and its batteries.
///
/// # Errors
/// No such visit, and whatever the database fails with.
pub async fn bank_of_visit(app: &App, visit: String) -> AppResult<(BankShape, BatteryModel)> {
    let read = app.db.read(move |db| {
        let bank = BankRow::by_id(db, &VisitRow::by_id(db, &visit)?.bank_id)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        Ok((bank.shape, model))
    });
    Ok(read.await?)
}

/// What became of an entry: it is there, or it is asked about and nothing is stored.
pub type EntryWritten<Q> = Result<Written, Q>;

/// Writes one thing down on a visit.
///
/// # Errors
/// What the core refuses, by its field, and whatever the database says no to.
pub async fn write_visit_entry(
    app: &App,
    visit: String,
    entry: VisitEntry,
) -> AppResult<EntryWritten<EntryQuestion>> {
    let (now, latest) = (app.clock.now(), app.clock.latest());
    // What is timed is timed by this machine: phones go wrong.
    let taken_at = if entry.entry.is_timed_by_machine() { now } else { entry.taken_at };
    let entry = VisitEntry { taken_at, ..entry };
    app.write_or_refuse(move |tx| {
        let visit = VisitRow::by_id(tx, &visit)?;
        add_entry(tx, &visit, &entry, (now, latest))
    })
    .await
}

/// Writes one thing down on a visit, inside a write; `latest` is the latest that any clock can show.
///
/// # Errors
/// What the core refuses, by its field, and whatever the database says no to.
pub fn add_entry(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    entry: &VisitEntry,
    (now, latest): (Timestamp, Timestamp),
) -> AppResult<EntryWritten<EntryQuestion>> {
    // What a lost answer sends again is told apart by its body, not by what is possible now.
    if !visit_entries::is_there(tx, &entry.id)? {
        let bank = BankRow::by_id(tx, &visit.bank_id)?;
        let model = ModelRow::by_id(tx, &bank.model_id)?;
        let sheet = visit_entries::sheet(tx, visit)?;
        let under_way = VisitUnderWay {
            shape: &bank.shape,
            model: &model,
            sheet: &sheet,
            taking: visit.taking().is_ok(),
        };
        match accept((entry.place, &entry.entry, entry.taken_at), &under_way, latest) {
            Ok(None) => {}
            Ok(Some(question)) => return Ok(Err(question)),
            Err(EntryRefused::VisitClosed) => visit.taking()?,
            Err(why) => return Err(AppError::refused(why.field(), &why)),
        }
    }
    Ok(Ok(visit_entries::append(tx, visit, entry, now)?))
}

/// Closes a visit that still has the version the person saw; its report is kept as `printed` makes it, in
/// these units.
///
/// # Errors
/// A run or a round that is open on it, and whatever the database says no to.
pub async fn close_visit(
    app: &App,
    (id, version): (String, i64),
    by: Actor,
    units: ReaderUnits,
    printed: fn(&ReportContext) -> String,
) -> AppResult<Changed<VisitRow>> {
    let (now, today) = (app.clock.now(), app.clock.today());
    let closed = app.write(move |tx| {
        end_visit(tx, (&id, version), &by, now, |row| {
            refresh(tx, &row.bank_id)?;
            Ok(printed(&ReportContext::read(tx, &row.id, today, units)?))
        })
    });
    Ok(closed.await?)
}

/// Closes a visit at a time, inside a write; its report is made when nothing speaks against closing it.
///
/// # Errors
/// A run or a round that is open on it, and whatever the database says no to.
pub fn end_visit(
    tx: &Transaction<'_>,
    (id, version): (&str, i64),
    by: &Actor,
    now: Timestamp,
    report: impl FnOnce(&VisitRow) -> Result<String, DbError>,
) -> Result<Changed<VisitRow>, DbError> {
    let row = VisitRow::by_id(tx, id)?;
    if BankRow::by_id(tx, &row.bank_id)?.archived_at.is_some() {
        return Err(DbError::Archived);
    }
    // Nobody leaves while the charger is on equalize.
    if let Some(run) = RunRow::open_of(tx, &row.bank_id)?.filter(|run| run.visit_id == row.id) {
        return Err(run.under_way());
    }
    if let Some(open) = RoundRow::open_on(tx, &row.id)? {
        return Err(open);
    }
    let sheet = visit_entries::sheet(tx, &row)?;
    if discharge_under_way(&sheet).is_some() {
        return Err(DbError::DischargeOn { visit: row.id });
    }
    // Before the report is made, which tells what comes next.
    if let Some(job) = sheet.job().filter(|_| row.ended_at.is_none() && row.version == version) {
        let until = row.day().checked_add(job.done_early().days()).unwrap_or_else(|_far| row.day());
        for answered in job.answers() {
            crate::db::job_done(tx, (&row.bank_id, *answered), until, &by.initials)?;
        }
    }
    VisitRow::close(tx, id, version, by, &report(&row)?, now)
}

/// Opens a closed visit again, for what was forgotten.
///
/// # Errors
/// Another visit that is open, and whatever the database says no to.
pub async fn reopen_visit(app: &App, id: String, version: i64, by: Actor) -> AppResult<Changed<VisitRow>> {
    let now = app.clock.now();
    Ok(app.write(move |tx| VisitRow::reopen(tx, &id, version, &by, now)).await?)
}

/// Throws a visit away in which nothing is written down.
///
/// # Errors
/// Something that is written down, and whatever the database says no to.
pub async fn discard_visit(app: &App, id: String) -> AppResult<()> {
    Ok(app.write(move |tx| VisitRow::discard(tx, &id)).await?)
}

/// Writes into every discharge that is on that the clock of this machine was set, by so many hours.
///
/// # Errors
/// Whatever the write fails with.
pub async fn note_clock_set_in_discharges(db: &Db, hours: f64, now: Timestamp) -> Result<(), DbError> {
    db.write(move |tx| {
        for visit in VisitRow::all_open(tx)? {
            let sheet = visit_entries::sheet(tx, &visit)?;
            let Some(on) = discharge_under_way(&sheet) else { continue };
            let entry = VisitEntry {
                id: uuid::Uuid::now_v7().to_string(),
                place: on.begun.place,
                entry: Entry::Test {
                    test: TestEntry::Discharge { event: DischargeEvent::ClockSet { hours } },
                },
                typed: None,
                by: Actor::named("", "this machine"),
                taken_at: now,
            };
            visit_entries::append(tx, &visit, &entry, now)?;
        }
        Ok(())
    })
    .await
}
