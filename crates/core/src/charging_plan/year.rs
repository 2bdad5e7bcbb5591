//! A year of a bank, hour by hour, after a year that nobody looks at: what stands at its end does not hang on its beginning.

use super::asked::{ChargingAsked, ChargingError, MONTH_DAYS};
use super::source_hours::{engine_amperes, engine_hours, plug_hours, solar_hours};
use crate::charge::{Acceptance, returned};
use crate::life::{CalendarShare, LifeUse, Wear, rainflow, remaining_by_wear, wear};
use crate::simulator::CellKind;
use crate::storage::{MonthlyLoss, usual_self_discharge};
use serde::{Deserialize, Serialize};

/// Days without a full charge from which a cycled flooded bank is in want of one (CH-5; common practice, no source).
pub const MOST_DAYS_WITHOUT: u32 = 10;
/// Charge from which a bank counts as full: the tail is reached.
const FULL: f64 = 0.999_5;
/// Steps of an hour of an engine: its current falls within minutes.
const ENGINE_STEPS: u32 = 6;
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

/// Where the ampere-hours of a month or a year went.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingAccount {
    /// From the sun, Ah: to loads and into the bank.
    pub solar: f64,
    /// From the engine.
    pub engine: f64,
    /// From the generator.
    pub generator: f64,
    /// From the plug.
    pub shore: f64,
    /// To the loads.
    pub used: f64,
    /// Wanted by the loads and not there.
    pub missed: f64,
    /// Lost on the way in, to gas, and by itself.
    pub lost: f64,
    /// Change of what is stored.
    pub stored: f64,
}

impl ChargingAccount {
    /// Ah from all sources.
    pub fn came(&self) -> f64 {
        self.solar + self.engine + self.generator + self.shore
    }

    fn add(&mut self, other: &Self) {
        self.solar += other.solar;
        self.engine += other.engine;
        self.generator += other.generator;
        self.shore += other.shore;
        self.used += other.used;
        self.missed += other.missed;
        self.lost += other.lost;
        self.stored += other.stored;
    }
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

struct Bank<'a> {
    asked: &'a ChargingAsked,
    capacity: f64,
    charge: f64,
    loss: MonthlyLoss,
    account: ChargingAccount,
}

impl Bank<'_> {
    /// A current is offered and a load drawn for a part of an hour. What the loads leave charges.
    fn part(&mut self, offers: &mut Offers, load: f64, hours: f64) {
        let all = offers.all();
        let served = all.min(load);
        let before = self.charge;
        let mut drawn = 0.0;
        let mut taken = 0.0;
        if all > load {
            taken = self.takes(all - load, offers, hours);
        } else {
            drawn = ((load - all) * hours).min(self.charge * self.capacity);
            self.charge -= drawn / self.capacity;
        }
        let wanted = load * hours;
        let used = served * hours + drawn;
        self.account.used += used;
        self.account.missed += wanted - used;
        let came = served * hours + taken;
        offers.book(&mut self.account, came);
        self.account.lost += taken - drawn - (self.charge - before) * self.capacity;
    }

    /// Takes what it can of a net current; Ah that went in.
    fn takes(&mut self, net: f64, offers: &Offers, hours: f64) -> f64 {
        let finishing = (net - offers.engine).max(0.0);
        if offers.engine <= 0.0 {
            let own = Acceptance::new(net, self.capacity, self.asked.model.construction);
            let (charge, taken) = own.after(self.charge, hours);
            self.charge = charge.min(1.0);
            return taken;
        }
        // An engine's regulator holds low volts: the cell model says what it takes at them.
        let kind = CellKind::of(self.asked.model.construction);
        let (main, gas) = kind.charging_at(self.charge, offers.engine_volts, 25.0);
        let at_most = (main + gas) * self.capacity;
        let others = if finishing > 0.0 {
            let own = Acceptance::new(finishing, self.capacity, self.asked.model.construction);
            own.after(self.charge, hours).1 / hours
        } else {
            0.0
        };
        let current = net.min(at_most.max(others));
        let charges = main / (main + gas).max(1e-12);
        let stored = current * hours * charges.min(1.0 / returned(self.asked.model.construction));
        let room = (1.0 - self.charge).max(0.0) * self.capacity;
        self.charge += stored.min(room) / self.capacity;
        current * hours
    }

    fn loses(&mut self, celsius: f64) {
        let lost = self.charge * self.loss.a_day(celsius) / 24.0;
        self.charge -= lost;
        self.account.lost += lost * self.capacity;
    }
}

