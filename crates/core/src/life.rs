//! How long a bank lasts: cycles by depth (LF-1), the years and their heat (LF-2), and what is left of it (LF-3).

mod cycles;
mod gassing;
mod rainflow;
mod remaining;
mod wear;

pub use cycles::{CycleTable, CyclesAllowed, LIFE_SPREAD, LifeError, cycles_allowed, spread};
pub use gassing::{Gassing, GassingBy, gassing};
pub use rainflow::{CountedCycle, rainflow};
pub use remaining::{CapacityOnDay, EndOfLife, RemainingLife, end_capacity, remaining_by_tests};
pub use wear::{CalendarShare, LifeUse, Wear, daily_cycle_life, design_life, remaining_by_wear, wear};
