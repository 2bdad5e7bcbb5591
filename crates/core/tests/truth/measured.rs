//! What a technician measures at a bank that lived, with his instruments, and what he leaves out.

use super::chance::Chance;
use super::lived::{Cell, DAYS, Lived, fully, to_f64};
use super::sighted::sighted;
use super::world::World;
use jiff::ToSpan;
use jiff::civil::{Date, date};
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::diagnosis::{
    CellGravity, ChargerSettings, ChargingRecord, Evidence, HeldRead, Hypothesis, InstrumentCheck,
    MeasuredBattery, Measurement, ResistancesRead, RestVoltsRead, RoundRead, ShortLoadRead, StringMeasured,
    TimedDischarge, WaterUse,
};
use rainshadow_core::quantity::SpecificGravity;

/// The day the lives begin.
fn on(day: usize) -> Date {
    date(2024, 5, 1) + i64::try_from(day).unwrap_or(0).days()
}

/// The instruments of one technician.
pub struct Bag {
    float: (&'static str, f64, f64),
    bias: f64,
    wrong_hydrometer: f64,
    /// True where only the last round was read with the wrong one.
    new_one: bool,
    meter: f64,
    tester: f64,
    world: World,
}

impl Bag {
    pub fn draw(bank: &Lived, world: World, chance: &mut Chance) -> Self {
        let float = chance.one_of(&[("float", 5.0, 2.4), ("refractometer", 5.0, 1.8), ("digital", 1.0, 1.2)]);
        let (mut wrong_hydrometer, mut meter) = (0.0, 0.012 * chance.normal());
        if let Some(severity) = bank.ails.has(Hypothesis::InstrumentError) {
            let sign = chance.one_of(&[-1.0, 1.0]);
            if bank.sealed || chance.unit() < 0.4 {
                meter += sign * (0.12 + 0.25 * severity);
            } else {
                wrong_hydrometer = sign * (12.0 + 16.0 * severity);
            }
        }
        Self {
            float,
            bias: 2.0 * world.bias * chance.normal(),
            wrong_hydrometer,
            new_one: chance.unit() < 0.5,
            meter,
            tester: 0.025 * world.scatter,
            world,
        }
    }

