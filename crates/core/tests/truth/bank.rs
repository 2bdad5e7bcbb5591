//! Made banks: a physical state that is known, read with an instrument that scatters.

use super::chance::Chance;
use rainshadow_core::bank::{BankShape, CellAddress, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{Points, SpecificGravity, Temperature, Voltage};
use rainshadow_core::round::{
    CellReading, CellRecord, Conditions, PastCell, PastRound, RoundTemperature, RoundToJudge, WaterAdded,
};
use rainshadow_core::water::LowLevel;

/// What is wrong with a made bank.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Fault {
    /// Nothing: cells scatter as sound ones do.
    Healthy,
    /// Cells drawn evenly over this many points.
    Spread(f64),
    /// So many cells low by this, not in one case where there are two.
    LowCells(usize, f64),
    /// So many cells high by this and not over full.
    HighCells(usize, f64),
    /// One battery low by this.
    Battery(f64),
    /// One string low by this.
    String(f64),
    /// From one end to the other.
    Gradient(f64),
    /// Every cell short of full by this after a proven full charge.
    ShortOfFull(f64),
    /// Not charged full, and nobody says it was.
    NotFull(f64),
    /// Acid in every cell lifts them over full by this.
    AcidInAll(f64),
    /// Acid in some cells.
    AcidInCells(usize, f64),
    /// Levels down by so many millimetres.
    LowLevels(f64),
    /// Acid layered: what is drawn from the top reads this much too low, the volts do not.
    Stratified(f64),
    /// One cell gives no volts; its acid stands low.
    DeadCell,
    /// One figure of a sound bank is read or written down wrong by this, and nobody was asked.
    Misread(f64),
}

/// A bank with the truth about it.
pub struct Made {
    /// As it is given to the judge.
    pub round: RoundToJudge,
    /// What is wrong.
    pub fault: Fault,
    /// Cells the fault sits in; empty for the whole bank.
    pub cells: Vec<CellAddress>,
    /// Cells of a second fault beside it.
    pub second: Vec<CellAddress>,
}

/// Banks that are seen in the field: cells in a case, cases in a string, strings.
pub const SHAPES: [(u8, u8, u8); 16] = [
    (6, 1, 1),
    (3, 2, 1),
    (6, 2, 1),
    (3, 4, 1),
    (3, 8, 1),
    (6, 4, 1),
    (4, 6, 1),
    (3, 4, 2),
    (3, 8, 2),
    (6, 4, 2),
    (6, 2, 3),
    (3, 8, 3),
    (1, 12, 1),
    (1, 24, 2),
    (3, 16, 2),
    (4, 12, 2),
];

pub fn shape((cells, series, parallel): (u8, u8, u8)) -> BankShape {
    let system_voltage = 2 * u16::from(cells) * u16::from(series);
    BankShape { system_voltage, cells_per_battery: cells, series, parallel, layout: Layout::default() }
        .checked()
        .unwrap()
}

fn fits(shape: &BankShape, fault: Fault) -> bool {
    match fault {
        Fault::Battery(_) => {
            shape.cells_per_battery > 1 && (shape.series > 1 && shape.parallel == 1 || shape.series > 2)
        }
        Fault::String(_) => shape.parallel > 1 && shape.series > 1,
        Fault::Gradient(_) => shape.cells_in_series() >= 6,
        Fault::LowCells(n, _) | Fault::HighCells(n, _) | Fault::AcidInCells(n, _) => {
            shape.cell_count() >= 6 * n
        }
        _ => true,
    }
}

/// Bode's rest volts of a cell, straight between two rows of his curve: apart from the judge's own.
fn cell_volts(points: f64) -> f64 {
    // 25 °C: 1.10 -> 1.961 V, 1.20 -> 2.049 V, 1.30 -> 2.154 V (Bode 1977, from memory).
    let sg = points / 1000.0;
    if sg < 0.2 { 1.961 + (sg - 0.1) * 0.88 } else { 2.049 + (sg - 0.2) * 1.05 }
}

struct Workshop {
    chance: Chance,
    shape: BankShape,
    instrument: Instrument,
}

impl Workshop {
    /// Cells in different cases where there are more than one.
    fn cells(&mut self, count: usize) -> Vec<CellAddress> {
        let all: Vec<CellAddress> = self.shape.cells().collect();
        let mut chosen: Vec<CellAddress> = Vec::new();
        let apart = self.shape.batteries().count() >= count;
        while chosen.len() < count {
            let cell = all[self.chance.below(all.len())];
            let taken = |own: &CellAddress| *own == cell || apart && own.battery == cell.battery;
            if !chosen.iter().any(taken) {
                chosen.push(cell);
            }
        }
        chosen.sort_unstable();
        chosen
    }

    /// What the instrument shows of so many points over 1.000.
    fn read(&mut self, truth: f64) -> f64 {
        let mark = self.instrument.resolution.value();
        let shown = truth + self.instrument.repeatability.value() * self.chance.normal();
        (shown / mark).round() * mark
    }
}

