//! What each source offers in an hour of the year, A at the bank.

use super::asked::{ChargingAsked, EngineUse, MONTH_DAYS, PlugUse};
use crate::solar::{clear_days, month_harvest};
use jiff::civil::Date;

/// Hour of the day at which an engine runs (our choice, no source).
const ENGINE_AT: u8 = 9;
/// Share of its plate that a hot alternator gives (CH-4; common practice, no source).
const HOT: f64 = 0.5;
/// A year without a leap day, which every year is counted as.
const YEAR: i16 = 2026;

/// Harvest of every hour of the year, A at the bank at its nominal volts.
pub(super) fn solar_hours(asked: &ChargingAsked) -> Vec<f64> {
    let Some((array, sky)) = &asked.solar else { return vec![0.0; 8760] };
    let volts = f64::from(asked.shape.system_voltage);
    let mut all = Vec::with_capacity(8760);
    for (month, days) in (1_i8..).zip(MONTH_DAYS) {
        let middle = Date::new(YEAR, month, 15).unwrap_or(Date::MIN);
        let mean = month_harvest(array, sky, middle);
        let clearness = sky.clearness[usize::from(month.unsigned_abs()) - 1];
        for day in clear_days(clearness, days, u64::from(month.unsigned_abs())) {
            all.extend(mean.by_hour.iter().map(|own| own * day / volts));
        }
    }
    all
}

/// Hours of an hour of the day that fall into a stretch of it.
fn overlap(hour: u8, from: u8, hours: f64) -> f64 {
    let at = |start: f64| {
        let (begin, end) = (f64::from(from), f64::from(from) + hours);
        (end.min(start + 1.0) - begin.max(start)).max(0.0)
    };
    // A stretch goes on over midnight.
    at(f64::from(hour)) + at(f64::from(hour) + 24.0)
}

/// Hours of an hour that a plug charges.
pub(super) fn plug_hours(own: &PlugUse, day: u32, hour: u8) -> f64 {
    let every = u32::from(own.every_days.max(1));
    let begun_today = day.is_multiple_of(every);
    let begun_before = day > 0 && (day - 1).is_multiple_of(every);
    let from = f64::from(own.from);
    let today = if begun_today { overlap(hour, own.from, own.hours.min(24.0 - from)) } else { 0.0 };
    let rest = (own.hours - (24.0 - from)).max(0.0);
    let before = if begun_before { overlap(hour, 0, rest).min(1.0) } else { 0.0 };
    (today + before).min(1.0)
}

/// Hours of an hour that an engine runs.
pub(super) fn engine_hours(own: &EngineUse, day: u32, hour: u8) -> f64 {
    if day.is_multiple_of(u32::from(own.every_days.max(1))) {
        overlap(hour, ENGINE_AT, own.hours).min(1.0)
    } else {
        0.0
    }
}

/// What a hot alternator gives, A.
pub(super) fn engine_amperes(own: &EngineUse) -> f64 {
    HOT * own.amperes
}
