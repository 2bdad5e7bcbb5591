//! Volts and resistances of a visit, as they are judged: once, whoever asks.

use super::held::held_since;
use super::judged::Judged;
use super::{Entry, PastVisit, Place, VisitSheet};
use crate::bank::{BankShape, BatteryAddress};
use crate::finding::{self, Finding};
use crate::ohmic::{OhmicJudged, OhmicReading, judge_ohmic};
use crate::quantity::{SpecificGravity, Temperature};
use crate::rest::{BatteryVolts, RestSheet};
use crate::round::Assessment;
use crate::schedule::OpenFinding;
use std::collections::BTreeMap;

/// Mean corrected gravity of the cells of each battery, for the cross-check of its volts (SG-3).
pub type Gravities = BTreeMap<BatteryAddress, SpecificGravity>;

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

/// The volts of a visit as they are judged, with those before it where the bank stood disconnected since; gravities are
/// those of its own round.
pub fn rest_sheet(
    sheet: &VisitSheet,
    before: &[PastVisit],
    bank: Judged<'_>,
    gravities: &Gravities,
) -> RestSheet {
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
        held: held_since(sheet, before, bank),
    }
}

/// A resistance as it was read.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Resistance {
    /// mΩ; none: only the case was measured.
    pub milliohms: Option<f64>,
    /// Temperature of its case, where it was taken.
    pub case: Option<Temperature>,
    /// The tester; empty: not told.
    pub tester: String,
    /// True when later readings are held against it.
    pub new_baseline: bool,
}

impl Resistance {
    /// True when another was read with another tester: their values do not compare. One that nobody told may be the
    /// same.
    fn is_by_another_tester(&self, other: &Self) -> bool {
        let tester = |own: &Self| own.tester.trim().to_lowercase();
        let (own, other) = (tester(self), tester(other));
        !own.is_empty() && !other.is_empty() && own != other
    }
}

/// Resistances of a visit, and the cases measured beside them, by battery.
pub(super) fn resistances(sheet: &VisitSheet) -> BTreeMap<BatteryAddress, Resistance> {
    let mut read: BTreeMap<BatteryAddress, Resistance> = BTreeMap::new();
    for kept in sheet.standing() {
        let Place::Battery(battery) = kept.place else { continue };
        match &kept.entry {
            Entry::Ohmic { milliohms, tester, new_baseline, .. } => {
                let own = read.entry(battery).or_default();
                own.milliohms = Some(*milliohms);
                own.tester.clone_from(tester);
                own.new_baseline = *new_baseline;
            }
            Entry::CaseTemperature { celsius } => {
                read.entry(battery).or_default().case = Temperature::from_celsius(*celsius).ok();
            }
            _ => {}
        }
    }
    read
}

/// What the resistance of every block is held against, by battery: the first on record, or the last that was set as a
/// baseline.
pub fn ohmic_baselines(visits: &[PastVisit]) -> BTreeMap<BatteryAddress, Resistance> {
    let mut first = BTreeMap::new();
    for visit in visits {
        add_baselines(&mut first, &visit.sheet);
    }
    first
}

/// The baselines after one more visit.
pub(super) fn add_baselines(first: &mut BTreeMap<BatteryAddress, Resistance>, sheet: &VisitSheet) {
    for (battery, own) in resistances(sheet) {
        if own.new_baseline {
            first.insert(battery, own);
        } else if own.milliohms.is_some() {
            first.entry(battery).or_insert(own);
        }
    }
}

/// The resistances of a visit beside what they are held against, in the order of the batteries.
pub(super) fn ohmic_readings(
    sheet: &VisitSheet,
    shape: &BankShape,
    first: &BTreeMap<BatteryAddress, Resistance>,
) -> Vec<OhmicReading> {
    let read = resistances(sheet);
    shape
        .batteries()
        .filter_map(|battery| {
            let own = read.get(&battery)?;
            let compares = |then: &&Resistance| !own.new_baseline && !own.is_by_another_tester(then);
            let baseline = first.get(&battery).filter(compares);
            Some(OhmicReading {
                battery,
                milliohms: own.milliohms?,
                baseline: baseline.and_then(|then| then.milliohms),
                baseline_temperature: baseline.and_then(|then| then.case),
                case_temperature: own.case,
            })
        })
        .collect()
}

/// The resistances of a visit against the first on record, with the cases measured beside them.
pub fn ohmic(
    sheet: &VisitSheet,
    shape: &BankShape,
    first: &BTreeMap<BatteryAddress, Resistance>,
) -> Vec<OhmicJudged> {
    judge_ohmic(&ohmic_readings(sheet, shape, first))
}

/// Batteries of a visit whose resistance was read with another tester than their baseline.
pub fn baseline_of_another_tester(
    sheet: &VisitSheet,
    first: &BTreeMap<BatteryAddress, Resistance>,
) -> Vec<BatteryAddress> {
    let read = resistances(sheet).into_iter();
    let other = |(battery, own): &(BatteryAddress, Resistance)| {
        let then = first.get(battery);
        own.milliohms.is_some()
            && !own.new_baseline
            && then.is_some_and(|then| own.is_by_another_tester(then))
    };
    read.filter(other).map(|(battery, _)| battery).collect()
}

/// What the volts and resistances of a visit found; the volts worst first, then the resistances.
pub fn electrical_findings(
    sheet: &VisitSheet,
    before: &[PastVisit],
    bank: Judged<'_>,
    gravities: &Gravities,
) -> Vec<Finding> {
    let mut all = finding::rest::findings(&rest_sheet(sheet, before, bank, gravities));
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
