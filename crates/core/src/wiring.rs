//! How a bank is wired: its links and cables described once, and what ST-1 makes of them.

mod compared;
mod currents;
mod described;
mod options;
mod resistances;
mod share;

pub use compared::{CLAMP_FLAT, CLAMP_SHARE, ClampAgainst, against_clamp};
pub use currents::{StringCurrents, string_currents};
pub use described::{Coupling, StringEnd, Wiring, WiringError};
pub use options::WiringOption;
pub use resistances::{BatteryResistance, ShareOrWiring, StringPath, WiringKnown};
pub use share::{WhyUneven, WiringShare, judge_wiring};
