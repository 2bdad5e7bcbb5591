//! What a planner answers: one sentence, its options, figures and pictures, what it rests on.

use rainshadow_core::severity::Severity;
use rainshadow_core::visit::Job;
use serde::Serialize;
use utoipa::ToSchema;

/// A figure with its name.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanFact {
    /// What it is.
    pub name: String,
    /// As said, without its unit.
    pub value: String,
    /// Its unit; empty: none.
    pub unit: String,
    /// Its range, or what it rests on; empty: nothing.
    pub note: String,
}

impl PlanFact {
    /// A figure.
    pub fn new(name: impl Into<String>, value: impl Into<String>, unit: impl Into<String>) -> Self {
        Self { name: name.into(), value: value.into(), unit: unit.into(), note: String::new() }
    }

    /// With a note.
    #[must_use]
    pub fn note(mut self, note: impl Into<String>) -> Self {
        self.note = note.into();
        self
    }
}

/// How a school stands to an option.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SchoolSays {
    /// It would.
    Would,
    /// It may.
    May,
    /// It would not.
    WouldNot,
}

/// One school beside an option.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct SchoolView {
    /// Its name.
    pub name: String,
    /// Where it stands.
    pub says: SchoolSays,
    /// Why, in a few words; empty: as the rule says.
    pub why: String,
}

/// One way to go.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanOption {
    /// Its key.
    pub key: String,
    /// Its name.
    pub name: String,
    /// What it is, a few words; empty: its name says it.
    pub about: String,
    /// How it comes out.
    pub condition: Severity,
    /// True for the one that is advised.
    pub best: bool,
    /// Its figures, alike in all options.
    pub figures: Vec<PlanFact>,
    /// What it comes to.
    pub comes_to: String,
    /// What the schools would do; empty: they do not differ.
    pub schools: Vec<SchoolView>,
    /// Why it is refused; empty: it is not.
    pub refused: String,
    /// Where it leads on; none: nowhere.
    pub go: Option<PlanLink>,
    /// The string day by day; none: it is not told.
    pub string: Option<StringRun>,
}

/// A string of batteries as an option has it, day by day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StringRun {
    /// Which: "String B".
    pub title: String,
    /// Its batteries in electrical order; empty: it is out.
    pub batteries: Vec<String>,
    /// Place of the one that is replaced.
    pub own: usize,
    /// Some of its days, the last among them; empty: it is out.
    pub days: Vec<StringDay>,
}

/// A string at the end of the charge of a day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StringDay {
    /// Which day, from 1.
    pub day: u16,
    /// Charge of each battery, per cent.
    pub charges: Vec<f64>,
    /// How full each is.
    pub conditions: Vec<Severity>,
    /// Volts of each: "6.34 V".
    pub volts: Vec<String>,
}

/// Where an option leads on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlanLink {
    /// What it says.
    pub label: String,
    /// A page of the application.
    pub to: String,
}

/// How a series is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SeriesLook {
    /// The one that is advised: strong.
    Best,
    /// Another one.
    Other,
    /// One that ends badly.
    Bad,
    /// A field from the head of the picture down to the line.
    Field,
    /// Dots that were measured.
    Dots,
    /// Between a low and a high: points come in pairs, lows first and back along the highs.
    Band,
    /// Bars from the foot.
    Bars,
    /// Dots by themselves.
    Marks,
}

/// A line of a picture.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanSeries {
    /// Its name, said at its end.
    pub name: String,
    /// How it is drawn.
    pub look: SeriesLook,
    /// Along and up.
    #[schema(value_type = Vec<Vec<f64>>)]
    pub points: Vec<[f64; 2]>,
}

/// What runs along the foot of a picture.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ChartFoot {
    /// Days, as milliseconds since 1970.
    Days,
    /// Hours from the beginning.
    Hours,
    /// Months, 0.5 is the middle of January.
    Months,
    /// Any figure.
    Figure,
}

/// A level line across a picture.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ChartLimit {
    /// Where.
    pub at: f64,
    /// What it is.
    pub name: String,
}

/// A picture.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanChart {
    /// What it shows.
    pub title: String,
    /// Unit of its height.
    pub unit: String,
    /// What runs along its foot.
    pub foot: ChartFoot,
    /// Unit of the foot where it is any figure.
    pub foot_unit: String,
    /// From where to where it goes up; none: around what is shown.
    pub span: Option<[f64; 2]>,
    /// Its lines.
    pub series: Vec<PlanSeries>,
    /// Limits across it.
    pub limits: Vec<ChartLimit>,
    /// What it says, for the ear.
    pub spoken: String,
}

/// A day of a plan.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlanDate {
    /// The day.
    pub day: String,
    /// As said.
    pub said: String,
    /// What is done.
    pub what: String,
    /// The job that a visit of that day is for; none: a look like others.
    pub job: Option<Job>,
}

/// A list to work through, in order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlanList {
    /// Its heading.
    pub title: String,
    /// Line by line.
    pub lines: Vec<String>,
    /// The job that a visit works it through as; none: it is only read.
    pub job: Option<Job>,
    /// What a reminder of that day says; empty: none is offered.
    pub remind: String,
}

/// A table of any columns.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlanTable {
    /// Its heading.
    pub title: String,
    /// Heads of its columns.
    pub heads: Vec<String>,
    /// Row by row.
    pub rows: Vec<Vec<String>>,
}

/// What a planner answers.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanAnswer {
    /// The one sentence.
    pub said: String,
    /// A few figures under it.
    pub facts: Vec<PlanFact>,
    /// Ways to go; empty: there is one.
    pub options: Vec<PlanOption>,
    /// Pictures.
    pub charts: Vec<PlanChart>,
    /// Tables.
    pub tables: Vec<PlanTable>,
    /// Days of the plan.
    pub dates: Vec<PlanDate>,
    /// Lists to work through.
    pub lists: Vec<PlanList>,
    /// Cautions.
    pub cautions: Vec<String>,
    /// What was taken for granted where nothing is known.
    pub assumptions: Vec<String>,
    /// Rule and source.
    pub rule: String,
}
