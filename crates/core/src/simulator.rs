//! SM-1: a model of lead-acid cells that charge, discharge, gas, warm up, sulfate and rest.
//!
//! The structure follows Schiffer et al., J. Power Sources 168 (2007) 66 (from memory: gassing by a
//! Tafel law with 11 per volt and 0.06 per kelvin around 2.23 V), simplified. The rates of
//! sulfation, stratification and surface charge are judgement. Left out: the slight bow of gravity
//! against ampere-hours, how current spreads over a plate, and growth of corrosion; age is an input.

mod bank;
mod cell;
mod charge_account;
mod charger;
mod charging;
mod climate;
mod curves;
mod kind;
mod program;
mod step_cache;
mod string;

pub use bank::{BankReading, SimBank};
pub use cell::{SimCell, Surroundings};
pub use charge_account::ChargeAccount;
pub use charger::{ChargerSettings, SimCharger};
pub use climate::{Climate, season};
pub use kind::CellKind;
pub use program::{Kind, Moment, PhaseDrive, Program, Ran, simulate};
pub use string::{Drive, SimString, StringReading};
