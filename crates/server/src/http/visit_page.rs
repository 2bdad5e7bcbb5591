//! The page of a visit, in one request: its path, and what stands in every step.

mod look;
mod rest;
mod view;
mod water;

pub use look::CheckView;
pub use rest::RestView;
pub use view::VisitPage;
use view::{CautionView, ClosingView, NoteView, StepView, VisitRound, VisitRun, WorkView};
pub use water::WaterView;

use super::error::ApiResult;
use super::photo_files::PhotoView;
use super::state::AppState;
use crate::app::equalize_case::EqualizeCase;
use crate::app::run_case::RunCase;
use crate::app::visit_case::VisitCase;
use crate::db::Connection;
use crate::db::{DbError, PhotoRow, RunRow, VisitRow};
use crate::words;
use rainshadow_core::bank::walk;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Entry, Step, StepProgress, Work, cautions, closing_items, steps};
use rainshadow_core::wording::{self};

impl VisitCase {
    fn said(&self, pick: impl Fn(&Entry) -> bool) -> Option<(String, String)> {
        self.sheet.standing().find(|k| pick(&k.entry)).map(|k| (k.id.clone(), format!("{}, {}", k.by, k.at)))
    }

    fn steps(&self) -> Vec<StepView> {
        let construction = self.model.construction;
        steps(construction)
            .into_iter()
            .map(|step| {
                let mut progress = StepProgress::of(step, &self.sheet, &self.bank.shape, construction);
                if step == Step::Round {
                    progress.done = self.rounds.last().map_or(0, |(_, _, read)| *read);
                }
                let cautions = cautions(step, &self.bank.shape, construction)
                    .into_iter()
                    .map(|caution| CautionView {
                        caution,
                        text: caution.said(construction),
                        confirm: caution.confirmed(),
                        confirmed: self
                            .said(|e| matches!(e, Entry::Confirmed { caution: own } if *own == caution))
                            .map(|(_, by)| by),
                    })
                    .collect();
                StepView { progress, cautions }
            })
            .collect()
    }

    fn round_views(&self) -> Vec<VisitRound> {
        self.rounds
            .iter()
            .map(|(round, judged, read)| VisitRound {
                id: round.id.clone(),
                finished: round.finished_at.is_some(),
                read: *read,
                verdict: judged.as_ref().map(wording::verdict).unwrap_or_default(),
                condition: judged.as_ref().map_or(Severity::NoReading, |a| a.condition),
                at: words::local_minute(round.started_at, &round.zone).strftime("%-H:%M").to_string(),
            })
            .collect()
    }

    fn work(&self) -> Vec<WorkView> {
        let sealed = !self.model.construction.has_caps();
        Work::ALL
            .into_iter()
            .filter(|work| !sealed || !matches!(work, Work::Equalized | Work::CellsInspected))
            .map(|work| {
                let said = self.said(|e| matches!(e, Entry::Done { work: own, .. } if *own == work));
                let note = self.sheet.done().into_iter().find(|(own, _)| *own == work);
                let (entry, done) = said.unzip();
                WorkView {
                    work,
                    said: work.said(),
                    done,
                    entry,
                    note: note.map(|(_, n)| n).unwrap_or_default(),
                }
            })
            .collect()
    }

    fn closing(&self) -> Vec<ClosingView> {
        closing_items(self.model.construction)
            .into_iter()
            .map(|item| {
                let said = self.said(|e| matches!(e, Entry::Closed { item: own } if *own == item));
                let (entry, done) = said.unzip();
                ClosingView { item, said: item.said(), done, entry }
            })
            .collect()
    }

    fn notes(&self) -> Vec<NoteView> {
        self.sheet
            .standing()
            .filter_map(|k| match &k.entry {
                Entry::Note { text } => Some(NoteView {
                    entry: k.id.clone(),
                    text: text.clone(),
                    by: format!("{}, {}", k.by, k.at),
                }),
                _ => None,
            })
            .collect()
    }

    /// Runs of this visit, as they stand now.
    fn runs(&self, db: &Connection, now: jiff::Timestamp) -> Result<Vec<VisitRun>, DbError> {
        RunRow::of_visit(db, &self.visit)?
            .into_iter()
            .map(|run| {
                let over = run.ended_at.is_some();
                let at = run.ended_at.unwrap_or(now);
                let case = RunCase::of(db, run, at)?;
                let judged = if over { case.outcome(db)?.judged } else { None };
                Ok(VisitRun {
                    id: case.run.id.clone(),
                    said: format!(
                        "{}, {} h",
                        wording::run_kind(case.run.kind),
                        wording::hours_minutes(case.now.elapsed)
                    ),
                    verdict: judged
                        .as_ref()
                        .map_or_else(|| case.verdict(self.units), wording::outcome_verdict),
                    condition: judged.map_or(Severity::NoReading, |j| j.outcome.condition()),
                    over,
                })
            })
            .collect()
    }

    /// Whether an equalize is wanted, while the visit is open.
    fn equalize(&self, db: &Connection) -> Result<(String, bool), DbError> {
        if !self.model.construction.has_caps() || self.visit.ended_at.is_some() {
            return Ok((String::new(), false));
        }
        let case = EqualizeCase::read(db, &self.bank.id, self.today)?;
        Ok((wording::wanted_verdict(&case.wanted, self.today), case.wanted.own.kind.is_some()))
    }

    fn page(self, db: &Connection, now: jiff::Timestamp) -> Result<VisitPage, DbError> {
        let runs = self.runs(db, now)?;
        let (equalize, equalize_asked) = self.equalize(db)?;
        let photos = PhotoRow::of_visit(db, &self.visit)?;
        let before = PhotoRow::before(db, &self.visit)?;
        let photo = |row: &PhotoRow| PhotoView::of(row, &self.visit.zone);
        let day = self.visit.day();
        let opened = words::minute(self.visit.started_at, &self.visit.zone);
        Ok(VisitPage {
            description: wording::describe_bank(&self.bank.shape, &self.model),
            day: words::day(day),
            date: day.to_string(),
            opened: format!("{} on {}, {opened}", self.visit.person, self.visit.device),
            closed: self.visit.ended_at.map(|at| {
                let by = self.visit.closed_by.clone().unwrap_or_default();
                format!("{by}, {}", words::minute(at, &self.visit.zone))
            }),
            version: self.visit.version,
            has_caps: self.model.construction.has_caps(),
            access: self.bank.access.clone(),
            access_by: self.bank.access_by.clone(),
            bank_version: self.bank.version,
            steps: self.steps(),
            equalize,
            equalize_asked,
            runs,
            path: walk(&self.bank.shape.plan(), false).iter().map(ToString::to_string).collect(),
            plan: self.bank.shape.plan(),
            checks: self.checks(),
            rest: self.rest(),
            rounds: self.round_views(),
            water: self.water(),
            work: self.work(),
            closing: self.closing(),
            notes: self.notes(),
            photos: photos.iter().map(photo).collect(),
            photos_before: before.iter().map(photo).collect(),
            due: self.due(db)?,
            findings: self.findings().iter().map(wording::speak).collect(),
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
pub async fn read_page(state: &AppState, id: String, units: ReaderUnits) -> ApiResult<VisitPage> {
    let (today, now) = (state.clock.today(), state.clock.now());
    let bank = {
        let id = id.clone();
        state.db.read(move |db| Ok(VisitRow::by_id(db, &id)?.bank_id)).await?
    };
    super::fresh::read(state, super::fresh::Wanted::Bank(bank), move |db| {
        VisitCase::read(db, &id, today, units)?.page(db, now)
    })
    .await
}
