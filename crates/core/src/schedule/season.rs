//! Days of the year: when a seasonal bank is in use, when the rain and the frost come.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// A day of any year, written 05-15.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct MonthDay {
    month: i8,
    day: i8,
}

/// Text that is no day of the year.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("“{found}” is no day of the year; accepted is month and day, as 05-15")]
pub struct MonthDayError {
    /// What was given, shortened.
    pub found: String,
}

impl MonthDay {
    /// This day in a year.
    fn in_year(self, year: i16) -> Date {
        // The 29th of February falls on the 28th in other years.
        Date::new(year, self.month, self.day)
            .or_else(|_leap| Date::new(year, self.month, 28))
            .unwrap_or(Date::MAX)
    }

    /// Its first occurrence after a day.
    pub fn after(self, day: Date) -> Date {
        let own = self.in_year(day.year());
        if own > day { own } else { self.in_year(day.year().saturating_add(1)) }
    }
}

impl FromStr for MonthDay {
    type Err = MonthDayError;
    fn from_str(text: &str) -> Result<Self, MonthDayError> {
        let parsed = || {
            let (month, day) = text.trim().split_once('-')?;
            let (month, day) = (month.parse().ok()?, day.parse().ok()?);
            // A leap year takes every day there is.
            Date::new(2024, month, day).ok().map(|_| Self { month, day })
        };
        parsed().ok_or_else(|| MonthDayError { found: text.chars().take(24).collect() })
    }
}

impl fmt::Display for MonthDay {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:02}-{:02}", self.month, self.day)
    }
}

impl TryFrom<String> for MonthDay {
    type Error = MonthDayError;
    fn try_from(text: String) -> Result<Self, MonthDayError> {
        text.parse()
    }
}

impl From<MonthDay> for String {
    fn from(day: MonthDay) -> Self {
        day.to_string()
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for MonthDay {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        utoipa::openapi::ObjectBuilder::new()
            .schema_type(utoipa::openapi::schema::Type::String)
            .description(Some("Day of any year, as 05-15"))
            .into()
    }
}
#[cfg(feature = "schema")]
impl utoipa::ToSchema for MonthDay {}

/// When a seasonal bank is in use; the rest of the year it is stored.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Season {
    /// First day in use.
    pub opens: MonthDay,
    /// Last day in use.
    pub closes: MonthDay,
}

impl Season {
    /// True when the bank is stored on this day.
    pub fn stored(self, day: Date) -> bool {
        let opens = self.opens.after(day);
        let closes = self.closes.after(day.yesterday().unwrap_or(day));
        opens < closes
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;

    fn md(text: &str) -> MonthDay {
        text.parse().unwrap()
    }

    #[test]
    fn a_summer_season_is_stored_in_winter_and_a_winter_one_in_summer() {
        let summer = Season { opens: md("05-15"), closes: md("10-01") };
        for (day, stored) in [
            (date(2026, 5, 14), true),
            (date(2026, 5, 15), false),
            (date(2026, 10, 1), false),
            (date(2026, 10, 2), true),
            (date(2026, 1, 1), true),
        ] {
            assert_eq!(summer.stored(day), stored, "{day}");
        }
        let winter = Season { opens: md("11-01"), closes: md("03-31") };
        assert!(winter.stored(date(2026, 7, 1)) && !winter.stored(date(2026, 12, 24)));
    }

    #[test]
    fn leap_days_and_text_that_is_no_day() {
        assert_eq!(md("02-29").after(date(2026, 1, 1)), date(2026, 2, 28));
        assert_eq!(md("02-29").after(date(2027, 12, 1)), date(2028, 2, 29));
        for bad in ["13-01", "02-30", "May", "5", ""] {
            assert!(bad.parse::<MonthDay>().unwrap_err().to_string().contains("as 05-15"), "{bad}");
        }
        assert_eq!(md("5-3").to_string(), "05-03");
    }
}
