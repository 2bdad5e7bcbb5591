//! CH-5, the sun: where it stands, what a clear sky gives, and what an array harvests of the real one.

mod array;
mod clear_sky;
mod days;
mod diffuse;
mod sun;

pub use array::{DayHarvest, SolarArray, SolarError, SolarSky, month_harvest};
pub use clear_sky::{ClearSky, clear_sky, on_plane};
pub use days::clear_days;
pub use diffuse::{diffuse_share, sunset_angle};
pub use sun::{SunAt, extraterrestrial, sun_at};
