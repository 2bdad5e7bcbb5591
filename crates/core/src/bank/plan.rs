//! The plan view: the bank from above as it stands, rows of cases from left to right.

use super::{BankShape, BatteryAddress, CellAddress, Side};
use serde::{Deserialize, Serialize};

/// The bank from above.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// Rows, from the far side to the near side, tier by tier.
    pub rows: Vec<PlanRow>,
    /// Number of tiers.
    pub tiers: u8,
    /// What lies behind the first row.
    pub far_side: String,
    /// What lies before the last row.
    pub near_side: String,
}

/// One row of cases of one string.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanRow {
    /// Tier, 1 is the upper one.
    pub tier: u8,
    /// String, 0 is A.
    pub string: u8,
    /// Its letter.
    pub letter: char,
    /// Which row of its string, from the positive end, from 0.
    pub fold: u8,
    /// True when this is the last row of its string.
    pub last: bool,
    /// True when the positive posts are on the right of their cases.
    pub turned: bool,
    /// Batteries from left to right.
    pub batteries: Vec<PlanBattery>,
}

/// One case.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanBattery {
    /// Its address.
    pub address: BatteryAddress,
    /// Its cells from left to right.
    pub cells: Vec<CellAddress>,
}

impl BankShape {
    /// The bank from above.
    pub fn plan(&self) -> Plan {
        let folds = self.layout.rows_per_string.clamp(1, self.series.max(1));
        let (each, longer) = (self.series / folds, self.series % folds);
        let mut rows = Vec::new();
        for string in 0..self.parallel {
            let away = self.layout.strings_alternate && string % 2 == 1;
            let starts_right = (self.layout.positive_end == Side::Right) != away;
            let mut next = 1;
            for fold in 0..folds {
                let chunk = next..next + each + u8::from(fold < longer);
                next = chunk.end;
                let turned = starts_right != (fold % 2 == 1);
                let mut batteries: Vec<PlanBattery> =
                    chunk.map(|battery| self.plan_battery(string, battery, turned)).collect();
                if turned {
                    batteries.reverse();
                }
                rows.push(PlanRow {
                    tier: 1,
                    string,
                    letter: super::string_letter(string),
                    fold,
                    last: fold + 1 == folds,
                    turned,
                    batteries,
                });
            }
        }
        let tiers = self.layout.tiers.max(1);
        let per_tier = rows.len().div_ceil(usize::from(tiers)).max(1);
        for (i, row) in rows.iter_mut().enumerate() {
            row.tier = u8::try_from(i / per_tier + 1).unwrap_or(tiers);
        }
        Plan { rows, tiers, far_side: self.layout.far_side.clone(), near_side: self.layout.near_side.clone() }
    }

    fn plan_battery(&self, string: u8, battery: u8, turned: bool) -> PlanBattery {
        let address = BatteryAddress { string, battery };
        let mut cells: Vec<CellAddress> =
            (1..=self.cells_per_battery).map(|cell| CellAddress { battery: address, cell }).collect();
        if turned {
            cells.reverse();
        }
        PlanBattery { address, cells }
    }
}
