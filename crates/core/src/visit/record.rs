//! What the visits of a bank say together: fills, levels, the last time of everything.

use super::{ClosingItem, Entry, LeftAs, Place, VisitSheet, Work};
use crate::bank::{BankShape, CellAddress};
use crate::battery_model::BatteryModel;
use crate::rest::Grade;
use crate::water::{
    AmountKnown, Interval, Level, LevelStep, Spill, Uneven, WaterHistory, uneven_consumption,
};
use jiff::civil::Date;
use std::collections::BTreeMap;

/// One visit of the past, oldest first in a list.
#[derive(Debug, Clone, PartialEq)]
pub struct PastVisit {
    /// Its day at the site.
    pub day: Date,
    /// What was written down.
    pub sheet: VisitSheet,
    /// Electrolyte or case temperature, °C, where taken.
    pub temperature: Option<f64>,
}

/// One fill to the mark.
#[derive(Debug, Clone, PartialEq)]
pub struct PastFill {
    /// Its day.
    pub day: Date,
    /// Water since the fill before, mL in all.
    pub millilitres: f64,
    /// mL by cell, for the cells whose amount was logged by cell or by battery.
    pub cells: BTreeMap<CellAddress, f64>,
    /// True when a watering kit filled it.
    pub by_kit: bool,
    /// True when some of its water was not measured: it begins an interval and ends none.
    pub unknown: bool,
    /// Mean temperature since the fill before, °C.
    pub temperature: Option<f64>,
}

fn days(from: Date, to: Date) -> f64 {
    f64::from(from.until(to).map_or(0, |span| span.get_days()))
}

fn mean(values: &[f64]) -> Option<f64> {
    let n = u32::try_from(values.len()).ok().filter(|n| *n > 0)?;
    Some(values.iter().sum::<f64>() / f64::from(n))
}

/// The day something was last done.
pub fn last_done(visits: &[PastVisit], work: &[Work]) -> Option<Date> {
    visits.iter().rev().find(|v| v.sheet.done().iter().any(|(w, _)| work.contains(w))).map(|v| v.day)
}

/// The day the bank was last charged full for storage.
pub fn charged_for_storage(visits: &[PastVisit]) -> Option<Date> {
    let charged = |v: &&PastVisit| v.sheet.closes(ClosingItem::FullForStorage).is_some();
    visits.iter().rev().find(charged).map(|v| v.day)
}

/// The day since which the bank is stored: none where the last visit that said how it is left said otherwise.
pub fn stored_since(visits: &[PastVisit]) -> Option<Date> {
    let last = visits.iter().rev().find_map(|v| Some((v.day, v.sheet.left_as_told()?)));
    last.filter(|(_, how)| *how == LeftAs::Stored).map(|(day, _)| day)
}

/// The day levels were last looked at or water was added.
pub fn last_water_check(visits: &[PastVisit]) -> Option<Date> {
    let looks = |v: &&PastVisit| {
        v.sheet
            .standing()
            .any(|k| matches!(k.entry, Entry::Level { .. } | Entry::Lamp { .. } | Entry::Water { .. }))
    };
    visits.iter().rev().find(looks).map(|v| v.day)
}

/// The day battery volts were last taken at rest.
pub fn last_volts(visits: &[PastVisit]) -> Option<Date> {
    let rested = |v: &&PastVisit| {
        let conditions = v.sheet.rested().cloned().unwrap_or_default();
        let grade = Grade::of(&conditions, &crate::house_rules::HouseRules::maker_first());
        !v.sheet.battery_volts().is_empty() && !matches!(grade, Grade::OnCharge | Grade::UnderLoad)
    };
    visits.iter().rev().find(rested).map(|v| v.day)
}

/// Fills to the mark, oldest first. Water that only covered plates counts towards the next fill.
pub fn fills(visits: &[PastVisit], shape: &BankShape) -> Vec<PastFill> {
    let mut all = Vec::new();
    let (mut total, mut cells, mut warm, mut kit) = (0.0, BTreeMap::new(), Vec::new(), false);
    let mut unknown = false;
    for visit in visits {
        warm.extend(visit.temperature);
        let mut filled = false;
        for kept in visit.sheet.standing() {
            if let Entry::Spilled { spill: Spill::DrawnOff, millilitres: Some(drawn), .. } = &kept.entry {
                // What went in too much is no water that the cells had lost.
                total = f64::max(total - drawn, 0.0);
            }
            let Entry::Water { millilitres, to_mark, poured, .. } = &kept.entry else { continue };
            total += millilitres;
            filled |= to_mark;
            kit |= kept.entry.fills_unseen();
            unknown |= poured.amount == AmountKnown::Unknown;
            let known = poured.amount != AmountKnown::Unknown;
            if known && matches!(kept.place, Place::Cell(_) | Place::Battery(_)) {
                let own = kept.place.cells(shape);
                let each = millilitres / f64::from(u32::try_from(own.len()).unwrap_or(1).max(1));
                for cell in own {
                    *cells.entry(cell).or_insert(0.0) += each;
                }
            }
        }
        if filled {
            all.push(PastFill {
                day: visit.day,
                millilitres: total,
                cells: std::mem::take(&mut cells),
                by_kit: kit,
                unknown,
                temperature: mean(&warm),
            });
            (total, kit, unknown) = (0.0, false, false);
            warm = visit.temperature.into_iter().collect();
        }
    }
    all
}

