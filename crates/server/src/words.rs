//! Small things said in words by the server: dates and durations.

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;

/// "8 Oct 2026".
pub fn day(date: Date) -> String {
    date.strftime("%-d %b %Y").to_string()
}

/// A unit as it stands behind its figure: " V", "°", nothing.
pub fn unit_behind(unit: &str) -> String {
    match unit {
        "" => String::new(),
        "\u{b0}" => unit.to_owned(),
        unit => format!(" {unit}"),
    }
}

/// "Kestrel Dome, bank 2": a bank by its site and, where it has one, its name.
pub fn place(site: &str, name: &str) -> String {
    if name.is_empty() { site.to_owned() } else { format!("{site}, {name}") }
}

/// A day, a month or a year, not in the future: what people remember of the day a bank went into
/// service.
pub fn is_remembered_day(text: &str, today: Date) -> bool {
    let past = |day: Date| (1950..=today.year()).contains(&day.year()) && day <= today;
    let year = |y: &str| y.len() == 4 && y.parse().is_ok_and(|y: i16| (1950..=today.year()).contains(&y));
    let whole = text.parse().ok().or_else(|| format!("{text}-01").parse().ok());
    year(text) || whole.is_some_and(past)
}

/// A zone by its name; UTC where it is unknown.
pub fn zone(name: &str) -> TimeZone {
    TimeZone::get(name).unwrap_or(TimeZone::UTC)
}

/// The civil day of an instant in a zone; UTC where the zone is unknown.
pub fn local_day(at: Timestamp, zone: &str) -> Date {
    at.to_zoned_datetime(self::zone(zone)).date()
}

/// The civil moment of an instant in a zone, to the minute.
pub fn local_minute(at: Timestamp, zone: &str) -> jiff::civil::DateTime {
    let local = at.to_zoned_datetime(self::zone(zone)).datetime();
    local.date().at(local.hour(), local.minute(), 0, 0)
}

/// The civil day so many days before an instant.
pub fn day_before(at: Timestamp, days: f64, zone: &str) -> Date {
    let back = jiff::SignedDuration::try_from_secs_f64(days * 86_400.0).unwrap_or_default();
    local_day(at.checked_sub(back).unwrap_or(at), zone)
}

/// "8 Oct 2026 9:05" in a zone.
pub fn minute(at: Timestamp, zone: &str) -> String {
    local_minute(at, zone).strftime("%-d %b %Y %-H:%M").to_string()
}

/// Days from one instant to another, fractions kept.
pub fn days_between(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 86_400.0
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;

    fn at(text: &str) -> Timestamp {
        text.parse().unwrap()
    }

    #[test]
    fn a_day_is_the_day_of_the_site_and_not_of_the_server() {
        // half past eleven at night in UTC is the next morning nine hours to the east
        let late = at("2026-10-07T23:30:00Z");
        assert_eq!(local_day(late, "UTC"), date(2026, 10, 7));
        assert_eq!(local_day(late, "Etc/GMT-9"), date(2026, 10, 8));
        assert_eq!(local_day(late, "no such zone"), date(2026, 10, 7), "an unknown zone is read as UTC");
        assert_eq!(local_minute(at("2026-10-07T23:30:59Z"), "Etc/GMT-9").to_string(), "2026-10-08T08:30:00");
    }

    #[test]
    fn days_are_said_without_needless_zeros() {
        assert_eq!(day(date(2026, 10, 8)), "8 Oct 2026");
        assert_eq!(day(date(2026, 1, 31)), "31 Jan 2026");
    }

    #[test]
    fn a_day_before_lands_on_the_civil_day_of_the_site() {
        let now = at("2026-10-08T09:00:00Z");
        assert_eq!(day_before(now, 14.0, "UTC"), date(2026, 9, 24));
        assert_eq!(day_before(now, 0.5, "UTC"), date(2026, 10, 7));
        assert_eq!(day_before(now, 0.25, "UTC"), date(2026, 10, 8));
        assert!((days_between(at("2026-09-24T09:00:00Z"), now) - 14.0).abs() < 1e-9);
    }
}
