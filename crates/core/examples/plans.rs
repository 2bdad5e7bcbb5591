//! The figures of the planners and of the charging record in `docs/performance.md`: a winter and a solar year by the hour, a
//! string of unlike batteries for ninety days, a year of a monitor by the minute.
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::cast_precision_loss,
    reason = "a measuring program that fails loudly"
)]

use jiff::civil::date;
use jiff::tz::TimeZone;
use rainshadow_core::bank::{BankShape, BatteryAddress, Layout};
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::charging_plan::{ChargingAsked, EngineUse, PlugUse, charging_year};
use rainshadow_core::charging_record::{MinuteRow, RecordedBank, charging_record};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::replacement::{
    MismatchAsked, MismatchBattery, ReplacementAsked, ReplacementPrices, UsedKind, mismatch,
    replacement_options,
};
use rainshadow_core::replacing::UsedBattery;
use rainshadow_core::solar::{SolarArray, SolarSky};
use rainshadow_core::storage::{MonthlyLoss, StorageAir, StorageAsked, StorageWay, plan_storage};
use rainshadow_core::water::MonthlyMeans;
use std::hint::black_box;
use std::time::{Duration, Instant};

const MEANS: [f64; 12] = [-8.0, -6.0, -2.0, 3.0, 8.0, 12.0, 15.0, 14.0, 10.0, 5.0, -1.0, -6.0];

fn timed<T>(what: &str, times: usize, work: impl Fn() -> T) {
    let mut all: Vec<Duration> = (0..times)
        .map(|_| {
            let begin = Instant::now();
            black_box(work());
            begin.elapsed()
        })
        .collect();
    all.sort_unstable();
    println!("{what}: p50 {:?}, p95 {:?}", all[times / 2], all[times * 95 / 100]);
}

fn shape(system_voltage: u16, series: u8, parallel: u8) -> BankShape {
    let layout = Layout::default();
    BankShape { system_voltage, cells_per_battery: 3, series, parallel, layout }.checked().unwrap()
}

fn winter() -> StorageAsked {
    StorageAsked {
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        shape: shape(24, 4, 2),
        from: date(2026, 10, 18),
        until: date(2027, 5, 20),
        air: StorageAir { means: MonthlyMeans::try_from(MEANS).unwrap(), lows: None },
        charged: 100.0,
        health: 100.0,
        loss: MonthlyLoss { inside: 6.0, tops: 0.0 },
        age: 1.0,
        reserve: Some(800.0),
        check_days: 60,
        ways: vec![StorageWay::OnArray { amperes: 0.5, harvest: [30.0; 12], snow: [0.2; 12] }],
    }
}

fn year() -> ChargingAsked {
    let sky = SolarSky { latitude: 47.0, altitude: 400.0, clearness: [0.6; 12], snow: [1.0; 12] };
    ChargingAsked {
        model: BatteryModel::generic_by_key("flooded-6v-225").unwrap(),
        shape: shape(12, 2, 3),
        health: 100.0,
        loads: [2.0; 24],
        loads_by_month: [1.0; 12],
        means: MonthlyMeans::try_from([12.0; 12]).unwrap(),
        solar: Some((SolarArray { watts: 600.0, tilt: 45.0, azimuth: 180.0, left: 0.75 }, sky)),
        engine: Some(EngineUse { amperes: 65.0, hours: 0.5, every_days: 1, volts: 2.35, litres: 1.2 }),
        generator: None,
        shore: Some(PlugUse { amperes: 30.0, hours: 12.0, every_days: 7, from: 20, litres: 0.0 }),
        planned_depth: 50.0,
    }
}

fn unlike() -> MismatchAsked {
    let battery = |age: f64, worn: f64| MismatchBattery { age, worn, charged: 0.9, leak: 1.0 };
    let mut batteries = vec![battery(3.0, 0.2); 8];
    batteries[0] = battery(1.0, 0.0);
    MismatchAsked {
        construction: Construction::Flooded,
        c20: 420.0,
        batteries,
        volts: 2.45,
        amperes: 45.0,
        hours: 9.0,
        drawn: 120.0,
        celsius: 20.0,
        days: 90,
    }
}

/// A year by the minute: drawn in the evening, charged by day.
fn minutes(bank: &RecordedBank) -> Vec<MinuteRow> {
    (0..365 * 1440_i64)
        .map(|minute| {
            let hour = (minute % 1440) as f64 / 60.0;
            let (volts, amperes) = match hour {
                h if h < 8.0 => (2.08, -2.0),
                h if h < 14.0 => (2.25, 48.0),
                h if h < 16.0 => (bank.absorption, 14.0),
                _ => (2.03, -38.0),
            };
            MinuteRow {
                minute: 29_540_160 + minute,
                volts: Some(f64::from(bank.cells) * volts),
                amperes: Some(amperes),
                celsius: Some(22.0),
                state: None,
            }
        })
        .collect()
}

/// One of sixteen batteries is failing, a used one is at hand.
fn failing() -> ReplacementAsked {
    ReplacementAsked {
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        shape: shape(48, 8, 2),
        failing: BatteryAddress { string: 1, battery: 5 },
        months: Some(42.0),
        health: 83.0,
        failing_health: 60.0,
        years_left: None,
        gassing: None,
        used: Some((UsedKind::SameModel, UsedBattery { months: Some(35.0), ..UsedBattery::default() })),
        depth: 25.0,
        celsius: 18.0,
        volts: 2.45,
        amperes: 45.0,
        hours: 8.0,
        prices: ReplacementPrices { battery: 380.0, ..ReplacementPrices::default() },
        rules: HouseRules::maker_first(),
    }
}

fn main() {
    let (winter, year, unlike) = (winter(), year(), unlike());
    timed("a winter of 214 days by the hour, one way", 100, || plan_storage(&winter).unwrap());
    timed("a solar year by the hour with engine and plug", 100, || charging_year(&year).unwrap());
    timed("a new battery among seven old ones for 90 days", 10, || mismatch(&unlike));
    let failing = failing();
    timed("every way of a replacement, 90 days each", 20, || replacement_options(&failing).unwrap());
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let bank = RecordedBank::of(&model, &shape(48, 8, 2), false);
    let rows = minutes(&bank);
    timed("a year of a monitor by the minute, judged", 10, || {
        charging_record(&rows, &bank, &TimeZone::UTC).unwrap()
    });
}
