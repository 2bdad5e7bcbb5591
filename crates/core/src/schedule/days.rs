//! Days counted on.

use jiff::ToSpan;
use jiff::civil::Date;

/// A day so many days later; the last day there is where it would lie behind it.
pub(super) fn plus(day: Date, days: i64) -> Date {
    day.checked_add(days.days()).unwrap_or(Date::MAX)
}
