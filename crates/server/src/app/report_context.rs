//! Everything the report of a visit is made from.

use super::App;
use super::diagnosis::diagnosed_by;
use super::due_told::VisitDue;
use super::fresh::{self, Wanted};
use super::refused::AppResult;
use super::replacements::changes_told;
use super::run_context::RunContext;
use super::run_outcomes::RunOutcome;
use super::visit_context::VisitContext;
use crate::db::{
    ChangeView, Connection, DbError, PhotoRow, PlanRow, RoundRow, RunRow, VisitRow, assessments,
};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Assessment;
use rainshadow_core::wording;

/// A run of the visit with what the rounds around it say.
pub struct ReportedRun {
    /// The run, as it stood at its end.
    pub context: RunContext,
    /// What the rounds around it say.
    pub outcome: RunOutcome,
    /// Units of the reader.
    pub units: ReaderUnits,
}

/// A visit with all that its report tells.
pub struct ReportContext {
    /// The visit.
    pub visit: VisitContext,
    /// Its photographs.
    pub photos: Vec<PhotoRow>,
    /// What is due on the bank.
    pub due: Vec<VisitDue>,
    /// The last judged round before this visit, with its day as said.
    pub before: Option<(String, Assessment)>,
    /// Its runs.
    pub runs: Vec<ReportedRun>,
    /// Batteries that were changed on its day, in words.
    pub changes: Vec<String>,
    /// Plans that were attached to it: name, and what each comes to.
    pub plans: Vec<[String; 2]>,
    /// What the bank may have by all that was on record then, for the owner; none: nothing he has to know.
    pub cause: Option<String>,
}

/// The last judged round before a visit.
fn before(db: &Connection, visit: &VisitRow) -> Result<Option<(String, Assessment)>, DbError> {
    let rounds = RoundRow::of_bank(db, &visit.bank_id)?;
    let last = rounds
        .into_iter()
        .find(|r| r.finished_at.is_some() && r.visit_id != visit.id && r.started_at < visit.started_at);
    let Some(round) = last else { return Ok(None) };
    let judged = assessments::derived(db, &round.id)?;
    Ok(judged.map(|judged| (words::day(round.day()), judged)))
}

impl ReportContext {
    /// Reads everything.
    pub(crate) fn read(db: &Connection, id: &str, today: Date, units: ReaderUnits) -> Result<Self, DbError> {
        let visit = VisitContext::read(db, id, today, units)?;
        let end = visit.visit.ended_at.unwrap_or_else(jiff::Timestamp::now);
        let run = |run: RunRow| {
            let at = run.ended_at.unwrap_or(end);
            let context = RunContext::of(db, run, at)?;
            Ok(ReportedRun { outcome: context.outcome(db)?, context, units })
        };
        let on_its_day = |c: &ChangeView| c.undone_by.is_none() && c.date == visit.visit.day().to_string();
        let changed = changes_told(db, &visit.bank)?.into_iter().rev().filter(on_its_day);
        let diagnosed = diagnosed_by(db, &visit.bank, &visit.all_visits(), visit.visit.day())?;
        Ok(Self {
            cause: wording::diagnosis_for_owner(&diagnosed.diagnosis, &diagnosed.next),
            changes: changed.map(|c| c.said).collect(),
            plans: PlanRow::of_visit(db, id)?.into_iter().map(|own| [own.name, own.said]).collect(),
            photos: PhotoRow::of_visit(db, &visit.visit)?,
            due: visit.due(db)?,
            before: before(db, &visit.visit)?,
            runs: RunRow::of_visit(db, &visit.visit)?.into_iter().map(run).collect::<Result<_, DbError>>()?,
            visit,
        })
    }
}

/// The report of a visit as `printed` makes it, and the hashes of its photographs; a closed visit keeps
/// what it was closed with.
///
/// # Errors
/// No such visit, and whatever the reading fails with.
pub async fn report_of_visit(
    app: &App,
    id: String,
    units: ReaderUnits,
    printed: fn(&ReportContext) -> String,
) -> AppResult<(String, Vec<String>)> {
    let (today, visit) = (app.clock.today(), id.clone());
    let bank = app.db.read(move |db| Ok(VisitRow::by_id(db, &visit)?.bank_id)).await?;
    let read = fresh::read(app, Wanted::Bank(bank), move |db| {
        let kept = VisitRow::by_id(db, &id)?.report.filter(|r| !r.is_empty());
        let report = match kept {
            Some(report) => report,
            None => printed(&ReportContext::read(db, &id, today, units)?),
        };
        Ok((report, PhotoRow::hashes_of_visit(db, &id)?))
    });
    Ok(read.await?)
}
