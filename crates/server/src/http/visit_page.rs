//! The page of a visit, in one request: its path, and what stands in every step.

mod look;
mod rest;
mod water;

pub use look::CheckView;
pub use rest::RestView;
pub use water::WaterView;

use super::equalize_case::EqualizeCase;
use super::error::ApiResult;
use super::photo_files::PhotoView;
use super::run_case::RunCase;
use super::state::AppState;
use super::visit_case::VisitCase;
use crate::db::{AccessNotes, DbError, PhotoRow, RunRow, VisitRow};
use crate::words;
use rainshadow_core::bank::{Plan, walk};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{
    Caution, ClosingItem, Entry, Step, StepProgress, Work, cautions, closing_items, steps,
};
use rainshadow_core::wording::{self, DueReader, SpokenDue, SpokenFinding};
use rusqlite::Connection;
use serde::Serialize;
use utoipa::ToSchema;

/// A caution in its step.
#[derive(Debug, Serialize, ToSchema)]
pub struct CautionView {
    /// Which.
    pub caution: Caution,
    /// What to do.
    pub text: &'static str,
    /// True when it is confirmed by name and time.
    pub confirm: bool,
    /// By whom and when; none yet.
    pub confirmed: Option<String>,
}

/// One step of the path.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepView {
    /// How far it is.
    #[serde(flatten)]
    pub progress: StepProgress,
    /// Its cautions.
    pub cautions: Vec<CautionView>,
}

/// A round of the visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitRound {
    /// Id.
    pub id: String,
    /// True when it is finished.
    pub finished: bool,
    /// Cells read.
    pub read: usize,
    /// Its sentence, once finished.
    pub verdict: String,
    /// Its condition.
    pub condition: Condition,
    /// When it began.
    pub at: String,
}

/// A run of this visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitRun {
    /// Id.
    pub id: String,
    /// "corrective, 4:30".
    pub said: String,
    /// What to do, or what it did.
    pub verdict: String,
    /// Its condition.
    pub condition: Condition,
    /// True when it is over.
    pub over: bool,
}

/// A line of the closing list.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClosingView {
    /// Which.
    pub item: ClosingItem,
    /// As asked.
    pub said: &'static str,
    /// By whom and when; none yet.
    pub done: Option<String>,
    /// Entry that said so.
    pub entry: Option<String>,
}

/// Work that is dated.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkView {
    /// Which.
    pub work: Work,
    /// As said.
    pub said: &'static str,
    /// By whom and when; none yet.
    pub done: Option<String>,
    /// Entry that said so.
    pub entry: Option<String>,
    /// In the technician's words.
    pub note: String,
}

/// A note.
#[derive(Debug, Serialize, ToSchema)]
pub struct NoteView {
    /// Entry.
    pub entry: String,
    /// The text.
    pub text: String,
    /// By whom and when.
    pub by: String,
}

/// Something due on this bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitDue {
    /// In words.
    #[serde(flatten)]
    pub said: SpokenDue,
    /// How bad waiting is.
    pub condition: Condition,
    /// When, as said.
    pub day: String,
    /// True when it is over.
    pub late: bool,
}

impl VisitDue {
    /// A due item as this reader is told of it.
    pub fn of(row: &crate::db::DueRow, reader: &DueReader) -> Self {
        Self {
            said: wording::due(&row.item, reader),
            condition: row.item.consequence_on(reader.today).condition(),
            day: wording::short_day(row.item.date, reader.today),
            late: row.item.date < reader.today,
        }
    }
}

/// The page of a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitPage {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// Site.
    pub site: String,
    /// Name of the bank within the site.
    pub name: String,
    /// The bank in words.
    pub description: String,
    /// Its day as said.
    pub day: String,
    /// The same to sort by.
    pub date: String,
    /// Who opened it, and when.
    pub opened: String,
    /// Who closed it; none while it is open.
    pub closed: Option<String>,
    /// For If-Match.
    pub version: i64,
    /// True when its batteries have caps.
    pub has_caps: bool,
    /// What a visitor must know.
    pub access: AccessNotes,
    /// Who wrote that.
    pub access_by: String,
    /// The path.
    pub steps: Vec<StepView>,
    /// The bank from above.
    pub plan: Plan,
    /// Cells in the order they are walked.
    pub path: Vec<String>,
    /// The look-over.
    pub checks: Vec<CheckView>,
    /// The rest check.
    pub rest: RestView,
    /// Rounds of this visit.
    pub rounds: Vec<VisitRound>,
    /// Levels and water.
    pub water: Option<WaterView>,
    /// Whether an equalize is wanted; empty on sealed banks.
    pub equalize: String,
    /// True when something asks for it.
    pub equalize_asked: bool,
    /// Runs of this visit.
    pub runs: Vec<VisitRun>,
    /// Work done.
    pub work: Vec<WorkView>,
    /// The closing list.
    pub closing: Vec<ClosingView>,
    /// Notes.
    pub notes: Vec<NoteView>,
    /// Photographs.
    pub photos: Vec<PhotoView>,
    /// Photographs of the last visit that has any.
    pub photos_before: Vec<PhotoView>,
    /// What is due on this bank.
    pub due: Vec<VisitDue>,
    /// Everything found on this visit, worst first.
    pub findings: Vec<SpokenFinding>,
    /// Where the fill mark is, from the model.
    pub fill_mark: String,
    /// Name of the model and where its figures come from.
    pub model: String,
    /// Name of the house rule set.
    pub house: String,
}

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
                condition: judged.as_ref().map_or(Condition::NoReading, |a| a.condition),
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
                let judged = if over { case.answer(db)?.judged } else { None };
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
                    condition: judged.map_or(Condition::NoReading, |j| j.outcome.condition()),
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
            findings: self.findings(),
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
    super::today::refresh_due(state, Some(bank)).await?;
    Ok(state.db.read(move |db| VisitCase::read(db, &id, today, units)?.page(db, now)).await?)
}
