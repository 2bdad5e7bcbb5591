//! RD-7 for a whole rest check: every battery against its mates, every string against its batteries.

use super::apart::{STRING_SPREAD, apart, in_parallel, strings_apart};
use super::charge::METER;
use super::held_loss::{HeldOver, held_over, losing};
use super::holding::{Holds, against_full, holding_hours, holds};
use super::sheet::RestSheet;
use super::strings::CELL;
use super::{ChargeRange, Grade, RestFinding, charge_of, string_fault};
use crate::bank::{BatteryAddress, string_letter};
use crate::electrolyte::{CROSS_CHECK_LIMIT_VOLTS, measured_rest_voltage};
use crate::round::median;
use crate::round::rest_check::ON_CHARGE_VOLTS;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// A sealed battery this far from the median is watched, V per cell; twice as far below it acts.
pub const AGM_DEVIATION_VOLTS: f64 = 0.02;
/// How near what a battery lacks must come to whole cells, volts (common practice, no source).
const NEAR_A_CELL: f64 = 0.6;
/// A battery that lacks this much against the median battery lacks a cell, volts.
pub const CELL_MISSING_VOLTS: f64 = CELL - NEAR_A_CELL;

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
    /// Whether it holds a full charge, where its conditions tell (HD-1).
    #[serde(default)]
    pub holding: Option<Holding>,
    /// What it lost since an earlier reading, disconnected between (HD-1).
    #[serde(default)]
    pub held: Option<HeldOver>,
}

/// How a bank holds its charge a day or more after it was full (HD-1).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Holding {
    /// Hours since the full charge.
    pub hours: f64,
    /// The battery that stands lowest.
    pub lowest: BatteryAddress,
    /// Its volts against full, per 12 V.
    pub against_full: f64,
    /// What that tells of it.
    pub holds: Holds,
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
    /// Whether it holds a full charge, where its conditions tell.
    #[serde(default)]
    pub holding: Option<Holding>,
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
            holding: self.holding,
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
    // What does not hold rests low for that.
    let mut findings = not_holding(sheet, &dead);
    let held = held_over(sheet);
    findings.extend(held.iter().flat_map(losing));
    findings.extend(low_batteries(&batteries, &dead, low_limit(cells)));
    findings.extend(dead);
    findings.extend(short_strings(sheet, middle));
    findings.extend(apart(sheet));
    findings.extend(strings_apart(sheet, &findings));
    findings.extend(in_parallel(sheet, &findings));
    let holding = holding(sheet);
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
        holding,
        held,
    }
}

/// Each battery against the full rest volts of the model, per 12 V, lowest first; empty where the conditions do
/// not tell.
fn against(sheet: &RestSheet) -> Vec<(BatteryAddress, f64)> {
    let cells = f64::from(sheet.shape.cells_per_battery);
    let told = holding_hours(&sheet.conditions).is_some();
    let own = sheet.batteries.iter().filter(|_| told);
    let mut all: Vec<_> = own.map(|b| (b.battery, against_full(b.volts, cells, &sheet.model))).collect();
    all.sort_by(|a, b| a.1.total_cmp(&b.1));
    all
}

fn holding(sheet: &RestSheet) -> Option<Holding> {
    let (lowest, under) = against(sheet).first().copied()?;
    let hours = holding_hours(&sheet.conditions)?;
    Some(Holding { hours, lowest, against_full: under, holds: holds(under) })
}

/// Batteries that lost what they were charged with; one that lacks a cell is told so already.
fn not_holding(sheet: &RestSheet, found: &[RestFinding]) -> Vec<RestFinding> {
    let Some(hours) = holding_hours(&sheet.conditions) else { return Vec::new() };
    against(sheet)
        .into_iter()
        .filter(|(battery, under)| holds(*under) != Holds::Holds && !is_told(found, *battery))
        .map(|(battery, under)| RestFinding::NotHolding {
            battery,
            under: -under,
            hours,
            fails: holds(under) == Holds::Fails,
        })
        .collect()
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