/// Deviations of the cells of a fault in electrical order, and the cells it sits in.
fn deviations(shop: &mut Workshop, fault: Fault) -> (Vec<f64>, Vec<CellAddress>) {
    let all: Vec<CellAddress> = shop.shape.cells().collect();
    let mut off = vec![0.0; all.len()];
    let mut named = Vec::new();
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(0));
    match fault {
        Fault::Misread(_) => named = shop.cells(1),
        Fault::Spread(points) => {
            for value in &mut off {
                *value = shop.chance.between(-points, 0.0);
            }
            // Its ends are really that far apart.
            let ends = shop.cells(2);
            for (cell, at) in ends.iter().zip([-1.0, 0.0]) {
                off[all.iter().position(|c| c == cell).unwrap()] = at * points;
            }
        }
        Fault::LowCells(n, points) => {
            named = shop.cells(n);
            for (cell, value) in all.iter().zip(&mut off) {
                *value -= if named.contains(cell) { points } else { 0.0 };
            }
        }
        Fault::DeadCell => {
            named = shop.cells(1);
            let points = shop.chance.between(60.0, 140.0);
            for (cell, value) in all.iter().zip(&mut off) {
                *value -= if named.contains(cell) { points } else { 0.0 };
            }
        }
        Fault::HighCells(n, points) | Fault::AcidInCells(n, points) => {
            named = shop.cells(n);
            for (cell, value) in all.iter().zip(&mut off) {
                *value += if named.contains(cell) { points } else { 0.0 };
            }
        }
        Fault::Battery(points) => {
            let one = all[shop.chance.below(all.len())].battery;
            named = all.iter().copied().filter(|c| c.battery == one).collect();
            for (cell, value) in all.iter().zip(&mut off) {
                *value -= if cell.battery == one { points } else { 0.0 };
            }
        }
        Fault::String(points) => {
            let one = u8::try_from(shop.chance.below(usize::from(shop.shape.parallel))).unwrap();
            named = all.iter().copied().filter(|c| c.battery.string == one).collect();
            for (cell, value) in all.iter().zip(&mut off) {
                *value -= if cell.battery.string == one { points } else { 0.0 };
            }
        }
        Fault::Gradient(points) => {
            let length = usize::from(shop.shape.cells_in_series());
            let sign = if shop.chance.unit() < 0.5 { -1.0 } else { 1.0 };
            let hangs = shop.chance.one_of(&[0.0, 1.0]);
            for (i, value) in off.iter_mut().enumerate() {
                let along = count(i % length) / count(length - 1);
                // The warm end is full and the cold one is not, or they lie about full.
                *value = sign * points * (along - 0.5) - hangs * points / 2.0;
            }
        }
        _ => {}
    }
    (off, named)
}

/// Makes a bank with a fault; none where the shape that was drawn has no room for it.
pub fn make(seed: u64, fault: Fault, history: bool) -> Option<Made> {
    make_of(seed, &[fault], history, None)
}

/// Makes a bank with two faults, in cells of their own.
pub fn make_two(seed: u64, faults: [Fault; 2]) -> Option<Made> {
    make_of(seed, &faults, false, None).filter(|made| !made.cells.iter().any(|c| made.second.contains(c)))
}

