//! EQ-4: read on, pause, stop, abort.

use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Hours before which no rise of gravity ends a run (EQ-4, common practice, no source).
pub const LEAST_HOURS: f64 = 2.5;
/// Rise of the mean gravity over three readings that ends a run, points (EQ-4: by simulation it leaves
/// about five points).
pub const RISE_LEFT: Points = Points::new(2.0);
/// Electrolyte at which a run is paused, °C (EQ-4, common practice, no source).
pub const PAUSE_AT: f64 = 46.0;
/// Electrolyte at which a run ends for good, °C: 125 °F (EQ-4, common practice, no source).
pub const ABORT_AT: f64 = 52.0;
/// Electrolyte under which a paused run goes on, °C (EQ-4, common practice, no source).
pub const RESUME_BELOW: f64 = 40.0;
/// A printed gravity is a multiple of a thousandth: what is on the limit is not over it, points.
const PRINTED: f64 = 1e-6;

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

/// Where a run stands.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunState {
    /// What to do.
    pub advice: Advice,
    /// Rise of the mean gravity by the averaged rule, points; none before five readings.
    pub rise: Option<Points>,
    /// Hours on equalize at which the next reading is due; none when it is over.
    pub next_reading: Option<f64>,
    /// Hours until the cap.
    pub left: f64,
}

/// The averaged rule: the last two readings against the two that lie three before them, points.
fn rise(gravities: &[f64]) -> Option<Points> {
    let [.., a, b, _, c, d] = gravities else { return None };
    Some(Points::new((f64::midpoint(*c, *d) - f64::midpoint(*a, *b)) * 1000.0))
}

/// EQ-4 on a run: readings in order of time, the hours on equalize now, and whether it is paused.
pub fn judge_run(kind: RunKind, readings: &[RunReading], now: f64, paused: bool) -> RunState {
    let gravities: Vec<f64> = readings.iter().filter_map(|r| r.gravity.map(SpecificGravity::value)).collect();
    let hottest = readings.iter().rev().find_map(|r| r.celsius);
    let rise = rise(&gravities);
    let last_gravity = readings.iter().rev().find(|r| r.gravity.is_some()).map_or(0.0, |r| r.hours);
    let flat = rise.is_some_and(|r| r.value() <= RISE_LEFT.value() + PRINTED) && last_gravity >= LEAST_HOURS;
    let cap = kind.cap();
    let advice = match hottest {
        Some(t) if t >= ABORT_AT => Advice::Abort,
        _ if kind == RunKind::Stir && now >= cap => Advice::TimeOver,
        _ if kind != RunKind::Stir && flat => Advice::Done,
        _ if now >= cap => Advice::Cap,
        Some(t) if t >= PAUSE_AT || (paused && t >= RESUME_BELOW) => Advice::Pause,
        _ => Advice::GoOn,
    };
    let every = f64::from(kind.reading_minutes()) / 60.0;
    let last = readings.last().map_or(0.0, |r| r.hours);
    RunState {
        advice,
        rise,
        next_reading: (!advice.stops()).then_some((last + every).min(cap)),
        left: (cap - now).max(0.0),
    }
}
