//! The years of a demo bank in the simulator (SM-1): use, weather, charging and scripted faults, and on
//! the days when somebody comes by, what is found and what is done.

use super::bad;
use super::equalize::{EqualizeStory, run_it};
use super::journal::{CellFound, DayFound, Journal, Line};
use super::lived_bank::LivedBank;
use super::monitor_log::MonitorLog;
use super::noise::Noise;
use crate::db::DbError;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerTemperature, Stage, setpoint};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::schedule::MonthDay;
use rainshadow_core::simulator::{ChargerSettings, Climate, Drive, SimCell, SimCharger, season};
use rainshadow_core::water::MonthlyMeans;

/// The year is told as it stands on this day of it, whenever the demo is made.
const DAY_OF_DEMO: f64 = 281.0;
const YEAR: f64 = 365.25;
/// Days of use before the first visit: a bank is not found as it left the maker.
const SETTLES: i64 = 45;
/// Hours of the day: a charger begins anew, if something was drawn since; the charger and the load is taken off, on the day before a visit; a long charge
/// begins, on the day before that; everything is read; work is done; use goes on.
const DAWN: u32 = 5;
const TAKEN_OFF: u32 = 7;
const LONG_CHARGE: u32 = 15;
const READ: u32 = 9;
const WORK: u32 = 10;

/// Monthly means of a climate, in the months of a demo that stands on a day; none where one cannot be.
pub(super) fn months(climate: &Climate, today: Date) -> Option<MonthlyMeans> {
    let today = f64::from(today.day_of_year());
    let mut means = [0.0; 12];
    for (mean, month) in means.iter_mut().zip(0_u8..) {
        let middle = (f64::from(month) + 0.5) / 12.0 * YEAR;
        let celsius = climate.mean + climate.year * season(middle - today + DAY_OF_DEMO);
        *mean = (celsius * 10.0).round() / 10.0;
    }
    MonthlyMeans::try_from(means).ok()
}

/// An hour of use.
pub(super) struct Hour {
    pub days_ago: i64,
    /// Hour of the day.
    pub of_day: u32,
    /// 1 in the middle of summer, −1 in the middle of winter.
    pub season: f64,
    /// How bright the day is, 0 to 1.
    pub sky: f64,
}

/// Amperes of an array under an open sky: from dawn to dusk, less under clouds, none at night.
pub(super) fn array(hour: &Hour, most: f64) -> f64 {
    let half_day = 4.6 + 1.6 * hour.season;
    let off_noon = (f64::from(hour.of_day) + 0.5 - 12.5).abs();
    if off_noon >= half_day { 0.0 } else { most * hour.sky * (off_noon / half_day * 1.4).cos() }
}

/// What happens in it.
#[derive(Default)]
pub(super) struct Use {
    /// Amperes drawn.
    pub load: f64,
    /// Amperes that the source has to give.
    pub source: f64,
    /// For so many minutes of the hour; none: all of it.
    pub minutes: Option<f64>,
    /// It is shaken, as under way.
    pub shakes: bool,
}

/// A day when somebody comes by.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Planned {
    pub days_ago: i64,
    /// Charged to the end before the rest.
    pub full: bool,
    /// Filled to the mark.
    pub fills: bool,
    /// Only filled: nothing is switched off for it.
    pub in_passing: bool,
    /// Equalized for so many hours, not logged.
    pub equalize: f64,
    /// Discharged at so many amperes to so many volts of the bank.
    pub discharge: Option<(f64, f64)>,
}

/// A day on which a bank is only filled.
pub(super) fn filled(days_ago: i64) -> Planned {
    Planned { days_ago, fills: true, in_passing: true, ..Planned::default() }
}

/// What a bank lives through.
pub(super) struct Years {
    pub model: &'static str,
    pub shape: BankShape,
    pub climate: Climate,
    /// Of its weather.
    pub seed: u64,
    pub charger: ChargerSettings,
    /// Share of the current that each string takes.
    pub shares: &'static [f64],
    /// Amperes of the charger that fills it before a visit and equalizes it.
    pub amperes: f64,
    /// How much its cells gas, 1 for a common new cell.
    pub age: f64,
    pub hour: fn(&Hour) -> Use,
    /// What goes wrong with a cell, day by day.
    pub fault: fn(i64, &str, &mut SimCell),
    /// Oldest first.
    pub planned: Vec<Planned>,
    /// The equalize that is logged.
    pub run: Option<EqualizeStory>,
}

