//! RT-1 to RT-3: hours under a load, against facts of the trade and worked examples.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::Charge;
use rainshadow_core::runtime::{
    Ended, Inverter, Runtime, RuntimeAsked, RuntimeLoad, RuntimeProof, StandIn, capacity_for, judge_proof,
    load_for, runtime, stand_in,
};

fn model(c20: f64) -> BatteryModel {
    let own = BatteryModel::generic_by_key("flooded-12v-80").unwrap();
    BatteryModel { c20: Charge::from_ampere_hours(c20).unwrap(), rates: Vec::new(), ..own }
}

fn asked(c20: f64, load: RuntimeLoad) -> RuntimeAsked {
    let shape = BankShape {
        system_voltage: 12,
        cells_per_battery: 6,
        series: 1,
        parallel: 1,
        layout: Layout::default(),
    };
    RuntimeAsked {
        model: model(c20),
        shape,
        load,
        inverter: None,
        temperature: 25.0,
        health: 100.0,
        health_range: None,
        charged: 100.0,
        depth: 100.0,
        exponent: Some(1.1),
        alarm: None,
        empty: None,
    }
}

fn all_the_time(amount: f64) -> RuntimeLoad {
    RuntimeLoad::Continuous { amount }
}

/// A relay that stands by: twelve tubular cells of 300 Ah.
fn relay(load: RuntimeLoad) -> RuntimeAsked {
    let shape = BankShape {
        system_voltage: 24,
        cells_per_battery: 1,
        series: 12,
        parallel: 1,
        layout: Layout::default(),
    };
    RuntimeAsked {
        model: BatteryModel::generic_by_key("tubular-2v-300").unwrap(),
        shape,
        temperature: 15.0,
        exponent: None,
        alarm: Some(23.4),
        ..asked(300.0, load)
    }
}

fn near(found: f64, wanted: f64, share: f64) {
    assert!((found - wanted).abs() <= share * wanted, "{found} against {wanted}");
}

/// Facts of the trade (common practice, no source): a 10 A pump runs 3.5 h on 40 Ah, 6.75 on 75 and about 11 on 120, with an
/// exponent near 1.1, a sound battery, 25 °C, drawn empty.
#[test]
fn a_pump_runs_as_long_as_the_trade_says() {
    for (c20, hours) in [(40.0, 3.5), (75.0, 6.75), (120.0, 11.0)] {
        let own = runtime(&asked(c20, all_the_time(10.0))).unwrap();
        near(own.empty.hours, hours, 0.05);
        assert_eq!(own.ended, Ended::Empty);
    }
}

/// Facts of the trade (common practice, no source): 10 A for 15 s every 4 min gives 32, 60 and 96 h; surge and standing draw
/// together are 0.625 A on average.
#[test]
fn bursts_run_as_long_as_the_trade_says() {
    for (c20, hours) in [(40.0, 32.0), (75.0, 60.0), (120.0, 96.0)] {
        let load =
            RuntimeLoad::Bursts { amount: 10.0, seconds: 15.0, every: 240.0, surge: 30.0, standing: 0.5 };
        let own = runtime(&asked(c20, load)).unwrap();
        near(own.empty.hours, hours, 0.05);
        near(own.amperes, 1.25, 1e-9);
    }
}

/// Worked by hand: 100 Ah at 5 A last 20 h, at 25 A with k 1.2 2.8991 h; at 4.4 °C over 1.30; at 80 % health and 50 % depth.
#[test]
fn the_worked_examples_of_peukert_cold_health_and_depth() {
    let base = RuntimeAsked { exponent: Some(1.2), ..asked(100.0, all_the_time(25.0)) };
    let hours = |asked: &RuntimeAsked| runtime(asked).unwrap().empty.hours;
    near(hours(&base), 2.8991, 1e-4);
    near(hours(&RuntimeAsked { load: all_the_time(5.0), ..base.clone() }), 20.0, 1e-9);
    near(hours(&RuntimeAsked { load: all_the_time(2.0), ..base.clone() }), 50.0, 1e-9);
    near(hours(&RuntimeAsked { temperature: 4.4, ..base.clone() }), 2.8991 / 1.30, 1e-4);
    near(hours(&RuntimeAsked { temperature: 40.0, ..base.clone() }), 2.8991, 1e-4);
    near(hours(&RuntimeAsked { health: 80.0, ..base.clone() }), 2.8991 * 0.8, 1e-4);
    near(hours(&RuntimeAsked { health: 120.0, ..base.clone() }), 2.8991, 1e-4);
    let half = runtime(&RuntimeAsked { depth: 50.0, ..base.clone() }).unwrap();
    near(half.empty.hours, 2.8991 * 0.5, 1e-4);
    assert_eq!(half.ended, Ended::Depth);
    // Begun at 60 % it has 60 % of its hours.
    near(hours(&RuntimeAsked { charged: 60.0, ..base }), 2.8991 * 0.6, 1e-4);
}

