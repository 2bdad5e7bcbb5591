//! Volts in every state that were read on a visit, side by side: on charge, just off it, at rest, under a load.

use super::{Entry, Judged, PastVisit, Place, VisitEntry, VisitSheet};
use crate::rest::{ChargeRange, Grade, RestConditions, VoltsState, Wait, charge_of};
use jiff::civil::Date;

/// One reading.
#[derive(Debug, Clone, PartialEq)]
pub struct VoltsLine<'a> {
    /// The entry.
    pub entry: &'a VisitEntry,
    /// What the bank did then.
    pub state: VoltsState,
    /// V.
    pub volts: f64,
    /// Cells of the place that was read.
    pub cells: u16,
    /// Hours of rest, where it rested and somebody said so.
    pub hours: Option<f64>,
    /// A, where a meter showed them.
    pub amperes: Option<f64>,
    /// What charged or drew.
    pub note: &'a str,
    /// State of charge; only of volts that rested long enough.
    pub charge: Option<ChargeRange>,
    /// How long to wait, for volts that did not rest long enough.
    pub wait: Option<Wait>,
    /// V under what the same place showed before the load.
    pub fell: Option<f64>,
}

impl VoltsLine<'_> {
    /// Volts of six such cells, to compare by.
    pub fn per_twelve(&self) -> f64 {
        6.0 * self.volts / f64::from(self.cells.max(1))
    }
}

fn line<'a>(entry: &'a VisitEntry, bank: Judged<'_>, before: &[VoltsLine<'a>]) -> Option<VoltsLine<'a>> {
    let Entry::StateVolts { state, volts, hours, amperes, note, .. } = &entry.entry else { return None };
    let cells = entry.place.cells_in_series(bank.shape);
    let rested =
        RestConditions { hours_since_charge: *hours, hours_since_load: *hours, ..RestConditions::default() };
    let grade = state.is_rest().then(|| Grade::of(&rested, bank.rules));
    let charge = grade.filter(|grade| grade.tells_charge()).map(|grade| {
        let high = grade.may_read_high(&rested);
        charge_of(*volts / f64::from(cells), high, bank.model.construction, Some(bank.model))
    });
    let unloaded = |own: &&VoltsLine<'_>| {
        own.entry.place == entry.place && matches!(own.state, VoltsState::AtRest | VoltsState::JustOff)
    };
    let fell = before.iter().rev().find(unloaded).filter(|_| state.is_loaded()).map(|own| own.volts - volts);
    Some(VoltsLine {
        entry,
        state: *state,
        volts: *volts,
        cells,
        hours: *hours,
        amperes: *amperes,
        note,
        charge,
        wait: grade.and_then(|_| rested.wait(bank.rules)),
        fell,
    })
}

/// Every reading of a visit in the order made.
pub fn volts_by_state<'a>(sheet: &'a VisitSheet, bank: Judged<'_>) -> Vec<VoltsLine<'a>> {
    let mut all: Vec<VoltsLine<'a>> = Vec::new();
    for entry in sheet.standing() {
        let next = line(entry, bank, &all);
        all.extend(next);
    }
    all
}

/// What the same place showed in the same state on the last visit that read it, and that day.
pub fn volts_before(visits: &[PastVisit], place: Place, state: VoltsState) -> Option<(Date, f64)> {
    visits.iter().rev().find_map(|visit| {
        let own: Vec<&VisitEntry> = visit.sheet.standing().filter(|k| k.place == place).collect();
        let volts = own.iter().rev().find_map(|k| match &k.entry {
            Entry::StateVolts { state: then, volts, .. } if *then == state => Some(*volts),
            Entry::BatteryVolts { volts, .. } if state.is_rest() && visit.sheet.was_at_rest() => Some(*volts),
            _ => None,
        })?;
        Some((visit.day, volts))
    })
}
