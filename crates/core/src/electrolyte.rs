//! What the acid says: temperature correction (SG-1), state of charge (SG-2), rest voltage (SG-3), freezing (SG-5).

mod density;
mod freezing;
mod rest_voltage;
mod state_of_charge;
mod temperature_correction;

pub use freezing::{FREEZING_MARGIN, freezing_point};
pub(crate) use rest_voltage::MEASURED;
pub use rest_voltage::{
    CROSS_CHECK_LIMIT_VOLTS, gravity_at_rest_volts, measured_range, measured_rest_voltage, rule_rest_voltage,
};
pub use state_of_charge::{
    DEEP_CYCLE_TABLE, GENERAL_TABLE, SocPoint, SocTable, StateOfCharge, StateOfChargeBasis,
};
pub use temperature_correction::{Correction, PLAIN_COEFFICIENT, plain_rule_error};
