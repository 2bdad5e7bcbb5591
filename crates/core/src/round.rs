//! A round: one walk over every cell with the instrument, and what the numbers mean.

mod balance;
mod centre;
pub(crate) mod condition;
mod gradient;
mod judge;
mod ledger;
pub(crate) mod pattern;
mod reading;
mod reread;
mod rest_check;
mod trend;
mod usable;

pub use balance::{Balance, BalanceVerdict};
pub use centre::{Spread, StringFigures, median, middle_of};
pub use condition::STEADY_POINTS;
pub use judge::{Assessment, JudgedCell, RoundToJudge, judge};
pub use ledger::{Entry, standing};
pub use pattern::{Level, Shape};
pub use reading::{BatteryTemperature, CellReading, CellRecord, Conditions, RoundTemperature, WaterAdded};
pub use reread::{LastReading, Preview, Question, RunningRound, UnquestionedRange, confirms};
pub use rest_check::RestCheck;
pub use trend::{PastCell, PastRound, Sinking, Slope, slope};
pub use usable::{Doubt, Unusable, Usability};
