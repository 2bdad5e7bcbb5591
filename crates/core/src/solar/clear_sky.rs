//! What a clear sky gives (Ineichen and Perez 2002, from memory), level and on a plane (Hay and Davies 1980, from memory).

use super::sun::{SunAt, extraterrestrial};
use jiff::civil::Date;

/// Linke turbidity of the air: clean inland air (CH-5; our choice, no source).
const TURBIDITY: f64 = 3.0;
/// Share of the light that the ground throws back.
const ALBEDO: f64 = 0.2;
/// The sun this near to the horizon counts as on it, cosine of its zenith.
const LOW_SUN: f64 = 0.017_45;

/// A clear sky at a moment, W/m².
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct ClearSky {
    /// Everything on level ground.
    pub horizontal: f64,
    /// Straight from the sun, on a plane that faces it.
    pub direct: f64,
    /// From the rest of the sky, on level ground.
    pub diffuse: f64,
}

/// Air between the sun and the place, 1 straight up at sea level (Kasten and Young 1989, from memory).
fn air_mass(zenith: f64, altitude: f64) -> f64 {
    let relative = 1.0 / (zenith.to_radians().cos() + 0.50572 * (96.07995 - zenith).powf(-1.6364));
    let pressure = 100.0 * ((44_331.514 - altitude) / 11_880.516).powf(1.0 / 0.190_263_2);
    relative * pressure / 101_325.0
}

/// A clear sky with the sun at a place, at an altitude over the sea, m.
pub fn clear_sky(sun: SunAt, day: Date, altitude: f64) -> ClearSky {
    if sun.zenith >= 90.0 {
        return ClearSky::default();
    }
    let above = extraterrestrial(day);
    let upright = sun.zenith.to_radians().cos();
    let mass = air_mass(sun.zenith, altitude);
    let (fh1, fh2) = ((-altitude / 8000.0).exp(), (-altitude / 1250.0).exp());
    let (cg1, cg2) = (5.09e-5 * altitude + 0.868, 3.92e-5 * altitude + 0.0387);
    let horizontal = cg1 * above * upright * (-cg2 * mass * (fh1 + fh2 * (TURBIDITY - 1.0))).exp();
    let b = 0.664 + 0.163 / fh1;
    let straight = (above * b * (-0.09 * mass * (TURBIDITY - 1.0)).exp()).max(0.0);
    let least = 1.0 - (0.1 - 0.2 * (-TURBIDITY).exp()) / (0.1 + 0.882 / fh1);
    let direct = straight.min((horizontal * least / upright).max(0.0));
    ClearSky { horizontal, direct, diffuse: horizontal - direct * upright }
}

/// What falls on a plane, W/m²: tilt from level and azimuth from north over east, degrees.
pub fn on_plane(sky: ClearSky, sun: SunAt, day: Date, (tilt, azimuth): (f64, f64)) -> f64 {
    if sun.zenith >= 90.0 {
        return 0.0;
    }
    let (z, t) = (sun.zenith.to_radians(), tilt.to_radians());
    let between = z.cos() * t.cos() + z.sin() * t.sin() * (sun.azimuth - azimuth).to_radians().cos();
    let facing = between.max(0.0);
    let anisotropy = (sky.direct / extraterrestrial(day)).min(1.0);
    let round_the_sun = facing / z.cos().max(LOW_SUN);
    let open = f64::midpoint(1.0, t.cos());
    let diffuse = sky.diffuse * (anisotropy * round_the_sun + (1.0 - anisotropy) * open);
    sky.direct * facing + diffuse + sky.horizontal * ALBEDO * (1.0 - open)
}
