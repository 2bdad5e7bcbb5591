//! Resistances over the years, battery by battery, as they are drawn.

use crate::db::BankRow;
use jiff::civil::Date;
use rainshadow_core::ohmic::{RISE, severity_of_rise};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{PastVisit, ResistanceHistory, ResistanceOnDay, resistance_history};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct ResistancePoint {
    /// Day to draw at.
    pub date: String,
    /// Per cent over its first value.
    pub percent: f64,
}

/// One battery's resistance over the years.
#[derive(Debug, Serialize, ToSchema)]
pub struct ResistanceLine {
    /// The battery.
    pub battery: String,
    /// How bad its last rise is.
    pub condition: Severity,
    /// Its readings, oldest first.
    pub points: Vec<ResistancePoint>,
    /// Its last reading: "5.12 mΩ".
    pub last: String,
}

/// Resistances over the years.
#[derive(Debug, Serialize, ToSchema)]
pub struct ResistancesView {
    /// What they come to.
    pub said: String,
    /// Per cent that are watched, investigated and acted on.
    pub limits: [f64; 3],
    /// Battery by battery, those that were read more than once.
    pub lines: Vec<ResistanceLine>,
}

/// Resistances of a bank over the years; none: none was read.
pub(super) fn resistances(visits: &[PastVisit], bank: &BankRow, today: Date) -> Option<ResistancesView> {
    let all = resistance_history(visits, &bank.shape);
    let said = wording::resistances_over_years(&all, today)?;
    let point =
        |read: &ResistanceOnDay| ResistancePoint { date: read.day.to_string(), percent: 100.0 * read.rise };
    let line = |own: &ResistanceHistory| {
        let last = own.read.last()?;
        Some(ResistanceLine {
            battery: own.battery.to_string(),
            condition: severity_of_rise(last.rise),
            points: own.read.iter().map(point).collect(),
            last: format!("{:.2} mΩ", last.milliohms),
        })
    };
    let lines = all.iter().filter(|own| own.read.len() > 1).filter_map(line).collect();
    Some(ResistancesView { said, limits: RISE.map(|rise| 100.0 * rise), lines })
}
