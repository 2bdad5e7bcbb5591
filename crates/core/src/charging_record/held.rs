//! The volts that the charger really held, against what is asked for at that temperature (CH-2), and whether they follow it.

use super::RecordedBank;
use super::day::local;
use super::full::StillFull;
use super::span::Span;
use crate::feed::FeedStage;
use crate::round::median;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use std::collections::BTreeMap;

/// Volts a cell under the highest of a day within which it is held there (our choice, no source).
const BAND: f64 = 0.02;
/// Hours that it has to be held (our choice, no source).
const HOURS: f64 = 0.5;
/// Share to which the current falls while a charger limits the volts (our choice, no source).
const FALLEN: f64 = 0.8;
/// Range of temperatures over which it can be told whether volts follow, °C, and days that it takes.
const RANGE: f64 = 12.0;
const DAYS: usize = 4;
/// Volts a cell and degree by which volts that follow fall at least: half of what makers ask for.
const FOLLOWS: f64 = -0.0025;
/// Where no temperature is told.
const UNKNOWN_CELSIUS: f64 = 25.0;

/// What was held on a day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct HeldOnDay {
    /// V a cell.
    pub volts: f64,
    /// °C then; none: not told.
    pub celsius: Option<f64>,
}

/// A row of a day.
#[derive(Debug, Clone, Copy)]
struct OfDay {
    /// V a cell.
    volts: f64,
    celsius: Option<f64>,
    amperes: Option<f64>,
    hours: f64,
}

/// What was held, day by day; a day on which it never came near what it is charged to has none.
pub(super) fn held(
    spans: &[Span<'_>],
    fulls: &[usize],
    bank: &RecordedBank,
    zone: &TimeZone,
) -> Vec<HeldOnDay> {
    let mut by_day: BTreeMap<Date, HeldDay> = BTreeMap::new();
    let mut still = StillFull::new(bank);
    for (at, span) in spans.iter().enumerate() {
        let full = still.is_full();
        let reached = fulls.binary_search(&at).is_ok();
        still.take(span, reached);
        let Some((day, _)) = local(span.row.minute, zone) else { continue };
        let own = by_day.entry(day).or_insert(HeldDay { stays_full: full, rows: Vec::new() });
        own.stays_full &= full && !reached;
        let Some(volts) =
            span.row.volts.filter(|_| span.row.state != Some(FeedStage::Holding) || bank.standby)
        else {
            continue;
        };
        let (celsius, amperes) = (span.row.celsius, span.row.amperes);
        own.rows.push(OfDay { volts: volts / bank.in_series(), celsius, amperes, hours: span.hours });
    }
    // What stays full all day is held at float, and that is right.
    let charged = by_day.into_values().filter(|own| bank.standby || !own.stays_full);
    charged.filter_map(|own| held_on(&own.rows, bank)).collect()
}

/// The rows of a day.
struct HeldDay {
    /// True where it was full all day and never had to become so.
    stays_full: bool,
    rows: Vec<OfDay>,
}

/// True where a charger limits the volts, by the current of these rows in order of time: it falls, or there is hardly any. A
/// source that gives all it has rises slowly and holds nothing. Where no current is told, volts alone count.
fn is_limited(within: &[&OfDay], bank: &RecordedBank) -> bool {
    let told: Vec<f64> = within.iter().filter_map(|row| row.amperes).collect();
    if told.is_empty() {
        return true;
    }
    let quarter = (told.len() / 4).max(1);
    #[expect(clippy::cast_precision_loss, reason = "minutes of a day")]
    let mean = |own: &[f64]| own.iter().sum::<f64>() / own.len() as f64;
    let (first, last) = (mean(&told[..quarter]), mean(&told[told.len() - quarter..]));
    last <= FALLEN * first || last <= 2.0 * bank.tail()
}

fn held_on(rows: &[OfDay], bank: &RecordedBank) -> Option<HeldOnDay> {
    let mut highest: Vec<&OfDay> = rows.iter().collect();
    highest.sort_by(|a, b| b.volts.total_cmp(&a.volts));
    // Spikes above what is held last for minutes: the top is what it was over for a quarter of the time that is asked for.
    let mut over = 0.0;
    let top = highest.iter().find(|row| {
        over += row.hours;
        over >= 0.25 * HOURS
    })?;
    let within: Vec<&OfDay> = rows.iter().filter(|row| (row.volts - top.volts).abs() <= BAND).collect();
    let hours: f64 = within.iter().map(|row| row.hours).sum();
    if hours < HOURS || !is_limited(&within, bank) {
        return None;
    }
    let volts = within.iter().map(|row| row.volts * row.hours).sum::<f64>() / hours;
    let told: Vec<f64> = within.iter().filter_map(|row| row.celsius).collect();
    #[expect(clippy::cast_precision_loss, reason = "minutes of a day")]
    let celsius = (!told.is_empty()).then(|| told.iter().sum::<f64>() / told.len() as f64);
    (volts >= bank.least_held(celsius)).then_some(HeldOnDay { volts, celsius })
}

/// Median of what was held less what is asked for, V a cell.
pub(super) fn held_off(all: &[HeldOnDay], bank: &RecordedBank) -> Option<f64> {
    let mut off: Vec<f64> = all.iter().map(|own| own.volts - bank.asked_at(own.celsius)).collect();
    median(&mut off)
}

/// Whether held volts fall as it gets warmer; none: too few days, or it hardly changed.
pub(super) fn held_follow(all: &[HeldOnDay]) -> Option<bool> {
    let points: Vec<(f64, f64)> = all.iter().filter_map(|own| Some((own.celsius?, own.volts))).collect();
    let (low, high) = points.iter().fold((f64::MAX, f64::MIN), |(l, h), p| (l.min(p.0), h.max(p.0)));
    if points.len() < DAYS || high - low < RANGE {
        return None;
    }
    #[expect(clippy::cast_precision_loss, reason = "days")]
    let n = points.len() as f64;
    let (mx, my) = (points.iter().map(|p| p.0).sum::<f64>() / n, points.iter().map(|p| p.1).sum::<f64>() / n);
    let sxx: f64 = points.iter().map(|p| (p.0 - mx).powi(2)).sum();
    let sxy: f64 = points.iter().map(|p| (p.0 - mx) * (p.1 - my)).sum();
    Some(sxy / sxx < FOLLOWS)
}

/// The temperature that volts are asked for at where none is told.
pub(super) fn or_usual(celsius: Option<f64>) -> f64 {
    celsius.filter(|own| own.is_finite()).unwrap_or(UNKNOWN_CELSIUS)
}
