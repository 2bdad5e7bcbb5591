//! Capacities that timed discharges told, as the end of a life is told from them (LF-3).

use super::PastDischarge;
use crate::life::CapacityOnDay;
use jiff::civil::Date;
use std::collections::BTreeMap;

/// Of each day the last capacity, oldest first; a discharge that was stopped early tells none.
pub fn capacities_by_day<'a>(tests: impl IntoIterator<Item = &'a PastDischarge>) -> Vec<CapacityOnDay> {
    let told = tests.into_iter().filter_map(|own| {
        let result = own.now.result.as_ref().filter(|result| !result.at_least)?;
        Some((own.day, result.percent?))
    });
    let by_day: BTreeMap<Date, f64> = told.collect();
    by_day.into_iter().map(|(day, percent)| CapacityOnDay { day, percent }).collect()
}