/// What each source offers, A.
#[derive(Debug, Clone, Copy, Default)]
struct Offers {
    solar: f64,
    engine: f64,
    engine_volts: f64,
    generator: f64,
    shore: f64,
}

impl Offers {
    const fn all(&self) -> f64 {
        self.solar + self.engine + self.generator + self.shore
    }

    /// Parts what came among the sources by what each offered.
    fn book(&self, account: &mut ChargingAccount, came: f64) {
        let all = self.all();
        if all <= 0.0 {
            return;
        }
        account.solar += came * self.solar / all;
        account.engine += came * self.engine / all;
        account.generator += came * self.generator / all;
        account.shore += came * self.shore / all;
    }
}

/// One year from a charge; the days, the months, and the charge at every hour.
fn run(asked: &ChargingAsked, sun: &[f64], from: f64) -> (Vec<ChargingDay>, Vec<ChargingMonth>, Vec<f64>) {
    let (inside, _) = usual_self_discharge(asked.model.construction, 0.0);
    let mut bank = Bank {
        asked,
        capacity: asked.capacity(),
        charge: from,
        loss: MonthlyLoss { inside, tops: 0.0 },
        account: ChargingAccount::default(),
    };
    let (mut days, mut months, mut hourly) = (Vec::with_capacity(365), Vec::new(), Vec::with_capacity(8760));
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
            own.full_days += u32::from(day.full);
            own.lowest = own.lowest.min(day.lowest);
            days.push(day);
            n += 1;
        }
        months.push(own);
    }
    (days, months, hourly)
}

/// One hour; true when a source that finishes filled it.
fn an_hour(bank: &mut Bank<'_>, (day, hour): (u32, u8), sun: f64, load: f64) -> bool {
    let asked = bank.asked;
    let plug = |own: Option<crate::charging_plan::PlugUse>| {
        own.map_or(0.0, |own| own.amperes * plug_hours(&own, day, hour))
    };
    let mut offers = Offers {
        solar: sun,
        generator: plug(asked.generator),
        shore: plug(asked.shore),
        ..Offers::default()
    };
    let mut left = 1.0;
    let mut full = false;
    if let Some(engine) = asked.engine {
        let hours = engine_hours(&engine, day, hour);
        if hours > 0.0 {
            let mut own = Offers { engine: engine_amperes(&engine), engine_volts: engine.volts, ..offers };
            for _ in 0..ENGINE_STEPS {
                bank.part(&mut own, load, hours / f64::from(ENGINE_STEPS));
            }
            left -= hours;
        }
    }
    if left > 1e-9 {
        bank.part(&mut offers, load, left);
        full = bank.charge >= FULL && offers.all() > load;
    }
    full
}

/// A year of a bank (CH-4, CH-5, LF-1, LF-2).
///
/// # Errors
/// [`ChargingError`] for what cannot be.
pub fn charging_year(asked: &ChargingAsked) -> Result<ChargingYear, ChargingError> {
    asked.check()?;
    let sun = solar_hours(asked);
    let (_, _, before) = run(asked, &sun, 1.0);
    let from = before.last().map_or(1.0, |own| own / 100.0);
    let (days, months, hourly) = run(asked, &sun, from);
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
    let mut bank = Bank { asked: &alone, capacity, charge: 1.0, loss, account };
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
