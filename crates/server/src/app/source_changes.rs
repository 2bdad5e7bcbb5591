//! What was set anew at the sources of a bank on the day of a visit, and before it.

use crate::db::{Connection, DbError, EquipmentRow, VisitRow};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::equipment::{SourceChange, Telling, changes_by_day};
use rainshadow_core::wording;

/// What charges a bank, around a visit.
pub struct SourcesOfVisit {
    /// Every source as it is told now.
    pub told: Vec<String>,
    /// What was set anew on the day of the visit.
    pub set: Vec<String>,
    /// What was set anew last before that day, with the day; none: nothing was.
    pub before: Option<(Date, Vec<String>)>,
}

fn tellings(db: &Connection, visit: &VisitRow) -> Result<Vec<Telling>, DbError> {
    let versions = EquipmentRow::versions(db, &visit.bank_id)?.into_iter();
    Ok(versions
        .map(|(at, own)| Telling {
            day: words::local_day(at, &visit.zone),
            set_anew: own.set_anew,
            equipment: own.equipment,
        })
        .collect())
}

impl SourcesOfVisit {
    /// Reads them.
    pub(crate) fn read(db: &Connection, visit: &VisitRow) -> Result<Self, DbError> {
        let tellings = tellings(db, visit)?;
        let told = tellings.last().map(|own| own.equipment.sources()).unwrap_or_default();
        let said = |changes: Vec<SourceChange>| changes.iter().map(wording::source_change).collect();
        let changed: Vec<(Date, Vec<String>)> =
            changes_by_day(&tellings).into_iter().map(|(day, changes)| (day, said(changes))).collect();
        let set = changed.iter().filter(|(day, _)| *day == visit.day());
        Ok(Self {
            told: told.iter().map(wording::source_line).collect(),
            set: set.flat_map(|(_, said)| said.clone()).collect(),
            before: changed.iter().rev().find(|(day, _)| *day < visit.day()).cloned(),
        })
    }
}