/// Every fault of a list, with an instrument that may be given.
pub fn make_of(seed: u64, faults: &[Fault], history: bool, instrument: Option<Instrument>) -> Option<Made> {
    let mut chance = Chance::new(seed);
    let shape = shape(chance.one_of(&SHAPES));
    if !faults.iter().all(|fault| fits(&shape, *fault)) {
        return None;
    }
    let drawn =
        chance.one_of(&[Instrument::hydrometer(), Instrument::refractometer(), Instrument::digital()]);
    let instrument = instrument.unwrap_or(drawn);
    let mut shop = Workshop { chance, shape: shape.clone(), instrument };
    let model = BatteryModel {
        cells: shape.cells_per_battery,
        ..BatteryModel::generic_by_key("flooded-6v-420").unwrap()
    };
    let full = (model.full_gravity.value() - 1.0) * 1000.0;
    let all = shape.cell_count();
    let (mut off, mut places) = (vec![0.0; all], Vec::new());
    for fault in faults {
        let (own, cells) = deviations(&mut shop, *fault);
        off.iter_mut().zip(own).for_each(|(sum, own)| *sum += own);
        places.push(cells);
    }
    let cells = places.remove(0);
    // Sound cells differ by some points for life.
    let own: Vec<f64> = off.iter().map(|_| 2.5 * shop.chance.normal().clamp(-2.5, 2.5)).collect();
    let base = full + shop.chance.between(-3.0, 3.0) + faults.iter().map(|fault| lifts(*fault)).sum::<f64>();
    let truth: Vec<f64> = off.iter().zip(&own).map(|(off, own)| base + off + own).collect();
    let shift: f64 =
        faults.iter().map(|fault| if let Fault::Stratified(points) = fault { *points } else { 0.0 }).sum();
    let celsius = shop.chance.between(8.0, 34.0);
    let mut read: Vec<f64> = truth
        .iter()
        .map(|truth| {
            // Warm acid is lighter; an instrument that corrects by itself shows none of it.
            let warm = if instrument.corrects_for_temperature { 0.0 } else { 0.72 * (celsius - 25.0) };
            shop.read(truth - shift - warm)
        })
        .collect();
    let typed_celsius = (celsius + 1.0 * shop.chance.normal()).round();
    let misread =
        faults.iter().find_map(|f| if let Fault::Misread(points) = f { Some(*points) } else { None });
    if let Some(points) = misread {
        let at = shape.cells().position(|c| c == cells[0]).unwrap();
        read[at] += if shop.chance.unit() < 0.5 { -points } else { points };
    }
    let has_dead = faults[0] == Fault::DeadCell;
    let by_volts = has_dead || faults.iter().any(|f| matches!(f, Fault::Stratified(_)));
    let volts = by_volts.then(|| {
        let first: usize = usize::from(shape.cells_in_series());
        let dead = |i: usize| has_dead && cells.contains(&shape.cells().nth(i).unwrap());
        // Strings in parallel stand at one voltage; the sound ones hold it up where one has a dead cell.
        let string = truth.len().div_euclid(first);
        let of = |s: usize| -> f64 {
            (s * first..(s + 1) * first).map(|i| if dead(i) { 0.1 } else { cell_volts(truth[i]) }).sum()
        };
        let lowest = (0..string).map(of).fold(f64::INFINITY, f64::min);
        (lowest * 100.0).round() / 100.0
    });
    let conditions = Conditions {
        charging: false,
        hours_since_charge: Some(26.0),
        hours_since_load: Some(26.0),
        water_added: WaterAdded::No,
        proven_full: (!faults.iter().any(|f| matches!(f, Fault::NotFull(_) | Fault::HighCells(..))))
            .then(|| "tail current held".into()),
        temperature: RoundTemperature::OneForAll {
            temperature: Temperature::from_celsius(typed_celsius).unwrap(),
        },
        rest_volts: volts.map(|v| Voltage::from_volts(v).unwrap()),
    };
    let past = if history { past(&mut shop, &own, base) } else { Vec::new() };
    let readings = shape
        .cells()
        .zip(&read)
        .map(|(cell, points)| CellRecord {
            cell,
            reading: CellReading::Gravity { read: SpecificGravity::new(1.0 + points / 1000.0).unwrap() },
            temperature: None,
            // Asked, read again, and it stands.
            stands: misread.is_none() || cell != cells[0],
        })
        .collect();
    // Somebody looked into every other bank with low levels.
    let looked = shop.chance.unit() < 0.5;
    let down = faults.iter().find_map(|f| if let Fault::LowLevels(mm) = f { Some(*mm) } else { None });
    let low_levels = down.filter(|_| looked).map_or_else(Vec::new, |below_mark| {
        shape.cells().map(|cell| LowLevel { cell, below_mark: below_mark.round() }).collect()
    });
    let round = RoundToJudge {
        shape,
        model,
        rules: HouseRules::maker_first(),
        other_rules: Vec::new(),
        instrument,
        conditions,
        readings,
        past,
        low_levels,
    };
    let second = places.pop().unwrap_or_default();
    Some(Made { round, fault: faults[0], cells, second })
}

/// Points by which a fault of the whole bank lifts every cell.
fn lifts(fault: Fault) -> f64 {
    match fault {
        // High cells that are not over full stand in a bank that was not full.
        Fault::ShortOfFull(points) | Fault::NotFull(points) | Fault::HighCells(_, points) => -points,
        Fault::AcidInAll(points) => points,
        Fault::LowLevels(mm) => 15.0 * mm / 13.0,
        _ => 0.0,
    }
}

/// Twelve rounds in which nothing was wrong.
fn past(shop: &mut Workshop, own: &[f64], base: f64) -> Vec<PastRound> {
    let cells: Vec<CellAddress> = shop.shape.cells().collect();
    (1..=12u32)
        .map(|n| {
            let read: Vec<f64> = own.iter().map(|own| shop.read(base + own)).collect();
            let mut sorted = read.clone();
            sorted.sort_by(f64::total_cmp);
            let middle = sorted[sorted.len() / 2];
            PastRound {
                days_before: 42.0 * f64::from(n),
                instrument: shop.instrument.kind,
                before_equalize: false,
                cells: cells
                    .iter()
                    .zip(&read)
                    .map(|(cell, read)| PastCell {
                        cell: *cell,
                        corrected: SpecificGravity::new(1.0 + read / 1000.0).unwrap(),
                        deviation: Points::new(read - middle),
                    })
                    .collect(),
            }
        })
        .collect()
}
