//! What is drawn all the time: the median current of the quietest four hours of nights without charge (CR-1).

use super::RecordedBank;
use super::day::local;
use super::span::Span;
use crate::round::median;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use std::collections::BTreeMap;

/// Local hours between which it is night (our choice, no source).
const NIGHT: (f64, f64) = (20.0, 8.0);
/// Hours of the quietest part, and share of them that is known.
const QUIET: f64 = 4.0;
const KNOWN: f64 = 0.9;
/// Share of C20 from which a current charges (our choice, no source).
const CHARGES: f64 = 0.001;

/// A minute of the night: minutes since 1970, hours it stands for, amperes out.
type OfNight = (i64, f64, f64);

/// Median of what comes out in the quietest four hours of a night; none where they are not known, or it was charged.
fn quietest(rows: &[OfNight], bank: &RecordedBank) -> Option<f64> {
    if rows.iter().any(|row| row.2 < -CHARGES * bank.c20) {
        return None;
    }
    #[expect(clippy::cast_possible_truncation, reason = "four hours in minutes")]
    let window = (60.0 * QUIET) as i64;
    let mut best: Option<(f64, Vec<f64>)> = None;
    let (mut from, mut hours, mut sum) = (0, 0.0, 0.0);
    for (to, row) in rows.iter().enumerate() {
        (hours, sum) = (hours + row.1, sum + row.1 * row.2);
        while row.0 - rows[from].0 >= window {
            (hours, sum) = (hours - rows[from].1, sum - rows[from].1 * rows[from].2);
            from += 1;
        }
        let mean = sum / hours;
        if hours >= KNOWN * QUIET && best.as_ref().is_none_or(|(least, _)| mean < *least) {
            best = Some((mean, rows[from..=to].iter().map(|row| row.2).collect()));
        }
    }
    best.and_then(|(_, mut own)| median(&mut own))
}

/// What is drawn all the time, A; none: no quiet night is known.
pub(super) fn standing_draw(spans: &[Span<'_>], bank: &RecordedBank, zone: &TimeZone) -> Option<f64> {
    let mut nights: BTreeMap<Date, Vec<OfNight>> = BTreeMap::new();
    for span in spans {
        let (Some(amperes), Some((day, hour))) = (span.row.amperes, local(span.row.minute, zone)) else {
            continue;
        };
        // A night is that of the day it ends on.
        let night = if hour >= NIGHT.0 { day.tomorrow().ok() } else { (hour < NIGHT.1).then_some(day) };
        if let Some(night) = night {
            nights.entry(night).or_default().push((span.row.minute, span.hours, -amperes));
        }
    }
    let mut quiet: Vec<f64> = nights.values().filter_map(|rows| quietest(rows, bank)).collect();
    median(&mut quiet).map(|own| own.max(0.0))
}
