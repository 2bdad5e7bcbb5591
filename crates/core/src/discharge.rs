//! Timed discharges: how long a battery should last at a current, and what share of that it did.

mod capacity_test;
mod ends;
mod log;
mod peukert;
mod point;
mod proxy;
mod rated_time;
mod run;
mod temperature_factor;
mod weak;

pub use capacity_test::{
    CapacityMethod, CapacityResult, CapacityTest, CapacityTestError, Drawn, NotTold, capacity_condition,
    capacity_limits, capacity_test,
};
pub use ends::way_to_end;
pub use log::{
    DischargeEvent, DischargePlan, DischargePlanError, DischargeReading, DischargedBattery, HIGHEST_END,
    LoggedEvent, MINUTES_TESTS, USUAL_END,
};
pub use peukert::{PeukertError, RATED_HOURS, exponent, peukert_hours, usual_exponents};
pub use point::DischargePoint;
pub use proxy::known_load;
pub use rated_time::{RatedFrom, RatedTime, rated_time};
pub use run::{
    DischargeAdvice, DischargeFrame, DischargeNow, DischargePhase, discharge_now, noted_discharge,
};

pub use temperature_factor::{TESTABLE, capacity_share, sizing_factor, test_factor};
pub use weak::{DischargedMate, UNDER_MATES as UNDER_MATES_NEAR_END, discharged_mates};
