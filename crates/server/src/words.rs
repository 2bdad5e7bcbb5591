//! Small things said in words by the server: dates and durations.

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;

/// "8 Oct 2026".
pub fn day(date: Date) -> String {
    date.strftime("%-d %b %Y").to_string()
}

/// The civil day of an instant in a zone; UTC where the zone is unknown.
pub fn local_day(at: Timestamp, zone: &str) -> Date {
    at.to_zoned_datetime(TimeZone::get(zone).unwrap_or(TimeZone::UTC)).date()
}

/// Days from one instant to another, fractions kept.
pub fn days_between(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 86_400.0
}
