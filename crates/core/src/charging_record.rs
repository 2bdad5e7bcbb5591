//! What the record of a monitor, controller or inverter tells of how a bank is charged (CR-1): days that reached full, depth
//! and wear, the charge factor, hours of gassing, volts really held, what is drawn all the time.

mod balance;
mod current_sign;
mod day;
mod full;
mod held;
mod read_to_end;
mod sample;
mod span;
mod standing;
mod together;
mod volts_fit;

pub use current_sign::{CurrentWatch, OtherWay, turned};
pub use day::DayOnRecord;
pub use read_to_end::ReadToEnd;
pub use sample::{MinuteRow, RecordSample, Thinner};
pub use together::together;
pub use volts_fit::VoltsWatch;

use crate::bank::BankShape;
use crate::battery_model::{BatteryModel, Construction};
use crate::charge::{FLOAT_LEAST, MOST_PER_CELL, compensated, returned, tail};
use crate::diagnosis::ChargingRecord;
use crate::life::{CycleTable, cycles_allowed, rainflow};
use day::{charged, days, drawn_by_hour, longest_without_full};
use held::or_usual;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Volts a cell at 25 °C above which a cell gasses (common practice, no source).
pub const GASSING: f64 = 2.37;
/// Volts a cell under what is asked for, down to which a charger still holds something there (our choice, no source).
const HELD_WITHIN: f64 = 0.25;
/// Depth under which a cycle wears nothing that could be told, share of C20 (our choice, no source).
const LEAST_CYCLE: f64 = 0.01;

/// A bank as its record is read.
#[derive(Debug, Clone, PartialEq)]
pub struct RecordedBank {
    /// Cells in series, from 1.
    pub cells: u16,
    /// Ah at twenty hours, all strings.
    pub c20: f64,
    /// How it is built.
    pub construction: Construction,
    /// Absorption at 25 °C, V a cell.
    pub absorption: f64,
    /// Float at 25 °C, V a cell.
    pub float: f64,
    /// True where it stands on float day and night.
    pub standby: bool,
}

impl RecordedBank {
    /// By its model and shape.
    pub fn of(model: &BatteryModel, shape: &BankShape, standby: bool) -> Self {
        Self {
            cells: shape.cells_in_series(),
            c20: model.c20.ampere_hours() * f64::from(shape.parallel),
            construction: model.construction,
            absorption: model.setpoints.absorption,
            float: model.setpoints.float,
            standby,
        }
    }

    fn in_series(&self) -> f64 {
        f64::from(self.cells.max(1))
    }

    /// Current at which the bank is full, A: 2 % of C20, sealed 1 % (CH-4).
    fn tail(&self) -> f64 {
        self.c20 * tail(self.construction)
    }

    /// Ah that go in for each that came out (CH-4).
    fn returned(&self) -> f64 {
        returned(self.construction)
    }

    fn absorption_at(&self, celsius: Option<f64>) -> f64 {
        compensated(self.absorption, or_usual(celsius)).min(MOST_PER_CELL)
    }

    fn float_at(&self, celsius: Option<f64>) -> f64 {
        compensated(self.float, or_usual(celsius)).clamp(FLOAT_LEAST, MOST_PER_CELL)
    }

    /// What it should be held at, V a cell: absorption, in standby float (CH-2).
    fn asked_at(&self, celsius: Option<f64>) -> f64 {
        if self.standby { self.float_at(celsius) } else { self.absorption_at(celsius) }
    }

    /// Volts a cell from which a charger held it at something.
    fn least_held(&self, celsius: Option<f64>) -> f64 {
        self.asked_at(celsius) - HELD_WITHIN
    }

    /// True where the cells gas at this row, by its temperature.
    fn gasses(&self, row: &MinuteRow) -> bool {
        let limit = compensated(GASSING, or_usual(row.celsius));
        row.volts.is_some_and(|volts| volts / self.in_series() > limit)
    }
}

/// Why a record tells nothing.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum RecordError {
    /// Too few rows.
    #[error("a record has two samples or more at different minutes; {0} is given")]
    TooShort(usize),
    /// Volts of another bank.
    #[error(
        "half of the volts stand at {median:.1} V; a bank of {cells} cells in series stands between {low:.1} and {high:.1} V: is it the record of another bank?"
    )]
    OtherBank {
        /// The middle of them, V.
        median: f64,
        /// Cells in series.
        cells: u16,
        /// Least that such a bank stands at.
        low: f64,
        /// Most.
        high: f64,
    },
}