    fn volts(&self, volts: f64, chance: &mut Chance) -> f64 {
        let read = volts * (1.0 + self.meter / 12.0) + 0.003 * chance.normal();
        (read * 1000.0).round() / 1000.0
    }
}

/// Everything that was measured, and of what share of the measurements.
pub fn measured(bank: &Lived, bag: &Bag, made: &[Measurement], chance: &mut Chance) -> Evidence {
    let mut own = Evidence { today: Some(on(DAYS)), ..Evidence::default() };
    let has = |m| made.contains(&m);
    if has(Measurement::Round) {
        let last = bank.seen.len() - 1;
        for at in 0..=last {
            if at == last || chance.unit() < 0.75 {
                own.rounds.push(round(bank, bag, at, chance));
            }
        }
    }
    let (day, cells, full) = bank.seen.last().unwrap();
    if has(Measurement::RestVolts) {
        let shift = if bank.sealed { -0.012 } else { 0.006 } + 0.003 * chance.normal();
        let batteries = by_battery(bank, |at| {
            let volts: f64 = at.clone().map(|c| rest(bank, &cells[c], shift)).sum();
            bag.volts(volts, chance)
        });
        own.rest = vec![RestVoltsRead {
            day: on(*day),
            settled: chance.unit() < 0.9,
            proven_full: *full,
            batteries,
        }];
    }
    if has(Measurement::ShortLoad) {
        let batteries = by_battery(bank, |at| {
            let volts: f64 = at.clone().map(|c| loaded(bank, &cells[c])).sum();
            (bag.volts(volts, chance) + 0.012 * chance.normal()).max(0.0)
        });
        own.short_loads = vec![ShortLoadRead { day: on(*day), batteries }];
    }
    if has(Measurement::Holding) {
        own.held = vec![held(bank, bag, on(*day + 5), chance)];
    }
    if has(Measurement::DistilledWater) && !bank.sealed {
        let off = bag.bias + bag.wrong_hydrometer + 1.2 * chance.normal();
        own.distilled = vec![InstrumentCheck { day: on(*day), instrument: String::new(), off: off.round() }];
    }
    if has(Measurement::MeterCheck) {
        let off = bag.meter + 0.008 * chance.normal();
        own.meter = vec![InstrumentCheck { day: on(*day), instrument: String::new(), off }];
    }
    if has(Measurement::Ohmic) {
        own.resistances = vec![resistances(bank, bag, on(*day), chance)];
    }
    if has(Measurement::Discharge) {
        own.discharges = vec![discharge(bank, on(*day + 1), chance)];
    }
    if has(Measurement::WaterLog) && !bank.sealed {
        own.water = water(bank, chance);
    }
    if has(Measurement::Record) {
        own.record = Some(record(bank, chance));
    }
    let charger = bank.ails.charger();
    if has(Measurement::Settings) {
        let at_the_posts = chance.unit() < 0.2;
        let off = if at_the_posts { 0.0 } else { charger.off } + 0.006 * chance.normal();
        own.settings = Some(ChargerSettings {
            absorption_off: Some(off),
            compensates: Some(charger.compensates),
            absorption_hours: (chance.unit() < 0.8).then(|| charger.hours.round().max(0.5)),
        });
    }
    own.strings = Some(strings(bank, &bag.world, made, chance));
    if has(Measurement::LookOver) {
        own.seen = sighted(bank, &bag.world, chance);
    }
    if chance.unit() < 0.8 {
        (own.age, own.design_life) = (Some(bank.age), Some(bank.design_life));
    }
    own
}

fn by_battery(bank: &Lived, mut value: impl FnMut(std::ops::Range<usize>) -> f64) -> Vec<MeasuredBattery> {
    let per = usize::from(bank.shape.cells_per_battery);
    bank.shape
        .batteries()
        .enumerate()
        .map(|(at, battery)| MeasuredBattery { battery, value: value(at * per..(at + 1) * per), first: None })
        .collect()
}

fn gravities(bank: &Lived) -> (f64, f64) {
    let of = |g: SpecificGravity| 1000.0 * (g.value() - 1.0);
    (of(bank.model.full_gravity), of(bank.model.discharged_gravity))
}

fn round(bank: &Lived, bag: &Bag, at: usize, chance: &mut Chance) -> RoundRead {
    let (day, cells, full) = &bank.seen[at];
    let (top, bottom) = gravities(bank);
    let (name, step, scatter) = (bag.float.0, bag.float.1, bag.world.scatter * bag.float.2);
    let last = at + 1 == bank.seen.len();
    let wrong = if bag.new_one && !last { 0.0 } else { bag.wrong_hydrometer };
    let name = if bag.new_one && last && bag.wrong_hydrometer.abs() > 0.0 { "another" } else { name };
    // The thermometer is off, now and then by much.
    let degrees = if chance.unit() < 0.1 { 8.0 } else { 2.0 } * chance.normal();
    let levels = chance.unit() < 0.85;
    let millimetres =
        bank.model.acid_volume.zip(bank.model.free_area).map_or(100.0, |(a, f)| a.millilitres() / f);
    let addresses: Vec<CellAddress> = bank.shape.cells().collect();
    let read = cells.iter().zip(addresses).filter_map(|(cell, address)| {
        let true_points = cell.points(top, bottom) - 1000.0 * cell.layered;
        let read = true_points + bag.bias + wrong + 0.7 * degrees + scatter * chance.normal();
        let read = (read / step).round() * step;
        let below = (cell.lost * millimetres + 1.5 * chance.normal()).clamp(0.0, 60.0);
        let missing = chance.unit() < 0.03 || below > 45.0;
        (!missing).then(|| CellGravity {
            cell: address,
            gravity: SpecificGravity::new(1.0 + read.clamp(5.0, 390.0) / 1000.0).unwrap(),
            below_mark: levels.then_some(below.round()),
            in_question: false,
        })
    });
    let noise = (scatter * scatter + step * step / 12.0).sqrt();
    let cells = read.collect();
    RoundRead { day: on(*day), proven_full: *full, instrument: name.into(), noise, cells }
}

fn rest(bank: &Lived, cell: &Cell, shift: f64) -> f64 {
    if cell.dead {
        return 0.05;
    }
    let (top, bottom) = gravities(bank);
    0.845 + 1.0 + cell.points(top, bottom) / 1000.0 + shift
}

fn loaded(bank: &Lived, cell: &Cell) -> f64 {
    if cell.dead {
        return -0.2;
    }
    let empty = (1.0 - cell.charge / cell.capacity()).clamp(0.0, 1.0);
    let sag = 0.35 * empty.powi(4) + 0.5 * (cell.worn + cell.soft + cell.hard - 0.25).max(0.0);
    rest(bank, cell, 0.0) - 0.06 - 0.055 * cell.resistance - sag
}

fn held(bank: &Lived, bag: &Bag, day: Date, chance: &mut Chance) -> HeldRead {
    let days = chance.between(3.0, 5.0).round();
    let temperature = bank.days.last().unwrap().temperature;
    let warm = 2f64.powf((temperature - 25.0) / 10.0);
    let (_, cells, _) = bank.seen.last().unwrap();
    let (top, bottom) = gravities(bank);
    let mut before = Vec::new();
    let mut after = by_battery(bank, |at| {
        let full: f64 = at.clone().map(|c| rest(bank, &cells[c], 0.0)).sum();
        let lost: f64 = at
            .map(|c| if cells[c].dead { 0.0 } else { cells[c].charge.min(cells[c].leak * warm * days) })
            .sum();
        before.push(bag.volts(full, chance));
        bag.volts(full - lost * (top - bottom) / 1000.0, chance)
    });
    after.iter_mut().zip(before).for_each(|(own, first)| own.first = Some(first));
    HeldRead { day, days, temperature: Some(temperature), noise: 0.003, batteries: after }
}

fn resistances(bank: &Lived, bag: &Bag, day: Date, chance: &mut Chance) -> ResistancesRead {
    let (_, cells, _) = bank.seen.last().unwrap();
    let based = chance.unit() < 0.6;
    let mut batteries = by_battery(bank, |at| {
        let n = to_f64(at.len());
        let one = |c: &Cell| {
            c.resistance + 0.25 * (1.0 - c.charge / c.capacity()).clamp(0.0, 1.0) + 1.5 * (c.soft + c.hard)
        };
        let mean = at.map(|c| one(&cells[c])).sum::<f64>() / n;
        2.5 * mean * (1.0 + bag.tester * chance.normal())
    });
    if based {
        for own in &mut batteries {
            own.first = Some(2.5 * (1.0 + 0.03 * chance.normal()));
        }
    }
    ResistancesRead { day, batteries }
}

fn discharge(bank: &Lived, day: Date, chance: &mut Chance) -> TimedDischarge {
    // Nobody tests a bank that was not charged.
    let n = bank.in_string();
    let mut cells = bank.seen.last().unwrap().1.clone();
    cells.chunks_mut(n).for_each(|own| fully(own, bank.sealed));
    let gives = |cell: &Cell| if cell.dead { 0.0 } else { cell.charge.max(0.0) };
    let strings: Vec<f64> = cells
        .chunks(n)
        .map(|own| {
            let least = own.iter().map(gives).fold(f64::INFINITY, f64::min);
            let mean = own.iter().map(gives).sum::<f64>() / to_f64(n);
            // A cell that is empty drags the volts down before its mates are.
            least + (mean - least) * (0.25 + 0.5 * (1.0 - 6.0 / to_f64(n).max(6.0)))
        })
        .collect();
    let gave = strings.iter().sum::<f64>() / to_f64(strings.len());
    let percent = (100.0 * gave * (1.0 + 0.02 * chance.normal())).clamp(5.0, 110.0);
    let batteries_read = chance.unit() < 0.6;
    let per = usize::from(bank.shape.cells_per_battery);
    let addresses: Vec<BatteryAddress> = bank.shape.batteries().collect();
    let early = addresses.into_iter().enumerate().filter(|(at, _)| {
        let own = &cells[at * per..(at + 1) * per];
        let weakest = own.iter().map(gives).fold(f64::INFINITY, f64::min);
        weakest < 0.90 * gave - 0.01 * chance.unit()
    });
    let early = if batteries_read { early.map(|(_, address)| address).collect() } else { Vec::new() };
    TimedDischarge { day, percent, batteries_read, early }
}

fn water(bank: &Lived, chance: &mut Chance) -> Option<WaterUse> {
    let [.., before, last] = bank.fills.as_slice() else { return None };
    let acid = 13.0 / 0.337;
    let total = |by_cell: &[f64]| by_cell.iter().sum::<f64>() / to_f64(by_cell.len()) * acid;
    let drawn: f64 = bank.days[before.day + 1..=last.day].iter().map(|d| d.out).sum();
    let days = to_f64(last.day - before.day);
    let share = if bank.standby {
        total(&last.by_cell) / (3.5e-4 * 24.0 * days)
    } else {
        total(&last.by_cell) / drawn
    };
    let rates: Vec<(f64, f64)> = bank
        .fills
        .windows(2)
        .map(|pair| {
            let days = &bank.days[pair[0].day + 1..=pair[1].day];
            let mean = days.iter().map(|d| d.temperature).sum::<f64>() / to_f64(days.len());
            (
                mean,
                (total(&pair[1].by_cell) / to_f64(days.len()) * (1.0 + 0.06 * chance.normal()))
                    .max(1e-6)
                    .ln(),
            )
        })
        .collect();
    let batteries: Vec<f64> = last
        .by_cell
        .chunks(usize::from(bank.shape.cells_per_battery))
        .map(|own| own.iter().sum::<f64>() * (1.0 + 0.08 * chance.normal()))
        .collect();
    let mut sorted = batteries.clone();
    sorted.sort_by(f64::total_cmp);
    let middle = sorted[sorted.len() / 2].max(1e-9);
    let furthest =
        batteries.iter().map(|own| own / middle).max_by(|a, b| a.ln().abs().total_cmp(&b.ln().abs()));
    let per_string: Vec<f64> =
        last.by_cell.chunks(bank.in_string()).map(|own| own.iter().sum::<f64>()).collect();
    let (low, high) =
        per_string.iter().fold((f64::INFINITY, 0.0f64), |(l, h), own| (l.min(*own), h.max(*own)));
    Some(WaterUse {
        share: Some(share * (1.0 + 0.05 * chance.normal())),
        on_float: bank.standby,
        per_degree: slope(&rates, 8.0),
        furthest_battery: furthest.filter(|_| batteries.len() > 2 && middle > 1e-4),
        strings_apart: (per_string.len() > 1 && low > 1e-4).then(|| high / low),
    })
}

/// Slope of a line through points, where they spread over enough.
fn slope(points: &[(f64, f64)], range: f64) -> Option<f64> {
    let n = to_f64(points.len());
    let (low, high) =
        points.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), p| (l.min(p.0), h.max(p.0)));
    if points.len() < 4 || high - low < range {
        return None;
    }
    let (mx, my) = (points.iter().map(|p| p.0).sum::<f64>() / n, points.iter().map(|p| p.1).sum::<f64>() / n);
    let sxx: f64 = points.iter().map(|p| (p.0 - mx).powi(2)).sum();
    Some(points.iter().map(|p| (p.0 - mx) * (p.1 - my)).sum::<f64>() / sxx)
}

