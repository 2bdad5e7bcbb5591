//! CH-5: does any source finish the charge? A year of a bank hour by hour, with its sun, its engine, its generator and its
//! shore against its loads; what it costs, and how long the bank lasts so.

mod account;
mod asked;
mod best;
mod depth;
mod hour;
mod money;
mod source_hours;
mod stay;
mod usual_array;
mod year;

pub use account::ChargingAccount;
pub use asked::{ChargingAsked, ChargingError, EngineUse, MONTH_DAYS, PlugUse, Prices};
pub use best::best_year;
pub use depth::{DepthPoint, depth_curve};
pub use money::{ChargingMoney, charging_money, plug_kilowatt_hours};
pub use stay::{Stay, stay};
pub use usual_array::usual_array_watts;
pub use year::{ChargingDay, ChargingMonth, ChargingYear, MOST_DAYS_WITHOUT, charging_year};
