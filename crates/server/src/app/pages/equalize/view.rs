//! What the page of an equalize shows.

use crate::app::pages::breakdown::BreakdownLine;
use crate::app::typed::conditions::TypedTemperature;
use rainshadow_core::equalize::RunKind;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::Figure;
use serde::Serialize;
use utoipa::ToSchema;

/// A kind of run.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunKindView {
    /// Which.
    pub kind: RunKind,
    /// Its name.
    pub name: String,
    /// What it is for.
    pub purpose: &'static str,
    /// True for the one that is wanted.
    pub wanted: bool,
}

/// What a house says.
#[derive(Debug, Serialize, ToSchema)]
pub struct HouseView {
    /// True for the bank's own.
    pub own: bool,
    /// In one line.
    pub said: String,
    /// True when it wants one.
    pub wants: bool,
}

/// A figure of the plan with how it comes about.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanFigure {
    /// What.
    pub name: &'static str,
    /// Its value.
    pub value: String,
    /// Its unit.
    pub unit: &'static str,
    /// How it comes about.
    pub how: String,
}

impl From<Figure> for PlanFigure {
    fn from(figure: Figure) -> Self {
        let Figure { name, value, unit, how } = figure;
        Self { name, value, unit, how }
    }
}

/// A load against the volts of the run.
#[derive(Debug, Serialize, ToSchema)]
pub struct LoadView {
    /// What it is.
    pub name: String,
    /// The highest it takes, V.
    pub highest: String,
    /// True when it must be disconnected.
    pub disconnect: bool,
}

/// A cell a run would be watched by.
#[derive(Debug, Serialize, ToSchema)]
pub struct WatchedBefore {
    /// Address.
    pub cell: String,
    /// Gravity on the last round; empty: not read.
    pub gravity: String,
}

/// A plan in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanView {
    /// Volts of the bank.
    pub setpoint: String,
    /// What to type into a charger that compensates by itself.
    pub typed_compensating: String,
    /// How it comes about, line by line.
    pub breakdown: Vec<BreakdownLine>,
    /// Current, hours, water, air, fan.
    pub figures: Vec<PlanFigure>,
    /// Loads with their highest volts.
    pub loads: Vec<LoadView>,
    /// Sun, fuel and dark.
    pub day: Vec<String>,
    /// How the day stands.
    pub day_condition: Severity,
    /// What the charger's own equalize setting does; empty: not told.
    pub charger: String,
    /// How it stands.
    pub charger_condition: Severity,
    /// Cells the run is watched by, pilot first, with their last gravity.
    pub watched: Vec<WatchedBefore>,
}

/// An earlier run.
#[derive(Debug, Serialize, ToSchema)]
pub struct EarlierRun {
    /// Id.
    pub id: String,
    /// Day as said.
    pub day: String,
    /// "corrective, 4:30, stopped by the rule".
    pub said: String,
    /// What it did; empty: no round after it yet.
    pub outcome: String,
    /// How that stands.
    pub condition: Severity,
}

/// The page.
#[derive(Debug, Serialize, ToSchema)]
pub struct EqualizePage {
    /// Bank.
    pub bank: String,
    /// Its site.
    pub site: String,
    /// Its name.
    pub name: String,
    /// In words.
    pub description: String,
    /// Day of the last round as said; empty: none.
    pub round_day: String,
    /// What to do, then why.
    pub verdict: String,
    /// True for sealed batteries without a conditioning voltage.
    pub locked: bool,
    /// True when something asks for it.
    pub asked_for: bool,
    /// Why, sentence by sentence.
    pub reasons: Vec<String>,
    /// What each house says.
    pub houses: Vec<HouseView>,
    /// Kinds of run.
    pub kinds: Vec<RunKindView>,
    /// The one that is planned.
    pub kind: RunKind,
    /// The temperature it is planned for, as it would be typed.
    pub temperature: TypedTemperature,
    /// Where that comes from.
    pub temperature_from: String,
    /// The plan; none: see why.
    pub plan: Option<PlanView>,
    /// Why there is none.
    pub refused: String,
    /// The pilot; none on sealed batteries.
    pub pilot: Option<String>,
    /// Every cell that can be one.
    pub cells: Vec<String>,
    /// Rule and source of the decision.
    pub rule: String,
    /// The run that is not over.
    pub open_run: Option<String>,
    /// Runs that are, newest first.
    pub earlier: Vec<EarlierRun>,
}
