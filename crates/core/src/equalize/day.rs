//! Whether the source lasts: sun hours or fuel against need, and when to start so that it ends before
//! dark.

use super::{Expected, RunKind};
use crate::quantity::{Bounds, OutOfRange, bounds};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Minutes that the charger is paused for a reading (EQ-4).
pub const READING_PAUSE: f64 = 5.0;

/// What charges the bank, and for how long it can.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, Default)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DaySource {
    /// Hour of day from which the sun gives the current of a run, and until; none: not by sun.
    #[serde(default)]
    pub sun: Option<(f64, f64)>,
    /// Fuel of a generator: litres an hour, and litres there are; none: no generator.
    #[serde(default)]
    pub fuel: Option<(f64, f64)>,
    /// Hour of day at which it is dark; none: not told.
    #[serde(default)]
    pub dark: Option<f64>,
}

/// Need against what there is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DayPlan {
    /// Hours by the clock, the pauses for readings among them.
    pub clock_hours: Expected,
    /// Hours of sun there are; none: not by sun.
    pub sun_hours: Option<f64>,
    /// Litres that are needed; none: no generator.
    pub litres: Option<Expected>,
    /// Litres there are.
    pub litres_there: Option<f64>,
    /// True when the day has an end that is told: dark, or the sun.
    pub ends: bool,
    /// Hour of day at which the sun is enough; none: not by sun.
    pub begins: Option<f64>,
    /// Hour of day by which to start so that even a long run ends before dark and within the sun; none:
    /// no start is early enough, or no end is told.
    pub start_by: Option<f64>,
    /// Latest hour to begin for a run of the usual length.
    pub start_by_usual: Option<f64>,
    /// False when not even a usual run fits.
    pub enough: bool,
    /// True when a long run fits too.
    pub ample: bool,
}

impl DayPlan {
    /// How the day stands: not even a usual run fits, a long one does not, or both do.
    pub const fn condition(&self) -> Severity {
        match (self.enough, self.ample) {
            (false, _) => Severity::Act,
            (true, false) => Severity::Watch,
            (true, true) => Severity::Steady,
        }
    }
}

/// Need against source (EQ-3).
///
/// # Errors
/// [`OutOfRange`] for an hour of day outside 0 to 24 or litres that cannot be.
pub fn plan_day(kind: RunKind, hours: Expected, source: &DaySource) -> Result<DayPlan, OutOfRange> {
    const HOUR: Bounds = bounds::HOUR_OF_DAY;
    const LITRES: Bounds = bounds::FUEL;
    let pauses = 1.0 + READING_PAUSE / f64::from(kind.reading_minutes());
    let clock = |h: f64| h.min(kind.cap()) * pauses;
    let clock_hours =
        Expected { low: clock(hours.low), middle: clock(hours.middle), high: clock(hours.high) };
    let sun =
        source.sun.map(|(from, to)| Ok::<_, OutOfRange>((HOUR.check(from)?, HOUR.check(to)?))).transpose()?;
    let dark = source.dark.map(|d| HOUR.check(d)).transpose()?;
    let fuel =
        source.fuel.map(|(rate, there)| Ok::<_, OutOfRange>((LITRES.check(rate)?, LITRES.check(there)?)));
    let fuel = fuel.transpose()?;
    let ends = [sun.map(|s| s.1), dark].into_iter().flatten().reduce(f64::min);
    let sun_hours = sun.map(|(from, to)| (to - from).max(0.0));
    let litres = fuel.map(|(rate, _)| Expected {
        low: rate * clock_hours.low,
        middle: rate * clock_hours.middle,
        high: rate * clock_hours.high,
    });
    let first = sun.map_or(0.0, |s| s.0);
    let in_time = |h: f64| ends.map(|end| end - h).filter(|start| *start >= first);
    let lasts = |h: f64| {
        sun_hours.is_none_or(|s| s >= h)
            && fuel.is_none_or(|(rate, there)| there >= rate * h)
            && (ends.is_none() || in_time(h).is_some())
    };
    Ok(DayPlan {
        sun_hours,
        litres,
        litres_there: fuel.map(|f| f.1),
        ends: ends.is_some(),
        begins: sun.map(|s| s.0),
        start_by: in_time(clock_hours.high),
        start_by_usual: in_time(clock_hours.middle),
        enough: lasts(clock_hours.middle),
        ample: lasts(clock_hours.high),
        clock_hours,
    })
}
