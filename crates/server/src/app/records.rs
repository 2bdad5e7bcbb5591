//! Records of monitors, controllers and inverters: taken in from files, taken out again, judged over a year.

pub mod being_read;
pub(crate) mod judged;

use super::App;
use super::fresh::{self, Wanted};
use super::refused::{AppError, AppResult};
use super::sites::name;
use crate::db::{BankRow, DbError, ModelRow, NewRecord, RecordRow, Site, Transaction, Written};
use crate::words;
use jiff::tz::TimeZone;
use judged::recorded;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::BankShape;
use rainshadow_core::charging_record::{MinuteRow, ReadToEnd, RecordedBank};
use rainshadow_core::quantity::bounds::longest;

/// A file that is about to be read.
#[derive(Debug, Clone)]
pub struct RecordAsked {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Name of its source.
    pub source_name: String,
    /// How its source writes, as JSON.
    pub source: String,
    /// The words over its columns.
    pub header: String,
    /// Name of the file.
    pub file: String,
    /// True where it tells what goes into the bank and comes out of it.
    pub net: bool,
}

/// What a file is read against.
#[derive(Debug, Clone)]
pub struct ReadAgainst {
    /// The bank.
    pub bank: RecordedBank,
    /// Zone of its site.
    pub zone: TimeZone,
    /// False where the same file was read under this id already.
    pub new: bool,
}

/// The bank that a record is of, and the zone of its site.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn bank_of_record(app: &App, bank: String) -> AppResult<(RecordedBank, TimeZone)> {
    let read = app.db.read(move |db| {
        let row = BankRow::by_id(db, &bank)?;
        let model = ModelRow::by_id(db, &row.model_id)?;
        Ok((recorded(&row, &model), words::zone(&Site::by_id(db, &row.site_id)?.zone)))
    });
    Ok(read.await?)
}

/// A bank that is not on the books, as a record of it is read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DescribedBank {
    /// Id of its battery model.
    pub model: String,
    /// V of the bank.
    pub system_voltage: u16,
    /// Strings in parallel.
    pub strings: u8,
    /// True where it stands on float day and night.
    pub standby: bool,
}

/// A bank that is described on the spot, as a record of it is read.
///
/// # Errors
/// No such model, and a bank that cannot be made of it.
pub async fn described_bank(app: &App, own: DescribedBank) -> AppResult<RecordedBank> {
    let id = own.model;
    let model = app.db.read(move |db| ModelRow::by_id(db, &id)).await?;
    let shape = BankShape::of_batteries(model.cells, own.system_voltage, own.strings)
        .map_err(|e| AppError::refused("system_voltage", &e))?;
    Ok(RecordedBank::of(&model, &shape, own.standby))
}

/// How the last file with these words over its columns was read, as JSON; none: none had.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn remembered_source(app: &App, header: String) -> AppResult<Option<String>> {
    Ok(app.db.read(move |db| RecordRow::source_of(db, &header)).await?)
}

/// Begins to read a file.
///
/// # Errors
/// A name that does not fit, and whatever the database says no to.
pub async fn begin_record(app: &App, asked: RecordAsked, by: Actor) -> AppResult<ReadAgainst> {
    name(&asked.source_name, "name", "The source")?;
    let now = app.clock.now();
    let file: String = asked.file.chars().take(longest("name")).collect();
    let (bank, zone) = bank_of_record(app, asked.bank.clone()).await?;
    let new = NewRecord {
        id: asked.id,
        bank: asked.bank,
        source: asked.source,
        header: asked.header,
        file,
        net: asked.net,
        made_at: now,
        by,
    };
    let written = app.write(move |tx| RecordRow::begin(tx, &new)).await?;
    Ok(ReadAgainst { bank, zone, new: written == Written::Created })
}

/// Keeps rows of a file that is being read; on the thread that asks.
///
/// # Errors
/// Whatever the write fails with.
pub fn keep_rows(app: &App, id: &str, rows: &[MinuteRow]) -> Result<(), DbError> {
    app.db.write_now(|tx| RecordRow::append(tx, id, rows))
}

/// Says that a file was read to its end, and works out what its bank comes to with it: whoever looks next
/// does not wait.
///
/// # Errors
/// Whatever the write fails with.
pub async fn finish_record(app: &App, id: String, bank: String, brought: ReadToEnd) -> AppResult<()> {
    let now = app.clock.now();
    let told = serde_json::to_string(&brought)
        .map_err(|e| DbError::BadRow { what: "record", why: e.to_string() })?;
    let finish = move |tx: &Transaction<'_>| {
        RecordRow::finish(tx, &id, (brought.span, &told, &brought.other_way), now)
    };
    app.write(finish).await?;
    if let Err(error) = fresh::kept(app, &Wanted::Bank(bank)).await {
        tracing::warn!(%error, "what a record tells is worked out when somebody looks");
    }
    Ok(())
}

/// Throws away what was kept of a file that could not be read to its end; on the thread that asks.
///
/// # Errors
/// Whatever the write fails with.
pub fn abandon_record(app: &App, id: &str) -> Result<(), DbError> {
    app.db.write_now(|tx| RecordRow::abandon(tx, id))
}

/// Takes a file in that was read at once, inside a write.
///
/// # Errors
/// Whatever the write fails with.
pub fn take_record(
    tx: &Transaction<'_>,
    new: &NewRecord,
    (rows, brought): (&[MinuteRow], &ReadToEnd),
) -> Result<(), DbError> {
    RecordRow::begin(tx, new)?;
    RecordRow::append(tx, &new.id, rows)?;
    let told =
        serde_json::to_string(brought).map_err(|e| DbError::BadRow { what: "record", why: e.to_string() })?;
    RecordRow::finish(tx, &new.id, (brought.span, &told, &brought.other_way), new.made_at)
}

/// What a file brought that was read before.
///
/// # Errors
/// No such record, and whatever the reading fails with.
pub async fn brought_by(app: &App, id: String) -> AppResult<ReadToEnd> {
    let row = app.db.read(move |db| RecordRow::by_id(db, &id)).await?;
    serde_json::from_str(&row.told)
        .map_err(|e| AppError::from(DbError::BadRow { what: "record", why: e.to_string() }))
}

/// Takes a record out, or puts it back: nothing of it is lost either way.
///
/// # Errors
/// No such record, and whatever the write fails with.
pub async fn withdraw_record(app: &App, id: String, out: bool, by: Actor) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| RecordRow::withdraw(tx, &id, out, (now, &by))).await?)
}
