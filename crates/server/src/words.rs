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

/// The civil moment of an instant in a zone, to the minute.
pub fn local_minute(at: Timestamp, zone: &str) -> jiff::civil::DateTime {
    let local = at.to_zoned_datetime(TimeZone::get(zone).unwrap_or(TimeZone::UTC)).datetime();
    local.date().at(local.hour(), local.minute(), 0, 0)
}

/// The civil day so many days before an instant.
pub fn day_before(at: Timestamp, days: f64, zone: &str) -> Date {
    let back = jiff::SignedDuration::try_from_secs_f64(days * 86_400.0).unwrap_or_default();
    local_day(at.checked_sub(back).unwrap_or(at), zone)
}

/// Days from one instant to another, fractions kept.
pub fn days_between(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 86_400.0
}
