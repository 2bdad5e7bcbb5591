//! SD-1 to SD-3: how a bank comes through the time that nobody uses it, day by day, in each way it can be left.

mod air;
mod asked;
mod best;
mod checks;
mod error;
mod self_discharge;
mod stored_day;
mod way;
mod worked_out;

pub use air::{LOWS_UNDER_MEANS, StorageAir};
pub use asked::{MOST_STORED_DAYS, StorageAsked};
pub use best::{StoragePlan, plan_storage};
pub use checks::{StorageCheck, WARM_CHECK_DAYS};
pub use error::StorageError;
pub use self_discharge::{MonthlyLoss, usual_self_discharge};
pub use stored_day::{RECHARGE_AT, RechargeWhy, StoredDay};
pub use way::{StorageWay, StorageWayKind};
pub use worked_out::{StorageAccount, StoredWay};
