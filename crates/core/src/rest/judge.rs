//! RD-7 for a whole rest check: every battery against its mates, every string against its batteries.

use super::charge::METER;
use super::strings::CELL;
use super::{ChargeRange, Grade, RestConditions, RestFinding, charge_of, string_fault};
use crate::bank::{BankShape, BatteryAddress, string_letter};
use crate::battery_model::BatteryModel;
use crate::electrolyte::{CROSS_CHECK_LIMIT_VOLTS, measured_rest_voltage};
use crate::house_rules::HouseRules;
use crate::instrument::spread_of_noise;
use crate::quantity::{Points, SpecificGravity};
use crate::round::median;
use crate::round::rest_check::ON_CHARGE_VOLTS;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Batteries of one string rest within this of each other, V per cell: 0.1 V on 12 V (RD-7).
const STRING_SPREAD: f64 = 0.1 / 6.0;
/// A sealed battery this far from the median is watched, V per cell; twice as far below it acts.
pub const AGM_DEVIATION_VOLTS: f64 = 0.02;
/// How near what a battery lacks must come to whole cells, volts (common practice, no source).
const NEAR_A_CELL: f64 = 0.6;
/// A battery that lacks this much against the median battery lacks a cell, volts.
pub const CELL_MISSING_VOLTS: f64 = CELL - NEAR_A_CELL;

/// Volts of one battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatteryVolts {
    /// The battery.
    pub battery: BatteryAddress,
    /// Volts at its posts.
    pub volts: f64,
    /// Mean corrected gravity of its cells on this visit, for the cross-check.
    #[serde(default)]
    pub gravity: Option<SpecificGravity>,
    /// True when the technician was asked and says that it stands.
    #[serde(default)]
    pub stands: bool,
}

/// Volts of one string.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StringVolts {
    /// String, 0 is A.
    pub string: u8,
    /// Volts across it, isolated.
    pub volts: f64,
    /// Volts from its positive post to the negative post of each battery, in order, where taken.
    #[serde(default)]
    pub along: Vec<(BatteryAddress, f64)>,
}

/// A rest check as it was taken.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestSheet {
    /// The bank.
    pub shape: BankShape,
    /// Its batteries.
    pub model: BatteryModel,
    /// The house rules that judge.
    #[serde(default = "HouseRules::maker_first")]
    pub rules: HouseRules,
    /// What it did before.
    pub conditions: RestConditions,
    /// Batteries that were read.
    pub batteries: Vec<BatteryVolts>,
    /// Strings that were read.
    #[serde(default)]
    pub strings: Vec<StringVolts>,
}

/// One battery, judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JudgedBattery {
    /// The battery.
    pub battery: BatteryAddress,
    /// Volts at its posts.
    pub volts: f64,
    /// Volts against the median battery.
    pub deviation: f64,
    /// State of charge, where the grade allows one.
    pub charge: Option<ChargeRange>,
    /// Condition.
    pub condition: Severity,
}

/// What a rest check says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestAssessment {
    /// What the reading is worth.
    pub grade: Grade,
    /// Volts of the median battery.
    pub median: Option<f64>,
    /// Half-height of the steady band, volts of one battery.
    pub steady: f64,
    /// State of charge at the median, where the grade allows one.
    pub charge: Option<ChargeRange>,
    /// Every battery that was read.
    pub batteries: Vec<JudgedBattery>,
    /// What was found, worst first.
    pub findings: Vec<RestFinding>,
    /// Condition of the bank by its volts.
    pub condition: Severity,
    /// Strings that were read by themselves.
    #[serde(default)]
    pub strings: usize,
}

/// A rest check in a few figures, as far as a sentence about it needs them.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestSummary {
    /// What the reading is worth.
    pub grade: Grade,
    /// Batteries that were read.
    pub read: usize,
    /// State of charge at the median, where the grade allows one.
    pub charge: Option<ChargeRange>,
    /// Strings that were read by themselves.
    #[serde(default)]
    pub strings: usize,
    /// True when no battery lies off the others.
    #[serde(default)]
    pub alike: bool,
}

impl RestAssessment {
    /// Its few figures.
    pub fn summary(&self) -> RestSummary {
        RestSummary {
            grade: self.grade,
            read: self.batteries.len(),
            charge: self.charge,
            strings: self.strings,
            alike: self.batteries.iter().all(|b| b.condition < Severity::Watch),
        }
    }
}