/// What is known of a bank's water as of a day; the first fill only starts the clock.
pub fn water_history(
    visits: &[PastVisit],
    shape: &BankShape,
    model: &BatteryModel,
    today: Date,
) -> WaterHistory {
    let fills = fills(visits, shape);
    let count = u32::try_from(shape.cell_count()).unwrap_or(u32::MAX);
    let mut bank = Vec::new();
    let mut cells: BTreeMap<CellAddress, Vec<Interval>> = BTreeMap::new();
    for pair in fills.windows(2) {
        let apart = days(pair[0].day, pair[1].day);
        if apart < 1.0 || pair[1].unknown {
            continue;
        }
        let interval = |millilitres| Interval { days: apart, millilitres, temperature: pair[1].temperature };
        bank.push(interval(pair[1].millilitres / f64::from(count.max(1))));
        for (cell, millilitres) in &pair[1].cells {
            cells.entry(*cell).or_default().push(interval(*millilitres));
        }
    }
    let since = fills.last().map(|f| f.day);
    let levels = visits
        .iter()
        .filter(|v| since.is_some_and(|s| v.day > s))
        .flat_map(|v| {
            let ago = days(v.day, today);
            let seen = v.sheet.levels(shape).into_iter();
            seen.map(move |(cell, level)| (cell, level.over_plates(model), ago)).collect::<Vec<_>>()
        })
        .collect();
    WaterHistory {
        bank,
        cells: cells.into_iter().collect(),
        days_since_fill: since.map(|s| days(s, today)),
        levels,
        expected_temperature: None,
        cell_count: count,
        today: Some(today),
        climate: None,
        southern: false,
        compensates: false,
    }
}

/// Cells whose level was of a kind at the last look and that got no water after it, and the first day of it.
fn last_seen(
    visits: &[PastVisit],
    shape: &BankShape,
    is_so: impl Fn(Level) -> bool,
) -> Option<(Vec<CellAddress>, Date)> {
    let mut so: BTreeMap<CellAddress, Date> = BTreeMap::new();
    for visit in visits {
        // In the order made: a cell seen bare and then watered on one visit is covered.
        for kept in visit.sheet.standing() {
            let level = match &kept.entry {
                Entry::Level { level } => Some(*level),
                Entry::Water { .. } => None,
                _ => continue,
            };
            for cell in kept.place.cells(shape) {
                if level.is_some_and(&is_so) {
                    so.insert(cell, visit.day);
                } else {
                    so.remove(&cell);
                }
            }
        }
    }
    let day = so.values().min().copied()?;
    Some((so.into_keys().collect(), day))
}

/// Cells whose plates showed at the last look and were not covered since, and that day.
pub fn plates_bare(
    visits: &[PastVisit],
    shape: &BankShape,
    model: &BatteryModel,
) -> Option<(Vec<CellAddress>, Date)> {
    last_seen(visits, shape, |level| level.bare(model))
}

/// Cells whose plates were found bare on the last visit that looked at levels, covered then or not, and its day.
pub fn bare_found(
    visits: &[PastVisit],
    shape: &BankShape,
    model: &BatteryModel,
) -> Option<(Vec<CellAddress>, Date)> {
    let (day, found) = visits.iter().rev().find_map(|visit| {
        let found = visit.sheet.levels_as_found(shape);
        (!found.is_empty()).then_some((visit.day, found))
    })?;
    let bare: Vec<CellAddress> =
        found.into_iter().filter(|(_, level)| level.bare(model)).map(|(cell, _)| cell).collect();
    (!bare.is_empty()).then_some((bare, day))
}

/// Cells whose level stood at the plates at the last look and that got no water since, and that day.
pub fn at_plates(
    visits: &[PastVisit],
    shape: &BankShape,
    model: &BatteryModel,
) -> Option<(Vec<CellAddress>, Date)> {
    last_seen(visits, shape, |level| level.step(model) == LevelStep::AtPlates)
}

/// Fills through a watering kit since the cells were looked into, and the day of the last.
pub fn kit_fills(visits: &[PastVisit]) -> Option<(u32, Date)> {
    let mut since: Option<(u32, Date)> = None;
    for visit in visits {
        let by_kit = visit.sheet.standing().any(|k| k.entry.fills_unseen());
        if by_kit {
            since = Some((since.map_or(0, |(n, _)| n) + 1, visit.day));
        }
        let inspected = visit.sheet.done().iter().any(|(w, _)| *w == Work::CellsInspected);
        if inspected {
            since = since.map(|(_, day)| (0, day));
        }
    }
    since.filter(|(n, _)| *n > 0)
}

/// Cells that drink unlike their mates over the last two fills (WA-5).
pub fn uneven(visits: &[PastVisit], shape: &BankShape) -> Vec<Uneven> {
    let fills = fills(visits, shape);
    let list = |cells: &BTreeMap<CellAddress, f64>| -> Vec<(CellAddress, f64)> {
        cells.iter().map(|(cell, ml)| (*cell, *ml)).collect()
    };
    match fills.as_slice() {
        [.., earlier, newest] if !newest.cells.is_empty() && !newest.unknown && !earlier.unknown => {
            uneven_consumption(&list(&newest.cells), &list(&earlier.cells))
        }
        _ => Vec::new(),
    }
}
