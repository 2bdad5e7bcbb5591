//! How much of a month's light comes from the whole sky (Erbs, Klein and Duffie 1982, from memory).

use jiff::civil::Date;
use std::f64::consts::TAU;

/// Sunset hour angle that parts the two relations, degrees.
const WINTER: f64 = 81.4;

/// Hour angle at sunset, degrees, 90 at the equinox; 0 where it stays dark, 180 where it stays light.
pub fn sunset_angle(latitude: f64, day: Date) -> f64 {
    let declination = 23.45 * (TAU * f64::from(284 + day.day_of_year()) / 365.0).sin();
    let cosine = -latitude.to_radians().tan() * declination.to_radians().tan();
    cosine.clamp(-1.0, 1.0).acos().to_degrees()
}

/// Share of a month's light on level ground that comes from the whole sky, by what of the light above the air gets through.
pub fn diffuse_share(sunset: f64, through: f64) -> f64 {
    let k = through.clamp(0.3, 0.8);
    let share = if sunset <= WINTER {
        1.391 - 3.560 * k + 4.189 * k * k - 2.137 * k * k * k
    } else {
        1.311 - 3.022 * k + 3.427 * k * k - 1.821 * k * k * k
    };
    share.clamp(0.0, 1.0)
}
