//! The temperatures of a site, in words (WA-2).

use crate::quantity::Temperature;
use crate::quantity::units::{ReaderUnits, TemperatureUnit};
use crate::water::{MONTHS, MonthlyMeans, RecordLows, Season, WaterForecast};

fn say(celsius: f64, units: ReaderUnits) -> String {
    Temperature::from_celsius(celsius).map(|t| units.say_temperature(t)).unwrap_or_default()
}

/// "4 °C", "7 °F": a difference, in the reader's degrees.
fn difference(celsius: f64, units: ReaderUnits) -> String {
    match units.temperature {
        TemperatureUnit::Celsius => format!("{celsius:.0} °C"),
        TemperatureUnit::Fahrenheit => format!("{:.0} °F", celsius * 1.8),
    }
}

/// The temperatures that a forecast of water was made with, in one sentence.
pub fn forecast_temperatures(forecast: &WaterForecast, units: ReaderUnits) -> String {
    // A whole degree, of the reader's own.
    let about = |celsius: f64| match units.temperature {
        TemperatureUnit::Celsius => say(celsius.round(), units),
        TemperatureUnit::Fahrenheit => say(((celsius * 1.8 + 32.0).round() - 32.0) / 1.8, units),
    };
    match forecast.consumption.season {
        Season::Climate { means, shift, .. } => {
            let side = if shift < 0.0 { "colder" } else { "warmer" };
            let cells = if shift.abs() < 0.5 {
                String::new()
            } else {
                format!("; the cells were read {} {side}", difference(shift.abs(), units))
            };
            format!("Reckoned with the climate of the site, {} over the year{cells}.", about(means.of_year()))
        }
        Season::Wave { mean, .. } => format!(
            "Reckoned with the seasons that its own temperatures show, about {}; a climate of the site tells them better.",
            about(mean)
        ),
        Season::Flat { celsius, expected: true } => format!("Reckoned at {}, as expected.", about(celsius)),
        Season::Flat { celsius, .. } => format!(
            "Reckoned at {} all year: with a climate of the site the season counts too.",
            about(celsius)
        ),
    }
}

/// A climate in one sentence: "11 °C over the year; coldest January at 2 °C, warmest July at 20 °C."
pub fn climate_line(means: &MonthlyMeans, units: ReaderUnits) -> String {
    let all = means.celsius();
    let ends = || all.iter().zip(MONTHS);
    let year = say((means.of_year() * 10.0).round() / 10.0, units);
    let coldest = ends().min_by(|a, b| a.0.total_cmp(b.0));
    let warmest = ends().max_by(|a, b| a.0.total_cmp(b.0));
    match (coldest, warmest) {
        (Some((low, cold)), Some((high, warm))) if high > low => format!(
            "{year} over the year; coldest {cold} at {}, warmest {warm} at {}.",
            say(*low, units),
            say(*high, units)
        ),
        _ => format!("{year} all year."),
    }
}

/// What was ever seen, in one sentence: "Lowest on record −31 °C, in January."
pub fn record_lows_line(lows: &RecordLows, units: ReaderUnits) -> String {
    let all = lows.celsius();
    let coldest = all.iter().zip(MONTHS).min_by(|a, b| a.0.total_cmp(b.0));
    coldest
        .map(|(low, month)| format!("Lowest on record {}, in {month}.", super::coldness(*low, units)))
        .unwrap_or_default()
}
