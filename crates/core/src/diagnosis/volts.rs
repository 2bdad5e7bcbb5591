//! What volts at rest are signs of.

use super::{MeasuredBattery, RestVoltsRead, RoundRead, Sign};
use crate::bank::{BankShape, string_letter};
use crate::battery_model::BatteryModel;
use crate::electrolyte::{measured_rest_voltage, rule_rest_voltage};
use crate::quantity::SpecificGravity;
use crate::rest::full_rest_volts;
use crate::round::median;
use std::collections::BTreeMap;

/// V a cell off the model's full, and off what the gravity leads to.
const OFF_FULL: f64 = 0.025;
const OFF_GRAVITY: f64 = 0.014;
/// V a battery lacks that lacks a cell.
const CELL_MISSING: f64 = 1.8;
/// V on 12 V: a battery is low, mates are alike, strings lie apart.
const LOW: f64 = 0.15;
const ALIKE: f64 = 0.12;
const STRINGS: f64 = 0.10;

fn middle(of: impl Iterator<Item = f64>) -> Option<f64> {
    median(&mut of.collect::<Vec<_>>())
}

/// Signs of the newest settled volts, beside the round of their day.
pub(super) fn signs(rest: &[&RestVoltsRead], shape: &BankShape, model: &BatteryModel) -> Vec<Sign> {
    let Some(newest) = rest.iter().rev().find(|r| r.settled && !r.batteries.is_empty()) else {
        return Vec::new();
    };
    let cells = f64::from(shape.cells_per_battery);
    let twelve = |volts: f64| 6.0 * volts / cells;
    let Some(centre) = middle(newest.batteries.iter().map(|b| b.value)) else { return Vec::new() };
    let mut all = Vec::new();
    let under = |value: f64| centre - value;
    let (missing, low): (Vec<&MeasuredBattery>, Vec<&MeasuredBattery>) = newest
        .batteries
        .iter()
        .filter(|b| lacks_a_cell(newest, b.value, shape, model) || twelve(under(b.value)) >= LOW)
        .partition(|b| lacks_a_cell(newest, b.value, shape, model));
    for own in &missing {
        let seen = if under(own.value) >= CELL_MISSING {
            format!("{} {:.2} V under its mates", own.battery, under(own.value))
        } else {
            format!("{} at {:.2} V, under what its cells stand at when empty", own.battery, own.value)
        };
        all.push(Sign::new("battery_cell_missing", seen, &own.battery.to_string()));
    }
    match low.as_slice() {
        [] => {}
        [own] => {
            let seen = format!("{} {:.2} V under its mates", own.battery, under(own.value));
            all.push(Sign::new("battery_low", seen, &own.battery.to_string()));
        }
        several => {
            let names: Vec<String> = several.iter().map(|b| b.battery.to_string()).collect();
            all.push(Sign::new(
                "batteries_low",
                format!("{} under their mates", names.join(", ")),
                &names.join(" "),
            ));
        }
    }
    if missing.is_empty() {
        all.extend(strings_apart(newest, &twelve));
    }
    let per_cell = centre / cells;
    let furthest = newest.batteries.iter().map(|b| twelve((b.value - centre).abs())).fold(0.0, f64::max);
    if newest.proven_full {
        let off = per_cell - full_rest_volts(model);
        let seen = format!("{per_cell:.3} V a cell, {off:+.3} V against the model\u{2019}s full");
        if off < -OFF_FULL {
            all.push(Sign::new("full_volts_low", seen, ""));
        } else if off > OFF_FULL {
            all.push(Sign::new("full_volts_high", seen, ""));
        } else if furthest <= ALIKE {
            all.push(Sign::new("full_volts_right", seen, ""));
        }
    }
    all
}

/// True where a battery lacks the volts of a cell: against its mates, or against what its cells have at the least.
fn lacks_a_cell(read: &RestVoltsRead, value: f64, shape: &BankShape, model: &BatteryModel) -> bool {
    let cells = f64::from(shape.cells_per_battery);
    let mates = middle(read.batteries.iter().map(|b| b.value)).unwrap_or(value);
    let full = cells * full_rest_volts(model);
    let empty = cells * rule_rest_voltage(model.discharged_gravity);
    mates - value >= CELL_MISSING
        || read.proven_full && full - value >= CELL_MISSING
        || empty - value >= CELL_MISSING / 2.0
}

/// What settled volts say beside the gravities of their day, both as read: what a low level makes of the gravity is in the
/// volts too, and a wrong instrument shows.
pub(super) fn against_gravity(
    rest: &[&RestVoltsRead],
    rounds: &[&RoundRead],
    (shape, model): (&BankShape, &BatteryModel),
) -> Option<Sign> {
    let newest = rest.iter().rev().find(|r| r.settled && !r.batteries.is_empty())?;
    // A dead cell comes first: its battery says nothing of gravities.
    let whole = newest.batteries.iter().filter(|b| !lacks_a_cell(newest, b.value, shape, model));
    let per_cell = middle(whole.map(|b| b.value))? / f64::from(shape.cells_per_battery);
    let same_day = rounds.iter().rev().find(|r| r.day == newest.day);
    let gravity = same_day.and_then(|round| {
        let read: Vec<f64> =
            round.cells.iter().filter(|c| !c.in_question).map(|c| c.gravity.value()).collect();
        (!read.is_empty())
            .then(|| read.iter().sum::<f64>() / f64::from(u32::try_from(read.len()).unwrap_or(1)))
    });
    gravity.map(|gravity| {
        let off = per_cell - measured_rest_voltage(SpecificGravity::corrected(gravity));
        let seen = format!("{off:+.3} V a cell against what the gravity leads to");
        let key = match off {
            o if o > OFF_GRAVITY => "volts_above_gravity",
            o if o < -OFF_GRAVITY => "volts_below_gravity",
            _ => "volts_agree_with_gravity",
        };
        Sign::new(key, seen, "")
    })
}

fn strings_apart(read: &RestVoltsRead, twelve: &impl Fn(f64) -> f64) -> Option<Sign> {
    let mut strings: BTreeMap<u8, Vec<f64>> = BTreeMap::new();
    for own in &read.batteries {
        strings.entry(own.battery.string).or_default().push(own.value);
    }
    if strings.len() < 2 {
        return None;
    }
    let middles: Vec<(u8, f64)> =
        strings.iter().filter_map(|(s, own)| Some((*s, middle(own.iter().copied())?))).collect();
    let low = middles.iter().min_by(|a, b| a.1.total_cmp(&b.1))?;
    let high = middles.iter().max_by(|a, b| a.1.total_cmp(&b.1))?;
    let apart = twelve(high.1 - low.1);
    let letter = string_letter(low.0);
    (apart > STRINGS).then(|| {
        Sign::new(
            "strings_apart",
            format!("string {letter} {apart:.2} V on 12 V under the highest"),
            &letter.to_string(),
        )
    })
}
