//! Twelve monthly means as typed.

use super::faults::{Faults, refused};
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::typed::mean_temperature;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{MONTHS, MonthlyMeans};

/// Twelve monthly means, January first.
///
/// # Errors
/// Every month that is empty or does not fit, and another count than twelve.
pub fn monthly_means(typed: &[String], unit: TemperatureUnit) -> AppResult<MonthlyMeans> {
    if typed.len() != MONTHS.len() {
        let said = format!("{} months are not possible; accepted is twelve, January first.", typed.len());
        return Err(AppError::field("typed", said));
    }
    let mut faults = Faults::default();
    let mut means = [0.0; 12];
    for ((at, text), mean) in typed.iter().enumerate().zip(&mut means) {
        let field = format!("typed.{at}");
        let read = if text.trim().is_empty() {
            Err(format!("{} is empty; a climate needs all twelve months", MONTHS[at]))
        } else {
            mean_temperature(text, unit).map_err(|error| format!("{}: {error}", MONTHS[at]))
        };
        *mean = faults.take(&field, read).map_or(0.0, Temperature::celsius);
    }
    faults.none()?;
    refused("typed", MonthlyMeans::try_from(means))
}
