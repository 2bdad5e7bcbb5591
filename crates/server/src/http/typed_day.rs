//! A day as typed.

use super::error::{ApiError, ApiResult};
use jiff::civil::Date;

/// Year, month and day.
///
/// # Errors
/// [`ApiError`] on the field, with what is accepted.
pub fn day(text: &str, field: &str) -> ApiResult<Date> {
    text.trim().parse().map_err(|_parse| {
        let said = format!("“{text}” is no day; accepted is year, month and day, as 2026-10-08.");
        ApiError::field(field, said)
    })
}
