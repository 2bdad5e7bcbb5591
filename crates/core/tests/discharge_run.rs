//! A timed discharge by its log and the clock: what counts as load, where it ends, who gives out first.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::tests_made::{plan, reading};
use proptest::prelude::*;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::{
    CapacityMethod, DischargeAdvice, DischargeEvent, DischargeFrame, DischargeNow, DischargePhase,
    DischargePlan, DischargePlanError, DischargeReading, DischargedBattery, LoggedEvent, NotTold,
    discharge_now, noted_discharge, way_to_end,
};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::simulator::{CellKind, SimCell, Surroundings};
use rainshadow_core::wording;

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-8v-170").unwrap()
}

/// A log of events by the minute.
fn log(events: &[(f64, DischargeEvent)]) -> Vec<LoggedEvent> {
    let numbered = events.iter().enumerate();
    numbered
        .map(|(n, (minutes, event))| LoggedEvent {
            id: n.to_string(),
            at: minutes / 60.0,
            event: event.clone(),
        })
        .collect()
}

fn stands(plan: &DischargePlan, events: &[(f64, DischargeEvent)], minutes: f64) -> DischargeNow {
    let frame = DischargeFrame { model: &model(), cells: 24, strings: 1, last: None };
    discharge_now(&frame, plan, &log(events), minutes / 60.0)
}

fn minutes(hours: f64) -> f64 {
    hours * 60.0
}

#[test]
fn only_the_minutes_under_load_count() {
    let events =
        [(10.0, DischargeEvent::Paused), (25.0, DischargeEvent::Resumed), (40.0, reading(47.0, 56.0))];
    let now = stands(&plan(56.0), &events, 45.0);
    assert_eq!(now.phase, DischargePhase::Running);
    assert!((minutes(now.elapsed) - 30.0).abs() < 1e-6, "{}", minutes(now.elapsed));
    assert!((minutes(now.paused) - 15.0).abs() < 1e-6);
    assert!((minutes(now.points[0].hours) - 25.0).abs() < 1e-6);
    // the next reading is due five minutes of load after the last
    assert!(minutes(now.reading_in.unwrap()).abs() < 1e-6);
    assert_eq!(wording::discharge_alarm(&now), Some("reading"));
    assert_eq!(wording::discharge_alarm(&stands(&plan(56.0), &events, 44.9)), None);
    let paused = stands(&plan(56.0), &events[..1], 30.0);
    assert_eq!((paused.phase, paused.reading_in), (DischargePhase::Paused, None));
    assert!((minutes(paused.paused_for.unwrap()) - 20.0).abs() < 1e-6);
}

#[test]
fn a_clock_that_is_set_meanwhile_counts_for_nothing() {
    let read = |at: f64| [(at, reading(47.6, 56.0)), (at + 5.0, reading(47.3, 56.0))];
    let plain = stands(&plan(56.0), &read(20.0), 30.0);
    // three hours on at the fifteenth minute, by the machine's clock
    let mut events = vec![(15.0 + 180.0, DischargeEvent::ClockSet { hours: 3.0 })];
    events.extend(read(20.0 + 180.0));
    let set = stands(&plan(56.0), &events, 30.0 + 180.0);
    assert!((set.elapsed - plain.elapsed).abs() < 1e-9);
    assert!((set.points[1].hours - plain.points[1].hours).abs() < 1e-9);
    assert!((set.clock_set - 3.0).abs() < 1e-9);
    // and back, so that what follows seems to come before
    let mut back = vec![(15.0 - 60.0, DischargeEvent::ClockSet { hours: -1.0 })];
    back.extend(read(20.0 - 60.0));
    let set = stands(&plan(56.0), &back, 30.0 - 60.0);
    assert!((set.elapsed - plain.elapsed).abs() < 1e-9, "{}", minutes(set.elapsed));
}

