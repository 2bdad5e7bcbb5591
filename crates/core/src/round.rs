//! A round: one walk over every cell with the instrument, and what the numbers mean.

mod accept;
mod assessment;
mod balance;
mod centre;
pub(crate) mod condition;
mod entry;
mod fit;
mod gradient;
mod judge;
pub(crate) mod over_full;
pub(crate) mod pattern;
mod question;
mod reading;
mod reread;
pub(crate) mod rest_check;
pub(crate) mod shape;
mod summary;
mod trend;
mod usable;

pub use accept::{AcceptedReading, ReadingRefused, RoundUnderWay, accept};
pub use assessment::{Assessment, JudgedCell, RoundToJudge};
pub use balance::{Balance, BalanceVerdict, Spreads};
pub use centre::{Spread, StringFigures, median, middle_of};
pub use condition::STEADY_POINTS;
pub use entry::{ReadingKind, RoundEntry};
pub use judge::judge;
pub use pattern::Level;
pub use question::Question;
pub use reading::{
    BatteryTemperature, CellReading, CellRecord, Conditions, OffScale, RoundTemperature, WaterAdded,
};
pub use reread::{LastReading, Preview, RunningRound, UnquestionedRange, confirms};
pub use rest_check::{RestCheck, RestStory};
pub use shape::{Shape, Side};
pub use summary::{FAR_FROM_FULL, RoundSummary};
pub use trend::{PastCell, PastRound, Sinking, Slope, slope, theil_sen};
pub use usable::{Doubt, Unusable, Usability};
