//! The next fill of a bank, with what its site and its charger do to its water.

use crate::db::{BankRow, Connection, DbError, EquipmentRow, Site};
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::visit::{PastVisit, water_history};
use rainshadow_core::water::{MonthlyMeans, WaterForecast, WaterHistory, forecast};

/// What the forecasts of one bank are made with.
#[derive(Debug, Clone)]
pub struct WaterAhead {
    climate: Option<MonthlyMeans>,
    southern: bool,
    /// True where the charger is known to compensate for temperature.
    compensates: bool,
}

impl WaterAhead {
    /// Reads what is told of the charger.
    ///
    /// # Errors
    /// Whatever the reading fails with.
    pub fn read(db: &Connection, bank: &BankRow, site: &Site) -> Result<Self, DbError> {
        let fitted = EquipmentRow::of_bank(db, &bank.id)?.fitted;
        let told = fitted.equipment.charger.compensates;
        let compensates = told.is_some_and(|own| own.per_degree < 0.0);
        Ok(Self { climate: site.climate, southern: site.southern, compensates })
    }

    /// The next fill as seen on a day; none where nothing tells one.
    pub fn forecast(
        &self,
        visits: &[PastVisit],
        bank: &BankRow,
        model: &BatteryModel,
        today: Date,
    ) -> Option<WaterForecast> {
        let history = WaterHistory {
            climate: self.climate,
            southern: self.southern,
            compensates: self.compensates,
            ..water_history(visits, &bank.shape, model, today)
        };
        forecast(&history, model)
    }
}
