//! Days on which a stored bank is looked at, and what it should show.

use super::StorageAsked;
use super::stored_day::{RECHARGE_AT, RechargeWhy, StoredDay};
use crate::rest::volts_at_charge;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Days between two looks where the month is warmer than 25 °C (SD-2; common practice, no source).
pub const WARM_CHECK_DAYS: i64 = 30;
/// Mean of the air from which it is looked at monthly, °C.
const WARM: f64 = 25.0;
/// A look this near to the end of the spell is left to the end itself, days (our choice, no source).
const NEAR_THE_END: i64 = 14;

/// A look at a stored bank.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StorageCheck {
    /// Day at the latest.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Charge to expect, per cent.
    pub charge: f64,
    /// Settled volts of a string to expect, all off.
    pub volts: f64,
    /// Under these it is charged.
    pub recharge_under: f64,
}

/// Looks through the spell: at the latest every so many days as the house has it, monthly in the heat, counted from the last
/// look or recharge.
pub(super) fn checks(
    asked: &StorageAsked,
    days: &[StoredDay],
    recharges: &[(Date, RechargeWhy)],
) -> Vec<StorageCheck> {
    let cells = f64::from(asked.shape.cells_in_series());
    let volts = |charge: f64| cells * volts_at_charge(charge, &asked.model);
    let mut all = Vec::new();
    let Some(end) = days.last() else { return all };
    let mut last = asked.from;
    let since = |a: Date, b: Date| a.until(b).map_or(0, |span| i64::from(span.get_days()));
    for own in days {
        if recharges.iter().any(|(day, _)| *day == own.day) {
            last = own.day;
        }
        let every = if own.mean > WARM {
            WARM_CHECK_DAYS.min(i64::from(asked.check_days))
        } else {
            i64::from(asked.check_days)
        };
        if since(last, own.day) >= every && since(own.day, end.day) >= NEAR_THE_END {
            last = own.day;
            let charge = after_recharge(days, recharges, own);
            all.push(StorageCheck {
                day: own.day,
                charge,
                volts: volts(charge),
                recharge_under: volts(RECHARGE_AT),
            });
        }
    }
    all
}

/// What it stands at where it was charged as told: since the last recharge it lost as it did since the beginning, by share.
fn after_recharge(days: &[StoredDay], recharges: &[(Date, RechargeWhy)], own: &StoredDay) -> f64 {
    let Some((charged, _)) = recharges.iter().rev().find(|(day, _)| *day <= own.day) else {
        return own.charge;
    };
    let then = days.iter().find(|day| day.day == *charged).map_or(own.charge, |day| day.charge);
    if then > 0.0 { (100.0 * own.charge / then).min(100.0) } else { own.charge }
}