/// The years as they pass.
struct Passing<'a> {
    years: &'a Years,
    model: BatteryModel,
    bank: LivedBank,
    charger: SimCharger,
    weather: Noise,
    /// How warm the last days were against the season, °C.
    warmer: f64,
    /// Something was drawn since the charger last began.
    drawn: bool,
    journal: Journal,
    log: MonitorLog,
}

/// Lives through the years of a bank.
///
/// # Errors
/// [`DbError::BadRow`] for a story that cannot be.
pub(super) fn live(years: &Years) -> Result<(Journal, MonitorLog), DbError> {
    let model = BatteryModel::generic_by_key(years.model).ok_or_else(|| bad(&"no such model"))?;
    let bank = LivedBank::new(&model, &years.shape, years.shares, years.age);
    let mut passing = Passing {
        years,
        model,
        bank,
        charger: SimCharger::new(years.charger),
        weather: Noise::new(years.seed),
        warmer: 0.0,
        drawn: false,
        journal: Journal::default(),
        log: MonitorLog::default(),
    };
    let first = years.planned.iter().map(|p| p.days_ago).max().unwrap_or(0);
    for days_ago in (1..=first + SETTLES).rev() {
        passing.day(days_ago)?;
    }
    Ok((passing.journal, passing.log))
}

#[expect(clippy::cast_precision_loss, reason = "days of a few years")]
fn day_of_year(days_ago: i64) -> f64 {
    (DAY_OF_DEMO - days_ago as f64).rem_euclid(YEAR)
}

