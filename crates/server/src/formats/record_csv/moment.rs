//! When a line was written, in the ways that programs write it.

use super::{DateOrder, RecordClock, RecordSource};
use jiff::civil::{Date, DateTime, Time};
use jiff::tz::{AmbiguousOffset, TimeZone};
use jiff::{SignedDuration, Timestamp};
use rainshadow_core::water::MONTHS;

/// Seconds since 1970 of a number that is one: from 2001 on; and the same in thousandths.
const SECONDS: std::ops::Range<f64> = 1e9..1e11;
const MILLISECONDS: std::ops::Range<f64> = 1e12..1e14;

/// Figures of a date as they stand there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Figures {
    /// Begins with its year.
    YearFirst(i16, i8, i8),
    /// Two figures in an order that has to be told, and the year; none: it has none.
    Two(i8, i8, Option<i16>),
    /// The same with dots between, as only those write it who begin with the day.
    Dotted(i8, i8, Option<i16>),
    /// Day, month by name, year; none: it has none.
    Named(i8, i8, Option<i16>),
}

/// A date and a time as they stand there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Written {
    date: Option<Figures>,
    time: Time,
    /// Seconds east of Greenwich, where told.
    offset: Option<i32>,
    /// An instant by itself.
    instant: Option<Timestamp>,
}

impl Written {
    /// True where the order of day and month has to be told.
    pub const fn wants_order(&self) -> bool {
        matches!(self.date, Some(Figures::Two(..) | Figures::Dotted(..)))
    }

    /// True where it has no year.
    pub const fn wants_year(&self) -> bool {
        matches!(
            self.date,
            Some(Figures::Two(_, _, None) | Figures::Dotted(_, _, None) | Figures::Named(_, _, None))
        )
    }

    /// True where it has to be told which clock wrote it.
    pub const fn wants_clock(&self) -> bool {
        self.offset.is_none() && self.instant.is_none()
    }

    /// True without a date.
    pub const fn wants_date(&self) -> bool {
        self.date.is_none() && self.instant.is_none()
    }

    /// The order that its figures leave open; none: both would do, or it needs none.
    pub fn order(&self) -> Option<DateOrder> {
        match self.date {
            Some(Figures::Two(first, _, _)) if first > 12 => Some(DateOrder::DayFirst),
            Some(Figures::Dotted(..)) => Some(DateOrder::DayFirst),
            Some(Figures::Two(_, second, _)) if second > 12 => Some(DateOrder::MonthFirst),
            _ => None,
        }
    }
}

/// Whole numbers in a text, at most four of them.
fn numbers(text: &str) -> Option<([i64; 4], [usize; 4], usize)> {
    let (mut all, mut digits, mut count) = ([0; 4], [0; 4], 0);
    for own in text.split(|c: char| !c.is_ascii_digit()).filter(|own| !own.is_empty()) {
        if count == 4 || own.len() > 9 {
            return None;
        }
        (all[count], digits[count]) = (own.parse().ok()?, own.len());
        count += 1;
    }
    Some((all, digits, count))
}

/// 26 is 2026.
fn year(number: i64, digits: usize) -> Option<i16> {
    let whole = if digits == 2 { number + 2000 } else { number };
    i16::try_from(whole).ok().filter(|_| digits == 2 || digits == 4)
}

fn month_named(text: &str) -> Option<i8> {
    let word: String = text.chars().filter(|c| c.is_alphabetic()).collect::<String>().to_lowercase();
    let named = |name: &&str| word.len() >= 3 && name.to_lowercase().starts_with(&word);
    MONTHS.iter().position(named).and_then(|at| i8::try_from(at + 1).ok())
}

fn date(text: &str) -> Option<Figures> {
    let (own, digits, count) = numbers(text)?;
    let small = |at: usize| i8::try_from(own[at]).ok();
    if text.chars().any(char::is_alphabetic) {
        let month = month_named(text)?;
        return match count {
            1 => Some(Figures::Named(small(0)?, month, None)),
            2 if digits[0] == 4 => Some(Figures::Named(small(1)?, month, year(own[0], 4))),
            2 => Some(Figures::Named(small(0)?, month, Some(year(own[1], digits[1])?))),
            _ => None,
        };
    }
    let two = if text.contains('.') { Figures::Dotted } else { Figures::Two };
    match count {
        3 if digits[0] == 4 => Some(Figures::YearFirst(year(own[0], 4)?, small(1)?, small(2)?)),
        3 => Some(two(small(0)?, small(1)?, Some(year(own[2], digits[2])?))),
        2 => Some(two(small(0)?, small(1)?, None)),
        1 if digits[0] == 8 => {
            let (y, m, d) = (own[0] / 10_000, own[0] / 100 % 100, own[0] % 100);
            Some(Figures::YearFirst(year(y, 4)?, i8::try_from(m).ok()?, i8::try_from(d).ok()?))
        }
        _ => None,
    }
}

/// "+01:00", "-0500", "Z" at the end: the rest and the offset.
fn offset(text: &str) -> (&str, Option<i32>) {
    if let Some(rest) = text.strip_suffix(['Z', 'z']) {
        return (rest, Some(0));
    }
    let Some(at) = text.rfind(['+', '-']) else { return (text, None) };
    let told = |own: &str| {
        let digits: String = own.chars().filter(char::is_ascii_digit).collect();
        let minutes: i32 = match digits.len() {
            2 => digits.parse::<i32>().ok()? * 60,
            4 => digits[..2].parse::<i32>().ok()? * 60 + digits[2..].parse::<i32>().ok()?,
            _ => return None,
        };
        Some(if text[at..].starts_with('-') { -60 * minutes } else { 60 * minutes })
    };
    told(&text[at + 1..]).map_or((text, None), |own| (&text[..at], Some(own)))
}

