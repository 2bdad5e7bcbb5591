//! What gravities are signs of.

use super::evidence::said;
use super::{CellGravity, RoundRead, Sign};
use crate::bank::{CellAddress, string_letter};
use crate::battery_model::BatteryModel;
use crate::round::median;
use std::collections::BTreeMap;

/// Points a level of one millimetre under its mark makes where the model does not say (SG-4; common practice, no source).
const PER_MILLIMETRE: f64 = 1.2;
/// Points: a centre is even within, low or high beyond; a bank not proven full is far from it.
const LOW: f64 = -10.0;
const HIGH: f64 = 15.0;
const FAR: f64 = -35.0;
/// Points a cell is low or high by, and far low; and how many robust deviations out.
const CELL: f64 = 20.0;
const FAR_CELL: f64 = 90.0;
/// Points a string is off by, with most of its cells (our choice, no source).
const STRING: f64 = 15.0;
const OUT: f64 = 3.5;
/// Points between two full rounds that are a jump, and with another instrument.
const JUMP: f64 = 16.0;
const JUMP_INSTRUMENT: f64 = 12.0;
/// Robust deviation of a median deviation.
const ROBUST: f64 = 1.4826;

/// Points a millimetre makes: what is lost concentrates what is left (SG-4).
fn per_millimetre(model: &BatteryModel) -> f64 {
    let share = model.free_area.zip(model.acid_volume).map(|(area, acid)| area / acid.millilitres());
    share.map_or(PER_MILLIMETRE, |share| 1000.0 * (model.full_gravity.value() - 1.0) * share)
}

/// A round as points over 1.000 by cell, brought to the mark; what is in question counts for nothing.
fn points(round: &RoundRead, model: &BatteryModel) -> Vec<(CellAddress, f64)> {
    let per = per_millimetre(model);
    let to_mark =
        |own: &CellGravity| 1000.0 * (own.gravity.value() - 1.0) - per * own.below_mark.unwrap_or(0.0);
    round.cells.iter().filter(|c| !c.in_question).map(|c| (c.cell, to_mark(c))).collect()
}

fn middle(of: impl Iterator<Item = f64>) -> Option<f64> {
    median(&mut of.collect::<Vec<_>>())
}

/// Signs of the newest round, and of how it stands to those before.
pub(super) fn signs(rounds: &[&RoundRead], model: &BatteryModel) -> Vec<Sign> {
    let Some(newest) = rounds.last() else { return Vec::new() };
    let cells = points(newest, model);
    let Some(centre) = middle(cells.iter().map(|(_, p)| *p)) else { return Vec::new() };
    let mut all = shape(&cells, centre, newest.noise);
    if all.is_empty() {
        all.push(of_centre(newest, centre, model));
    }
    all.extend(jump(rounds, model));
    all
}

/// One sign of the centre: where nothing stands out of the cells.
fn of_centre(round: &RoundRead, centre: f64, model: &BatteryModel) -> Sign {
    let full = 1000.0 * (model.full_gravity.value() - 1.0);
    let off = centre - full;
    let seen = format!("the middle cell {off:+.0} points from full");
    // The middle of many cells is known better than one; what the instrument is off by stays.
    let wide = round.noise;
    let levels = round.cells.iter().all(|c| c.below_mark.is_some());
    let key = match off {
        o if o > HIGH + wide && levels => "over_full_levels_known",
        o if o > HIGH + wide => "over_full_levels_unknown",
        o if round.proven_full && o < LOW - wide => "full_and_low",
        _ if round.proven_full => "full_and_even",
        o if o < FAR - wide => "far_from_full",
        _ => "even_not_proven",
    };
    Sign::new(key, seen, "")
}

