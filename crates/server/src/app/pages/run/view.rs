//! What the page of a run shows.

use crate::app::pages::breakdown::{BreakdownLine, WithinView};
use rainshadow_core::bank::Plan;
use rainshadow_core::equalize::{Alarm, BeforeCheck, RunKind};
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::SpokenFinding;
use serde::Serialize;
use utoipa::ToSchema;

/// A cell the run is watched by.
#[derive(Debug, Serialize, ToSchema)]
pub struct WatchedCell {
    /// Address.
    pub cell: String,
    /// "pilot" or "low".
    pub role: &'static str,
    /// Its last gravity in this run; empty: not read yet.
    pub gravity: String,
    /// What it gained since the first reading of this run, in words; empty: nothing to tell.
    pub gained: String,
}

/// One thing to see to before it begins.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckToSee {
    /// Which.
    pub check: BeforeCheck,
    /// Its name.
    pub name: String,
    /// What is seen to.
    pub what: String,
    /// Who confirmed it or left it out, and when; none: open.
    pub by: Option<String>,
    /// Why it was left out; empty: it was not.
    pub reason: String,
}

/// One reading as it is listed and drawn.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingLine {
    /// Its entry.
    pub id: String,
    /// "10:30".
    pub at: String,
    /// Hours on equalize.
    pub hours: f64,
    /// Gravity of each watched cell; empty: not read.
    pub gravities: Vec<String>,
    /// Their mean, for the chart; none where not all were read.
    pub mean: Option<f64>,
    /// Mean gravity in words.
    pub mean_said: String,
    /// Hottest electrolyte in the reader's unit, for the chart.
    pub temperature: Option<f64>,
    /// In words.
    pub temperature_said: String,
    /// In words; empty: not read.
    pub volts: String,
    /// In words; empty: not read.
    pub amperes: String,
    /// True when the volts were not typed but told by the charger.
    pub volts_told: bool,
    /// True when the amperes were not typed but told by the charger.
    pub amperes_told: bool,
    /// Who.
    pub by: String,
}

/// A point of a curve.
#[derive(Debug, Serialize, ToSchema)]
pub struct CurvePoint {
    /// Hours on equalize.
    pub hours: f64,
    /// Gravity.
    pub gravity: f64,
}

/// What the chart draws besides readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunChart {
    /// Hours to the right end.
    pub cap: f64,
    /// Hours before which the gravity ends nothing.
    pub least: f64,
    /// The curve that fits best, from the first reading to the forecast end; empty: no forecast.
    pub curve: Vec<CurvePoint>,
    /// Plateau: lowest, best, highest.
    pub plateau: Option<WithinView>,
    /// Hours at which it is forecast to end: soonest, likely, latest.
    pub ends: Option<WithinView>,
    /// Hours of the next reading.
    pub next: Option<f64>,
    /// Hours over which the rule takes the slope.
    pub window: f64,
    /// Gravity at or under which the next reading ends the run.
    pub ends_at: Option<f64>,
    /// Temperature that pauses it, in the reader's unit.
    pub pause_at: f64,
    /// Temperature that ends it.
    pub abort_at: f64,
    /// "°C".
    pub degrees: &'static str,
}

/// What the feed says.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedView {
    /// True when a charger is connected at all.
    pub connected: bool,
    /// True while it answers.
    pub live: bool,
    /// In words.
    pub said: String,
    /// How it stands.
    pub condition: Severity,
    /// Samples that were marked during the run.
    pub marked: i64,
    /// Volts of the last sample that counts; empty: none.
    pub volts: String,
    /// Amperes of it.
    pub amperes: String,
    /// Temperature of it.
    pub temperature: String,
}

/// How a cell lies against the bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellMark {
    /// Points from the median.
    pub deviation: f64,
    /// In words: "−12".
    pub said: String,
    /// Its mark.
    pub condition: Severity,
}

/// One cell before and after.
#[derive(Debug, Serialize, ToSchema)]
pub struct AnswerCell {
    /// Address.
    pub cell: String,
    /// Deviation before.
    pub before: CellMark,
    /// Deviation after.
    pub after: CellMark,
    /// In words: "−45 to −12".
    pub said: String,
    /// True when it did not answer.
    pub non_responding: bool,
}

