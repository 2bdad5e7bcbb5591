//! A year of a bank, hour by hour, after a year that nobody looks at: what stands at its end does not hang on its beginning.

use super::account::ChargingAccount;
use super::asked::{ChargingAsked, ChargingError, MONTH_DAYS};
use super::hour::{BankOfYear, an_hour};
use super::source_hours::solar_hours;
use crate::life::{CalendarShare, LifeUse, Wear, rainflow, remaining_by_wear, wear};
use crate::storage::{MonthlyLoss, usual_self_discharge};
use serde::{Deserialize, Serialize};

/// Days without a full charge from which a cycled flooded bank is in want of one (CH-5; common practice, no source).
pub const MOST_DAYS_WITHOUT: u32 = 10;
/// Depth of the least cycle that wears, per cent.
const LEAST_CYCLE: f64 = 1.0;

/// A day.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingDay {
    /// Highest charge, per cent.
    pub highest: f64,
    /// Lowest charge, per cent.
    pub lowest: f64,
    /// True when it reached full: its tail, by a source that finishes.
    pub full: bool,
}

/// A month.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingMonth {
    /// Days that reached full.
    pub full_days: u32,
    /// Lowest charge, per cent.
    pub lowest: f64,
    /// Where its ampere-hours went.
    pub account: ChargingAccount,
}

/// A year.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingYear {
    /// Day by day from New Year.
    pub days: Vec<ChargingDay>,
    /// Month by month.
    pub months: Vec<ChargingMonth>,
    /// Days that reached full.
    pub full_days: u32,
    /// Longest run of days without, going round the year.
    pub longest_without: u32,
    /// Where its ampere-hours went.
    pub account: ChargingAccount,
    /// Days that a bank which is full at New Year serves its loads whole; none: all year.
    #[serde(default)]
    pub empty_after: Option<u32>,
    /// Mean depth of a day, per cent.
    pub depth: f64,
    /// What the year uses of a life.
    pub wear: Wear,
    /// Years that a new bank lasts so, to 80 % of its capacity: best, shortest, longest.
    pub years: [f64; 3],
    /// Hours that the engine and the generator ran.
    pub engine_hours: f64,
    /// Hours of the generator.
    pub generator_hours: f64,
}

/// One year from a charge.
struct Run {
    days: Vec<ChargingDay>,
    months: Vec<ChargingMonth>,
    /// Charge at the end of every hour, per cent.
    hourly: Vec<f64>,
    /// The first day on which loads miss something, from 0.
    missed_on: Option<u32>,
}

fn run(asked: &ChargingAsked, sun: &[f64], from: f64) -> Run {
    let (inside, _) = usual_self_discharge(asked.model.construction, 0.0);
    let mut bank = BankOfYear {
        asked,
        capacity: asked.capacity(),
        charge: from,
        loss: MonthlyLoss { inside, tops: 0.0 },
        account: ChargingAccount::default(),
    };
    let (mut days, mut months, mut hourly) = (Vec::with_capacity(365), Vec::new(), Vec::with_capacity(8760));
    let mut missed_on = None;
    let mut n = 0u32;
    for (month, count) in MONTH_DAYS.into_iter().enumerate() {
        let mut own = ChargingMonth { lowest: 100.0, ..ChargingMonth::default() };
        let celsius = asked.means.celsius()[month];
        for _ in 0..count {
            let mut day = ChargingDay { highest: 0.0, lowest: 100.0, full: false };
            bank.account = ChargingAccount::default();
            let begun = bank.charge;
            for hour in 0..24u8 {
                let sun = sun.get(n as usize * 24 + usize::from(hour)).copied().unwrap_or_default();
                let load = asked.loads[usize::from(hour)] * asked.loads_by_month[month];
                day.full |= an_hour(&mut bank, (n, hour), sun, load);
                bank.loses(celsius);
                let charge = 100.0 * bank.charge;
                day.highest = day.highest.max(charge);
                day.lowest = day.lowest.min(charge);
                hourly.push(charge);
            }
            bank.account.stored = (bank.charge - begun) * bank.capacity;
            own.account.add(&bank.account);
            if bank.account.missed > 1e-9 * bank.capacity {
                missed_on.get_or_insert(n);
            }
            own.full_days += u32::from(day.full);
            own.lowest = own.lowest.min(day.lowest);
            days.push(day);
            n += 1;
        }
        months.push(own);
    }
    Run { days, months, hourly, missed_on }
}

