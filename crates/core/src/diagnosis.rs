//! DG-1: what is wrong with a bank, by all evidence on record: hypotheses with what speaks for and against each, and what
//! to measure next.

mod capacity;
mod evidence;
mod gravity;
mod group;
mod hypothesis;
mod kept;
mod levels;
mod loaded;
mod measurement;
mod next;
mod score;
mod signs;
mod volts;
mod weights;

pub use evidence::{
    CellGravity, ChargerSettings, ChargingRecord, Evidence, HeldRead, InstrumentCheck, MeasuredBattery,
    ResistancesRead, RestVoltsRead, RoundRead, SeenSign, ShortLoadRead, StringMeasured, TimedDischarge,
    WaterUse,
};
pub use group::Group;
pub use hypothesis::Hypothesis;
pub use kept::READ_KEEPS;
pub use measurement::Measurement;
pub use next::{NextMeasurement, next_measurements};
pub use score::{Diagnosis, LEAD, Ranked, Sign, SignError, Speaks, Standing, diagnose};
pub use signs::{EvidenceError, HYDROMETER_OFF, METER_OFF, signs};
pub use weights::{HouseWeights, MOST as MOST_WEIGHT, Row, TableError, WeightError, Weights};
