//! The volts that the charger really held, against what is asked for at that temperature (CH-2), and whether they follow it.

use super::RecordedBank;
use super::day::local;
use super::span::Span;
use crate::round::median;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use std::collections::BTreeMap;

/// Volts a cell under the highest of a day within which it is held there (our choice, no source).
const BAND: f64 = 0.02;
/// Hours that it has to be held (our choice, no source).
const HOURS: f64 = 0.5;
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

/// What was held, day by day; a day on which it never came near what it is charged to has none.
pub(super) fn held(spans: &[Span], bank: &RecordedBank, zone: &TimeZone) -> Vec<HeldOnDay> {
    let mut by_day: BTreeMap<Date, Vec<(f64, Option<f64>, f64)>> = BTreeMap::new();
    for span in spans {
        let (Some(volts), Some((day, _))) = (span.row.volts, local(span.row.minute, zone)) else { continue };
        by_day.entry(day).or_default().push((volts / bank.in_series(), span.row.celsius, span.hours));
    }
    by_day.into_values().filter_map(|rows| held_on(rows, bank)).collect()
}

fn held_on(mut rows: Vec<(f64, Option<f64>, f64)>, bank: &RecordedBank) -> Option<HeldOnDay> {
    rows.sort_by(|a, b| b.0.total_cmp(&a.0));
    // Spikes above what is held last for minutes: the top is what it was over for a quarter of the time that is asked for.
    let mut over = 0.0;
    let top = rows.iter().find(|row| {
        over += row.2;
        over >= 0.25 * HOURS
    })?;
    let within: Vec<&(f64, Option<f64>, f64)> =
        rows.iter().filter(|row| (row.0 - top.0).abs() <= BAND).collect();
    let hours: f64 = within.iter().map(|row| row.2).sum();
    if hours < HOURS {
        return None;
    }
    let volts = within.iter().map(|row| row.0 * row.2).sum::<f64>() / hours;
    let told: Vec<f64> = within.iter().filter_map(|row| row.1).collect();
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