/// What stands out of the cells: a string, a run from an end, single cells.
fn shape(cells: &[(CellAddress, f64)], centre: f64, noise: f64) -> Vec<Sign> {
    let deviation = middle(cells.iter().map(|(_, p)| (p - centre).abs())).unwrap_or(0.0);
    let robust = (ROBUST * deviation).max(noise);
    let off = |p: f64| p - centre;
    let mut strings: BTreeMap<u8, Vec<(CellAddress, f64)>> = BTreeMap::new();
    for (cell, p) in cells {
        strings.entry(cell.battery.string).or_default().push((*cell, *p));
    }
    if strings.len() > 1
        && let Some(own) = string_off(&strings, robust)
    {
        return vec![own];
    }
    let out = |p: f64| off(p) / robust;
    let low: Vec<(CellAddress, f64)> =
        cells.iter().filter(|(_, p)| off(*p) <= -CELL && out(*p) <= -OUT).copied().collect();
    let high: Vec<(CellAddress, f64)> =
        cells.iter().filter(|(_, p)| off(*p) >= CELL && out(*p) >= OUT).copied().collect();
    let mut all = Vec::new();
    match low.as_slice() {
        [] => {}
        [(cell, p)] if off(*p) < -FAR_CELL => {
            all.push(Sign::new(
                "one_cell_far_low",
                format!("{cell} {:.0} points low", -off(*p)),
                &cell.to_string(),
            ));
        }
        [(cell, p)] => {
            all.push(Sign::new(
                "one_cell_low",
                format!("{cell} {:.0} points low", -off(*p)),
                &cell.to_string(),
            ));
        }
        several => {
            let names: Vec<String> = several.iter().map(|(cell, _)| cell.to_string()).collect();
            let key = if from_an_end(&strings, several) { "run_low_from_end" } else { "cells_low" };
            all.push(Sign::new(key, format!("{} low", names.join(", ")), &names.join(" ")));
            let worst = several.iter().filter(|(_, p)| off(*p) < -FAR_CELL);
            all.extend(worst.map(|(cell, p)| {
                Sign::new("one_cell_far_low", format!("{cell} {:.0} points low", -off(*p)), &cell.to_string())
            }));
        }
    }
    if !high.is_empty() {
        let names: Vec<String> = high.iter().map(|(cell, _)| cell.to_string()).collect();
        all.push(Sign::new("cells_high", format!("{} high", names.join(", ")), &names.join(" ")));
    }
    all
}

/// A string whose middle lies away from the others, with most of its cells on that side.
fn string_off(strings: &BTreeMap<u8, Vec<(CellAddress, f64)>>, robust: f64) -> Option<Sign> {
    let middles: Vec<(u8, f64)> = strings
        .iter()
        .filter_map(|(string, own)| Some((*string, middle(own.iter().map(|(_, p)| *p))?)))
        .collect();
    for (string, own) in &middles {
        let others = middle(middles.iter().filter(|(s, _)| s != string).map(|(_, m)| *m))?;
        let cells = &strings[string];
        let below = cells.iter().filter(|(_, p)| *p < others - CELL / 2.0).count();
        let most = below * 4 >= cells.len() * 3;
        if own - others <= -STRING.max(robust) && most && cells.len() > 1 {
            let letter = string_letter(*string);
            return Some(Sign::new(
                "string_off",
                format!("string {letter} {:.0} points low", others - own),
                &letter.to_string(),
            ));
        }
    }
    None
}

/// True where low cells are the first or the last of one string, without a gap.
fn from_an_end(strings: &BTreeMap<u8, Vec<(CellAddress, f64)>>, low: &[(CellAddress, f64)]) -> bool {
    let Some((first, _)) = low.first() else { return false };
    if low.iter().any(|(cell, _)| cell.battery.string != first.battery.string) {
        return false;
    }
    let Some(own) = strings.get(&first.battery.string) else { return false };
    let mut order: Vec<CellAddress> = own.iter().map(|(cell, _)| *cell).collect();
    order.sort_unstable();
    let is_low = |cell: &CellAddress| low.iter().any(|(own, _)| own == cell);
    let n = low.len();
    n < order.len() && (order.iter().take(n).all(is_low) || order.iter().rev().take(n).all(is_low))
}

/// A jump of the whole bank between the last two rounds that were proven full.
fn jump(rounds: &[&RoundRead], model: &BatteryModel) -> Option<Sign> {
    let full: Vec<&&RoundRead> = rounds.iter().filter(|r| r.proven_full).collect();
    let [.., before, now] = full.as_slice() else { return None };
    let centre = |r: &RoundRead| middle(points(r, model).into_iter().map(|(_, p)| p));
    let by = centre(now)? - centre(before)?;
    let other =
        !now.instrument.is_empty() && !before.instrument.is_empty() && now.instrument != before.instrument;
    let seen = format!("the middle cell {by:+.0} points since {}", said(before.day));
    let key = match by {
        b if other && b.abs() > JUMP_INSTRUMENT => "jumped_with_instrument",
        b if b > JUMP => "all_jumped_up",
        b if b < -JUMP => "all_jumped_down",
        _ => return None,
    };
    Some(Sign::new(key, seen, ""))
}
