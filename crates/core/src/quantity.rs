//! Quantities of the trade: each is a type, its unit is in the constructor, its accepted range is
//! in [`bounds`].

pub mod air;
pub mod bounds;
mod conversion;
mod points;
mod simple;
mod specific_gravity;
mod temperature;
pub mod torque;
pub mod typed;
pub mod units;

pub use bounds::{Bounds, OutOfRange};
pub use points::Points;
pub use simple::{Charge, Length, Voltage, Volume};
pub use specific_gravity::SpecificGravity;
pub use temperature::{Temperature, TemperatureStep};
