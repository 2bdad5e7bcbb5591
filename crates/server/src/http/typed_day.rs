//! A day as typed.

use super::error::{ApiError, ApiResult};
use jiff::civil::Date;

/// Year, month and day.
///
/// # Errors
/// [`ApiError`] on the field, with what is accepted.
pub fn day(text: &str, field: &str) -> ApiResult<Date> {
    let day: Option<Date> = text.trim().parse().ok();
    // Days beyond are typing errors, and the arithmetic of a calendar ends somewhere.
    day.filter(|day| (1950..=2200).contains(&day.year())).ok_or_else(|| {
        let said =
            format!("“{text}” is no day; accepted is year, month and day from 1950 to 2200, as 2026-10-08.");
        ApiError::field(field, said)
    })
}