/// Source: worked example of IEEE 450 (from memory): 384 min of 480 rated at 25 °C are 80 %.
#[test]
fn the_end_lies_between_the_readings_around_it_and_gives_the_worked_example() {
    let eight_hours = {
        // a model rated for eight hours at this current
        let mut model = model();
        model.rates.clear();
        let amperes = (1..2000)
            .map(|i| f64::from(i) * 0.05)
            .find(|a| rainshadow_core::discharge::rated_time(&model, *a).hours <= 8.0);
        (model, amperes.unwrap())
    };
    let (model, amperes) = eight_hours;
    let rated = rainshadow_core::discharge::rated_time(&model, amperes).hours;
    let plan = DischargePlan { temperature: Temperature::from_celsius(25.0).ok(), ..plan(amperes) };
    let end = 384.0 / 480.0 * rated * 60.0;
    let events = [
        (0.5, reading(49.0, amperes)),
        // half a volt over the end, and half a volt under it, around the true end
        (end - 10.0, reading(42.5, amperes)),
        (end + 10.0, reading(41.5, amperes)),
        (end + 12.0, DischargeEvent::Ended),
    ];
    let frame = DischargeFrame { model: &model, cells: 24, strings: 1, last: None };
    let now = discharge_now(&frame, &plan, &log(&events), 20.0);
    assert!((minutes(now.reached.unwrap()) - end).abs() < 1e-6);
    let result = now.result.unwrap();
    assert_eq!(result.method, CapacityMethod::TimeAdjusted);
    assert!((result.percent.unwrap() - 80.0).abs() < 0.01, "{:?}", result.percent);
    assert!(!result.at_least);
}

#[test]
fn no_result_is_better_than_its_evidence() {
    let read = [(1.0, reading(48.4, 56.0)), (60.0, reading(46.0, 56.0)), (61.0, DischargeEvent::Ended)];
    let early = stands(&plan(56.0), &read, 61.0);
    assert!(early.result.unwrap().at_least, "stopped before its end");
    assert!(early.reached.is_none());
    let to_end = [(1.0, reading(48.4, 56.0)), (76.0, reading(41.9, 56.0)), (77.0, DischargeEvent::Ended)];
    let unproven = DischargePlan { proven_full: false, ..plan(56.0) };
    assert!(stands(&unproven, &to_end, 77.0).result.unwrap().at_least, "nobody knows that it was full");
    assert!(!stands(&plan(56.0), &to_end, 77.0).result.unwrap().at_least);
    let cold = DischargePlan { temperature: None, ..plan(56.0) };
    let result = stands(&cold, &to_end, 77.0).result.unwrap();
    assert_eq!((result.percent, result.not_told), (None, Some(NotTold::TemperatureUnknown)));
    // after a minute it tells nothing
    let minute = [(0.5, reading(48.4, 56.0)), (1.5, DischargeEvent::Ended)];
    let result = stands(&plan(56.0), &minute, 1.5).result.unwrap();
    assert_eq!((result.percent, result.not_told), (None, Some(NotTold::TooShort)));
    // and one that ended before a reading was taken is no reason to fail
    let none = stands(&plan(56.0), &[(0.0, DischargeEvent::Ended)], 1.0);
    assert!(none.result.is_none());
}

/// Source: the trapezoid between two readings in closed form.
#[test]
fn a_current_that_changes_counts_by_the_trapezoid_and_stretch_by_stretch() {
    let own_load = DischargePlan { amperes: None, ..plan(56.0) };
    let events = [
        (0.0, reading(48.8, 20.0)),
        (60.0, reading(47.5, 40.0)),
        (120.0, reading(45.0, 40.0)),
        (130.0, reading(41.9, 40.0)),
        (131.0, DischargeEvent::Ended),
    ];
    let now = stands(&own_load, &events, 131.0);
    let result = now.result.unwrap();
    assert_eq!(result.method, CapacityMethod::ByStretches);
    // until the volts came down to 42.0: 30 Ah, 40 Ah, then 40 A for the rest
    let rest = now.reached.unwrap() - 2.0;
    assert!((now.ampere_hours - (30.0 + 40.0 + 40.0 * rest)).abs() < 1e-6, "{}", now.ampere_hours);
    assert!((result.ampere_hours - now.ampere_hours).abs() < 1e-9);
    // a current that was meant and did not hold counts the same way
    let meant = stands(&plan(30.0), &events, 131.0);
    assert_eq!(meant.result.unwrap().method, CapacityMethod::ByStretches);
}

fn batteries(volts: [f64; 6]) -> Vec<DischargedBattery> {
    (1..)
        .zip(volts)
        .map(|(battery, volts)| DischargedBattery { battery: BatteryAddress { string: 0, battery }, volts })
        .collect()
}

