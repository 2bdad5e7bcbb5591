//! SD-2: one way to leave a bank, worked out hour by hour and told day by day.

use super::checks::{StorageCheck, checks};
use super::stored_day::{RECHARGE_AT, RechargeWhy, StoredDay};
use super::{StorageAsked, StorageWay};
use crate::charge::{COEFFICIENT, FLOAT_LEAST, returned};
use crate::electrolyte::{FREEZING_MARGIN, freezing_point};
use crate::simulator::CellKind;
use crate::water::millilitres_per_ampere_hour;
use jiff::ToSpan;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Hours about noon that a winter harvest is spread over (our choice, no source).
const HARVEST_HOURS: std::ops::Range<u8> = 9..15;
/// A maintainer gives so much, share of C20 an hour, at most (our choice, no source).
const MAINTAINER: f64 = 0.01;

/// Where the ampere-hours of the bank went.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StorageAccount {
    /// Into the bank, Ah.
    pub charged: f64,
    /// Out of it, to what draws, Ah.
    pub drawn: f64,
    /// Lost by itself, Ah.
    pub self_discharged: f64,
    /// Lost on the way in, and to gas, Ah.
    pub not_stored: f64,
    /// Change of what is stored, Ah.
    pub stored: f64,
}

/// One way, worked out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StoredWay {
    /// Which.
    pub way: StorageWay,
    /// Day by day, the day it is left first; nothing is charged meanwhile but what the way itself charges.
    pub days: Vec<StoredDay>,
    /// The day of the least margin to freezing.
    pub worst: StoredDay,
    /// The day of the least charge.
    pub lowest: StoredDay,
    /// First day within the freezing margin; none: never.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub danger: Option<Date>,
    /// First and last day on which it would freeze; none: never.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Vec<String>>))]
    pub freezing: Option<[Date; 2]>,
    /// Days on which it is charged full, each the first that asks for it after the one before; and why.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<(String, RechargeWhy)>))]
    pub recharges: Vec<(Date, RechargeWhy)>,
    /// Days it is looked at between, with what to expect; those of its recharges left out.
    pub checks: Vec<StorageCheck>,
    /// Water that a cell loses, mL.
    pub water: f64,
    /// Day on which its plates would show; none: never, or not known.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub dry: Option<Date>,
    /// Where its ampere-hours went.
    pub account: StorageAccount,
}

/// A bank that stands, hour by hour.
struct Standing<'a> {
    asked: &'a StorageAsked,
    way: &'a StorageWay,
    /// Ah when full, and now.
    capacity: f64,
    stored: f64,
    water: f64,
    account: StorageAccount,
}

impl Standing<'_> {
    /// Mean air around it and the coldest on a day, °C.
    fn air(&self, day: Date) -> [f64; 2] {
        match self.way {
            StorageWay::Indoors { mean, low } => [*mean, *low],
            _ => [self.asked.air.mean(day), self.asked.air.low(day)],
        }
    }

    /// Puts in so many Ah: what does not fit gasses, up to what the volts of the source drive.
    fn charge(&mut self, offered: f64, held: f64, celsius: f64) {
        let factor = returned(self.asked.model.construction);
        let room = (self.capacity - self.stored).max(0.0);
        let taken = offered.min(room * factor);
        self.stored += taken / factor;
        let gas = (self.gassing(held, celsius) * self.asked.model.c20.ampere_hours())
            * f64::from(self.asked.shape.parallel);
        // Only once it is full do the volts stand at float: for what is left of the hour.
        let left = offered - taken;
        let gassed = if left > 0.0 { (gas * left / offered).min(left) } else { 0.0 };
        let kind = CellKind::of(self.asked.model.construction);
        let by_cell = gassed / f64::from(self.asked.shape.parallel);
        self.water += millilitres_per_ampere_hour() * by_cell * (1.0 - kind.recombined);
        self.account.charged += taken + gassed;
        self.account.not_stored += taken - taken / factor + gassed;
    }

    /// Gassing at volts per cell, share of C20 an hour.
    fn gassing(&self, volts: f64, celsius: f64) -> f64 {
        CellKind::of(self.asked.model.construction).gassing_at(self.asked.age, volts, celsius)
    }

    /// One hour.
    fn hour(&mut self, day: Date, hour: u8, celsius: f64) {
        let lost = self.stored * self.asked.loss.a_day(celsius) / 24.0;
        self.stored -= lost;
        self.account.self_discharged += lost;
        let float = self.asked.model.setpoints.float;
        let compensated = |volts: f64| (volts + COEFFICIENT * (celsius - 25.0)).max(FLOAT_LEAST);
        match self.way {
            StorageWay::Disconnected | StorageWay::Indoors { .. } => {}
            StorageWay::OnLoads { amperes } => self.draw(*amperes),
            StorageWay::OnArray { amperes, harvest, snow } => {
                let month = usize::from(day.month().unsigned_abs()) - 1;
                let all = harvest[month] * snow[month];
                let hours = f64::from(HARVEST_HOURS.end - HARVEST_HOURS.start);
                let sun = if HARVEST_HOURS.contains(&hour) { all / hours } else { 0.0 };
                if sun > *amperes {
                    self.charge(sun - amperes, compensated(float), celsius);
                } else {
                    self.draw(amperes - sun);
                }
            }
            StorageWay::Maintained { volts, follows } => {
                let own = volts.unwrap_or(float);
                let held = if *follows { compensated(own) } else { own };
                let most = MAINTAINER * self.asked.model.c20.ampere_hours();
                self.charge(most * f64::from(self.asked.shape.parallel), held, celsius);
            }
        }
    }

    fn draw(&mut self, amperes: f64) {
        let drawn = amperes.min(self.stored);
        self.stored -= drawn;
        self.account.drawn += drawn;
    }

    fn shown(&self, day: Date) -> StoredDay {
        let charge = (100.0 * self.stored / self.capacity).clamp(0.0, 100.0);
        let gravity = self.asked.model.gravity_at(charge);
        let [mean, coldest] = self.air(day);
        StoredDay { day, charge, gravity: gravity.value(), freezes: freezing_point(gravity), coldest, mean }
    }

    /// A day, and how it stands after it.
    fn day(&mut self, day: Date) -> StoredDay {
        let [mean, _] = self.air(day);
        for hour in 0..24 {
            self.hour(day, hour, mean);
        }
        self.shown(day)
    }
}

