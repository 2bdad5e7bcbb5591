//! Runs that are under way, on any bank.

use crate::app::App;
use crate::app::refused::AppResult;
use crate::app::run_context::RunContext;
use crate::db::{Connection, DbError, RunRow};
use crate::words;
use rainshadow_core::equalize::Alarm;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A run that is not over, for lists.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunLine {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Where: site and bank.
    pub place: String,
    /// What to do now.
    pub verdict: String,
    /// What the room must hear; none: nothing.
    pub alarm: Option<Alarm>,
    /// Hours on equalize, "3:12".
    pub elapsed: String,
    /// Time of day of the next reading.
    pub reading_at: String,
    /// Who stays with it; empty: nobody is noted.
    pub person: String,
}

/// Runs that are not over, in words.
pub fn open_lines(
    db: &Connection,
    now: jiff::Timestamp,
    units: ReaderUnits,
) -> Result<Vec<RunLine>, DbError> {
    let line = |run| {
        let context = RunContext::of(db, run, now)?;
        Ok(RunLine {
            id: context.run.id.clone(),
            bank: context.bank.id.clone(),
            place: words::place(&context.site.name, &context.bank.name),
            verdict: context.verdict(units),
            alarm: context.now.alarm(),
            elapsed: wording::hours_minutes(context.now.elapsed),
            reading_at: context.reading_at(),
            person: context.stays(),
        })
    };
    RunRow::open(db)?.into_iter().map(line).collect()
}

/// Every run that is under way.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn runs_under_way(app: &App, units: ReaderUnits) -> AppResult<Vec<RunLine>> {
    let now = app.clock.now();
    Ok(app.db.read(move |db| open_lines(db, now, units)).await?)
}
