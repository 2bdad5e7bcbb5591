//! SD-1 to SD-3: how a bank comes through the time that nobody uses it, day by day, in each way it can be left.

mod air;
mod asked;
mod best;
mod checks;
mod self_discharge;
mod way;
mod worked_out;

pub use air::{LOWS_UNDER_MEANS, StorageAir};
pub use asked::{MOST_STORED_DAYS, StorageAsked, StorageError};
pub use best::{StoragePlan, plan_storage};
pub use checks::{StorageCheck, WARM_CHECK_DAYS};
pub use self_discharge::{MonthlyLoss, usual_self_discharge};
pub use way::{StorageWay, StorageWayKind};
pub use worked_out::{RECHARGE_AT, RechargeWhy, StorageAccount, StoredDay, StoredWay};
