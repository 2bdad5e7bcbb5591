//! RT-1 to RT-3: how many hours a bank holds a load, to its alarm and until it is empty.

mod asked;
mod discharge_volts;
mod error;
mod hours;
mod larger;
mod load;
mod proof;
mod stand_in;

pub use asked::RuntimeAsked;
pub use error::RuntimeError;
pub use hours::{Ended, HoursRange, Runtime, RuntimePoint, runtime};
pub use larger::{capacity_for, load_for};
pub use load::{INVERTER_EFFICIENCY, Inverter, RuntimeLoad};
pub use proof::{ProofJudged, RuntimeProof, judge_proof};
pub use stand_in::{STAND_IN_DEPTH, StandIn, StandInHours, StandInRefused, stand_in};
