//! Volts at rest: what a reading is worth, what charge it tells, who stands apart, and which link
//! to look at (RD-7).

mod apart;
mod charge;
mod found;
mod grade;
mod held_loss;
mod holding;
mod judge;
mod sheet;
mod state;
mod strings;
mod typed;

pub use charge::{AGM_TWELVE_VOLT, ChargeRange, FLOODED_TWELVE_VOLT, RestTable, charge_of, volts_at_charge};
pub use found::RestFinding;
pub use grade::{Grade, HIGH_AFTER_CHARGE, RestConditions, Wait};
pub use held_loss::{
    BatteryLoss, COMPARED_FROM_DAYS, DIRTY_PER_DAY, Held, HeldLoss, HeldOver, METER_ON_POSTS, held_loss,
    usual_loss,
};
pub use holding::{
    FAILS_UNDER, HOLDING_HOURS, HOLDS_UNDER, Holds, against_full, full_rest_volts, holding_hours, holds,
};
pub use judge::{
    AGM_DEVIATION_VOLTS, CELL_MISSING_VOLTS, Holding, JudgedBattery, RestAssessment, RestSummary, judge_rest,
};
pub use sheet::{BatteryVolts, HeldSince, RestSheet, StringVolts};
pub use state::VoltsState;
pub use strings::{Fault, STRING_SHORT_VOLTS, string_fault};
pub use typed::{VoltsQuestion, VoltsRefused, battery_volts, state_question, string_volts, volts_question};