/// "10:05", "10:05:30.250", "1:05:30 PM", with or without an offset.
fn time(text: &str) -> Option<(Time, Option<i32>)> {
    let (text, east) = offset(text.trim());
    let upper = text.to_ascii_uppercase();
    let half = if upper.contains('P') { Some(12) } else { upper.contains('A').then_some(0) };
    let clock = text.trim_end_matches(|c: char| c.is_alphabetic() || c == '.' || c == ' ');
    // What is under a second does not matter.
    let whole = clock.split(['.', ',']).next().unwrap_or_default();
    let (own, _, count) = numbers(whole)?;
    let small = |at: usize| i8::try_from(own[at]).ok();
    let mut hour = small(0)?;
    if let Some(half) = half {
        hour = hour % 12 + half;
    }
    if !(2..=3).contains(&count) {
        return None;
    }
    Time::new(hour, small(1)?, small(2)?.min(59), 0).ok().map(|own| (own, east))
}

/// A date and a time in one text, or in two.
pub(super) fn written(day: Option<&str>, text: &str) -> Option<Written> {
    let text = text.trim().trim_matches('"').trim();
    if day.is_none()
        && let Ok(number) = text.parse::<f64>()
    {
        #[expect(clippy::cast_possible_truncation, reason = "within the ranges")]
        let instant = match number {
            own if SECONDS.contains(&own) => Timestamp::from_second(own as i64).ok(),
            own if MILLISECONDS.contains(&own) => Timestamp::from_millisecond(own as i64).ok(),
            _ => None,
        };
        if instant.is_some() {
            return Some(Written { date: None, time: Time::midnight(), offset: Some(0), instant });
        }
    }
    let (before, clock) = match (day, text.find(':')) {
        (Some(own), _) => (own.trim(), text),
        (None, None) => (text, ""),
        (None, Some(colon)) => {
            // The hour begins after the last sign that is no digit.
            let hour = text[..colon]
                .rfind(|c: char| !c.is_ascii_digit())
                .map_or(0, |at| at + text[at..].chars().next().map_or(1, char::len_utf8));
            (text[..hour].trim_end_matches(['T', 't', ' ', ',']), &text[hour..])
        }
    };
    let (time, offset) = if clock.is_empty() { (Time::midnight(), None) } else { time(clock)? };
    let date = if before.is_empty() { None } else { Some(date(before)?) };
    Some(Written { date, time, offset, instant: None })
}

/// Turns what is written into instants, line by line.
#[derive(Debug)]
pub(super) struct Clockwork<'a> {
    source: &'a RecordSource,
    zone: TimeZone,
    /// Year and month of the line before, for dates without a year.
    year: Option<(i16, i8)>,
    last: Option<Timestamp>,
}

impl<'a> Clockwork<'a> {
    /// Of a source; `site` is the zone of the bank.
    pub fn new(source: &'a RecordSource, site: &TimeZone) -> Self {
        let zone = match source.clock {
            Some(RecordClock::Site) => site.clone(),
            _ => TimeZone::UTC,
        };
        Self { source, zone, year: None, last: None }
    }

    /// The year of a date without one: it goes on where December turns into January.
    fn year(&mut self, month: i8) -> Option<i16> {
        let (mut year, before) = self.year.or(self.source.year.map(|own| (own, month)))?;
        if !self.source.newest_first && before == 12 && month == 1 {
            year += 1;
        }
        if self.source.newest_first && before == 1 && month == 12 {
            year -= 1;
        }
        self.year = Some((year, month));
        Some(year)
    }

    fn day(&mut self, figures: Figures) -> Option<Date> {
        let (year, month, day) = match figures {
            Figures::YearFirst(year, month, day) => (year, month, day),
            Figures::Named(day, month, year) => {
                (if let Some(own) = year { own } else { self.year(month)? }, month, day)
            }
            Figures::Two(first, second, year) | Figures::Dotted(first, second, year) => {
                let (day, month) = match self.source.date_order? {
                    DateOrder::DayFirst => (first, second),
                    DateOrder::MonthFirst => (second, first),
                };
                (if let Some(own) = year { own } else { self.year(month)? }, month, day)
            }
        };
        Date::new(year, month, day).ok()
    }

    /// The instant; none: it cannot be one. An hour that comes twice, as summer time ends, is told by the line before.
    pub fn instant(&mut self, own: &Written) -> Option<Timestamp> {
        let at = if let Some(instant) = own.instant {
            instant
        } else {
            let local = DateTime::from_parts(self.day(own.date?)?, own.time);
            match own.offset {
                Some(east) => {
                    let utc = TimeZone::UTC.to_timestamp(local).ok()?;
                    utc.checked_sub(SignedDuration::from_secs(i64::from(east))).ok()?
                }
                None => self.local(local)?,
            }
        };
        self.last = Some(at);
        Some(at)
    }

    fn local(&self, local: DateTime) -> Option<Timestamp> {
        let ambiguous = self.zone.to_ambiguous_timestamp(local);
        let AmbiguousOffset::Fold { before, after } = ambiguous.offset() else {
            return ambiguous.compatible().ok();
        };
        let (first, second) = (before.to_timestamp(local).ok()?, after.to_timestamp(local).ok()?);
        let (own, other) = if self.source.newest_first { (second, first) } else { (first, second) };
        let goes_back = |last: Timestamp| if self.source.newest_first { own > last } else { own < last };
        Some(if self.last.is_some_and(goes_back) { other } else { own })
    }
}
