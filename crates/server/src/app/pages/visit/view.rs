//! What the page of a visit shows.

use super::{
    CheckView, ClosingView, CorrectiveView, InstrumentsView, JobView, JointsStep, LeftChoice, OnlyView,
    RechecksView, RestView, SourcesView, TestsView, VisitRound, VisitRun, WaterView, WorkView,
};
use crate::app::due_told::VisitDue;
use crate::app::pages::photo::PhotoView;
use crate::db::AccessNotes;
use rainshadow_core::bank::Plan;
use rainshadow_core::visit::{Caution, LeftAs, StepState};
use rainshadow_core::wording::SpokenFinding;
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

/// What stands in a step, by the step.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "step", rename_all = "snake_case")]
pub enum StepContent {
    /// Eyes, hands, metal, air, loads, chargers, isolation: its cautions.
    MakeSafe,
    /// The job that the visit is for.
    Job {
        /// As it stands; none: it was taken back.
        job: Option<Box<JobView>>,
    },
    /// The look-over.
    LookOver {
        /// What is looked at.
        checks: Vec<CheckView>,
        /// What charges the bank, and what was set anew.
        sources: SourcesView,
    },
    /// Volts at rest.
    RestCheck {
        /// As judged.
        rest: Box<RestView>,
        /// The meter beside another.
        instruments: InstrumentsView,
        /// What was done about it.
        corrective: CorrectiveView,
    },
    /// Every cell by hydrometer.
    Round {
        /// Rounds of this visit.
        rounds: Vec<VisitRound>,
        /// True when water was added on this visit: what is read now is unmixed.
        watered: bool,
        /// The instrument in distilled water.
        instruments: InstrumentsView,
        /// What was done about what it showed.
        corrective: CorrectiveView,
    },
    /// Levels and water.
    Water {
        /// As it stands.
        water: Box<WaterView>,
    },
    /// Equalize.
    Equalize {
        /// Whether it is wanted, in words; empty once the visit is closed.
        wanted: String,
        /// True when something asks for it.
        asked: bool,
        /// Runs of this visit.
        runs: Vec<VisitRun>,
    },
    /// Load and capacity tests.
    LoadTest {
        /// As they stand.
        tests: Box<TestsView>,
    },
    /// Joints and strings.
    Joints {
        /// As they stand.
        joints: Box<JointsStep>,
    },
    /// Everything back as it was.
    CloseUp {
        /// Work done.
        work: Vec<WorkView>,
        /// How the bank is left.
        left_as: LeftAs,
        /// How it can be left.
        left_choices: Vec<LeftChoice>,
        /// True where it is left in storage and nobody said until when.
        season_wanted: bool,
        /// The closing list.
        closing: Vec<ClosingView>,
        /// True when a round of this visit is open.
        round_open: bool,
    },
}

/// One step of the path.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepView {
    /// Its name.
    pub name: &'static str,
    /// What the technician said of it, if anything.
    pub state: Option<StepState>,
    /// Why it was skipped.
    pub reason: String,
    /// Things done in it.
    pub done: usize,
    /// Things there are to do; 0 where that is open.
    pub of: usize,
    /// Its cautions.
    pub cautions: Vec<CautionView>,
    /// What stands in it.
    #[serde(flatten)]
    pub content: StepContent,
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
    /// Its day to sort by.
    pub date: String,
    /// Who opened it, and when.
    pub opened: String,
    /// The day it was written down, where that is later than its own; none: on its day.
    pub entered_later: Option<String>,
    /// True for a visit of an earlier day that is typed later.
    pub past: bool,
    /// The one step it is for; none: a whole visit.
    pub only: Option<OnlyView>,
    /// The job it is for: "Spring check"; none: a visit like others.
    pub job: Option<&'static str>,
    /// What is looked at again later.
    pub rechecks: RechecksView,
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
    /// What stands there that whoever works there has to know.
    pub stands_there: Vec<String>,
    /// How the cables go, in the order they are connected.
    pub hook_up: Vec<String>,
    /// The technician's own numbers: "A1 is 7".
    pub own_numbers: Vec<String>,
    /// Version of the bank, for If-Match when its access notes are changed.
    pub bank_version: i64,
    /// The path.
    pub steps: Vec<StepView>,
    /// The bank from above.
    pub plan: Plan,
    /// Cells in the order they are walked.
    pub path: Vec<String>,
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
