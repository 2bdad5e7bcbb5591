//! The climate of a site as typed: twelve monthly means, and the lowest on record of each month.

use super::faults::{Faults, refused};
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::typed::{EntryError, mean_temperature, record_low};
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{MONTHS, MonthlyMeans, RecordLows};

type Reads = fn(&str, TemperatureUnit) -> Result<f64, EntryError>;

/// Twelve temperatures, January first, under a field.
fn by_month(
    (typed, field): (&[String], &str),
    unit: TemperatureUnit,
    (empty, reads): (&str, Reads),
) -> AppResult<[f64; 12]> {
    if typed.len() != MONTHS.len() {
        let said = format!("{} months are not possible; accepted is twelve, January first.", typed.len());
        return Err(AppError::field(field, said));
    }
    let mut faults = Faults::default();
    let mut all = [0.0; 12];
    for ((at, text), own) in typed.iter().enumerate().zip(&mut all) {
        let read = if text.trim().is_empty() {
            Err(format!("{} is empty; {empty}", MONTHS[at]))
        } else {
            reads(text, unit).map_err(|error| format!("{}: {error}", MONTHS[at]))
        };
        *own = faults.take(&format!("{field}.{at}"), read).unwrap_or_default();
    }
    faults.none()?;
    Ok(all)
}

/// Twelve monthly means, January first.
///
/// # Errors
/// Every month that is empty or does not fit, and another count than twelve.
pub fn monthly_means(typed: &[String], unit: TemperatureUnit) -> AppResult<MonthlyMeans> {
    let mean = |text: &str, unit| mean_temperature(text, unit).map(Temperature::celsius);
    let means = by_month((typed, "typed"), unit, ("a climate needs all twelve months", mean))?;
    refused("typed", MonthlyMeans::try_from(means))
}

/// The lowest on record, January first; none where none is typed.
///
/// # Errors
/// Every month that is empty while others are not, that does not fit, or that lies above its mean.
pub fn record_lows(
    typed: &[String],
    means: &MonthlyMeans,
    unit: TemperatureUnit,
) -> AppResult<Option<RecordLows>> {
    if typed.iter().all(|text| text.trim().is_empty()) {
        return Ok(None);
    }
    let empty = "the lowest is told for all twelve months or for none";
    let lows = RecordLows::try_from(by_month((typed, "lows"), unit, (empty, record_low))?);
    let lows = lows.and_then(|lows| lows.beside(means));
    lows.map(Some).map_err(|error| AppError::refused(&format!("lows.{}", error.month), &error))
}

/// The lowest as a reader would type them.
pub fn lows_as_typed(lows: &RecordLows, unit: TemperatureUnit) -> Vec<String> {
    let tenth = |celsius: &f64| (unit.of_celsius(*celsius) * 10.0).round() / 10.0;
    lows.celsius().iter().map(|celsius| format!("{}", tenth(celsius) + 0.0)).collect()
}