fn read_all(volts: [f64; 6]) -> DischargeEvent {
    let reading = DischargeReading {
        volts: Some(volts.iter().sum()),
        amperes: Some(75.0),
        batteries: batteries(volts),
        ..DischargeReading::default()
    };
    DischargeEvent::Read { reading }
}

#[test]
fn the_battery_that_bends_away_is_named_with_its_knee() {
    let even = [8.10, 8.11, 8.09, 8.10, 8.10, 8.11];
    let events = [
        (5.0, read_all(even)),
        (15.0, read_all([7.95, 7.96, 7.94, 7.95, 7.94, 7.96])),
        (22.0, read_all([7.88, 7.89, 7.87, 7.88, 7.84, 7.89])),
        (35.0, read_all([7.74, 7.75, 7.73, 7.76, 7.60, 7.74])),
    ];
    let now = stands(&plan(75.0), &events, 38.3);
    let weak = now.weakest().unwrap();
    assert_eq!(weak.battery.to_string(), "A5");
    assert!((weak.against_mates.unwrap() + 0.14).abs() < 1e-9);
    assert!((minutes(weak.knee.unwrap()) - 22.0).abs() < 1e-6);
    let said = wording::discharge_verdict(&now, None, rainshadow_core::schedule::Duty::Cycled);
    assert!(said.ends_with("A5 bends away first."), "{said}");
    // nobody else is
    assert_eq!(now.mates.iter().filter(|m| m.weak || m.knee.is_some()).count(), 1);
    // one that is a tenth under from the start has a bad joint or probe, and does not fall
    let low =
        [(5.0, read_all([8.1, 8.1, 8.1, 8.1, 7.98, 8.1])), (35.0, read_all([7.7, 7.7, 7.7, 7.7, 7.58, 7.7]))];
    assert!(stands(&plan(75.0), &low, 38.0).weakest().is_none());
}

#[test]
fn a_cell_that_is_driven_backwards_and_the_end_both_say_stop() {
    let events = [(40.0, read_all([7.4, 7.4, 7.4, 7.4, 5.2, 7.4]))];
    let now = stands(&plan(75.0), &events, 40.1);
    assert_eq!(now.advice, DischargeAdvice::Reversed { battery: BatteryAddress { string: 0, battery: 5 } });
    assert_eq!(wording::discharge_alarm(&now), Some("stop"));
    let at_end = stands(&plan(75.0), &[(50.0, reading(42.0, 75.0))], 50.2);
    assert_eq!(at_end.advice, DischargeAdvice::AtEnd);
}

/// Volts of a simulated cell under a current, every so many minutes, and the minutes until it ends.
fn simulated(amperes_per_ah: f64, worn: f64, every: f64) -> (Vec<(f64, f64)>, f64) {
    let mut cell = SimCell::new(CellKind::FLOODED, 170.0);
    cell.wear(worn);
    let (mut at, mut all) = (0.0, Vec::new());
    loop {
        let volts = cell.step(-amperes_per_ah * 170.0, 0.5 / 60.0, Surroundings::Held(25.0));
        at += 0.5;
        if volts <= 1.75 {
            return (all, at);
        }
        if (at % every) < 0.25 {
            all.push((at, volts));
        }
    }
}

/// Checked against the simulated cell (SM-1), whose knee and slopes the forecast knows nothing of.
#[test]
fn the_forecast_of_the_end_holds_what_a_simulated_cell_does() {
    let (mut held, mut told, mut wide) = (0, 0, Vec::new());
    for rate in [0.1, 0.2, 0.33, 0.44] {
        for worn in [0.0, 0.1, 0.2, 0.35, 0.45] {
            let (curve, end) = simulated(rate, worn, 5.0);
            for share in [0.4, 0.6, 0.8] {
                let events: Vec<(f64, DischargeEvent)> = curve
                    .iter()
                    .filter(|(at, _)| *at <= share * end)
                    .map(|(at, volts)| (*at, reading(24.0 * volts, rate * 170.0)))
                    .collect();
                if events.len() < 4 {
                    continue;
                }
                let warm =
                    DischargePlan { temperature: Temperature::from_celsius(25.0).ok(), ..plan(rate * 170.0) };
                let now = stands(&warm, &events, share * end);
                let ends = now.ends.unwrap();
                told += 1;
                held += usize::from((minutes(ends.low)..=minutes(ends.high)).contains(&end));
                if share > 0.7 {
                    wide.push((minutes(ends.best) / end - 1.0).abs());
                }
            }
        }
    }
    assert!(told > 40, "{told}");
    let rate = 100 * held / told;
    assert!(rate >= 85, "nine in ten are promised, {rate} % held of {told}");
    let worst = wide.iter().copied().fold(0.0, f64::max);
    assert!(worst < 0.2, "with four fifths gone the best guess is off by {worst:.2}");
}

