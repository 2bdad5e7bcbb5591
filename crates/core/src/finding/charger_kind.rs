//! The codes of what is found of chargers, air and the record of the charging.

use crate::charge::{AuditedStage, Effect, Stage};
use crate::equipment::{AirJudged, NeverFinish};
use serde::{Deserialize, Serialize};
use strum::IntoStaticStr;

/// What charges the bank and how its air moves (CH-3, VE-1, CH-5, CR-1).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ChargerFinding {
    /// One stage off its setpoint.
    OffSetpoint {
        /// The stage as judged.
        stage: AuditedStage,
    },
    /// The air that moves is less than the gas asks for (VE-1).
    TooLittleAir {
        /// As judged.
        air: AirJudged,
    },
    /// No source that is told can bring the bank to full (CH-5).
    NoneFinishes {
        /// Why.
        why: NeverFinish,
    },
    /// A charger that does not suit the batteries.
    WrongCharger {
        /// What it does.
        effect: Effect,
    },
    /// Days on record without a full charge, up to its end (CR-1).
    LongWithoutFull {
        /// Days without, of those that are known.
        days: u32,
        /// Days of the record that reached full.
        full_days: u32,
        /// Days of it that are known.
        known_days: u32,
    },
    /// More or less comes back than a bank asks for, on record (CR-1).
    OddChargeFactor {
        /// Ah in for each that came out.
        factor: f64,
        /// Usual, least and most.
        usual: [f64; 2],
    },
    /// Volts that the record shows held, off what is asked for (CR-1, CH-2).
    HeldOff {
        /// Less what is asked for, V a cell.
        off: f64,
        /// Absorption, in standby float.
        stage: Stage,
    },
    /// Volts that were held on record and do not follow the temperature (CR-1, CH-2).
    HeldFixed,
}
