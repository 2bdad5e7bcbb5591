//! Whether the charger equalizes at all: a gravity that does not rise on float tells nothing of a cell.

use super::timeline::On;
use super::{FeedMinute, TakenReading};
use crate::charge::COEFFICIENT;
use serde::{Deserialize, Serialize};

/// Volts a cell under the setpoint from which a charger that also gives little current does not equalize:
/// absorption lies further down (common practice, no source).
const SHORT: f64 = 0.08;
/// Volts per cell that may be missing where the current is not known (common practice, no source).
const SHORT_ALONE: f64 = 0.20;
/// Share of the least current of a run that still is one.
const NEARLY: f64 = 0.8;
/// Hours that must be told of before a run is said not to be an equalize, and the share of them that
/// must be on equalize.
const TOLD: f64 = 0.5;
const MOSTLY: f64 = 0.5;
/// Hours on equalize before anything is said: chargers take a moment.
const SETTLES: f64 = 0.1;

/// What a run is driven by, as planned.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Meant {
    /// Setpoint of the bank, V.
    pub volts: f64,
    /// Electrolyte that it was planned for, °C.
    pub celsius: f64,
    /// Least current of a run, or what the source has where that is less, A.
    pub amperes: f64,
}

/// What the charger gives instead.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OffSetpoint {
    /// Volts of the bank.
    pub volts: f64,
    /// Amperes; none: not known.
    pub amperes: Option<f64>,
}

/// How much of a run was on equalize, as far as volts and amperes tell.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Compliance {
    /// Hours that volts or amperes tell of.
    pub told: f64,
    /// Hours of those on equalize.
    pub on_equalize: f64,
    /// What the charger gave last, when that is no equalize.
    pub off_setpoint: Option<OffSetpoint>,
}

impl Compliance {
    /// False for a run that was on for the most part without an equalize; what is not known counts as one.
    pub fn is_an_equalize(&self) -> bool {
        self.told < TOLD || self.on_equalize >= MOSTLY * self.told
    }
}

impl Meant {
    /// True on equalize; none where figures do not tell.
    fn drives(
        &self,
        volts: Option<f64>,
        amperes: Option<f64>,
        celsius: Option<f64>,
        cells: f64,
    ) -> Option<bool> {
        let warmer = celsius.map_or(0.0, |c| (c - self.celsius).max(0.0));
        // A charger that compensates goes down as the bank warms (CH-2).
        let expected = self.volts + COEFFICIENT * cells * warmer;
        match (volts, amperes) {
            (Some(v), Some(a)) => Some(v >= expected - SHORT * cells || a >= NEARLY * self.amperes),
            (Some(v), None) => Some(v >= expected - SHORT_ALONE * cells),
            (None, _) => None,
        }
    }
}

/// A stretch of a run that figures tell of.
struct Told {
    until: f64,
    hours: f64,
    volts: Option<f64>,
    amperes: Option<f64>,
    celsius: Option<f64>,
}

/// How much of a run was on equalize: minutes of the feed, and readings that were typed while it was on.
pub(super) fn compliance(
    meant: Option<Meant>,
    cells: u16,
    spans: &[On],
    readings: &[TakenReading],
    feed: &[FeedMinute],
) -> Compliance {
    let Some(meant) = meant else { return Compliance::default() };
    let begun: f64 = spans.iter().map(|s| s.to - s.from).sum();
    let mut all: Vec<Told> = Vec::new();
    for minute in feed {
        let end = minute.at + minute.hours;
        let on: f64 = spans.iter().map(|s| (s.to.min(end) - s.from.max(minute.at)).max(0.0)).sum();
        if on > 0.0 {
            let (volts, amperes) = (Some(minute.volts), Some(minute.amperes));
            all.push(Told { until: end, hours: on, volts, amperes, celsius: minute.celsius });
        }
    }
    let mut before = 0.0;
    for reading in readings {
        let on = spans.iter().any(|s| s.from < reading.at && reading.at <= s.to + 1e-9);
        if on && reading.volts.is_some() {
            let TakenReading { volts, amperes, celsius, .. } = *reading;
            all.push(Told { until: reading.at, hours: reading.hours - before, volts, amperes, celsius });
        }
        before = reading.hours;
    }
    all.sort_by(|a, b| a.until.total_cmp(&b.until));
    let drives = |t: &Told| meant.drives(t.volts, t.amperes, t.celsius, f64::from(cells));
    let known: Vec<(&Told, bool)> = all.iter().filter_map(|t| Some((t, drives(t)?))).collect();
    let last = known.last().filter(|(_, on)| !on && begun >= SETTLES);
    Compliance {
        told: known.iter().map(|(t, _)| t.hours).sum(),
        on_equalize: known.iter().filter(|(_, on)| *on).map(|(t, _)| t.hours).sum(),
        off_setpoint: last.and_then(|(t, _)| Some(OffSetpoint { volts: t.volts?, amperes: t.amperes })),
    }
}