/// Judges a rest check by RD-7.
pub fn judge_rest(sheet: &RestSheet) -> RestAssessment {
    let grade = Grade::of(&sheet.conditions, &sheet.rules);
    let cells = f64::from(sheet.shape.cells_per_battery);
    let dead = missing_cells(sheet);
    let middle = middle_of_whole(sheet, &dead);
    let each = if sheet.model.construction.has_caps() { STRING_SPREAD } else { AGM_DEVIATION_VOLTS };
    let steady = each.max(2.0 * METER) * cells;
    let charging = middle.filter(|m| grade.tells_charge() && m / cells > ON_CHARGE_VOLTS);
    let charge = |volts: f64| {
        (grade.tells_charge() && charging.is_none()).then(|| {
            let high = grade.may_read_high(&sheet.conditions);
            charge_of(volts / cells, high, sheet.model.construction, Some(&sheet.model))
        })
    };
    let batteries: Vec<JudgedBattery> = sheet
        .batteries
        .iter()
        .map(|b| {
            let deviation = b.volts - middle.unwrap_or(b.volts);
            let condition = if !matches!(grade, Grade::Settled | Grade::Usable | Grade::Unsettled) {
                Severity::NoReading
            } else if deviation <= -low_limit(cells) {
                Severity::Act
            } else if deviation.abs() > steady {
                Severity::Watch
            } else {
                Severity::Steady
            };
            JudgedBattery {
                battery: b.battery,
                volts: b.volts,
                deviation,
                charge: charge(b.volts),
                condition,
            }
        })
        .collect();
    let mut findings = Vec::new();
    findings.extend(low_batteries(&batteries, &dead, low_limit(cells)));
    findings.extend(dead);
    findings.extend(short_strings(sheet, middle));
    findings.extend(apart(sheet));
    findings.extend(strings_apart(sheet, &findings));
    findings.extend(charging.map(|m| RestFinding::NotAtRest { cell_volts: m / cells }));
    if grade == Grade::Settled {
        findings.extend(disagreeing(sheet));
    }
    let of_bank = middle.and_then(charge);
    findings.extend(low_charge(sheet, of_bank));
    findings.sort_by_key(|f| std::cmp::Reverse(f.severity()));
    let worst = batteries.iter().map(|b| b.condition).filter(|c| *c >= Severity::Watch).max();
    let found = findings.iter().map(RestFinding::severity).max();
    let base = if (batteries.is_empty() && sheet.strings.is_empty()) || !grade.tells_charge() {
        Severity::NoReading
    } else {
        Severity::Steady
    };
    RestAssessment {
        grade,
        median: middle,
        steady,
        charge: of_bank,
        condition: worst.max(found).map_or(base, |w| w.max(base)),
        batteries,
        findings,
        strings: sheet.strings.len(),
    }
}

/// Strings by themselves, within as much of one another as the batteries of one string; one that is short of
/// a cell or more is told so already.
fn strings_apart(sheet: &RestSheet, found: &[RestFinding]) -> Option<RestFinding> {
    let short = |letter| {
        found.iter().any(|f| matches!(f, RestFinding::StringShort { letter: own, .. } if *own == letter))
    };
    let letter = |s: &StringVolts| string_letter(s.string);
    let whole = || sheet.strings.iter().filter(|s| !short(letter(s)));
    let lowest = whole().min_by(|a, b| a.volts.total_cmp(&b.volts))?;
    let highest = whole().max_by(|a, b| a.volts.total_cmp(&b.volts))?;
    let limit = STRING_SPREAD * f64::from(sheet.shape.cells_in_series());
    let apart = highest.volts - lowest.volts;
    (apart > limit + 1e-9).then(|| RestFinding::StringsApart {
        lowest: letter(lowest),
        highest: letter(highest),
        apart,
        limit,
    })
}

/// True where a battery is said to lack a cell.
fn is_told(dead: &[RestFinding], own: BatteryAddress) -> bool {
    dead.iter().any(|f| matches!(f, RestFinding::CellsMissing { battery, .. } if *battery == own))
}

/// Volts of the median battery of those that lack no cell; of all where none is whole.
fn middle_of_whole(sheet: &RestSheet, dead: &[RestFinding]) -> Option<f64> {
    let whole = sheet.batteries.iter().filter(|b| !is_told(dead, b.battery));
    median(&mut whole.map(|b| b.volts).collect::<Vec<_>>())
        .or_else(|| median(&mut sheet.batteries.iter().map(|b| b.volts).collect::<Vec<_>>()))
}

