//! The equipment of a bank, judged at the temperature it had last.

use crate::db::{BankRow, Connection, DbError, EquipmentRow, RoundRow};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equipment::{EquipmentJudged, judge_equipment};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::round::RoundTemperature;
use rainshadow_core::schedule::{self, OpenFinding};

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

fn counted(bank: &BankRow) -> (u16, u8) {
    (bank.shape.cells_in_series(), bank.shape.parallel)
}

/// The temperature of the last round and its day, or the assumed one of no day.
fn last_temperature(db: &Connection, bank: &BankRow) -> Result<Option<(Temperature, Option<Date>)>, DbError> {
    let last = RoundRow::of_bank(db, &bank.id)?.into_iter().find(|r| r.finished_at.is_some());
    let read = last.and_then(|round| Some((warmest_of(&round)?, Some(round.day()))));
    Ok(read.or_else(|| Some((Temperature::from_celsius(ASSUMED).ok()?, None))))
}

/// What stands there as judged at the temperature of the last round; none where nothing was told.
pub fn equipment_judged(
    db: &Connection,
    bank: &BankRow,
    model: &BatteryModel,
) -> Result<Option<EquipmentJudged>, DbError> {
    let equipment = EquipmentRow::of_bank(db, &bank.id)?;
    let told = last_temperature(db, bank)?.filter(|_| equipment.version > 0);
    Ok(told.map(|(at, _)| judge_equipment(&equipment.fitted.equipment, model, counted(bank), at)))
}

/// What of the equipment asks, each since the day it was told, or read after it.
pub fn equipment_findings(
    db: &Connection,
    bank: &BankRow,
    model: &BatteryModel,
    zone: &str,
) -> Result<Vec<OpenFinding>, DbError> {
    let Some((at, read_on)) = last_temperature(db, bank)? else { return Ok(Vec::new()) };
    let versions: Vec<_> = EquipmentRow::versions(db, &bank.id)?
        .into_iter()
        .map(|(told, own)| {
            (words::local_day(told, zone), judge_equipment(&own.equipment, model, counted(bank), at))
        })
        .collect();
    Ok(schedule::equipment_findings(&versions, read_on))
}
