//! What the page of a visit shows.

use super::{CheckView, RestView, WaterView};
use crate::app::due_told::VisitDue;
use crate::db::AccessNotes;
use crate::http::photo_files::PhotoView;
use rainshadow_core::bank::Plan;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Caution, ClosingItem, StepProgress, Work};
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
    pub condition: Severity,
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
    pub condition: Severity,
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
    /// Version of the bank, for If-Match when its access notes are changed.
    pub bank_version: i64,
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