fn record(bank: &Lived, chance: &mut Chance) -> ChargingRecord {
    let days = &bank.days[DAYS - 60..];
    let n = to_f64(days.len());
    let (mut gap, mut longest) = (0usize, 0usize);
    for day in days {
        gap = if day.full { 0 } else { gap + 1 };
        longest = longest.max(gap);
    }
    let out: f64 = days.iter().map(|d| d.out).sum();
    let returned: f64 = days.iter().map(|d| d.back).sum();
    let want = if bank.standby { 2.25 } else { 2.45 };
    let off = days.iter().map(|d| d.held - want + 0.005 * (d.temperature - 25.0)).sum::<f64>() / n;
    let year: Vec<(f64, f64)> = bank.days[DAYS - 365..].iter().map(|d| (d.temperature, d.held)).collect();
    ChargingRecord {
        full_days: Some(to_f64(days.iter().filter(|d| d.full).count()) / n),
        longest_gap: Some(to_f64(longest)),
        charge_factor: (out > 0.5).then(|| returned / out * (1.0 + 0.02 * chance.normal())),
        gassing_hours: (!bank.standby).then(|| days.iter().map(|d| d.gassing_hours).sum::<f64>() / n),
        held_off: Some(off + 0.010 * chance.normal()),
        held_follow: slope(&year, 12.0).map(|s| s < -0.0025),
        standing_draw: Some((bank.ails.charger().standing + 0.0006 * chance.normal()).max(0.0)),
    }
}

fn strings(bank: &Lived, world: &World, made: &[Measurement], chance: &mut Chance) -> StringMeasured {
    let has = |m| made.contains(&m);
    let bad = bank.ails.has(Hypothesis::BadJoint).is_some();
    let resolved = chance.unit() < 0.85;
    let out = chance.unit() < if bad { 0.92 * world.seen } else { 0.03 * world.mistaken };
    let leaks = bank.ails.has(Hypothesis::EarthLeakage);
    let volt = |chance: &mut Chance| match leaks {
        Some(severity) => 1.0 + 4.0 * severity + chance.unit(),
        None => 0.3 * chance.unit(),
    };
    StringMeasured {
        joints_out: (has(Measurement::Joints) && resolved).then_some(u16::from(out)),
        currents: if has(Measurement::Currents) && bank.shares.len() > 1 {
            bank.shares.iter().map(|s| 60.0 * s * (1.0 + 0.03 * chance.normal())).collect()
        } else {
            Vec::new()
        },
        to_case: has(Measurement::Earth).then(|| [volt(chance), volt(chance)]),
    }
}
