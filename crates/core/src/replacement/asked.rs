//! A bank with one battery that is failing: what its options rest on.

use super::mismatch::MismatchBattery;
use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::BatteryModel;
use crate::house_rules::HouseRules;
use crate::life::{LIFE_SPREAD, daily_cycle_life, gassing};
use crate::quantity::{OutOfRange, bounds};
use crate::replacing::UsedBattery;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// What a used battery is beside the bank's.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum UsedKind {
    /// Of the same model.
    #[default]
    SameModel,
    /// Deep-cycle of the same kind and volts, another model.
    OtherModel,
    /// Sealed among flooded, or flooded among sealed.
    OtherChemistry,
    /// A starting battery.
    Starter,
}

/// Prices in the house's own currency.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReplacementPrices {
    /// A new battery.
    pub battery: f64,
    /// The used one.
    #[serde(default)]
    pub used: f64,
    /// What is paid back for an old one.
    #[serde(default)]
    pub core: f64,
    /// Work for each battery that is changed or taken out.
    #[serde(default)]
    pub labour: f64,
    /// Interest a year, share.
    #[serde(default)]
    pub interest: f64,
}

/// A bank with one battery that is failing.
#[derive(Debug, Clone, PartialEq)]
pub struct ReplacementAsked {
    /// Its batteries.
    pub model: BatteryModel,
    /// How they stand.
    pub shape: BankShape,
    /// The one that is failing.
    pub failing: BatteryAddress,
    /// Age of the bank, months; none: not known.
    pub months: Option<f64>,
    /// Capacity that its sound batteries have left, per cent.
    pub health: f64,
    /// Capacity that the failing one has left, per cent.
    pub failing_health: f64,
    /// Years that its sound batteries have left: best, least, most; none: by age and use.
    pub years_left: Option<[f64; 3]>,
    /// How much more its sound batteries gas than new ones, 1 to 4; none: by age.
    pub gassing: Option<f64>,
    /// A used one at hand; none: there is none.
    pub used: Option<(UsedKind, UsedBattery)>,
    /// Depth of a day, per cent of C20 of the whole bank.
    pub depth: f64,
    /// Mean of the air, °C.
    pub celsius: f64,
    /// V a cell that the charger holds at absorption.
    pub volts: f64,
    /// A of the charger for the whole bank.
    pub amperes: f64,
    /// Hours it charges a day.
    pub hours: f64,
    /// Prices.
    pub prices: ReplacementPrices,
    /// The house's rules.
    pub rules: HouseRules,
}

/// Why nothing is told.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum ReplacementError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// No such battery.
    #[error("this bank has no battery {0}")]
    NoBattery(BatteryAddress),
}

impl ReplacementError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::NoBattery(_) => "failing",
            Self::OutOfRange(own) => match own.bounds {
                b if b == bounds::AGE_MONTHS => "months",
                b if b == bounds::CAPACITY_PERCENT => "health",
                b if b == bounds::CYCLE_DEPTH => "depth",
                b if b == bounds::PRICE => "prices",
                b if b == bounds::CELL_VOLTAGE => "volts",
                b if b == bounds::BANK_CURRENT => "amperes",
                b if b == bounds::HOUR_OF_DAY => "hours",
                b if b == bounds::INTEREST => "interest",
                b if b == bounds::YEARS => "years_left",
                b if b == bounds::RESISTANCE => "used",
                b if b == bounds::CELL_AGE => "gassing",
                _ => "celsius",
            },
        }
    }
}

/// Months that a bank is taken to be old where nobody said (our choice, no source).
pub(super) const UNKNOWN_AGE: f64 = 36.0;

impl ReplacementAsked {
    pub(super) fn check(&self) -> Result<(), ReplacementError> {
        if !self.shape.batteries().any(|own| own == self.failing) {
            return Err(ReplacementError::NoBattery(self.failing));
        }
        self.months.map(|own| bounds::AGE_MONTHS.check(own)).transpose()?;
        bounds::CAPACITY_PERCENT.check(self.health)?;
        bounds::CAPACITY_PERCENT.check(self.failing_health)?;
        bounds::CYCLE_DEPTH.check(self.depth)?;
        bounds::LIFE_TEMPERATURE.check(self.celsius)?;
        bounds::CELL_VOLTAGE.check(self.volts)?;
        bounds::BANK_CURRENT.check(self.amperes)?;
        bounds::HOUR_OF_DAY.check(self.hours)?;
        self.gassing.map(|own| bounds::CELL_AGE.check(own)).transpose()?;
        for own in self.years_left.into_iter().flatten() {
            bounds::YEARS.check(own)?;
        }
        let prices = &self.prices;
        for own in [prices.battery, prices.used, prices.core, prices.labour] {
            bounds::PRICE.check(own)?;
        }
        bounds::INTEREST.check(prices.interest)?;
        if let Some((_, used)) = &self.used {
            used.clone().checked()?;
        }
        Ok(())
    }

    pub(super) fn count(&self) -> f64 {
        f64::from(u16::try_from(self.shape.batteries().count()).unwrap_or(u16::MAX))
    }

    /// Years of a new battery that is cycled so deep every day: best.
    pub(super) fn life_at(&self, depth: f64) -> f64 {
        daily_cycle_life(self.model.construction, depth, self.celsius)[0]
    }

    /// Years that sound batteries have left at a depth: what was told, or their life less their age; drawn deeper, less of it.
    pub(super) fn left_at(&self, depth: f64) -> [f64; 3] {
        let here = self.life_at(self.depth);
        let told = self.years_left.unwrap_or_else(|| {
            let age = self.months.map_or(here / 2.0, |own| own / 12.0);
            [1.0, 1.0 / LIFE_SPREAD, LIFE_SPREAD].map(|factor| (here * factor - age).max(0.0))
        });
        told.map(|own| own * self.life_at(depth) / here)
    }

    /// One of its sound batteries.
    pub(super) fn sound(&self) -> MismatchBattery {
        let own = self.battery(self.months.unwrap_or(UNKNOWN_AGE), self.health);
        MismatchBattery { age: self.gassing.unwrap_or(own.age), ..own }
    }

    /// A battery of an age, months, and a capacity, per cent.
    pub(super) fn battery(&self, months: f64, capacity: f64) -> MismatchBattery {
        MismatchBattery {
            age: gassing(self.model.construction, Some(months / 12.0), None).times,
            worn: (1.0 - capacity / 100.0).clamp(0.0, 0.9),
            charged: 0.9,
            leak: 1.0,
        }
    }
}