/// A year of a bank (CH-4, CH-5, LF-1, LF-2).
///
/// # Errors
/// [`ChargingError`] for what cannot be.
pub fn charging_year(asked: &ChargingAsked) -> Result<ChargingYear, ChargingError> {
    asked.check()?;
    let sun = solar_hours(asked);
    let before = run(asked, &sun, 1.0);
    let from = before.hourly.last().map_or(1.0, |own| own / 100.0);
    let Run { days, months, hourly, .. } = run(asked, &sun, from);
    let mut account = ChargingAccount::default();
    for own in &months {
        account.add(&own.account);
    }
    let depth = days.iter().map(|own| own.highest - own.lowest).sum::<f64>() / 365.0;
    let used = LifeUse {
        cycles: cycles(&hourly),
        calendar: asked
            .means
            .celsius()
            .iter()
            .map(|celsius| CalendarShare { years: 1.0 / 12.0, temperature: *celsius })
            .collect(),
        design_life: None,
        table: None,
    };
    // Depths of a charge between 0 and 100 % and means within their table: nothing of it can be refused.
    let nothing = Wear { cycles: 0.0, calendar: 1.0, total: 1.0, years: 1.0 };
    let wear = wear(&used, asked.model.construction).unwrap_or(nothing);
    let fresh = Wear { total: wear.total, ..wear };
    let left = remaining_by_wear(&fresh).map_or([0.0; 3], |left| left.map(|own| own + 1.0));
    let count = |own: Option<f64>| own.unwrap_or_default();
    Ok(ChargingYear {
        full_days: days.iter().map(|own| u32::from(own.full)).sum(),
        longest_without: longest_without(&days),
        depth,
        years: left,
        wear,
        engine_hours: count(asked.engine.map(|own| own.hours * runs(own.every_days))),
        generator_hours: count(asked.generator.map(|own| own.hours * runs(own.every_days))),
        account,
        empty_after: before.missed_on,
        months,
        days,
    })
}

/// Days from a full bank in a month, 1 to 12, on its sun and its loads alone.
pub(super) fn from_full(asked: &ChargingAsked, month: u8, count: u16) -> Vec<ChargingDay> {
    let alone = ChargingAsked { engine: None, generator: None, shore: None, ..asked.clone() };
    let sun = solar_hours(&alone);
    let skipped: u32 = MONTH_DAYS.iter().take(usize::from(month.clamp(1, 12)) - 1).sum();
    let (inside, _) = usual_self_discharge(asked.model.construction, 0.0);
    let loss = MonthlyLoss { inside, tops: 0.0 };
    let (capacity, account) = (asked.capacity(), ChargingAccount::default());
    let mut bank = BankOfYear { asked: &alone, capacity, charge: 1.0, loss, account };
    let mut a_day = |n: u32| {
        let n = (skipped + n) % 365;
        let month = month_of(n);
        let mut day = ChargingDay { highest: 0.0, lowest: 100.0 * bank.charge, full: false };
        for hour in 0..24u8 {
            let sun = sun.get(n as usize * 24 + usize::from(hour)).copied().unwrap_or_default();
            let load = asked.loads[usize::from(hour)] * asked.loads_by_month[month];
            day.full |= an_hour(&mut bank, (n, hour), sun, load);
            bank.loses(asked.means.celsius()[month]);
            day.highest = day.highest.max(100.0 * bank.charge);
            day.lowest = day.lowest.min(100.0 * bank.charge);
        }
        day
    };
    (0..u32::from(count)).map(&mut a_day).collect()
}

/// Month of a day of the year, 0 is January.
fn month_of(day: u32) -> usize {
    let mut left = day;
    MONTH_DAYS
        .iter()
        .position(|count| {
            let within = left < *count;
            left = left.saturating_sub(*count);
            within
        })
        .unwrap_or(11)
}

/// Runs of a year.
pub(super) fn runs(every_days: u16) -> f64 {
    (365.0 / f64::from(every_days.max(1))).ceil()
}

/// Cycles by depth, per cent, by rainflow.
fn cycles(hourly: &[f64]) -> Vec<[f64; 2]> {
    rainflow(hourly)
        .into_iter()
        .filter(|own| own.range >= LEAST_CYCLE)
        .map(|own| [own.range.min(100.0), own.count])
        .collect()
}

/// Longest run of days without a full charge, going round from December to January.
fn longest_without(days: &[ChargingDay]) -> u32 {
    if days.iter().all(|own| !own.full) {
        return u32::try_from(days.len()).unwrap_or(u32::MAX);
    }
    let (mut longest, mut now) = (0, 0);
    for own in days.iter().chain(days) {
        now = if own.full { 0 } else { now + 1 };
        longest = longest.max(now);
    }
    longest
}