/// SG-3: "a whole battery low by about 2 V has a dead cell", against the median of its mates: with itself
/// among two, half of what it lacks would stand on either.
fn missing_cells(sheet: &RestSheet) -> Vec<RestFinding> {
    sheet
        .batteries
        .iter()
        .filter_map(|b| {
            let mates = sheet.batteries.iter().filter(|mate| mate.battery != b.battery);
            let below = median(&mut mates.map(|mate| mate.volts).collect::<Vec<_>>())? - b.volts;
            let cells = (below / CELL).round();
            let whole = cells >= 1.0 && (below - cells * CELL).abs() <= NEAR_A_CELL;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at most six")]
            whole.then_some(RestFinding::CellsMissing {
                battery: b.battery,
                below,
                cells: cells.min(6.0) as u8,
            })
        })
        .collect()
}

/// A battery this far under the median acts, volts.
fn low_limit(cells: f64) -> f64 {
    2.0 * AGM_DEVIATION_VOLTS * cells
}

fn low_batteries(batteries: &[JudgedBattery], dead: &[RestFinding], limit: f64) -> Vec<RestFinding> {
    batteries
        .iter()
        .filter(|b| b.condition == Severity::Act && !is_told(dead, b.battery))
        .map(|b| RestFinding::BatteryLow { battery: b.battery, below: -b.deviation, limit })
        .collect()
}

fn short_strings(sheet: &RestSheet, middle: Option<f64>) -> Vec<RestFinding> {
    let series = f64::from(sheet.shape.series);
    let mates = sheet.strings.iter().map(|s| s.volts).fold(0.0, f64::max);
    sheet
        .strings
        .iter()
        .filter_map(|s| {
            let own: Vec<f64> =
                sheet.batteries.iter().filter(|b| b.battery.string == s.string).map(|b| b.volts).collect();
            let sum = (own.len() == usize::from(sheet.shape.series)).then(|| own.iter().sum::<f64>());
            let each = middle.unwrap_or(f64::from(sheet.shape.cells_per_battery) * 2.1);
            let expected = mates.max(each * series);
            let fault = string_fault(s.volts, expected, each, sum, &s.along)?;
            Some(RestFinding::StringShort {
                letter: string_letter(s.string),
                volts: s.volts,
                expected,
                fault,
            })
        })
        .collect()
}

/// Batteries of one string within 0.1 V per 12 V, or what the meter can tell.
fn apart(sheet: &RestSheet) -> Vec<RestFinding> {
    let cells = f64::from(sheet.shape.cells_per_battery);
    (0..sheet.shape.parallel)
        .filter_map(|string| {
            let own: Vec<&BatteryVolts> =
                sheet.batteries.iter().filter(|b| b.battery.string == string).collect();
            let lowest = own.iter().min_by(|a, b| a.volts.total_cmp(&b.volts))?;
            let highest = own.iter().max_by(|a, b| a.volts.total_cmp(&b.volts))?;
            let rule = STRING_SPREAD * cells;
            let noise =
                spread_of_noise(own.len(), Points::new(METER * cells / 2.0 * 1000.0)).value() / 1000.0;
            let (spread, limit) = (highest.volts - lowest.volts, rule.max(noise));
            (spread > limit + 1e-9).then(|| RestFinding::Apart {
                letter: string_letter(string),
                spread,
                limit,
                lowest: lowest.battery,
                highest: highest.battery,
                by_meter: noise > rule,
                sealed: !sheet.model.construction.has_caps(),
            })
        })
        .collect()
}

fn disagreeing(sheet: &RestSheet) -> Vec<RestFinding> {
    let cells = f64::from(sheet.shape.cells_per_battery);
    sheet
        .batteries
        .iter()
        .filter_map(|b| {
            let (measured, expected) = (b.volts / cells, measured_rest_voltage(b.gravity?));
            ((measured - expected).abs() > CROSS_CHECK_LIMIT_VOLTS).then_some(RestFinding::Disagrees {
                battery: b.battery,
                measured,
                expected,
            })
        })
        .collect()
}

fn low_charge(sheet: &RestSheet, charge: Option<ChargeRange>) -> Option<RestFinding> {
    let depth = sheet.rules.planned_depth_percent;
    let charge = charge.filter(|c| c.high < 100.0 - f64::from(depth))?;
    Some(RestFinding::LowCharge { at_most: charge.high, planned_depth: depth })
}
