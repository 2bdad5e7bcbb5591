//! Days of a notebook, with the hour where it is known.

use super::Against;
use jiff::civil::{Date, Time};

/// As it stands over its column: "2025-03-14", "2025-03-14 09:30".
pub(super) fn heading(date: Date, time: Option<Time>) -> String {
    time.map_or_else(|| date.to_string(), |t| format!("{date} {}", t.strftime("%H:%M")))
}

/// "2025-03-14", "2025-03-14 09:30" or "2025-03-14T09:30".
pub(super) fn moment(text: &str) -> Option<(Date, Option<Time>)> {
    if let Ok(date) = text.parse::<Date>()
        && text.len() == 10
    {
        return Some((date, None));
    }
    let (day, hour) = text.split_once(['T', ' '])?;
    let at = Time::strptime("%H:%M", hour.trim()).ok()?;
    Some((day.parse().ok()?, Some(at)))
}

/// Why a round cannot have been at that moment. Without an hour it claims the whole day.
pub(super) fn misplaced(
    date: Date,
    time: Option<Time>,
    seen: &[(Date, Option<Time>)],
    against: Against<'_>,
) -> Option<&'static str> {
    let whole_day = time.is_none();
    if date > against.today {
        Some("this day lies in the future")
    } else if date.year() < 1950 {
        Some("no bank in service is that old; accepted is 1950 or later")
    } else if seen.iter().any(|(d, t)| *d == date && (whole_day || t.is_none() || *t == time)) {
        Some(
            "this day stands in an earlier column already; two rounds of a day need their hours, as 2025-03-14 09:30",
        )
    } else if against.taken.iter().any(|t| t.date() == date && (whole_day || Some(t.time()) == time)) {
        Some("this bank has a round on that day already")
    } else {
        None
    }
}
