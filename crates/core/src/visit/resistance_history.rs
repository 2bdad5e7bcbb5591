//! Resistances over the years, battery by battery, against its own first value (OH-1).

use super::PastVisit;
use super::electrical::{add_baselines, ohmic_readings};
use crate::bank::{BankShape, BatteryAddress};
use crate::ohmic::over_first;
use jiff::civil::Date;
use std::collections::BTreeMap;

/// A resistance on a day.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ResistanceOnDay {
    /// The day.
    pub day: Date,
    /// mΩ as read.
    pub milliohms: f64,
    /// Rise over its own first value, 0.3 is 30 % more, at one temperature where both are known; 0 where it is that value.
    pub rise: f64,
}

/// What one battery read over the years, oldest first.
#[derive(Debug, Clone, PartialEq)]
pub struct ResistanceHistory {
    /// The battery.
    pub battery: BatteryAddress,
    /// Readings by the tester of its baseline; one by another tester is left out, since it does not compare.
    pub read: Vec<ResistanceOnDay>,
}

/// Resistances of every battery that was read, in the order of the batteries; visits are oldest first.
pub fn resistance_history(visits: &[PastVisit], shape: &BankShape) -> Vec<ResistanceHistory> {
    let mut first = BTreeMap::new();
    let mut by_battery: BTreeMap<BatteryAddress, Vec<ResistanceOnDay>> = BTreeMap::new();
    for visit in visits {
        let known = first.clone();
        add_baselines(&mut first, &visit.sheet);
        for own in ohmic_readings(&visit.sheet, shape, &known) {
            let own_first = first.get(&own.battery).and_then(|first| first.milliohms);
            // Where it is the first, or was set as a new one, it rose by nothing.
            let is_first = own_first == Some(own.milliohms) && own.baseline.is_none();
            let rise = if is_first { Some(0.0) } else { over_first(&own) };
            let on_day = rise.map(|rise| ResistanceOnDay { day: visit.day, milliohms: own.milliohms, rise });
            by_battery.entry(own.battery).or_default().extend(on_day);
        }
    }
    let whole = by_battery.into_iter().filter(|(_, read)| !read.is_empty());
    whole.map(|(battery, read)| ResistanceHistory { battery, read }).collect()
}
