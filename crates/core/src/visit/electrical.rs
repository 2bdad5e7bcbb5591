//! Volts and resistances of a visit, as they are judged: once, whoever asks.

use super::{Entry, PastVisit, Place, VisitSheet};
use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::BatteryModel;
use crate::finding::{self, Finding};
use crate::house_rules::HouseRules;
use crate::ohmic::{OhmicJudged, OhmicReading, judge_ohmic};
use crate::quantity::{SpecificGravity, Temperature};
use crate::rest::{BatteryVolts, RestSheet};
use crate::round::Assessment;
use crate::schedule::OpenFinding;
use std::collections::BTreeMap;

/// Mean corrected gravity of the cells of each battery, for the cross-check of its volts (SG-3).
pub type Gravities = BTreeMap<BatteryAddress, SpecificGravity>;

/// What is measured, and what judges it.
#[derive(Debug, Clone, Copy)]
pub struct Judged<'a> {
    /// The bank.
    pub shape: &'a BankShape,
    /// Its batteries.
    pub model: &'a BatteryModel,
    /// The rules that judge.
    pub rules: &'a HouseRules,
}

/// Gravities of a judged round by battery: the mean of its cells, since their volts add up, so that one low cell
/// explains low volts before any instrument is doubted. A battery with a cell that could not be measured is left
/// out: that cell may explain anything.
pub fn gravities(round: &Assessment) -> Gravities {
    let mut cells: BTreeMap<BatteryAddress, Vec<Option<f64>>> = BTreeMap::new();
    for cell in &round.cells {
        let own = cell.corrected.map(SpecificGravity::value);
        cells.entry(cell.cell.battery).or_default().push(own);
    }
    cells
        .into_iter()
        .filter_map(|(battery, all)| Some((battery, mean(&all.into_iter().collect::<Option<Vec<f64>>>()?)?)))
        .collect()
}

fn mean(all: &[f64]) -> Option<SpecificGravity> {
    let count = u32::try_from(all.len()).ok().filter(|n| *n > 0)?;
    Some(SpecificGravity::corrected(all.iter().sum::<f64>() / f64::from(count)))
}

/// The volts of a visit as they are judged; gravities are those of its own round.
pub fn rest_sheet(sheet: &VisitSheet, bank: Judged<'_>, gravities: &Gravities) -> RestSheet {
    let batteries = sheet.battery_volts().into_iter();
    RestSheet {
        shape: bank.shape.clone(),
        model: bank.model.clone(),
        rules: bank.rules.clone(),
        conditions: sheet.rested().cloned().unwrap_or_default(),
        batteries: batteries
            .map(|own| BatteryVolts { gravity: gravities.get(&own.battery).copied(), ..own })
            .collect(),
        strings: sheet.string_volts(),
    }
}

/// A resistance, mΩ, with the temperature of its case where it was taken.
pub type Resistance = (f64, Option<Temperature>);

/// Resistances of a visit, and the cases measured beside them, by battery.
fn resistances(sheet: &VisitSheet) -> BTreeMap<BatteryAddress, (Option<f64>, Option<Temperature>)> {
    let mut read: BTreeMap<BatteryAddress, (Option<f64>, Option<Temperature>)> = BTreeMap::new();
    for kept in sheet.standing() {
        let Place::Battery(battery) = kept.place else { continue };
        match &kept.entry {
            Entry::Ohmic { milliohms } => read.entry(battery).or_default().0 = Some(*milliohms),
            Entry::CaseTemperature { celsius } => {
                read.entry(battery).or_default().1 = Temperature::from_celsius(*celsius).ok();
            }
            _ => {}
        }
    }
    read
}

/// First resistance of every block on record, by battery.
pub fn ohmic_baselines(visits: &[PastVisit]) -> BTreeMap<BatteryAddress, Resistance> {
    let mut first = BTreeMap::new();
    for visit in visits {
        for (battery, (milliohms, case)) in resistances(&visit.sheet) {
            if let Some(milliohms) = milliohms {
                first.entry(battery).or_insert((milliohms, case));
            }
        }
    }
    first
}

/// The resistances of a visit against the first on record, with the cases measured beside them.
pub fn ohmic(
    sheet: &VisitSheet,
    shape: &BankShape,
    first: &BTreeMap<BatteryAddress, Resistance>,
) -> Vec<OhmicJudged> {
    let read = resistances(sheet);
    let readings: Vec<OhmicReading> = shape
        .batteries()
        .filter_map(|battery| {
            let (milliohms, case_temperature) = read.get(&battery)?;
            let baseline = first.get(&battery).copied();
            Some(OhmicReading {
                battery,
                milliohms: (*milliohms)?,
                baseline: baseline.map(|(milliohms, _)| milliohms),
                baseline_temperature: baseline.and_then(|(_, case)| case),
                case_temperature: *case_temperature,
            })
        })
        .collect();
    judge_ohmic(&readings)
}

/// What the volts and resistances of a visit found; the volts worst first, then the resistances.
pub fn electrical_findings(
    sheet: &VisitSheet,
    before: &[PastVisit],
    bank: Judged<'_>,
    gravities: &Gravities,
) -> Vec<Finding> {
    let mut all = finding::rest::findings(&rest_sheet(sheet, bank, gravities));
    all.extend(finding::ohmic::findings(&ohmic(sheet, bank.shape, &ohmic_baselines(before))));
    all
}

/// Which visit has the last volts.
pub fn last_electrical(visits: &[PastVisit]) -> Option<usize> {
    visits.iter().rposition(|v| !v.sheet.battery_volts().is_empty())
}

/// What the last volts and resistances ask for: open until they are measured again.
pub fn open_electrical_findings(
    visits: &[PastVisit],
    bank: Judged<'_>,
    gravities: &Gravities,
) -> Vec<OpenFinding> {
    let Some(last) = last_electrical(visits) else { return Vec::new() };
    let visit = &visits[last];
    let found = electrical_findings(&visit.sheet, &visits[..last], bank, gravities);
    found.into_iter().map(|finding| OpenFinding { day: visit.day, finding }).collect()
}