/// What a record tells.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingRecordJudged {
    /// Local days, the oldest first.
    pub days: Vec<DayOnRecord>,
    /// Days of which enough is known to count them.
    pub known_days: u32,
    /// Of these, days that reached full.
    pub full_days: u32,
    /// The longest run of known days without.
    pub longest_without_full: u32,
    /// Its first day and its last; none: every known day reached full.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Vec<String>>))]
    pub longest_from_to: Option<[Date; 2]>,
    /// Ah that came out.
    pub out: f64,
    /// Ah that went in.
    pub back: f64,
    /// Ah in over Ah out, from full to full; none: never enough between two fulls.
    pub charge_factor: Option<f64>,
    /// Intervals from full to full that it is told from.
    pub intervals: u32,
    /// Hours of gassing a known day; none: no volts.
    pub gassing_hours: Option<f64>,
    /// The warmest hour, °C; none: no temperature.
    pub warmest_hour: Option<f64>,
    /// The deepest it was, share of C20; none: never known.
    pub deepest: Option<f64>,
    /// Cycles that were counted: per cent of C20 and how often, 0.5 for half of one.
    pub cycles: Vec<[f64; 2]>,
    /// Share of a life that its cycles used, by rainflow (LF-1).
    pub wear: Option<f64>,
    /// Volts held less those asked for, V a cell.
    pub held_off: Option<f64>,
    /// Days on which volts were held.
    pub held_days: u32,
    /// True where they follow the temperature; none: it hardly changed.
    pub held_follow: Option<bool>,
    /// Drawn all the time, A; none: no quiet night is known.
    pub standing_draw: Option<f64>,
    /// The same, share of C20 a day.
    pub standing_share: Option<f64>,
    /// Hours of which nothing is known between the first and the last row.
    pub unknown_hours: f64,
    /// The last day that reached full; none: none did.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_full: Option<Date>,
    /// Hours a day that something charges, on known days that do not reach full, and its current then, A; none: it never does.
    pub charged: Option<[f64; 2]>,
    /// Amperes drawn in each local hour of the day while nothing charges, in the mean; none: it is always charged then.
    pub drawn_by_hour: [Option<f64>; 24],
}

impl ChargingRecordJudged {
    /// Days that are known after the last one that reached full; all, where none did.
    pub fn days_without_full(&self) -> u32 {
        let after = |day: &&DayOnRecord| day.counts() && self.last_full.is_none_or(|full| day.day > full);
        u32::try_from(self.days.iter().filter(after).count()).unwrap_or(u32::MAX)
    }

    /// As evidence of the diagnosis (DG-1).
    pub fn evidence(&self) -> ChargingRecord {
        let known = f64::from(self.known_days);
        ChargingRecord {
            full_days: (self.known_days > 0).then(|| f64::from(self.full_days) / known),
            longest_gap: (self.known_days > 0).then(|| f64::from(self.longest_without_full)),
            charge_factor: self.charge_factor,
            gassing_hours: self.gassing_hours,
            held_off: self.held_off,
            held_follow: self.held_follow,
            standing_draw: self.standing_share,
        }
    }
}

/// Ah in for each that came out that are usual, least and most (common practice, no source).
pub fn usual_factor(construction: Construction) -> [f64; 2] {
    if construction.has_caps() { [1.05, 1.20] } else { [1.03, 1.10] }
}

/// Ah in for each that came out over which a bank is overcharged, or the meter misses a load (common practice, no source).
pub const OVERCHARGE: f64 = 1.30;

/// The warmest hour of sixty minutes, by its mean.
fn warmest_hour(rows: &[MinuteRow]) -> Option<f64> {
    let told: Vec<(i64, f64)> = rows.iter().filter_map(|row| Some((row.minute, row.celsius?))).collect();
    let step = span::step(rows);
    let (mut from, mut sum, mut best) = (0, 0.0, None::<f64>);
    for (to, (minute, celsius)) in told.iter().enumerate() {
        sum += celsius;
        while minute - told[from].0 >= 60 {
            sum -= told[from].1;
            from += 1;
        }
        #[expect(clippy::cast_precision_loss, reason = "minutes of an hour")]
        let mean = sum / (to + 1 - from) as f64;
        // The first minutes of a record are no hour.
        if minute - told[from].0 + step >= 60 {
            best = best.into_iter().chain([mean]).reduce(f64::max);
        }
    }
    best
}

