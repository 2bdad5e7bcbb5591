//! What the page of a bank shows.

use crate::app::due_told::VisitDue;
use crate::app::pages::equalize::EarlierRun;
use crate::app::pages::lenses::Lenses;
use crate::app::pages::trends::Trend;
use crate::db::{BankRow, ChangeView, Site, Stood};
use rainshadow_core::bank::Plan;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{Evidence, SpokenFinding};
use serde::Serialize;
use utoipa::ToSchema;

/// One cell as it is drawn.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellView {
    /// Address.
    pub cell: String,
    /// Condition.
    pub condition: Severity,
    /// Three digits of the corrected gravity, as drawn.
    pub figure: String,
    /// Corrected gravity.
    pub gravity: Option<String>,
    /// Deviation, points, for the height of the float.
    pub deviation: Option<f64>,
    /// Deviation in words: "−31".
    pub deviation_text: Option<String>,
    /// Change since the last comparable round, in words.
    pub change_text: Option<String>,
    /// State of charge, per cent.
    pub state_of_charge: Option<String>,
    /// Why there is no number.
    pub note: Option<String>,
}

/// One line of the history.
#[derive(Debug, Serialize, ToSchema)]
pub struct HistoryLine {
    /// Round.
    pub round: String,
    /// Day as said.
    pub day: String,
    /// Day to sort and plot by.
    pub date: String,
    /// Condition of the bank then.
    pub condition: Severity,
    /// Median.
    pub median: Option<f64>,
    /// Spread, points.
    pub spread: Option<f64>,
    /// Lowest cell.
    pub lowest_cell: Option<String>,
    /// Its gravity.
    pub lowest: Option<f64>,
    /// Cells judged.
    pub cells: u32,
    /// The sentence.
    pub verdict: String,
    /// True for a notebook round.
    pub notebook: bool,
    /// Who read.
    pub person: String,
}

/// One visit in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitLine {
    /// Id.
    pub id: String,
    /// Day as said.
    pub day: String,
    /// Who.
    pub person: String,
    /// True while it is open.
    pub open: bool,
    /// What was done, in a few words.
    pub done: String,
}

/// The page of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankPage {
    /// The bank.
    pub bank: BankRow,
    /// Its site.
    pub site: Site,
    /// In words.
    pub description: String,
    /// Condition by the last round.
    pub condition: Severity,
    /// The one sentence on top.
    pub verdict: String,
    /// Figures under it.
    pub evidence: Vec<Evidence>,
    /// "corrected to 25 °C".
    pub corrected: String,
    /// What is not known, as sentences.
    pub doubts: Vec<String>,
    /// The last finished round.
    pub round: Option<String>,
    /// Its day as said.
    pub round_day: Option<String>,
    /// The bank from above.
    pub plan: Plan,
    /// Its cells.
    pub cells: Vec<CellView>,
    /// Median as drawn on the scale: ".263".
    pub median_figure: Option<String>,
    /// Half-height of the steady band, points.
    pub steady_points: f64,
    /// How far a cell's corrected gravity may be off, twice its standard uncertainty: "±7 points".
    pub cell_doubt: Option<String>,
    /// What was found.
    pub findings: Vec<SpokenFinding>,
    /// Earlier rounds, newest first.
    pub history: Vec<HistoryLine>,
    /// The limit of spread, points.
    pub spread_limit: f64,
    /// Name of the house rule set that judges.
    pub house: String,
    /// An open round.
    pub open_round: Option<String>,
    /// An open visit.
    pub open_visit: Option<String>,
    /// Whole visits, newest first.
    pub visits: Vec<VisitLine>,
    /// A run that is not over.
    pub open_run: Option<String>,
    /// Runs of an equalize that are, newest first.
    pub runs: Vec<EarlierRun>,
    /// True for a bank that can be equalized at all (EQ-1).
    pub equalizes: bool,
    /// What the charger's settings do, one sentence; empty: nothing was told.
    pub charger: String,
    /// How they stand.
    pub charger_condition: Severity,
    /// What is due, most pressing first.
    pub due: Vec<VisitDue>,
    /// The lenses of the plan.
    pub lenses: Lenses,
    /// Small multiples of the years.
    pub trends: Vec<Trend>,
    /// Who stood where when, for places that ever changed.
    pub stood: Vec<Stood>,
    /// Batteries replaced or moved, newest first.
    pub changes: Vec<ChangeView>,
    /// Cells that sink among the lowest, in words; empty: none.
    pub laggards: String,
    /// False for a sealed bank, which has no gravity to read.
    pub has_caps: bool,
    /// Where the fill mark is, from the model.
    pub fill_mark: String,
    /// Where the model's figures come from.
    pub model_source: String,
    /// Name of the model.
    pub model_name: String,
    /// True while nothing is written down of it, so that it can be deleted.
    pub deletable: bool,
}
