//! The page of a visit, in one request: its path, and what stands in every step.

mod close_up;
mod corrective;
mod equalize;
mod instruments;
mod job;
mod joints;
mod look;
mod recheck;
mod rest;
mod round;
mod sources;
mod state_volts;
mod tests;
mod view;
mod water;

pub use close_up::{ClosingView, LeftChoice, WorkView};
pub use corrective::CorrectiveView;
pub use equalize::VisitRun;
pub use instruments::InstrumentsView;
pub use job::{JobAnswer, JobLineState, JobLineView, JobView, PolarityView};
pub use joints::{ClampLine, JointsStep};
pub use look::CheckView;
pub use recheck::{OnlyView, RechecksView};
pub use rest::RestView;
pub use round::VisitRound;
pub use sources::SourcesView;
pub use tests::TestsView;
pub use view::VisitPage;
use view::{CautionView, NoteView, StepContent, StepView};
pub use water::WaterView;

use super::photo::PhotoView;
use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::app::visit_context::VisitContext;
use crate::db::Connection;
use crate::db::{DbError, PhotoRow, VisitRow};
use crate::words;
use jiff::Timestamp;
use rainshadow_core::bank::walk;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{Entry, LeftAs, Measurement, Step, StepProgress, steps_of};
use rainshadow_core::wording;

impl VisitContext {
    fn said(&self, pick: impl Fn(&Entry) -> bool) -> Option<(String, String)> {
        self.sheet.standing().find(|k| pick(&k.entry)).map(|k| (k.id.clone(), self.signed(k)))
    }

    fn cautions(&self, step: Step) -> Vec<CautionView> {
        let construction = self.model.construction;
        step.cautions(&self.bank.shape, construction)
            .into_iter()
            .map(|caution| CautionView {
                caution,
                text: wording::caution(caution, construction),
                confirm: caution.confirmed(),
                confirmed: self
                    .said(|e| matches!(e, Entry::Confirmed { caution: own } if *own == caution))
                    .map(|(_, by)| by),
            })
            .collect()
    }

    /// What stands in a step.
    fn content(
        &self,
        db: &Connection,
        step: Step,
        (now, pace): (Timestamp, f64),
    ) -> Result<StepContent, DbError> {
        Ok(match step {
            Step::MakeSafe => StepContent::MakeSafe,
            Step::Job => StepContent::Job { job: self.job().map(Box::new) },
            Step::LookOver => StepContent::LookOver { checks: self.checks(), sources: self.sources_view() },
            Step::RestCheck => StepContent::RestCheck {
                instruments: self.instruments(false),
                rest: Box::new(self.rest()),
                corrective: self.corrective(Measurement::RestVolts),
            },
            Step::Round => StepContent::Round {
                instruments: self.instruments(true),
                rounds: self.round_views(),
                watered: self.sheet.water_added().any,
                corrective: self.corrective(Measurement::Gravity),
            },
            Step::Water => StepContent::Water { water: Box::new(self.water()) },
            Step::Equalize => {
                let (wanted, asked) = self.equalize(db)?;
                StepContent::Equalize { wanted, asked, runs: self.runs(db, now)? }
            }
            Step::Joints => StepContent::Joints { joints: Box::new(self.joints()) },
            Step::LoadTest => StepContent::LoadTest { tests: Box::new(self.tests(now, pace)) },
            Step::CloseUp => StepContent::CloseUp {
                work: self.work(),
                left_as: self.sheet.left_as(),
                left_choices: Self::left_choices(),
                season_wanted: self.sheet.left_as() == LeftAs::Stored && self.bank.season().is_none(),
                closing: self.closing(),
                round_open: self.rounds.iter().any(|(round, _, _)| round.finished_at.is_none()),
            },
        })
    }

