//! Volts of a bank on its way from full to empty: those of the cell model, with the knee laid so that it stands at 1.75 V a
//! cell when the hours of RT-1 are over.

use super::asked::RuntimeAsked;
use crate::discharge::{RatedFrom, RatedTime, USUAL_END, capacity_share, peukert_hours, rated_time};
use crate::electrolyte::{FREEZING_MARGIN, freezing_point, measured_rest_voltage};
use crate::simulator::CellKind;

/// How sharp the knee is (SM-1).
const KNEE: i32 = 8;

/// A bank of a health whose hours lie at one end of what is known.
#[derive(Debug, Clone, Copy)]
pub(super) struct Discharging<'a> {
    asked: &'a RuntimeAsked,
    /// Share of C20 that is left.
    health: f64,
    /// Which of the hours that a rate is good for.
    end: End,
    /// Share of capacity that the temperature leaves.
    share: f64,
    kind: CellKind,
}

/// Which end of a range.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum End {
    /// The least.
    Low,
    /// The best estimate.
    Best,
    /// The most.
    High,
}

impl<'a> Discharging<'a> {
    pub(super) fn new(asked: &'a RuntimeAsked, end: End) -> Self {
        let [low, high] = asked.health_range.unwrap_or([asked.health; 2]);
        let health = match end {
            End::Low => low,
            End::Best => asked.health,
            End::High => high,
        };
        Self::of_health(asked, end, health)
    }

    pub(super) fn of_health(asked: &'a RuntimeAsked, end: End, health: f64) -> Self {
        Self {
            asked,
            health: (health / 100.0).clamp(0.01, 1.0),
            end,
            share: capacity_share(asked.temperature).min(1.0),
            kind: CellKind::of(asked.model.construction),
        }
    }

    /// Hours from full to empty at a current of the bank, A (RT-1).
    pub(super) fn hours(&self, amperes: f64) -> f64 {
        let own = amperes / self.asked.strings();
        let c20 = self.asked.model.c20.ampere_hours();
        let rated = match self.asked.exponent {
            Some(k) => {
                let hours = peukert_hours(c20, own, k);
                RatedTime { hours, low: hours, high: hours, from: RatedFrom::Peukert }
            }
            None => rated_time(&self.asked.model, own),
        };
        let hours = match self.end {
            End::Low => rated.low,
            End::Best => rated.hours,
            End::High => rated.high,
        };
        // Never more than the capacity at twenty hours (RT-1).
        hours.min(c20 / own) * self.health * self.share
    }

    /// Charge, per cent, under which a cold bank does not go: its freezing point stands 6 °C under its temperature.
    pub(super) fn floor(&self) -> f64 {
        charge_frozen_under(self.asked, self.asked.temperature - FREEZING_MARGIN)
    }

    /// Ah that the whole bank may give before it stands within the freezing margin.
    pub(super) fn until_freezing(&self) -> f64 {
        let share = ((self.asked.charged - self.floor()) / 100.0).max(0.0);
        share * self.full()
    }

    /// Ah of the whole bank when full.
    fn full(&self) -> f64 {
        self.asked.model.c20.ampere_hours() * self.asked.strings() * self.health
    }

    /// Volts of a cell without its knee, by the charge that is left, per cent, and the current of the bank, A.
    fn before_knee(&self, charge: f64, amperes: f64) -> f64 {
        let rate = amperes / (self.asked.model.c20.ampere_hours() * self.asked.strings());
        let rest = measured_rest_voltage(self.asked.model.gravity_at(charge));
        let worse = 1.0 + 2.0 * (1.0 - self.health);
        let cold = (-0.012 * (self.asked.temperature - 25.0)).exp();
        rest - self.kind.discharge_resistance * worse * cold * rate - 0.012 * (rate / 0.01).asinh()
    }

    /// Volts of the bank with a part of its hours used, 0 full to 1 empty, after so many Ah, under a current, A.
    pub(super) fn volts(&self, used: f64, drawn: f64, amperes: f64) -> f64 {
        let charge = (self.asked.charged - 100.0 * drawn / self.full()).clamp(0.0, 100.0);
        let at_end = (100.0 - 100.0 * amperes * self.hours(amperes) / self.full()).clamp(0.0, 100.0);
        let over = self.before_knee(at_end, amperes) - USUAL_END;
        let bend = if over > 0.0 { used.powi(KNEE) } else { used };
        self.asked.cells() * (self.before_knee(charge, amperes) - over * bend)
    }
}

/// Charge, per cent, at which the electrolyte freezes at a temperature, °C; 0 where even an empty one does not.
pub(super) fn charge_frozen_under(asked: &RuntimeAsked, celsius: f64) -> f64 {
    let freezes = |percent: f64| freezing_point(asked.model.gravity_at(percent));
    if freezes(0.0) <= celsius {
        return 0.0;
    }
    if freezes(100.0) > celsius {
        return 100.0;
    }
    let (mut low, mut high) = (0.0, 100.0);
    for _ in 0..40 {
        let middle = f64::midpoint(low, high);
        if freezes(middle) > celsius { low = middle } else { high = middle }
    }
    high
}
