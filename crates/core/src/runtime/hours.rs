//! Hours to the alarm and until empty, with their range, and the volts on the way.

use super::asked::RuntimeAsked;
use super::discharge_volts::{Discharging, End, charge_frozen_under};
use super::error::RuntimeError;
use super::load::Stretch;
use serde::{Deserialize, Serialize};

/// Longest that is told, h: a year. A load this small is a standing draw.
const LONGEST: f64 = 8766.0;
/// Points of the volts that are told.
const POINTS: u32 = 60;
/// Halvings to a second.
const HALVINGS: u32 = 40;

/// What ends the hours.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Ended {
    /// It is empty, or down to the volts that count as empty.
    Empty,
    /// It is as deep as it may go.
    Depth,
    /// It would stand within 6 °C of freezing.
    Freezing,
    /// A year: nobody waits for it.
    Year,
}

/// Hours, the least and the most that what is known allows.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HoursRange {
    /// Best estimate, h.
    pub hours: f64,
    /// Least, h.
    pub low: f64,
    /// Most, h.
    pub high: f64,
}

/// Volts on the way.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RuntimePoint {
    /// Hours from the beginning.
    pub hour: f64,
    /// V of the bank by the best estimate; none: it is over by then.
    pub volts: Option<f64>,
    /// At the least.
    pub low: Option<f64>,
    /// At the most.
    pub high: Option<f64>,
}

/// How long a bank holds its load.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Runtime {
    /// Mean current of the bank, A.
    pub amperes: f64,
    /// Highest current of the bank, A.
    pub most_amperes: f64,
    /// Hours to the alarm; none: there is none, or it goes after the end.
    pub alarm: Option<HoursRange>,
    /// Hours until it is over.
    pub empty: HoursRange,
    /// What ends them.
    pub ended: Ended,
    /// Ah of the bank until then.
    pub drawn: f64,
    /// Charge that is left then, per cent of what is left of its capacity.
    pub left: f64,
    /// Charge under which it would freeze at this temperature, per cent; 0: never.
    pub freezes_under: f64,
    /// Volts on the way.
    pub curve: Vec<RuntimePoint>,
}

/// One bank of the range, drained.
struct Drained {
    alarm: Option<f64>,
    empty: f64,
    ended: Ended,
    drawn: f64,
}

/// How far a bank is.
#[derive(Clone, Copy)]
struct Far {
    hour: f64,
    used: f64,
    drawn: f64,
}

struct Draining<'a> {
    asked: &'a RuntimeAsked,
    bank: Discharging<'a>,
    stretches: Vec<Stretch>,
}

impl Draining<'_> {
    /// Where it stands so many hours later into a stretch.
    fn later(&self, far: Far, own: Stretch, hours: f64) -> Far {
        if own.amperes < 1e-9 {
            return Far { hour: far.hour + hours, ..far };
        }
        let used = far.used + hours / self.bank.hours(own.amperes);
        Far { hour: far.hour + hours, used, drawn: far.drawn + own.amperes * hours }
    }

    fn volts(&self, far: Far, own: Stretch) -> f64 {
        self.bank.volts(far.used, far.drawn, own.under.max(1e-9))
    }

    /// What ends it here, if anything does.
    fn over(&self, far: Far, own: Stretch) -> Option<Ended> {
        let started = 1.0 - self.asked.charged / 100.0;
        let deep = self.asked.depth / 100.0;
        if self.bank.floor() > 0.0 && far.drawn >= self.bank.until_freezing() - 1e-9 {
            return Some(Ended::Freezing);
        }
        if far.used >= 1.0 - 1e-12 {
            return Some(Ended::Empty);
        }
        if deep < 1.0 && far.used >= started.max(deep) - 1e-12 {
            return Some(Ended::Depth);
        }
        if self.asked.empty.is_some() && own.amperes > 1e-9 && self.volts(far, own) < self.asked.empty_volts()
        {
            return Some(Ended::Empty);
        }
        None
    }

    /// The first hour into a stretch at which something holds that stays so, up to its end.
    fn first(&self, far: Far, own: Stretch, most: f64, holds: impl Fn(Far) -> bool) -> Option<f64> {
        if holds(far) {
            return Some(0.0);
        }
        if !holds(self.later(far, own, most)) {
            return None;
        }
        let (mut low, mut high) = (0.0, most);
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(low, high);
            if holds(self.later(far, own, middle)) { high = middle } else { low = middle }
        }
        Some(high)
    }

    fn drain(&self) -> Drained {
        let mut far = Far { hour: 0.0, used: 1.0 - self.asked.charged / 100.0, drawn: 0.0 };
        let mut alarm = None;
        for own in self.stretches.iter().cycle() {
            let most = own.hours.min(LONGEST - far.hour);
            let end = self.first(far, *own, most, |at| self.over(at, *own).is_some());
            let until = end.unwrap_or(most);
            if let (None, Some(set)) = (alarm, self.asked.alarm) {
                let goes = |at: Far| own.amperes > 1e-9 && self.volts(at, *own) <= set;
                alarm = self.first(far, *own, until, goes).map(|hours| far.hour + hours);
            }
            let then = self.later(far, *own, until);
            if let Some(ended) = end.and_then(|_| self.over(then, *own)) {
                return Drained { alarm, empty: then.hour, ended, drawn: then.drawn };
            }
            far = then;
            if far.hour >= LONGEST - 1e-6 {
                break;
            }
        }
        Drained { alarm, empty: far.hour, ended: Ended::Year, drawn: far.drawn }
    }

    /// Volts at an hour; none: over by then.
    fn volts_at(&self, hour: f64, empty: f64) -> Option<f64> {
        if hour > empty + 1e-9 {
            return None;
        }
        let mut far = Far { hour: 0.0, used: 1.0 - self.asked.charged / 100.0, drawn: 0.0 };
        for own in self.stretches.iter().cycle() {
            let part = own.hours.min(hour - far.hour);
            far = self.later(far, *own, part);
            if far.hour >= hour - 1e-9 {
                return Some(self.volts(far, *own));
            }
        }
        None
    }
}

