//! The trade of the deep-cycle battery bank technician, as pure functions of values.
//!
//! Readings, a bank, a battery model and a house rule set go in; corrected gravities, conditions,
//! findings and a verdict come out. There is no clock, no file, no network and no database here:
//! dates and past rounds are arguments.
//!
//! Rule ids (`SG-1`, `RD-4` ...) name the rules of the trade as `docs/formulas.md` states them;
//! every finding carries the id of the rule that made it.
//!
//! ```
//! use rainshadow_core::electrolyte::{Correction, PLAIN_COEFFICIENT};
//! use rainshadow_core::quantity::{SpecificGravity, Temperature};
//!
//! // 1.250 read at 43.3 °C (110 °F) on a float made for 26.7 °C (80 °F):
//! let read = SpecificGravity::new(1.250)?;
//! let hot = Temperature::from_fahrenheit(110.0)?;
//! let reference = Temperature::from_fahrenheit(80.0)?;
//! let corrected = Correction::Plain { per_celsius: PLAIN_COEFFICIENT }.apply(read, hot, reference);
//! assert_eq!(format!("{corrected}"), "1.262");
//! # Ok::<(), rainshadow_core::quantity::OutOfRange>(())
//! ```
//!
//! Modules, in the order of the work: [`quantity`] (what is measured), [`battery_model`] (what a
//! maker publishes), [`house_rules`] (what the shop holds to), [`bank`] (how it stands),
//! [`instrument`] (what reads it), [`electrolyte`] (what the acid says), [`round`] (walking the
//! cells and judging them), [`rest`] (volts at rest), [`water`] (levels, consumption, the next fill),
//! [`ohmic`] (resistance of sealed batteries), [`charge`] (setpoints and what the charger is set to),
//! [`equalize`] (whether, how, and until when), [`equipment`] (what charges a bank and hangs on it), [`feed`] (what a charger tells), [`ventilation`] (air for its hydrogen), [`simulator`] (cells that behave like cells), [`visit`] (a service call in the order of the trade),
//! [`storage`] (a winter, day by day), [`runtime`] (hours under a load), [`schedule`] (what is due when), [`finding`] (what a verdict looks like),
//! [`bank_state`] (everything known of a bank merged), [`wording`] (the
//! sentences).

pub mod actor;
pub mod bank;
pub mod bank_state;
pub mod battery_model;
pub mod cell_volts;
pub mod charge;
pub mod charging_plan;
pub mod charging_record;
pub mod conductor;
pub mod diagnosis;
pub mod discharge;
pub mod electrolyte;
pub mod equalize;
pub mod equipment;
pub mod feed;
pub mod finding;
pub mod house_rules;
pub mod instrument;
mod interpolate;
pub mod joints;
pub mod life;
pub mod load_test;
pub mod log;
pub mod ohmic;
pub mod parallel_share;
pub mod quantity;
pub mod recovery;
pub mod replacement;
pub mod replacing;
pub mod rest;
pub mod revision;
pub mod round;
pub mod runtime;
pub mod schedule;
pub mod severity;
pub mod simulator;
pub mod sizing;
pub mod solar;
pub mod storage;
pub mod ventilation;
pub mod visit;
pub mod water;
pub mod wiring;
pub mod wording;