#[test]
fn the_way_to_the_end_starts_at_the_last_reading_and_ends_at_the_end() {
    let way = way_to_end((0.5, 46.0), (1.0, 42.0));
    assert!((way[0][1] - 46.0).abs() < 1e-9 && (way[16][1] - 42.0).abs() < 1e-9);
    assert!(way.windows(2).all(|p| p[1][1] <= p[0][1] + 1e-9));
    assert!(way_to_end((1.0, 46.0), (0.9, 42.0)).is_empty());
}

#[test]
fn a_discharge_timed_by_a_watch_is_judged_alike() {
    let model = model();
    let frame = DischargeFrame { model: &model, cells: 24, strings: 1, last: None };
    let near_end = batteries([7.02, 7.03, 7.00, 7.02, 6.88, 7.04]);
    let own = noted_discharge(&frame, (&plan(56.0), 76.0 / 60.0, true), &near_end);
    assert!(own.noted && own.phase == DischargePhase::Ended);
    assert_eq!(own.weakest().unwrap().battery.to_string(), "A5");
    let timed = [(1.0, reading(48.5, 56.0)), (76.0, reading(42.0, 56.0)), (76.5, DischargeEvent::Ended)];
    let here = stands(&plan(56.0), &timed, 76.5);
    assert!((own.result.unwrap().percent.unwrap() - here.result.unwrap().percent.unwrap()).abs() < 0.01);
}

#[test]
fn a_plan_that_cannot_be_is_refused_with_what_is_accepted() {
    let refuse = |plan: DischargePlan| plan.checked().unwrap_err();
    let high = refuse(DischargePlan { end_per_cell: 2.2, ..plan(56.0) });
    assert_eq!(high, DischargePlanError::EndTooHigh(2.2));
    assert!(high.to_string().contains("1.00 to 1.95 V a cell"), "{high}");
    for amperes in [0.0, -20.0, f64::NAN] {
        let said = refuse(DischargePlan { amperes: Some(amperes), ..plan(56.0) }).to_string();
        assert!(said.contains("0.1 to 5000.0 A"), "{said}");
    }
    let often = refuse(DischargePlan { every_minutes: 0.0, ..plan(56.0) }).to_string();
    assert!(often.contains("0.5 to 120.0 min"), "{often}");
}

proptest! {
    /// Wherever pauses and jumps of the clock lie, the load was on for as long as somebody stood there.
    #[test]
    fn load_and_pause_are_all_the_time_there_was(
        gaps in proptest::collection::vec((0.5f64..20.0, 0u8..4, -300.0f64..300.0), 1..12)
    ) {
        let (mut wall, mut truth, mut load, mut paused) = (0.0, 0.0, 0.0, false);
        let mut events = Vec::new();
        for (gap, what, jump) in gaps {
            truth += gap;
            wall += gap;
            if !paused {
                load += gap;
            }
            let event = match what {
                0 => { paused = true; DischargeEvent::Paused }
                1 => { paused = false; DischargeEvent::Resumed }
                2 => { wall += jump; DischargeEvent::ClockSet { hours: jump / 60.0 } }
                _ => reading(45.0, 56.0),
            };
            events.push((wall, event));
        }
        let now = stands(&plan(56.0), &events, wall);
        prop_assert!((minutes(now.elapsed) - load).abs() < 1e-6, "{} for {load}", minutes(now.elapsed));
        prop_assert!((minutes(now.elapsed + now.paused) - truth).abs() < 1e-6);
    }

    /// What lasts longer under the same load never comes to less.
    #[test]
    fn lasting_longer_never_proves_less(first in 20.0f64..200.0, more in 0.0f64..100.0) {
        let percent = |lasted: f64| {
            let events = [(1.0, reading(48.5, 56.0)), (lasted, reading(42.0, 56.0)), (lasted, DischargeEvent::Ended)];
            stands(&plan(56.0), &events, lasted).result.unwrap().percent.unwrap()
        };
        prop_assert!(percent(first + more) >= percent(first) - 1e-9);
    }
}
