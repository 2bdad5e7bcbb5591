//! What an array harvests on a day of a month.

use super::clear_sky::{ClearSky, clear_sky, on_plane};
use super::diffuse::{diffuse_share, sunset_angle};
use super::sun::{SunAt, extraterrestrial, sun_at};
use crate::quantity::{OutOfRange, bounds};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Minutes of a step through the day.
const STEP: u32 = 15;
/// Steps of an hour.
const STEPS: u32 = 60 / STEP;

/// An array.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolarArray {
    /// W by its plates.
    pub watts: f64,
    /// From level, degrees.
    pub tilt: f64,
    /// From north over east, degrees; 180 is south.
    pub azimuth: f64,
    /// Share that is left of what its plates promise, 0.75 as a rule: heat, dirt, wires, controller (CH-5; common practice,
    /// no source).
    #[serde(default = "usual_losses")]
    pub left: f64,
}

fn usual_losses() -> f64 {
    0.75
}

/// The sky over a site.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolarSky {
    /// Degrees, north positive.
    pub latitude: f64,
    /// m over the sea.
    #[serde(default)]
    pub altitude: f64,
    /// Light on level ground by month against that of a clear sky, January first, 0.1 to 1.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
    pub clearness: [f64; 12],
    /// Share of the harvest that snow leaves, by month, 0 to 1.
    #[serde(default = "no_snow")]
    #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
    pub snow: [f64; 12],
}

fn no_snow() -> [f64; 12] {
    [1.0; 12]
}

/// Why nothing is harvested.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum SolarError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// A figure of a month.
    #[error("{month}: {refused}")]
    Month {
        /// Its name.
        month: &'static str,
        /// Why.
        refused: OutOfRange,
    },
}

impl SolarError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange(own) if own.bounds == bounds::LATITUDE => "latitude",
            Self::OutOfRange(own) if own.bounds == bounds::ALTITUDE => "altitude",
            Self::OutOfRange(own) if own.bounds == bounds::ARRAY_WATTS => "watts",
            Self::OutOfRange(own) if own.bounds == bounds::TILT => "tilt",
            Self::OutOfRange(own) if own.bounds == bounds::AZIMUTH => "azimuth",
            Self::OutOfRange(_) => "left",
            Self::Month { refused, .. } if refused.bounds == bounds::SNOW_SHARE => "snow",
            Self::Month { .. } => "clearness",
        }
    }
}

impl SolarArray {
    /// Says whether it can be.
    ///
    /// # Errors
    /// [`SolarError`] with the figure.
    pub fn check(&self) -> Result<(), SolarError> {
        bounds::ARRAY_WATTS.check(self.watts)?;
        bounds::TILT.check(self.tilt)?;
        bounds::AZIMUTH.check(self.azimuth)?;
        bounds::ARRAY_LEFT.check(self.left)?;
        Ok(())
    }
}

impl SolarSky {
    /// Says whether it can be.
    ///
    /// # Errors
    /// [`SolarError`] with the figure.
    pub fn check(&self) -> Result<(), SolarError> {
        bounds::LATITUDE.check(self.latitude)?;
        bounds::ALTITUDE.check(self.altitude)?;
        let by_month = |figures: &[f64; 12], range: bounds::Bounds| {
            figures.iter().zip(crate::water::MONTHS).try_for_each(|(own, month)| {
                range.check(*own).map(|_| ()).map_err(|refused| SolarError::Month { month, refused })
            })
        };
        by_month(&self.clearness, bounds::CLEARNESS)?;
        by_month(&self.snow, bounds::SNOW_SHARE)
    }
}

/// The harvest of a day.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DayHarvest {
    /// kWh a square metre on level ground.
    pub horizontal: f64,
    /// On the array.
    pub on_array: f64,
    /// Wh into the bank, snow and losses off.
    pub watt_hours: f64,
    /// The same by hour of the solar day.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 24, max_items = 24))]
    pub by_hour: [f64; 24],
}

fn sky_at(latitude: f64, altitude: f64, day: Date, step: u32) -> (SunAt, ClearSky) {
    let hour = (f64::from(step) + 0.5) / f64::from(STEPS);
    let sun = sun_at(latitude, day, hour);
    (sun, clear_sky(sun, day, altitude))
}

/// Light of a day above the air on level ground, Wh/m².
fn above_the_air(latitude: f64, day: Date) -> f64 {
    let at = |step: u32| {
        let sun = sun_at(latitude, day, (f64::from(step) + 0.5) / f64::from(STEPS));
        sun.zenith.to_radians().cos().max(0.0) / f64::from(STEPS)
    };
    extraterrestrial(day) * (0..24 * STEPS).map(at).sum::<f64>()
}

/// What an array harvests on a mean day about this date (CH-5): the clear sky times the clearness of its month, parted into
/// straight and diffuse light by Erbs, brought onto the array by Hay and Davies.
pub fn month_harvest(array: &SolarArray, sky: &SolarSky, day: Date) -> DayHarvest {
    let month = usize::from(day.month().unsigned_abs()) - 1;
    let clearness = sky.clearness[month];
    let steps: Vec<(SunAt, ClearSky)> =
        (0..24 * STEPS).map(|step| sky_at(sky.latitude, sky.altitude, day, step)).collect();
    let clear: f64 = steps.iter().map(|(_, own)| own.horizontal / f64::from(STEPS)).sum();
    let above = above_the_air(sky.latitude, day);
    let through = if above > 0.0 { clearness * clear / above } else { 0.0 };
    let diffuse = diffuse_share(sunset_angle(sky.latitude, day), through);
    let mut own = DayHarvest { horizontal: 0.0, on_array: 0.0, watt_hours: 0.0, by_hour: [0.0; 24] };
    for (step, (sun, clear)) in steps.iter().enumerate() {
        let horizontal = clear.horizontal * clearness;
        if horizontal <= 0.0 {
            continue;
        }
        let upright = sun.zenith.to_radians().cos().max(0.01745);
        let direct = (horizontal * (1.0 - diffuse) / upright).min(clear.direct.max(0.0));
        let real = ClearSky { horizontal, direct, diffuse: horizontal - direct * upright };
        let on = on_plane(real, *sun, day, (array.tilt, array.azimuth)) / f64::from(STEPS);
        own.horizontal += horizontal / f64::from(STEPS) / 1000.0;
        own.on_array += on / 1000.0;
        let hour = step / STEPS as usize;
        own.by_hour[hour] += on / 1000.0 * array.watts * array.left * sky.snow[month];
    }
    own.watt_hours = own.by_hour.iter().sum();
    own
}
