//! Charging: what the charger should be set to, and what its settings do.

mod audit;
mod limits;
mod setpoint;
mod time_to_full;

pub(crate) use audit::VOLTS_ON_CHARGE;
pub use audit::{
    AuditedStage, ChargerSettings, Effect, SettingsAudit, SettingsError, limits_of, settings_audit,
};
pub use limits::{ChargeLimits, StageVolts, TOLD_AT, charge_limits, charging_current};
pub(crate) use setpoint::compensated;
pub use setpoint::{
    COEFFICIENT, COLDEST_EQUALIZE, ChargerTemperature, FLOAT_LEAST, HOTTEST_CHARGE, Held, MOST_PER_CELL,
    Setpoint, SetpointError, Stage, setpoint,
};
pub use time_to_full::{Acceptance, TimeToFull, returned, tail, time_to_full};