/// One way through the spell.
pub(super) fn worked_out(asked: &StorageAsked, way: StorageWay, spell: i64) -> StoredWay {
    let begin = |from: f64| Standing {
        asked,
        way: &way,
        capacity: asked.capacity(),
        stored: asked.capacity() * from / 100.0,
        water: 0.0,
        account: StorageAccount::default(),
    };
    let on = |n: i64| asked.from.checked_add(n.days()).unwrap_or(asked.until);
    let mut own = begin(asked.charged);
    let before = own.stored;
    let mut days = vec![own.shown(asked.from)];
    let mut dry = None;
    for n in 1..=spell {
        days.push(own.day(on(n)));
        if dry.is_none() && asked.reserve.is_some_and(|reserve| own.water > reserve) {
            dry = Some(on(n));
        }
    }
    own.account.stored = own.stored - before;
    let by = |of: fn(&StoredDay) -> f64| days.iter().copied().min_by(|a, b| of(a).total_cmp(&of(b)));
    let first = days[0];
    let worst = by(StoredDay::margin).unwrap_or(first);
    let lowest = by(|day| day.charge).unwrap_or(first);
    let frozen: Vec<Date> = days.iter().filter(|day| day.margin() <= 0.0).map(|day| day.day).collect();
    let recharges = recharges(begin(asked.charged), asked, spell);
    StoredWay {
        way,
        worst,
        lowest,
        danger: days.iter().find(|day| day.margin() < FREEZING_MARGIN).map(|day| day.day),
        freezing: frozen.first().zip(frozen.last()).map(|(first, last)| [*first, *last]),
        checks: checks(asked, &days, &recharges),
        recharges,
        water: own.water,
        dry,
        account: own.account,
        days,
    }
}

/// Days it is charged on, if it is charged full each time it asks for it.
fn recharges(mut own: Standing<'_>, asked: &StorageAsked, spell: i64) -> Vec<(Date, RechargeWhy)> {
    let mut all = Vec::new();
    let mut last = own.shown(asked.from);
    for n in 1..spell {
        let day = asked.from.checked_add(n.days()).unwrap_or(asked.until);
        let full = own.stored >= own.capacity * 0.999;
        let now = own.day(day);
        let why = if now.charge <= RECHARGE_AT {
            Some((day, RechargeWhy::Charge))
        } else if now.margin() < FREEZING_MARGIN && last.margin() >= FREEZING_MARGIN && !full {
            // The day before it would stand within the margin.
            Some((last.day, RechargeWhy::Freezing))
        } else {
            None
        };
        if let Some(own_why) = why {
            all.push(own_why);
            own.stored = own.capacity;
        }
        last = own.shown(day);
        // A way that drains it in days is no way: the first ones tell.
        if all.len() >= 24 {
            break;
        }
    }
    all
}
