//! What a storage plan rests on.

use super::error::StorageError;
use super::{MonthlyLoss, StorageAir, StorageWay};
use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::quantity::bounds;
use jiff::civil::Date;

/// Longest that a bank is planned to stand, days: two years.
pub const MOST_STORED_DAYS: i64 = 731;

/// What a storage plan rests on.
#[derive(Debug, Clone, PartialEq)]
pub struct StorageAsked {
    /// The batteries.
    pub model: BatteryModel,
    /// How they stand.
    pub shape: BankShape,
    /// Day it is left.
    pub from: Date,
    /// Day it is taken into use again.
    pub until: Date,
    /// Air at the site.
    pub air: StorageAir,
    /// Charge it is left with, per cent.
    pub charged: f64,
    /// Capacity that is left, per cent of C20.
    pub health: f64,
    /// What it loses by itself.
    pub loss: MonthlyLoss,
    /// How much more its cells gas than new ones, 1 to 4.
    pub age: f64,
    /// Liquid over the plates of a cell that may go, mL; none: sealed, or not known.
    pub reserve: Option<f64>,
    /// Days after which the house looks at a stored bank at the latest.
    pub check_days: u16,
    /// The ways to compare, at least one.
    pub ways: Vec<StorageWay>,
}

impl StorageAsked {
    /// Days of the spell.
    pub(super) fn days(&self) -> Result<i64, StorageError> {
        let days = self.from.until(self.until).map_or(0, |span| i64::from(span.get_days()));
        let spell = StorageError::Spell { from: self.from, until: self.until };
        if (1..=MOST_STORED_DAYS).contains(&days) { Ok(days) } else { Err(spell) }
    }

    /// Says whether it can be.
    pub(super) fn check(&self) -> Result<(), StorageError> {
        self.days()?;
        self.air.checked()?;
        bounds::STATE_OF_CHARGE.check(self.charged)?;
        bounds::CAPACITY_PERCENT.check(self.health)?;
        bounds::MONTHLY_LOSS.check(self.loss.inside)?;
        bounds::DIRTY_TOPS.check(self.loss.tops)?;
        bounds::CELL_AGE.check(self.age)?;
        if self.ways.is_empty() {
            return Err(StorageError::NoWay);
        }
        self.ways.iter().try_for_each(StorageWay::check)
    }

    /// Ah of the whole bank when full.
    pub(super) fn capacity(&self) -> f64 {
        let strings = f64::from(self.shape.parallel);
        self.model.c20.ampere_hours() * strings * (self.health / 100.0).clamp(0.05, 1.0)
    }
}