fn draining(asked: &RuntimeAsked, end: End) -> Draining<'_> {
    let volts = f64::from(asked.shape.system_voltage);
    let stretches = asked.load.stretches(asked.inverter, volts);
    Draining { asked, bank: Discharging::new(asked, end), stretches }
}

/// Volts of the bank at an hour of a continuous load, by a health, per cent.
pub(super) fn volts_by_health(asked: &RuntimeAsked, health: f64, hour: f64) -> f64 {
    let volts = f64::from(asked.shape.system_voltage);
    let stretches = asked.load.stretches(asked.inverter, volts);
    let own = Draining { asked, bank: Discharging::of_health(asked, End::Best, health), stretches };
    own.volts_at(hour, f64::INFINITY).unwrap_or_default()
}

/// How long a bank holds its load (RT-1 to RT-3).
///
/// # Errors
/// [`RuntimeError`] for what cannot be.
pub fn runtime(asked: &RuntimeAsked) -> Result<Runtime, RuntimeError> {
    asked.check()?;
    let [low, best, high] = [End::Low, End::Best, End::High].map(|end| draining(asked, end));
    let [least, own, most] = [&low, &best, &high].map(Draining::drain);
    let hours = |of: fn(&Drained) -> f64| HoursRange { hours: of(&own), low: of(&least), high: of(&most) };
    let alarm = own.alarm.map(|goes| HoursRange {
        hours: goes,
        low: least.alarm.unwrap_or(least.empty).min(goes),
        high: most.alarm.unwrap_or(most.empty).max(goes),
    });
    let curve = (0..=POINTS)
        .map(|n| most.empty * f64::from(n) / f64::from(POINTS))
        .chain([own.empty, least.empty])
        .map(|hour| RuntimePoint {
            hour,
            volts: best.volts_at(hour, own.empty),
            low: low.volts_at(hour, least.empty),
            high: high.volts_at(hour, most.empty),
        });
    let mut curve: Vec<RuntimePoint> = curve.collect();
    curve.sort_by(|a, b| a.hour.total_cmp(&b.hour));
    let day: f64 = best.stretches.iter().map(|own| own.amperes).sum();
    let count = best.stretches.iter().map(|_| 1.0).sum::<f64>();
    let full = asked.model.c20.ampere_hours() * asked.strings() * (asked.health / 100.0).min(1.0);
    Ok(Runtime {
        amperes: day / count,
        most_amperes: best.stretches.iter().map(|own| own.under).fold(0.0, f64::max),
        alarm,
        empty: hours(|own| own.empty),
        ended: own.ended,
        drawn: own.drawn,
        left: (asked.charged - 100.0 * own.drawn / full).clamp(0.0, 100.0),
        freezes_under: charge_frozen_under(asked, asked.temperature),
        curve,
    })
}