/// RT-3 by hand: 850 W at 0.85 and 20 W idle on 12 V are 85 A.
#[test]
fn an_inverter_takes_what_it_loses_and_its_idle_watts() {
    let through = RuntimeAsked {
        inverter: Some(Inverter { efficiency: 0.85, idle: 20.0 }),
        ..asked(200.0, all_the_time(850.0))
    };
    let own = runtime(&through).unwrap();
    near(own.amperes, (1000.0 + 20.0) / 12.0, 1e-9);
    let straight = asked(200.0, all_the_time(85.0));
    near(own.empty.hours, runtime(&straight).unwrap().empty.hours, 1e-9);
}

/// Published freezing points: at −20 °C common acid (1.265, flat 1.120) freezes under 37 % of charge; 6 °C above that the
/// discharge ends.
#[test]
fn a_cold_discharge_ends_before_it_freezes() {
    let scaled = BatteryModel { soc_table: Vec::new(), ..model(100.0) };
    let cold = RuntimeAsked { model: scaled, temperature: -20.0, ..asked(100.0, all_the_time(1.0)) };
    let own = runtime(&cold).unwrap();
    near(own.freezes_under, 37.0, 0.02);
    // Under −3.9 °C 1/1.52 and 0.011 less for each degree: 0.481 of the hours, and never into the margin.
    near(own.drawn, 100.0 * (1.0 / 1.52 - 0.011 * 16.1), 0.01);
    let colder = RuntimeAsked { temperature: -33.0, ..cold };
    let own = runtime(&colder).unwrap();
    assert_eq!(own.ended, Ended::Freezing);
    assert!(own.left > own.freezes_under && own.drawn < 40.0, "{} {}", own.left, own.freezes_under);
}

#[test]
fn a_load_by_the_hour_is_drawn_hour_by_hour_from_when_the_mains_fail() {
    // 5 A from midnight to noon and nothing after: 100 Ah at k 1 last 20 such hours.
    let mut amounts = [0.0; 24];
    amounts[..12].fill(5.0);
    let by_hour =
        |from| RuntimeAsked { exponent: Some(1.0), ..asked(100.0, RuntimeLoad::ByHour { amounts, from }) };
    near(runtime(&by_hour(0)).unwrap().empty.hours, 24.0 + 8.0, 1e-6);
    near(runtime(&by_hour(12)).unwrap().empty.hours, 12.0 + 24.0 + 8.0, 1e-6);
    // The same load every hour is the load all the time.
    let flat = RuntimeAsked {
        load: RuntimeLoad::ByHour { amounts: [7.0; 24], from: 3 },
        ..relay(all_the_time(7.0))
    };
    let own = runtime(&flat).unwrap();
    let straight = runtime(&relay(all_the_time(7.0))).unwrap();
    near(own.empty.hours, straight.empty.hours, 1e-6);
    near(own.alarm.unwrap().hours, straight.alarm.unwrap().hours, 1e-6);
}

#[test]
fn the_alarm_goes_before_it_is_empty_and_the_range_holds_the_estimate() {
    let own = RuntimeAsked { health: 97.0, health_range: Some([93.0, 100.0]), ..relay(all_the_time(3.2)) };
    let told = runtime(&own).unwrap();
    let alarm = told.alarm.unwrap();
    assert!(alarm.low <= alarm.hours && alarm.hours <= alarm.high && alarm.hours < told.empty.hours);
    assert!(told.empty.low < told.empty.hours && told.empty.hours < told.empty.high);
    // Volts fall all the way, to 1.75 a cell at the end, and stand at 23.4 when the alarm goes.
    let volts: Vec<(f64, f64)> = told.curve.iter().filter_map(|p| Some((p.hour, p.volts?))).collect();
    assert!(volts.windows(2).all(|pair| pair[1].1 <= pair[0].1 + 1e-9));
    near(volts.last().unwrap().1, 21.0, 1e-3);
    assert!(volts.iter().all(|(hour, v)| (*v > 23.4) == (*hour < alarm.hours) || (v - 23.4).abs() < 0.05));
    // Counted empty at more volts, it is over sooner.
    let higher = RuntimeAsked { empty: Some(22.8), ..own };
    assert!(runtime(&higher).unwrap().empty.hours < told.empty.hours);
}

#[test]
fn the_capacity_and_the_load_that_give_the_hours_do_give_them() {
    let own = relay(all_the_time(4.0));
    let now = runtime(&own).unwrap().alarm.unwrap().hours;
    let c20 = capacity_for(&own, 1.5 * now).unwrap().unwrap();
    assert!(c20 > 300.0 && c20 < 600.0, "{c20}");
    let share = load_for(&own, 1.5 * now).unwrap().unwrap();
    let less = RuntimeAsked { load: own.load.times(share), ..own.clone() };
    near(runtime(&less).unwrap().alarm.unwrap().hours, 1.5 * now, 1e-3);
    assert_eq!(load_for(&own, 0.5 * now).unwrap(), None);
}

