//! What a discharge under way, the shares of parallel strings and a diagnosis cost: `cargo run --release -p rainshadow-core --example
//! tests`.
#![allow(missing_docs, clippy::print_stdout, clippy::unwrap_used, reason = "tells its figures")]

use jiff::ToSpan;
use jiff::civil::date;
use rainshadow_core::bank::{BankShape, BatteryAddress, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::conductor::{Cable, Section};
use rainshadow_core::diagnosis::{
    CellGravity, Evidence, MeasuredBattery, ResistancesRead, RestVoltsRead, RoundRead, Weights, diagnose,
    next_measurements, signs,
};
use rainshadow_core::discharge::{
    DischargeEvent, DischargeFrame, DischargePlan, DischargeReading, DischargedBattery, LoggedEvent,
    discharge_now,
};
use rainshadow_core::joints::joints_of;
use rainshadow_core::parallel_share::{Link, ParallelBank, ParallelString, TakeOff, judge_shares};
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::wiring::{Coupling, Wiring, WiringKnown, judge_wiring};
use std::collections::BTreeMap;
use std::hint::black_box;
use std::time::Instant;

/// The middle of so many runs, ms.
fn middle(runs: usize, mut work: impl FnMut()) -> f64 {
    let mut all: Vec<f64> = (0..runs)
        .map(|_| {
            let from = Instant::now();
            work();
            from.elapsed().as_secs_f64() * 1000.0
        })
        .collect();
    all.sort_by(f64::total_cmp);
    all[runs / 2]
}

fn main() {
    let model = BatteryModel::generic_by_key("flooded-8v-170").unwrap();
    let plan = DischargePlan {
        amperes: Some(8.5),
        end_per_cell: 1.75,
        temperature: Temperature::from_celsius(20.0).ok(),
        proven_full: true,
        every_minutes: 5.0,
    };
    // Twenty hours of a reading every ten minutes, of eight batteries each.
    let log: Vec<LoggedEvent> = (0..120u32)
        .map(|i| {
            let volts = 50.0 - 0.05 * f64::from(i);
            let batteries = (1..=8)
                .map(|battery| DischargedBattery {
                    battery: BatteryAddress { string: 0, battery },
                    volts: volts / 8.0,
                })
                .collect();
            let reading = DischargeReading {
                amperes: Some(8.5),
                volts: Some(volts),
                batteries,
                celsius: None,
                stands: false,
            };
            LoggedEvent { id: i.to_string(), at: f64::from(i) / 6.0, event: DischargeEvent::Read { reading } }
        })
        .collect();
    let frame = DischargeFrame { model: &model, cells: 24, strings: 1, last: None };
    let discharge = middle(200, || {
        black_box(discharge_now(&frame, &plan, black_box(&log), 20.0));
    });
    println!("where a discharge of 120 readings stands, forecast included: {discharge:.3} ms");
    let link = vec![Link::Measured { milliohms: 0.7 }; 5];
    let bank = ParallelBank {
        strings: (0..6).map(|i| ParallelString { volts: 25.4, milliohms: 8.0 + f64::from(i) }).collect(),
        positive: link.clone(),
        negative: link,
        take_off: TakeOff::Rails { positive: 1, negative: 1 },
        amperes: 100.0,
    };
    let shares = middle(2000, || {
        black_box(judge_shares(black_box(&bank)).unwrap());
    });
    println!("shares of six strings with every change that could be made: {shares:.4} ms");
    wiring();
    diagnosis();
}

/// Six strings of four, every joint and battery read, one joint bad.
fn wiring() {
    let shape = BankShape {
        system_voltage: 24,
        cells_per_battery: 3,
        series: 4,
        parallel: 6,
        layout: Layout::default(),
    };
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let cable =
        Cable { section: Section::SquareMillimetres(50.0), metres: 0.4, lugs: 2, lug_milliohms: 0.05 };
    let (positive, negative) = (vec![cable], vec![cable]);
    let coupling = Some(Coupling::Rails { positive, negative, plus_at: 1, minus_at: 1 });
    let own = Wiring { link: Some(cable), coupling };
    let batteries = shape.batteries().map(|b| (b, 1.2 + 0.1 * f64::from(b.battery))).collect();
    let mut joints: BTreeMap<_, _> =
        joints_of(&shape, &own.leads(6)).into_iter().map(|joint| (joint, 0.1)).collect();
    let bad: Vec<_> = joints.keys().copied().take(1).collect();
    joints.insert(bad[0], 0.6);
    let known = WiringKnown {
        shape: &shape,
        model: &model,
        wiring: &own,
        batteries: &batteries,
        joints: &joints,
        bad: &bad,
    };
    let took = middle(2000, || {
        black_box(judge_wiring(black_box(&known), 100.0).unwrap());
    });
    println!("shares of six strings as wired, every joint read, with what evens them: {took:.4} ms");
}

/// Forty-eight cells with ten years of monthly rounds, volts and yearly tests.
fn diagnosis() {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let shape = BankShape {
        system_voltage: 48,
        cells_per_battery: 3,
        series: 8,
        parallel: 2,
        layout: Layout::default(),
    };
    let first = date(2016, 10, 1);
    let days: Vec<_> = (0..120i32).map(|month| first + (30 * month).days()).collect();
    let cells = |day: i32| -> Vec<CellGravity> {
        let gravity = |at: i32| 1.262 - 0.0001 * f64::from((7 * at + day) % 60);
        let all = shape.cells().zip(0..);
        all.map(|(cell, at)| CellGravity {
            cell,
            gravity: SpecificGravity::new(gravity(at)).unwrap(),
            below_mark: Some(f64::from(at % 9)),
            in_question: false,
        })
        .collect()
    };
    let volts = |value: f64| -> Vec<MeasuredBattery> {
        shape.batteries().map(|battery| MeasuredBattery { battery, value, first: Some(value) }).collect()
    };
    let by_month = days.iter().zip(0..);
    let evidence = Evidence {
        today: days.last().copied(),
        rounds: by_month
            .map(|(day, at)| RoundRead {
                day: *day,
                proven_full: at % 2 == 0,
                instrument: "float".into(),
                noise: 3.0,
                cells: cells(at),
            })
            .collect(),
        rest: days
            .iter()
            .map(|day| RestVoltsRead { day: *day, settled: true, proven_full: true, batteries: volts(6.33) })
            .collect(),
        resistances: days.iter().map(|day| ResistancesRead { day: *day, batteries: volts(1.2) }).collect(),
        ..Evidence::default()
    };
    let weights = Weights::shipped();
    let took = middle(500, || {
        let (signs, made) = signs(black_box(&evidence), &shape, &model, weights).unwrap();
        let own = diagnose(&signs, (true, 2), weights).unwrap();
        black_box(next_measurements(&own, &made, (48.0, 16.0), (true, 2), weights));
    });
    println!("diagnosis of 48 cells with ten years of records, next measurement included: {took:.2} ms");
}
