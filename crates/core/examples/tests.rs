//! What a discharge under way and the shares of parallel strings cost: `cargo run --release -p rainshadow-core --example
//! tests`.
#![allow(missing_docs, clippy::print_stdout, clippy::unwrap_used, reason = "tells its figures")]

use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::{
    DischargeEvent, DischargeFrame, DischargePlan, DischargeReading, DischargedBattery, LoggedEvent,
    discharge_now,
};
use rainshadow_core::parallel_share::{Link, ParallelBank, ParallelString, TakeOff, judge_shares};
use rainshadow_core::quantity::Temperature;
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
}