impl Passing<'_> {
    fn planned(&self, days_ago: i64) -> Option<Planned> {
        self.years.planned.iter().find(|p| p.days_ago == days_ago).copied()
    }

    fn day(&mut self, days_ago: i64) -> Result<(), DbError> {
        // Bright and dull days come in spells.
        self.warmer = 0.7 * self.warmer + 1.2 * self.weather.normal();
        let sky = (0.72 + 0.26 * self.weather.normal()).clamp(0.08, 1.0);
        let (today, tomorrow, after) =
            (self.planned(days_ago), self.planned(days_ago - 1), self.planned(days_ago - 2));
        let fault = self.years.fault;
        self.bank.each_cell(|name, cell| fault(days_ago, name, cell));
        let mut hour = 0;
        while hour < 24 {
            let of_year = day_of_year(days_ago);
            self.bank.air = self.years.climate.air(of_year, f64::from(hour)) + self.warmer;
            if hour == DAWN && std::mem::take(&mut self.drawn) {
                self.charger.begin();
            }
            let long_charge = (after.is_some_and(|p| p.full) && hour >= LONG_CHARGE)
                || (tomorrow.is_some_and(|p| p.full) && hour < TAKEN_OFF);
            let rests = (tomorrow.is_some_and(|p| !p.in_passing) && hour >= TAKEN_OFF)
                || (today.is_some_and(|p| !p.in_passing) && hour < WORK);
            if today.is_some() && hour == READ {
                self.read(days_ago);
            }
            if let Some(planned) = today.filter(|_| hour == WORK) {
                let worked = self.work(&planned)?;
                hour += worked;
                if worked > 0 {
                    continue;
                }
            }
            if rests {
                self.bank.pass(Drive::Current(0.0), 1.0);
                self.log.pass(&self.bank, 1.0);
            } else {
                let own = Hour { days_ago, of_day: hour, season: season(of_year), sky };
                let mut used = (self.years.hour)(&own);
                if long_charge {
                    used.source = self.years.amperes;
                }
                self.hour_of_use(&used);
            }
            if after.is_some_and(|p| p.full) && hour + 1 == LONG_CHARGE {
                self.charger.begin();
                self.drawn = false;
            }
            hour += 1;
        }
        self.log.ends(days_ago);
        Ok(())
    }

    fn hour_of_use(&mut self, used: &Use) {
        if used.shakes {
            self.bank.each_cell(|_, cell| cell.shake(0.3));
        }
        let part = used.minutes.map_or(1.0, |minutes| minutes / 60.0);
        self.log.state = match used.source > 0.0 {
            true if self.charger.is_done() => "Float",
            true => "Bulk",
            false => "",
        };
        self.flow(used.source - used.load, part);
        self.log.state = "";
        self.flow(-used.load, 1.0 - part);
    }

    /// What the source leaves for the bank, or the load takes from it, flows for so many hours.
    fn flow(&mut self, amperes: f64, hours: f64) {
        if hours <= 0.0 {
            return;
        }
        if amperes.abs() < 1e-9 {
            self.bank.pass(Drive::Current(0.0), hours);
            self.log.pass(&self.bank, hours);
            return;
        }
        self.drawn |= amperes < 0.0;
        let (charger, log) = (&mut self.charger, &mut self.log);
        self.bank.pass_minutes(hours, |bank, part| {
            let drive = charger.drive(amperes, bank.hottest());
            bank.pass(drive, part);
            charger.follow(drive, bank.volts, bank.amperes, part);
            log.pass(bank, part);
        });
    }

    fn found(&self, days_ago: i64) -> DayFound {
        let round = |value: f64, to: f64| (value * to).round() / to;
        let cells = self.bank.cells().map(|cell| {
            CellFound(
                round(cell.gravity_on_top(), 1e5),
                round(cell.volts_at(0.0).0, 1e4),
                round(cell.water_lost(), 10.0),
            )
        });
        let per_battery = usize::from(self.years.shape.cells_per_battery).max(1);
        let all: Vec<f64> = self.bank.cells().map(SimCell::milliohms).collect();
        let milliohms = if self.model.construction.has_caps() {
            Vec::new()
        } else {
            all.chunks(per_battery).map(|cells| round(cells.iter().sum(), 1e3)).collect()
        };
        DayFound {
            days_ago,
            celsius: round(self.bank.celsius(), 100.0),
            full: self.charger.is_done(),
            cells: cells.collect(),
            milliohms,
        }
    }

    fn read(&mut self, days_ago: i64) {
        let found = self.found(days_ago);
        self.journal.0.push(Line::Day(found));
    }

    fn fill(&mut self) {
        self.bank.each_cell(|_, cell| cell.water(cell.water_lost()));
    }

    /// What is done on a visit after the readings, and the hours that it takes.
    fn work(&mut self, planned: &Planned) -> Result<u32, DbError> {
        let mut hours = 0;
        if let Some(run) = self.years.run.as_ref().filter(|r| r.days_ago == planned.days_ago) {
            let (lines, took) = run_it(&mut self.bank, &self.model, &self.years.shape, run)?;
            self.journal.0.extend(lines.into_iter().map(Line::Run));
            hours += took;
            let found = self.found(planned.days_ago);
            self.journal.0.push(Line::AfterRun(found));
        }
        hours += self.equalize(planned.equalize)?;
        if let Some((amperes, cut_off)) = planned.discharge {
            let mut minutes = 0.0;
            self.bank.volts = f64::MAX;
            while self.bank.volts > cut_off && minutes < 1440.0 {
                self.bank.pass(Drive::Current(-amperes), 1.0 / 60.0);
                minutes += 1.0;
            }
            self.journal.0.push(Line::Discharge { days_ago: planned.days_ago, minutes });
            hours += 2;
        }
        if planned.fills {
            self.fill();
        }
        if !planned.in_passing {
            self.charger.begin();
        }
        Ok(hours)
    }

    fn equalize(&mut self, hours: f64) -> Result<u32, DbError> {
        if hours <= 0.0 {
            return Ok(0);
        }
        let cells = self.years.shape.cells_in_series();
        let amperes = self.years.amperes;
        let warm = Temperature::from_celsius(self.bank.celsius()).map_err(|e| bad(&e))?;
        let set = setpoint(&self.model, Stage::Equalize, cells, warm, ChargerTemperature::default(), None)
            .map_err(|e| bad(&e))?;
        self.bank.pass_minutes(hours, |bank, part| {
            bank.pass(Drive::Charger { volts: set.volts, amperes }, part);
        });
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "hours of a day")]
        let whole = hours.ceil() as u32;
        Ok(whole)
    }
}

/// A day so many days after today, as months and days are written.
pub(super) fn month_day(today: Date, after: i64) -> Option<MonthDay> {
    today.checked_add(after.days()).ok()?.strftime("%m-%d").to_string().parse().ok()
}
