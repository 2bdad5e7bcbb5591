//! Which way to leave a bank.

use super::worked_out::worked_out;
use super::{RECHARGE_AT, StorageAsked, StorageError, StoredWay};
use crate::electrolyte::FREEZING_MARGIN;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Water that may go over a spell before it is worth a visit, share of what stands over the plates (our choice, no source).
const MUCH_WATER: f64 = 0.5;

/// A spell in every way that was asked for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StoragePlan {
    /// Way by way, as asked.
    pub ways: Vec<StoredWay>,
    /// How each comes through: act where it freezes, falls within the margin or runs dry; watch where it has to be charged
    /// meanwhile, or loses much water.
    pub conditions: Vec<Severity>,
    /// The one that comes through best; of equal ones the one with the fewest visits, then the one named first.
    pub best: usize,
}

impl StoredWay {
    /// How it comes through.
    pub fn condition(&self, reserve: Option<f64>) -> Severity {
        let much = reserve.is_some_and(|reserve| self.water > MUCH_WATER * reserve);
        if self.dry.is_some() || self.worst.margin() < FREEZING_MARGIN {
            Severity::Act
        } else if !self.recharges.is_empty() || much || self.lowest.charge < RECHARGE_AT {
            Severity::Watch
        } else {
            Severity::Steady
        }
    }
}

/// A storage spell in every way that is asked for (SD-1, SD-2, SG-5).
///
/// # Errors
/// [`StorageError`] for what cannot be.
pub fn plan_storage(asked: &StorageAsked) -> Result<StoragePlan, StorageError> {
    asked.check()?;
    let spell = asked.days()?;
    let ways: Vec<StoredWay> = asked.ways.iter().map(|way| worked_out(asked, *way, spell)).collect();
    let conditions: Vec<Severity> = ways.iter().map(|way| way.condition(asked.reserve)).collect();
    let visits = |at: usize| ways[at].recharges.len() + ways[at].checks.len();
    let best = (0..ways.len()).min_by_key(|at| (conditions[*at], visits(*at))).unwrap_or(0);
    Ok(StoragePlan { ways, conditions, best })
}
