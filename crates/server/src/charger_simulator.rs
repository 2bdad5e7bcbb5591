//! Stand-ins for devices that are not there.

pub mod charger;
pub mod panel;

pub use charger::{Bank, ChargerSimulator, Fault, Shared, serve};
