//! The equipment of a bank, judged at the temperature it had last.

use crate::db::{BankRow, Connection, DbError, EquipmentRow, RoundRow};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equipment::{EquipmentJudged, judge_equipment};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::round::RoundTemperature;

/// Temperature that is assumed where none is known, °C: the one setpoints are stated at.
pub const ASSUMED: f64 = 25.0;

/// The electrolyte temperature of a round: one for all, or that of its warmest battery.
pub fn warmest_of(round: &RoundRow) -> Option<Temperature> {
    match &round.conditions.temperature {
        RoundTemperature::OneForAll { temperature } => Some(*temperature),
        RoundTemperature::PerBattery { batteries } => {
            // The warmest decides what the bank may be charged with.
            batteries.iter().map(|b| b.temperature).max_by(|a, b| a.celsius().total_cmp(&b.celsius()))
        }
        RoundTemperature::Unknown => None,
    }
}

/// What stands there as judged at the temperature of the last round; none where nothing was told.
pub fn equipment_judged(
    db: &Connection,
    bank: &BankRow,
    model: &BatteryModel,
) -> Result<Option<EquipmentJudged>, DbError> {
    let equipment = EquipmentRow::of_bank(db, &bank.id)?;
    let last = RoundRow::of_bank(db, &bank.id)?.into_iter().find(|r| r.finished_at.is_some());
    let at = last.as_ref().and_then(warmest_of).or_else(|| Temperature::from_celsius(ASSUMED).ok());
    let counted = (bank.shape.cells_in_series(), bank.shape.parallel);
    let told = at.filter(|_| equipment.version > 0);
    Ok(told.map(|at| judge_equipment(&equipment.fitted.equipment, model, counted, at)))
}
