//! A record by local days.

use super::RecordedBank;
use super::full::StillFull;
use super::span::Span;
use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Hours that have to be known of a day that is counted (our choice, no source).
pub(super) const KNOWN_HOURS: f64 = 12.0;

/// One local day of a record.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DayOnRecord {
    /// The day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Hours that are known of it.
    pub known_hours: f64,
    /// True where it reached full.
    pub full: bool,
    /// Ah that came out.
    pub out: f64,
    /// Ah that went in.
    pub back: f64,
    /// The deepest it was, share of C20; none: not known.
    pub depth: Option<f64>,
    /// The least of it that was out, share of C20; none: not known.
    pub fullest: Option<f64>,
    /// Hours of gassing.
    pub gassing_hours: f64,
}

impl DayOnRecord {
    /// True where enough is known of it to count it.
    pub fn counts(&self) -> bool {
        self.known_hours >= KNOWN_HOURS
    }
}

/// The local day and the hour of it.
pub(super) fn local(minute: i64, zone: &TimeZone) -> Option<(Date, f64)> {
    let at = Timestamp::from_second(minute.checked_mul(60)?).ok()?.to_zoned_datetime(zone.clone());
    Some((at.date(), f64::from(at.hour()) + f64::from(at.minute()) / 60.0))
}

/// Every local day that has rows, the oldest first. A row counts to the day it begins on.
pub(super) fn days(
    spans: &[Span<'_>],
    fulls: &[usize],
    depths: &[Option<f64>],
    bank: &RecordedBank,
    zone: &TimeZone,
) -> Vec<DayOnRecord> {
    let mut all: BTreeMap<Date, DayOnRecord> = BTreeMap::new();
    let mut still = StillFull::new(bank);
    for (at, (span, depth)) in spans.iter().zip(depths).enumerate() {
        let Some((day, _)) = local(span.row.minute, zone) else { continue };
        let own = all.entry(day).or_insert(DayOnRecord {
            day,
            known_hours: 0.0,
            full: false,
            out: 0.0,
            back: 0.0,
            depth: None,
            fullest: None,
            gassing_hours: 0.0,
        });
        let (charged, drawn) = span.ampere_hours();
        (own.out, own.back) = (own.out + drawn, own.back + charged);
        own.known_hours += span.hours;
        let reached = fulls.binary_search(&at).is_ok();
        still.take(span, reached);
        // What is held on float stays full, day after day.
        own.full |= reached || still.is_full();
        own.depth = own.depth.into_iter().chain(*depth).reduce(f64::max);
        own.fullest = own.fullest.into_iter().chain(*depth).reduce(f64::min);
        if bank.gasses(span.row) {
            own.gassing_hours += span.hours;
        }
    }
    all.into_values().collect()
}

/// Share of C20 from which a source charges, rather than a float or a rounding (our choice, no source).
const CHARGES: f64 = 0.02;

/// Hours a day that something charges, on days that count and do not reach full, and the mean current then.
pub(super) fn charged(
    spans: &[Span<'_>],
    days: &[DayOnRecord],
    bank: &RecordedBank,
    zone: &TimeZone,
) -> Option<[f64; 2]> {
    let short: Vec<Date> = days.iter().filter(|day| day.counts() && !day.full).map(|day| day.day).collect();
    let (mut hours, mut ampere_hours) = (0.0, 0.0);
    for span in spans {
        let Some(amperes) = span.row.amperes.filter(|own| *own >= CHARGES * bank.c20) else { continue };
        let Some((day, _)) = local(span.row.minute, zone) else { continue };
        if short.binary_search(&day).is_ok() {
            hours += span.hours;
            ampere_hours += amperes * span.hours;
        }
    }
    #[expect(clippy::cast_precision_loss, reason = "days of years")]
    let known = short.len() as f64;
    (hours > 0.0).then(|| [hours / known, ampere_hours / hours])
}

/// Amperes that are drawn in each local hour of the day while nothing charges, in the mean; none: it is always charged then.
pub(super) fn drawn_by_hour(spans: &[Span<'_>], zone: &TimeZone) -> [Option<f64>; 24] {
    let mut sums = [(0.0, 0.0); 24];
    for span in spans {
        let Some(amperes) = span.row.amperes.filter(|own| *own <= 0.0) else { continue };
        let Some((_, hour)) = local(span.row.minute, zone) else { continue };
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 23")]
        let own = &mut sums[(hour as usize).min(23)];
        (own.0, own.1) = (own.0 - amperes * span.hours, own.1 + span.hours);
    }
    sums.map(|(drawn, hours)| (hours > 0.0).then(|| drawn / hours))
}

/// The longest run of days that count and did not reach full, with its first and last; a day that is not known ends it.
pub(super) fn longest_without_full(days: &[DayOnRecord]) -> (u32, Option<[Date; 2]>) {
    let mut longest = (0, None);
    let mut own: Option<(u32, Date)> = None;
    let mut before: Option<Date> = None;
    for day in days {
        let follows = before.is_none_or(|b| b.tomorrow().is_ok_and(|next| next == day.day));
        own = match (day.full, day.counts(), own.filter(|_| follows)) {
            (false, true, Some((count, first))) => Some((count + 1, first)),
            (false, true, None) => Some((1, day.day)),
            _ => None,
        };
        if let Some((count, first)) = own.filter(|(count, _)| *count > longest.0) {
            longest = (count, Some([first, day.day]));
        }
        before = Some(day.day);
    }
    longest
}
