//! Where the sun stands (Grena 2012, by the crate `solar-positioning`), and what comes in above the air.

use jiff::civil::Date;
use solar_positioning::time::JulianDate;
use solar_positioning::{Location, SolarPositions};
use std::f64::consts::TAU;

/// Solar constant, W/m² (source key `solar-constant`, from memory).
const SOLAR_CONSTANT: f64 = 1366.1;
/// Seconds between the clocks and the turning earth: it moves the sun by a hundredth of a degree in decades.
const DELTA_T: f64 = 69.0;

/// Where the sun stands, degrees.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SunAt {
    /// From straight above.
    pub zenith: f64,
    /// From north over east.
    pub azimuth: f64,
}

/// The sun at a latitude, degrees, on a day, at an hour of the mean solar day (12 is within a quarter of an hour of noon).
/// Straight below where the date or the latitude cannot be.
pub fn sun_at(latitude: f64, day: Date, hour: f64) -> SunAt {
    let below = SunAt { zenith: 180.0, azimuth: 0.0 };
    let midnight = JulianDate::from_utc(
        i32::from(day.year()),
        u32::from(day.month().unsigned_abs()),
        u32::from(day.day().unsigned_abs()),
        0,
        0,
        0.0,
        DELTA_T,
    );
    let Ok(midnight) = midnight else { return below };
    let Ok(time) = JulianDate::new(midnight.julian_date() + hour / 24.0, DELTA_T) else { return below };
    let place = Location { latitude, longitude: 0.0 };
    SolarPositions::grena3()
        .at_from_julian(time, place, 0.0, None)
        .map_or(below, |own| SunAt { zenith: own.zenith_angle(), azimuth: own.azimuth() })
}

/// Irradiance above the air on a plane that faces the sun, W/m² (Spencer 1971, from memory).
pub fn extraterrestrial(day: Date) -> f64 {
    let b = TAU * f64::from(day.day_of_year() - 1) / 365.0;
    let distance = 1.000_11
        + 0.034_221 * b.cos()
        + 0.001_28 * b.sin()
        + 0.000_719 * (2.0 * b).cos()
        + 0.000_077 * (2.0 * b).sin();
    SOLAR_CONSTANT * distance
}