/// What comes after the run, and what it did.
#[derive(Debug, Serialize, ToSchema)]
pub struct AfterView {
    /// Seconds of rest that are left before the cells are read.
    pub rest_seconds: f64,
    /// Time of day from which they are.
    pub read_from: String,
    /// The round before.
    pub round_before: Option<String>,
    /// Its day as said.
    pub before_day: String,
    /// The round after.
    pub round_after: Option<String>,
    /// True when water to the mark was noted on this visit after the run.
    pub watered: bool,
    /// The sentence; empty: not judged yet.
    pub verdict: String,
    /// Why it cannot be judged though the rounds are there; empty: it can.
    pub unread: String,
    /// What it did, with rule, tolerance and source; none: not judged yet.
    pub finding: Option<SpokenFinding>,
    /// Half-height of the steady band, points.
    pub steady_points: f64,
    /// Every cell that was read both times.
    pub cells: Vec<AnswerCell>,
}

/// A line of the log.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogLine {
    /// When.
    pub at: String,
    /// What.
    pub said: String,
    /// Who.
    pub by: String,
}

/// The page of a run.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunPage {
    /// Id.
    pub id: String,
    /// Bank.
    pub bank: String,
    /// Visit.
    pub visit: String,
    /// Site.
    pub site: String,
    /// Name of the bank.
    pub name: String,
    /// The bank in words.
    pub description: String,
    /// Kind.
    pub kind: RunKind,
    /// Its name: "corrective equalize".
    pub kind_name: String,
    /// Day as said.
    pub day: String,
    /// Who stays with it; empty: nobody is noted.
    pub person: String,
    /// `before`, `running`, `paused` or `ended`.
    pub phase: &'static str,
    /// What to do now, then why.
    pub verdict: String,
    /// What the room must hear; none: nothing.
    pub alarm: Option<Alarm>,
    /// Title of the window.
    pub title: String,
    /// What to do at the charger.
    pub stop_help: String,
    /// Seconds in which a stop can be taken back; 0: none.
    pub take_back_seconds: f64,
    /// Seconds until the next reading; negative: overdue. None: none is due.
    pub reading_seconds: Option<f64>,
    /// Its time of day.
    pub reading_at: String,
    /// Hours on equalize, "3:12".
    pub elapsed: String,
    /// Time on equalize, s.
    pub elapsed_seconds: f64,
    /// Seconds since it was paused.
    pub paused_seconds: Option<f64>,
    /// "ends any run at 8:00".
    pub cap: String,
    /// How many seconds of the clock pass in one.
    pub pace: f64,
    /// Cells it is watched by.
    pub watched: Vec<WatchedCell>,
    /// Checks before it.
    pub checks: Vec<CheckToSee>,
    /// Readings.
    pub readings: Vec<ReadingLine>,
    /// What the chart draws besides.
    pub chart: RunChart,
    /// How the rule stands.
    pub rule: String,
    /// Where it comes from.
    pub rule_source: String,
    /// The plateau and the hours left, as a sentence.
    pub forecast: String,
    /// Hottest electrolyte, in words; empty: not read.
    pub temperature: String,
    /// "pause at 46 °C, stop at 52 °C".
    pub temperature_limits: String,
    /// Volts, in words with where they come from; empty: not read.
    pub volts: String,
    /// Amperes; the same.
    pub amperes: String,
    /// Most it may have, in words.
    pub most_amperes: String,
    /// "0.54 L": at most.
    pub water: String,
    /// How that comes about.
    pub water_how: String,
    /// "20.2 m³/h".
    pub air: String,
    /// How that comes about.
    pub air_how: String,
    /// Setpoint, V.
    pub setpoint: String,
    /// How it comes about, line by line.
    pub breakdown: Vec<BreakdownLine>,
    /// The feed.
    pub feed: FeedView,
    /// What happened, newest first.
    pub log: Vec<LogLine>,
    /// Once it is over.
    pub after: Option<AfterView>,
    /// The bank from above.
    pub plan: Plan,
    /// Said when the clock of the machine was set while it ran; empty: it was not.
    pub clock: String,
    /// Unit temperatures are typed in.
    pub degrees_unit: TemperatureUnit,
}