    fn steps(&self, db: &Connection, now: (Timestamp, f64)) -> Result<Vec<StepView>, DbError> {
        let construction = self.model.construction;
        let view = |step: Step| {
            let mut progress = StepProgress::of(step, &self.sheet, &self.bank.shape, construction);
            if step == Step::Round {
                progress.done = self.rounds.last().map_or(0, |(_, _, read)| *read);
            }
            if step == Step::Job {
                progress.done = self.job_lines().iter().filter(|line| line.is_answered()).count();
            }
            Ok(StepView {
                name: self
                    .sheet
                    .job()
                    .filter(|_| step == Step::Job)
                    .map_or(wording::step_name(step), wording::job_name),
                state: progress.state,
                reason: progress.reason,
                done: progress.done,
                of: progress.of,
                cautions: self.cautions(step),
                content: self.content(db, step, now)?,
            })
        };
        steps_of(&self.sheet, construction).into_iter().map(view).collect()
    }

    fn notes(&self) -> Vec<NoteView> {
        self.sheet
            .standing()
            .filter_map(|k| match &k.entry {
                Entry::Note { text } => {
                    Some(NoteView { entry: k.id.clone(), text: text.clone(), by: self.signed(k) })
                }
                _ => None,
            })
            .collect()
    }

    fn page(self, db: &Connection, now: (Timestamp, f64)) -> Result<VisitPage, DbError> {
        let photos = PhotoRow::of_visit(db, &self.visit)?;
        let before = PhotoRow::before(db, &self.visit)?;
        let photo = |row: &PhotoRow| PhotoView::of(row, &self.visit.zone);
        let day = self.visit.day();
        let opened = words::minute(self.visit.started_at, &self.visit.zone);
        Ok(VisitPage {
            description: wording::describe_bank(&self.bank.shape, &self.model),
            day: words::day(day),
            date: day.to_string(),
            opened: format!("{}, {opened}", self.visit.by.said()),
            entered_later: self.entered_later().map(words::day),
            past: self.visit.is_typed_later(),
            only: self.only(),
            job: self.sheet.job().map(wording::job_name),
            rechecks: self.rechecks(),
            closed: self.visit.ended_at.map(|at| {
                let by = self.visit.closed_by.clone().unwrap_or_default();
                format!("{by}, {}", words::minute(at, &self.visit.zone))
            }),
            version: self.visit.version,
            has_caps: self.model.construction.has_caps(),
            access: self.bank.access.clone(),
            access_by: self.bank.access_by.clone(),
            stands_there: wording::what_stands_there(&self.equipment),
            hook_up: self.equipment.hook_up.iter().map(wording::connection_line).collect(),
            own_numbers: self.own_numbers(),
            bank_version: self.bank.version,
            steps: self.steps(db, now)?,
            path: walk(&self.bank.shape.plan(), false).iter().map(ToString::to_string).collect(),
            plan: self.bank.shape.plan(),
            notes: self.notes(),
            photos: photos.iter().map(photo).collect(),
            photos_before: before.iter().map(photo).collect(),
            due: self.due(db)?,
            findings: wording::speak_all(&self.findings(), self.units),
            fill_mark: self.model.fill_mark.clone(),
            model: format!("{}: {}", self.model.name, self.model.source),
            house: self.rules.name.clone(),
            site: self.site.name.clone(),
            name: self.bank.name.clone(),
            bank: self.bank.id.clone(),
            id: self.visit.id.clone(),
        })
    }
}

/// The page of a visit as this reader sees it.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn visit_page(app: &App, id: String, units: ReaderUnits) -> AppResult<VisitPage> {
    let (today, now) = (app.clock.today(), (app.clock.now(), app.clock.speed()));
    let bank = {
        let id = id.clone();
        app.db.read(move |db| Ok(VisitRow::by_id(db, &id)?.bank_id)).await?
    };
    let page = fresh::read(app, Wanted::Bank(bank), move |db| {
        VisitContext::read(db, &id, today, units)?.page(db, now)
    });
    Ok(page.await?)
}
