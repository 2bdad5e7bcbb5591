//! RP-2 and the house's limit: what may come in where one battery is replaced, and where the old one goes.

use crate::house_rules::HouseRules;
use crate::quantity::{OutOfRange, bounds};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Above the house's limit a new battery is warned of up to so many times it (12 months and 12 to 18 with a warning;
/// common practice, no source).
const WARNED: f64 = 1.5;
/// A used battery matches within so many months of the bank's age (RP-2, common practice, no source).
const MATCH_MONTHS: f64 = 12.0;
/// Capacity that a used battery is expected to have within 10 % of what it is printed with, where nothing better is
/// known of its mates (RP-2, common practice, no source).
const MATCH_PERCENT: f64 = 10.0;

/// What a used battery brings along.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct UsedBattery {
    /// Its age, months; none: nobody knows.
    #[serde(default)]
    pub months: Option<f64>,
    /// Capacity by its last test, % of C20; none: it was not tested.
    #[serde(default)]
    pub capacity: Option<f64>,
    /// Inner resistance, mΩ; none: not measured.
    #[serde(default)]
    pub milliohms: Option<f64>,
}

impl UsedBattery {
    /// Itself when it is possible.
    ///
    /// # Errors
    /// [`OutOfRange`] for an age, a capacity or a resistance that cannot be.
    pub fn checked(self) -> Result<Self, OutOfRange> {
        self.months.map(|m| bounds::AGE_MONTHS.check(m)).transpose()?;
        self.capacity.map(|c| bounds::CAPACITY_PERCENT.check(c)).transpose()?;
        self.milliohms.map(|r| bounds::RESISTANCE.check(r)).transpose()?;
        Ok(self)
    }
}

/// Where a battery that was taken out went.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Gone {
    /// To scrap.
    Scrap,
    /// Back to a shop for its core credit.
    CoreCredit,
    /// Kept, to be put in somewhere else.
    Kept,
    /// Back to the owner.
    Owner,
}

impl Gone {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 4] = [Self::CoreCredit, Self::Scrap, Self::Kept, Self::Owner];

    /// True where it can come in somewhere again.
    pub const fn can_come_back(self) -> bool {
        matches!(self, Self::Kept)
    }
}

/// A new battery among old ones, by the house's limit.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OneNew {
    /// Age of the bank, months; none: nobody said when it went into service.
    pub months: Option<f64>,
    /// The house's limit, months.
    pub limit: f64,
    /// Steady: within it; watch: up to half as much again, or the age is not known; act: beyond.
    pub condition: Severity,
}

/// May one new battery join a bank of this age, months?
pub fn one_new(months: Option<f64>, rules: &HouseRules) -> OneNew {
    let limit = f64::from(rules.one_new_block_months);
    let condition = match months {
        Some(own) if own <= limit => Severity::Steady,
        Some(own) if own > limit * WARNED => Severity::Act,
        Some(_) | None => Severity::Watch,
    };
    OneNew { months, limit, condition }
}

/// A used battery beside its new mates.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct UsedMatch {
    /// How much older it is than the bank, months; none: one of both ages is not known.
    pub older: Option<f64>,
    /// Its capacity, % of C20; none: it was not tested.
    pub capacity: Option<f64>,
    /// Steady: both match; watch: one of them is not known; act: one of them does not.
    pub condition: Severity,
}

/// RP-2: a used battery matches within 12 months of age and 10 % of capacity.
pub fn used_match(used: &UsedBattery, bank_months: Option<f64>) -> UsedMatch {
    let older = used.months.zip(bank_months).map(|(own, bank)| own - bank);
    let judge = |off: Option<f64>, limit: f64| match off {
        None => Severity::Watch,
        Some(off) if off <= limit => Severity::Steady,
        Some(_) => Severity::Act,
    };
    let age = judge(older.map(f64::abs), MATCH_MONTHS);
    let capacity = judge(used.capacity.map(|c| 100.0 - c), MATCH_PERCENT);
    UsedMatch { older, capacity: used.capacity, condition: age.max(capacity) }
}
