//! LF-3: what is left of a life, by the tests on record or by its wear; never one number without its range.

use super::cycles::{LifeError, spread};
use crate::quantity::bounds;
use crate::round::{median, theil_sen};
use crate::schedule::Duty;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Tests from which a slope is told, and an interval.
const FOR_A_SLOPE: usize = 3;
const FOR_AN_INTERVAL: usize = 5;
/// How far ahead a forecast goes: times the span of the tests.
const AHEAD: f64 = 2.0;
/// Capacity at which a life ends, per cent: where it stands by, and where it is cycled (common practice, no source).
const STANDBY_END: f64 = 80.0;
const CYCLING_END: f64 = 60.0;
/// Days of a year.
const YEAR: f64 = 365.25;

/// Capacity of a day.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CapacityOnDay {
    /// Day of the test.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Per cent of the rated capacity (CT-1).
    pub percent: f64,
}

/// When a life ends.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EndOfLife {
    /// Fewer than three tests: nothing is told.
    TooFew {
        /// How many.
        tests: usize,
    },
    /// It was not seen to fall.
    NoDecline,
    /// It has ended.
    Ended,
    /// In so many years from the last test.
    Years {
        /// Best.
        best: f64,
        /// Shortest and longest; none: fewer than five tests.
        range: Option<[f64; 2]>,
    },
    /// Later than can be told from so short a record.
    Beyond {
        /// Years that can be told.
        years: f64,
        /// Shortest, where five tests tell it and it lies within.
        shortest: Option<f64>,
    },
}

/// A forecast from tests.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RemainingLife {
    /// Capacity at which it ends, per cent.
    pub end: f64,
    /// Points of capacity a year; none: fewer than three tests.
    pub per_year: Option<f64>,
    /// The 80 % interval of that; none: fewer than five.
    pub per_year_range: Option<[f64; 2]>,
    /// Capacity of the line on the day of the last test.
    pub now: Option<f64>,
    /// When it ends.
    pub ends: EndOfLife,
}

impl RemainingLife {
    /// Years from a day on, the last test being of another: best, shortest, longest; none: the tests tell no end.
    pub fn years_from(&self, last: Date, day: Date) -> Option<[f64; 3]> {
        let since = f64::from(last.until(day).map_or(0, |span| span.get_days())) / YEAR;
        match self.ends {
            EndOfLife::Ended => Some([0.0; 3]),
            EndOfLife::Years { best, range } => {
                let told = range.map_or_else(|| spread(best), |[low, high]| [best, low, high]);
                Some(told.map(|years| (years - since).max(0.0)))
            }
            EndOfLife::TooFew { .. } | EndOfLife::NoDecline | EndOfLife::Beyond { .. } => None,
        }
    }
}

/// Capacity at which a bank of a duty ends.
pub const fn end_capacity(duty: Duty) -> f64 {
    if matches!(duty, Duty::Standby) { STANDBY_END } else { CYCLING_END }
}

/// What is left by the tests on record (Theil and Sen's slope): from three tests a slope, from five an interval, and never
/// further ahead than twice the span seen.
///
/// # Errors
/// [`LifeError`] for a figure that cannot be, or two of one day.
pub fn remaining_by_tests(tests: &[CapacityOnDay], duty: Duty) -> Result<RemainingLife, LifeError> {
    let mut tests = tests.to_vec();
    tests.sort_by_key(|own| own.day);
    for own in &tests {
        bounds::TESTED_CAPACITY.check(own.percent)?;
    }
    if let Some(pair) = tests.windows(2).find(|pair| pair[0].day == pair[1].day) {
        return Err(LifeError::Twice(pair[0].day));
    }
    let end = end_capacity(duty);
    let nothing = |ends| RemainingLife { end, per_year: None, per_year_range: None, now: None, ends };
    if tests.last().is_some_and(|own| own.percent <= end) {
        let line = line(&tests);
        return Ok(RemainingLife {
            per_year: line.as_ref().map(|own| own.slope),
            now: tests.last().map(|own| own.percent),
            ..nothing(EndOfLife::Ended)
        });
    }
    let Some(own) = line(&tests) else { return Ok(nothing(EndOfLife::TooFew { tests: tests.len() })) };
    let range = (tests.len() >= FOR_AN_INTERVAL).then_some(own.range);
    Ok(RemainingLife {
        end,
        per_year: Some(own.slope),
        per_year_range: range,
        now: Some(own.now),
        ends: ends(&own, range, end),
    })
}

struct Line {
    slope: f64,
    range: [f64; 2],
    now: f64,
    span: f64,
}

fn ends(own: &Line, range: Option<[f64; 2]>, end: f64) -> EndOfLife {
    let to_go = own.now - end;
    if to_go <= 0.0 {
        return EndOfLife::Ended;
    }
    if own.slope >= 0.0 {
        return EndOfLife::NoDecline;
    }
    let most = AHEAD * own.span;
    let years = |slope: f64| if slope < 0.0 { -to_go / slope } else { f64::INFINITY };
    let best = years(own.slope);
    let shortest = range.map(|[low, _]| years(low));
    if best > most {
        return EndOfLife::Beyond { years: most, shortest: shortest.filter(|own| *own <= most) };
    }
    EndOfLife::Years { best, range: range.map(|[low, high]| [years(low), years(high).min(most)]) }
}

/// Slope, its 80 % interval, and the capacity now.
fn line(tests: &[CapacityOnDay]) -> Option<Line> {
    let (first, last) = (tests.first()?, tests.last()?);
    if tests.len() < FOR_A_SLOPE {
        return None;
    }
    let days = |day: Date| f64::from(first.day.until(day).map_or(0, |span| span.get_days()));
    let at: Vec<(f64, f64)> = tests.iter().map(|own| (days(own.day), own.percent)).collect();
    let (slope, low, high) = theil_sen(&at)?;
    let start = median(&mut at.iter().map(|(t, p)| p - slope * t / YEAR).collect::<Vec<_>>())?;
    let span = days(last.day) / YEAR;
    Some(Line { slope, range: [low, high], now: start + slope * span, span })
}