#[test]
fn a_proof_tells_the_health_that_would_have_shown_its_volts() {
    let truth = RuntimeAsked { health: 88.0, ..relay(all_the_time(3.2)) };
    let shown: Runtime = runtime(&truth).unwrap();
    let at = shown.curve.iter().find(|p| p.hour > 0.8 * shown.empty.hours && p.volts.is_some()).unwrap();
    let proof = RuntimeProof {
        amperes: 3.2,
        hours: at.hour,
        volts: at.volts.unwrap(),
        temperature: 15.0,
        readings: vec![[10.0, 24.6]],
    };
    let judged = judge_proof(&RuntimeAsked { health: 97.0, ..truth.clone() }, &proof).unwrap();
    near(judged.health[0], 88.0, 0.005);
    assert!(judged.tells && judged.health[1] < 88.0 && judged.health[2] > 88.0);
    assert!(judged.over < 0.0 && judged.curve.len() == 2);
    // A short one tells next to nothing.
    let short = RuntimeProof { hours: 1.0, volts: judged.curve[0][1], ..proof };
    assert!(!judge_proof(&truth, &short).unwrap().tells);
}

#[test]
fn a_stand_in_fits_by_its_volts_and_buys_half_its_charge() {
    let own = relay(all_the_time(3.2));
    let two = stand_in(&own, StandIn { volts: 12, ampere_hours: 70.0 }).unwrap().unwrap();
    assert_eq!(two.series, 2);
    // 70 Ah at 3.2 A (k 1.15), 80 % sound, half drawn, at 15 °C a tenth less.
    near(two.hours, 20.0 * (70.0f64 / 64.0).powf(1.15).min(70.0 / 64.0) * 0.8 * 0.5 / 1.118, 0.01);
    let odd = stand_in(&own, StandIn { volts: 14, ampere_hours: 70.0 }).unwrap().unwrap_err();
    assert_eq!(odd.to_string(), "batteries of 14 V make no 24 V in series");
}

#[test]
fn what_cannot_be_is_refused_with_its_field() {
    let refused = |own: RuntimeAsked| {
        let e = runtime(&own).unwrap_err();
        (e.field(), e.to_string())
    };
    let (field, said) = refused(asked(100.0, all_the_time(0.0)));
    assert!(field == "load" && said.contains("nothing draws"), "{said}");
    let (field, said) = refused(asked(100.0, all_the_time(-3.0)));
    assert!(field == "load" && said.contains("0 to 50000"), "{said}");
    let long = RuntimeLoad::Bursts { amount: 9.0, seconds: 300.0, every: 240.0, surge: 0.0, standing: 0.0 };
    assert!(refused(asked(100.0, long)).1.contains("does not fit"));
    let under = RuntimeAsked { alarm: Some(20.5), ..relay(all_the_time(3.0)) };
    assert_eq!(refused(under).0, "alarm");
    let under = RuntimeAsked { alarm: Some(20.5), empty: Some(20.8), ..relay(all_the_time(3.0)) };
    assert!(refused(under).1.contains("would never go"));
    let odd = RuntimeAsked { health_range: Some([50.0, 80.0]), ..asked(100.0, all_the_time(3.0)) };
    assert_eq!(refused(odd).0, "health");
    let hot = RuntimeAsked { temperature: 95.0, ..asked(100.0, all_the_time(3.0)) };
    assert_eq!(refused(hot).0, "temperature");
}

proptest! {
    /// Colder is never longer, more load never longer, more health and charge never shorter, more strings never shorter.
    #[test]
    fn hours_never_grow_with_cold_or_load(
        amperes in 0.5..60.0f64, more in 0.0..40.0f64, celsius in -35.0..45.0f64, colder in 0.0..30.0f64,
        health in 40.0..100.0f64, charged in 20.0..100.0f64,
    ) {
        let base = RuntimeAsked { temperature: celsius, health, charged, ..relay(all_the_time(amperes)) };
        let hours = |asked: &RuntimeAsked| {
            let own = runtime(asked).unwrap();
            (own.empty.hours, own.alarm.map_or(own.empty.hours, |alarm| alarm.hours))
        };
        let now = hours(&base);
        prop_assert!(now.1 <= now.0 + 1e-9);
        let cold = hours(&RuntimeAsked { temperature: (celsius - colder).max(-40.0), ..base.clone() });
        prop_assert!(cold.0 <= now.0 + 1e-6 && cold.1 <= now.1 + 1e-3, "{cold:?} {now:?}");
        let loaded = hours(&RuntimeAsked { load: all_the_time(amperes + more), ..base.clone() });
        prop_assert!(loaded.0 <= now.0 + 1e-6 && loaded.1 <= now.1 + 1e-3, "{loaded:?} {now:?}");
        let better = hours(&RuntimeAsked { health: (health + 10.0).min(100.0), ..base.clone() });
        prop_assert!(better.0 >= now.0 - 1e-6 && better.1 >= now.1 - 1e-3, "{better:?} {now:?}");
        let shape = BankShape { parallel: 2, ..base.shape.clone() };
        let two = hours(&RuntimeAsked { shape, ..base });
        prop_assert!(two.0 >= now.0 - 1e-6 && two.1 >= now.1 - 1e-3, "{two:?} {now:?}");
    }
}
