//! Volts at rest: what a reading is worth, what charge it tells, who stands apart, and which link
//! to look at (RD-7).

mod charge;
mod found;
mod grade;
mod judge;
mod strings;
mod typed;

pub use charge::{AGM_TWELVE_VOLT, ChargeRange, FLOODED_TWELVE_VOLT, RestTable, charge_of};
pub use found::RestFinding;
pub use grade::{Grade, HIGH_AFTER_CHARGE, RestConditions};
pub use judge::{
    AGM_DEVIATION_VOLTS, BatteryVolts, CELL_MISSING_VOLTS, JudgedBattery, RestAssessment, RestSheet,
    RestSummary, StringVolts, judge_rest,
};
pub use strings::{Fault, STRING_SHORT_VOLTS, string_fault};
pub use typed::{VoltsQuestion, VoltsRefused, battery_volts, string_volts, volts_question};