/// Cycles by rainflow, per cent and how often; breaks where the depth is not known. None: it never is.
fn cycles_of(depths: &[Option<f64>]) -> Option<Vec<[f64; 2]>> {
    let runs = || depths.split(Option::is_none).filter(|run| !run.is_empty());
    runs().next()?;
    let counted = |run: &[Option<f64>]| {
        let series: Vec<f64> = run.iter().copied().flatten().collect();
        rainflow(&series).into_iter().filter(|own| own.range >= LEAST_CYCLE)
    };
    Some(runs().flat_map(counted).map(|own| [(100.0 * own.range).min(100.0), own.count]).collect())
}

/// Share of a life that cycles used (LF-1, Miner).
fn worn(cycles: &[[f64; 2]], construction: Construction) -> f64 {
    let table = CycleTable::usual(construction);
    let of = |depth: f64| cycles_allowed(&table, depth).map_or(0.0, |own| 1.0 / own.cycles);
    cycles.iter().map(|[depth, count]| count * of(*depth)).sum()
}

/// Judges a record (CR-1). Rows are the oldest first; days are those of the zone of the site.
///
/// # Errors
/// [`RecordError`] where it is too short or of another bank.
pub fn charging_record(
    rows: &[MinuteRow],
    bank: &RecordedBank,
    zone: &TimeZone,
) -> Result<ChargingRecordJudged, RecordError> {
    if rows.len() < 2 {
        return Err(RecordError::TooShort(rows.len()));
    }
    let mut volts = VoltsWatch::default();
    for row in rows {
        volts.push(row);
    }
    volts.check(bank)?;
    let spans = span::spans(rows);
    let fulls = full::fulls(&spans, bank);
    let depths = balance::depths(&spans, &fulls, bank);
    let all = days(&spans, &fulls, &depths, bank, zone);
    let counted = || all.iter().filter(|day| day.counts());
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    let known_days = count(counted().count());
    let (longest_without_full, longest_from_to) = longest_without_full(&all);
    let factors = balance::from_full_to_full(&spans, &fulls, bank);
    let between = factors.iter().fold((0.0, 0.0), |sum, own| (sum.0 + own.0, sum.1 + own.1));
    let held = held::held(&spans, &fulls, bank, zone);
    let standing = standing::standing_draw(&spans, bank, zone);
    let known_hours: f64 = spans.iter().map(|span| span.hours).sum();
    let hours = spans.last().zip(spans.first()).map_or(0.0, |(last, first)| {
        #[expect(clippy::cast_precision_loss, reason = "minutes of years")]
        let minutes = (last.row.minute - first.row.minute) as f64;
        minutes / 60.0 + last.hours
    });
    let cycles = cycles_of(&depths);
    let volts_told = rows.iter().any(|row| row.volts.is_some());
    Ok(ChargingRecordJudged {
        known_days,
        full_days: count(counted().filter(|day| day.full).count()),
        longest_without_full,
        longest_from_to,
        out: all.iter().map(|day| day.out).sum(),
        back: all.iter().map(|day| day.back).sum(),
        charge_factor: (between.1 > 0.0).then(|| between.0 / between.1),
        intervals: count(factors.len()),
        gassing_hours: (known_days > 0 && volts_told)
            .then(|| counted().map(|day| day.gassing_hours).sum::<f64>() / f64::from(known_days)),
        warmest_hour: warmest_hour(rows),
        deepest: depths.iter().copied().flatten().reduce(f64::max),
        wear: cycles.as_ref().map(|own| worn(own, bank.construction)),
        cycles: cycles.unwrap_or_default(),
        last_full: all.iter().rfind(|day| day.full).map(|day| day.day),
        charged: charged(&spans, &all, bank, zone),
        drawn_by_hour: drawn_by_hour(&spans, zone),
        held_off: held::held_off(&held, bank),
        held_days: count(held.len()),
        held_follow: held::held_follow(&held),
        standing_draw: standing,
        standing_share: standing.map(|amperes| 24.0 * amperes / bank.c20),
        unknown_hours: (hours - known_hours).max(0.0),
        days: all,
    })
}
