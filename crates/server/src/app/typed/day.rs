//! A day as typed.

use crate::app::refused::{AppError, AppResult};
use jiff::civil::Date;

/// Year, month and day.
///
/// # Errors
/// [`AppError`] on the field, with what is accepted.
pub fn day(text: &str, field: &str) -> AppResult<Date> {
    let day: Option<Date> = text.trim().parse().ok();
    // Days beyond are typing errors, and the arithmetic of a calendar ends somewhere.
    day.filter(|day| (1950..=2200).contains(&day.year())).ok_or_else(|| {
        let what = if text.trim().is_empty() {
            "A day is missing".into()
        } else {
            format!("“{text}” is no day")
        };
        let said = format!("{what}; accepted is year, month and day from 1950 to 2200, as 2026-10-08.");
        AppError::field(field, said)
    })
}
