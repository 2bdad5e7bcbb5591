//! RD-4: is the bank even? Spread against the rule and against what noise explains.

use crate::house_rules::BalanceLimits;
use crate::instrument::{Limit, spread_of_noise};
use crate::quantity::Points;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// What the spread says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BalanceVerdict {
    /// The cells are alike.
    Even,
    /// Wider than even; keep an eye on it.
    Watch,
    /// A corrective equalize is asked for.
    Equalize,
}

/// A spread, and the spread of the cells an equalize can raise.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spreads {
    /// Highest less lowest.
    pub all: Points,
    /// The same without cells that stand high by themselves: no equalize brings those down (SG-6).
    pub without_high: Points,
    /// Cells it is of.
    pub cells: usize,
}

/// Spread of the bank with the limits it was judged by.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Balance {
    /// Highest less lowest.
    pub spread: Points,
    /// The same without cells that stand high by themselves: what an equalize can bring together.
    #[serde(default)]
    pub without_high: Points,
    /// From here on: watch.
    pub watch: Limit,
    /// From here on: equalize.
    pub equalize: Limit,
    /// True when the equalize limit is the maker's own.
    pub equalize_is_makers: bool,
    /// What it says.
    pub verdict: BalanceVerdict,
}

impl Balance {
    /// RD-4, each limit widened by noise (SG-7).
    pub fn of(spreads: Spreads, deviation_uncertainty: Points, limits: BalanceLimits) -> Self {
        let spread = spreads.all;
        let noise = spread_of_noise(spreads.cells, deviation_uncertainty);
        let watch = Limit::widened(limits.watch, noise);
        let equalize = Limit::widened(limits.equalize, noise);
        let verdict = if spreads.without_high >= equalize.used {
            BalanceVerdict::Equalize
        } else if spread >= watch.used {
            BalanceVerdict::Watch
        } else {
            BalanceVerdict::Even
        };
        Self {
            spread,
            without_high: spreads.without_high,
            watch,
            equalize,
            equalize_is_makers: limits.equalize_is_makers,
            verdict,
        }
    }

    /// The condition it gives the bank (RD-8).
    pub fn condition(&self) -> Severity {
        match self.verdict {
            BalanceVerdict::Even => Severity::Steady,
            BalanceVerdict::Watch => Severity::Watch,
            BalanceVerdict::Equalize => Severity::Act,
        }
    }
}
