//! EQ-4: read on, pause, stop, abort.

use super::rising::{self, At, LEAST_HOURS};
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Electrolyte at which a run is paused, °C (EQ-4, common practice, no source).
pub const PAUSE_AT: f64 = 46.0;
/// Electrolyte at which a run ends for good, °C: 125 °F (EQ-4, common practice, no source).
pub const ABORT_AT: f64 = 52.0;
/// Electrolyte under which a paused run goes on, °C (EQ-4, common practice, no source).
pub const RESUME_BELOW: f64 = 40.0;
/// What a run is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RunKind {
    /// Cells have drifted apart, or stay short of full.
    Corrective,
    /// By the calendar.
    Preventive,
    /// A short one against layers; it ends by time alone.
    Stir,
}

impl RunKind {
    /// The longest it goes, h (EQ-4).
    pub const fn cap(self) -> f64 {
        match self {
            Self::Corrective => 8.0,
            Self::Preventive => 3.0,
            Self::Stir => 1.0,
        }
    }

    /// Minutes between two readings (EQ-4).
    pub const fn reading_minutes(self) -> u32 {
        match self {
            Self::Corrective | Self::Preventive => 30,
            Self::Stir => 15,
        }
    }
}

/// One reading of a run.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunReading {
    /// Hours on equalize until then, pauses not counted.
    pub hours: f64,
    /// Mean corrected gravity of the pilot and the two lowest cells; none: only the temperature was read.
    #[serde(default)]
    pub gravity: Option<SpecificGravity>,
    /// Hottest electrolyte, °C; none: not read.
    #[serde(default)]
    pub celsius: Option<f64>,
}

/// What to do now.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Advice {
    /// Go on and read again when due.
    GoOn,
    /// Pause the charger until it has cooled.
    Pause,
    /// Go on: a cell well under full has not started to rise; after four hours the choice is the
    /// technician's.
    NotAnswering,
    /// Read again, and look at the levels and the charger: the gravity falls.
    Falling,
    /// Stop: the gravity has stopped rising.
    Done,
    /// Stop a stir: its time is over.
    TimeOver,
    /// Stop at the cap: stopped, not finished.
    Cap,
    /// Stop for good: too hot.
    Abort,
}

impl Advice {
    /// True when the charger is to be stopped and the run is over.
    pub const fn stops(self) -> bool {
        matches!(self, Self::Done | Self::TimeOver | Self::Cap | Self::Abort)
    }
}

/// A run so far, as EQ-4 looks at it.
#[derive(Debug, Clone, Copy)]
pub struct RunSoFar<'a> {
    /// What it is for.
    pub kind: RunKind,
    /// Readings in order of time.
    pub readings: &'a [RunReading],
    /// Each cell that is followed, by itself: hours on equalize and corrected gravity. Empty: the mean stands
    /// for them.
    pub followed: &'a [Vec<(f64, SpecificGravity)>],
    /// Full gravity of the model.
    pub full: SpecificGravity,
    /// Uncertainty of one reading of one cell.
    pub noise: Points,
    /// Hours on equalize now.
    pub now: f64,
    /// True while it is paused for heat.
    pub paused: bool,
}

/// Where a run stands.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunState {
    /// What to do.
    pub advice: Advice,
    /// Rise of the mean gravity over the last two hours, points an hour; none while too little was read.
    pub slope: Option<f64>,
    /// Points that are still to come by the curve through all readings; none while too little was read.
    pub to_come: Option<Points>,
    /// Hours on equalize at which the next reading is due; none when it is over.
    pub next_reading: Option<f64>,
    /// Hours until the cap.
    pub left: f64,
}

fn points(gravity: SpecificGravity) -> f64 {
    (gravity.value() - 1.0) * 1000.0
}

/// EQ-4 on a run.
pub fn judge_run(run: &RunSoFar<'_>) -> RunState {
    let mean: Vec<At> = run.readings.iter().filter_map(|r| Some((r.hours, points(r.gravity?)))).collect();
    // The mean of three cells scatters less than one.
    let (one, three) = (run.noise.value(), run.noise.value() / 3.0_f64.sqrt());
    let slope = rising::slope(&mean, three);
    let cells: Vec<Vec<At>> = if run.followed.is_empty() {
        vec![mean.clone()]
    } else {
        run.followed.iter().map(|own| own.iter().map(|(t, g)| (*t, points(*g))).collect()).collect()
    };
    let long = mean.last().is_some_and(|r| r.0 >= LEAST_HOURS - 1e-9);
    let silent = long && cells.iter().any(|own| rising::does_not_answer(own, points(run.full), one));
    let cap = run.kind.cap();
    // Too hot once is too hot for good, however cool the next reading is.
    let hottest = run.readings.iter().filter_map(|r| r.celsius).reduce(f64::max);
    let last = run.readings.iter().rev().find_map(|r| r.celsius);
    let advice = match last {
        _ if hottest.is_some_and(|t| t >= ABORT_AT) => Advice::Abort,
        _ if run.kind == RunKind::Stir && run.now >= cap => Advice::TimeOver,
        _ if run.now >= cap => Advice::Cap,
        // Nobody goes on after a pause without knowing how warm it is.
        Some(t) if t >= PAUSE_AT || (run.paused && t >= RESUME_BELOW) => Advice::Pause,
        None if run.paused => Advice::Pause,
        _ if run.kind == RunKind::Stir => Advice::GoOn,
        _ if rising::falls(&mean, three) => Advice::Falling,
        _ if silent => Advice::NotAnswering,
        _ if rising::is_done(&mean, three) => Advice::Done,
        _ => Advice::GoOn,
    };
    let every = f64::from(run.kind.reading_minutes()) / 60.0;
    let latest = run.readings.last().map_or(0.0, |r| r.hours);
    RunState {
        advice,
        slope: slope.map(|(slope, _)| slope),
        to_come: slope.and_then(|_| rising::to_come(&mean)).map(Points::new),
        next_reading: (!advice.stops()).then_some((latest + every).min(cap)),
        left: (cap - run.now).max(0.0),
    }
}
