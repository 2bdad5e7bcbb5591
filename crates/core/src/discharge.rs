//! Timed discharges: how long a battery should last at a current, and what share of that it did.

mod capacity_test;
mod peukert;
mod proxy;
mod rated_time;
mod temperature_factor;

pub use capacity_test::{
    CapacityMethod, CapacityResult, CapacityTest, CapacityTestError, Drawn, NotTold, capacity_condition,
    capacity_test,
};
pub use peukert::{PeukertError, RATED_HOURS, exponent, peukert_hours, usual_exponents};
pub use proxy::known_load;
pub use rated_time::{RatedFrom, RatedTime, rated_time};
pub(crate) use temperature_factor::SIZING;
pub use temperature_factor::{TESTABLE, sizing_factor, test_factor};
