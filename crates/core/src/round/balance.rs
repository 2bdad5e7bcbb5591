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

/// Spread of the bank with the limits it was judged by.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Balance {
    /// Highest less lowest.
    pub spread: Points,
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
    /// RD-4 for a spread among `cells` cells, each limit widened by noise (SG-7).
    pub fn of(spread: Points, cells: usize, deviation_uncertainty: Points, limits: BalanceLimits) -> Self {
        let noise = spread_of_noise(cells, deviation_uncertainty);
        let watch = Limit::wider_of(limits.watch, noise);
        let equalize = Limit::wider_of(limits.equalize, noise);
        let verdict = if spread >= equalize.used {
            BalanceVerdict::Equalize
        } else if spread >= watch.used {
            BalanceVerdict::Watch
        } else {
            BalanceVerdict::Even
        };
        Self { spread, watch, equalize, equalize_is_makers: limits.equalize_is_makers, verdict }
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
