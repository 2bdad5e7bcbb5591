//! What was set anew at the sources of a bank on the day of a visit, and before it.

use crate::db::{Connection, DbError, EquipmentRow, VisitRow};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::equipment::{Equipment, source_changes};
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

/// The equipment as it stood at the end of each day on which it was set anew, oldest first, begun with how it
/// was found. What was only told, or put right here, is how it had been all along.
fn by_day(db: &Connection, visit: &VisitRow) -> Result<Vec<(Option<Date>, Equipment)>, DbError> {
    let mut days: Vec<(Option<Date>, Equipment)> = Vec::new();
    for (at, own) in EquipmentRow::versions(db, &visit.bank_id)? {
        let day = Some(words::local_day(at, &visit.zone));
        match days.last_mut() {
            Some((set_on, stands)) if !own.set_anew || *set_on == day => *stands = own.equipment,
            None => days.push((None, own.equipment)),
            Some(_) => days.push((day, own.equipment)),
        }
    }
    Ok(days)
}

impl SourcesOfVisit {
    /// Reads them.
    pub(crate) fn read(db: &Connection, visit: &VisitRow) -> Result<Self, DbError> {
        let days = by_day(db, visit)?;
        let told = days.last().map(|(_, own)| own.sources()).unwrap_or_default();
        let changed: Vec<(Date, Vec<String>)> = days
            .windows(2)
            .map(|pair| {
                let said =
                    source_changes(&pair[0].1, &pair[1].1).iter().map(wording::source_change).collect();
                (pair[1].0, said)
            })
            .filter_map(|(day, said): (Option<Date>, Vec<String>)| Some((day?, said)))
            .filter(|(_, said)| !said.is_empty())
            .collect();
        let set = changed.iter().filter(|(day, _)| *day == visit.day());
        Ok(Self {
            told: told.iter().map(wording::source_line).collect(),
            set: set.flat_map(|(_, said)| said.clone()).collect(),
            before: changed.iter().rev().find(|(day, _)| *day < visit.day()).cloned(),
        })
    }
}
