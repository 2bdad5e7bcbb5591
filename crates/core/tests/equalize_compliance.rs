//! EQ-4: whether the charger equalizes at all, by volts and amperes of its feed and of readings.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::sg;
use proptest::prelude::*;
use rainshadow_core::equalize::{
    Alarm, BeforeCheck, EndWhy, FeedMinute, LoggedEntry, Meant, PauseWhy, RunEntry, RunFrame, RunKind,
    run_now,
};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;

const CHECKS: [BeforeCheck; 1] = [BeforeCheck::Air];

fn frame() -> RunFrame<'static> {
    RunFrame {
        kind: RunKind::Corrective,
        cells: 24,
        watched: 3,
        checks: &CHECKS,
        noise: 3.3,
        full: rainshadow_core::quantity::SpecificGravity::new(1.265).unwrap(),
        meant_amperes: 30.0,
        meant: Some(MEANT),
    }
}

/// A log of entries at hours of the machine's clock; ids count up.
fn log(entries: &[(f64, RunEntry)]) -> Vec<LoggedEntry> {
    entries
        .iter()
        .enumerate()
        .map(|(i, (at, entry))| LoggedEntry { id: i.to_string(), at: *at, entry: entry.clone() })
        .collect()
}

fn read(thousandths: f64, celsius: f64) -> RunEntry {
    let g = Some(sg(thousandths / 1000.0));
    RunEntry::Read { gravities: vec![g; 3], celsius: Some(celsius), volts: None, amperes: None }
}

/// A 24-cell bank on 61.9 V (CH-2 at 25 °C) with 17 A at least.
const MEANT: Meant = Meant { volts: 61.9, celsius: 25.0, amperes: 17.0 };

/// Minutes of a feed from an hour on, at these volts and amperes.
fn fed(from: f64, minutes: u32, volts: f64, amperes: f64) -> Vec<FeedMinute> {
    (0..minutes)
        .map(|i| FeedMinute {
            at: from + f64::from(i) / 60.0,
            hours: 1.0 / 60.0,
            amperes,
            volts,
            celsius: None,
        })
        .collect()
}

#[test]
fn a_charger_that_stayed_on_float_is_told_and_its_run_is_no_equalize() {
    let frame = frame();
    let flat: Vec<(f64, RunEntry)> = std::iter::once((0.0, RunEntry::Began))
        .chain((0..7u32).map(|i| (f64::from(i) * 0.5, read(1262.0, 20.0))))
        .collect();
    // 54.7 V is float: nothing rises, and the rule alone would say that it is done
    let run = run_now(&frame, &log(&flat), &fed(0.0, 185, 54.7, 3.4), 3.05);
    assert!(run.state.advice.stops() && !run.compliance.is_an_equalize());
    assert_eq!(run.ends_as(), EndWhy::Hand, "it counts for no cell");
    let said = wording::run_verdict(&run, RunKind::Corrective, "13:30", 54.0, ReaderUnits::default());
    assert!(
        said.starts_with("Stop, or switch the charger to equalize. It was on equalize for 0:00 of the 3:0"),
        "{said}"
    );
    let early = run_now(&frame, &log(&flat[..2]), &fed(0.0, 20, 54.7, 3.4), 0.3);
    assert_eq!(early.alarm(), Some(Alarm::Charger));
    let said = wording::run_verdict(&early, RunKind::Corrective, "13:30", 54.0, ReaderUnits::default());
    assert_eq!(
        said,
        "Look at the charger: it gives 54.7 V and 3.4 A, which is no equalize. Switch it to equalize, or stop the run."
    );
    // switched on in time, the same run counts
    let mut feed = fed(0.0, 20, 54.7, 3.4);
    feed.extend(fed(20.0 / 60.0, 165, 61.9, 20.0));
    let run = run_now(&frame, &log(&flat), &feed, 3.05);
    assert_eq!(
        (run.compliance.is_an_equalize(), run.compliance.off_setpoint, run.ends_as()),
        (true, None, EndWhy::Rule)
    );
}

#[test]
fn a_bank_on_its_way_up_a_warm_one_and_one_nobody_measured_are_equalized() {
    let frame = frame();
    let began = [(0.0, RunEntry::Began)];
    let at = |volts, amperes, celsius: Option<f64>| {
        let mut feed = fed(0.0, 40, volts, amperes);
        for minute in &mut feed {
            minute.celsius = celsius;
        }
        run_now(&frame, &log(&began), &feed, 0.6).compliance
    };
    // all its current and not yet its volts; its volts and hardly any current
    assert!(at(58.0, 40.0, None).is_an_equalize() && at(61.5, 6.0, None).is_an_equalize());
    // absorption, 58.8 V, with little current is none
    assert!(!at(58.8, 6.0, None).is_an_equalize());
    // a charger that compensates goes down 1.8 V for 15 °C
    assert!(at(60.1, 6.0, Some(40.0)).is_an_equalize() && !at(59.9, 6.0, None).is_an_equalize());
    // nobody told of volts: it is taken for one
    let non_responding = run_now(&frame, &log(&began), &[], 3.0);
    assert!(non_responding.compliance.is_an_equalize() && non_responding.compliance.off_setpoint.is_none());
    // volts that are typed while it is paused for the reading say nothing
    let volts = RunEntry::Read { gravities: vec![], celsius: None, volts: Some(54.0), amperes: Some(0.0) };
    let paused = [(0.0, RunEntry::Began), (1.0, RunEntry::Paused { why: PauseWhy::Reading }), (1.05, volts)];
    assert!(run_now(&frame, &log(&paused), &[], 1.1).compliance.is_an_equalize());
}

#[test]
fn typed_volts_stand_for_the_time_since_the_reading_before() {
    let typed =
        |volts, amperes| RunEntry::Read { gravities: vec![], celsius: None, volts: Some(volts), amperes };
    let entries = [
        (0.0, RunEntry::Began),
        (0.5, typed(54.7, Some(3.0))),
        (1.0, typed(61.7, Some(20.0))),
        (1.5, typed(61.9, None)),
    ];
    let compliance = run_now(&frame(), &log(&entries), &[], 1.6).compliance;
    assert!(
        (compliance.told - 1.5).abs() < 1e-9 && (compliance.on_equalize - 1.0).abs() < 1e-9,
        "{compliance:?}"
    );
    assert!(compliance.is_an_equalize() && compliance.off_setpoint.is_none());
    // volts alone may lag behind while the current is all there is; far under they are float
    let alone = |volts| {
        run_now(&frame(), &log(&[(0.0, RunEntry::Began), (1.0, typed(volts, None))]), &[], 1.1).compliance
    };
    assert!(alone(58.0).is_an_equalize() && !alone(54.7).is_an_equalize());
}

#[test]
fn a_small_source_that_gives_all_it_has_equalizes() {
    let small = RunFrame { meant: Some(Meant { amperes: 8.0, ..MEANT }), ..frame() };
    let feed = fed(0.0, 60, 57.0, 7.5);
    let began = log(&[(0.0, RunEntry::Began)]);
    assert!(run_now(&small, &began, &feed, 1.0).compliance.is_an_equalize());
    assert!(!run_now(&frame(), &began, &feed, 1.0).compliance.is_an_equalize(), "17 A were planned");
}

proptest! {
    #[test]
    fn no_more_is_on_equalize_than_is_told_and_no_more_is_told_than_has_passed(
        volts in prop::collection::vec(50.0..64.0f64, 1..200), amperes in 0.0..60.0f64, pause in 0.0..2.0f64,
    ) {
        let feed: Vec<FeedMinute> = (0u32..)
            .zip(&volts)
            .map(|(i, v)| FeedMinute { at: f64::from(i) / 60.0, hours: 1.0 / 60.0, amperes, volts: *v, celsius: None })
            .collect();
        let entries = [(0.0, RunEntry::Began), (pause, RunEntry::Paused { why: PauseWhy::Other })];
        let run = run_now(&frame(), &log(&entries), &feed, 4.0);
        prop_assert!(run.compliance.on_equalize <= run.compliance.told + 1e-9);
        prop_assert!(run.compliance.told <= run.elapsed + 1e-9, "{:?} of {}", run.compliance, run.elapsed);
    }

    #[test]
    fn more_volts_never_make_it_less_of_an_equalize(volts in 50.0..62.0f64, more in 0.0..3.0f64, amperes in 0.0..40.0f64) {
        let at = |v: f64| run_now(&frame(), &log(&[(0.0, RunEntry::Began)]), &fed(0.0, 60, v, amperes), 1.0).compliance;
        prop_assert!(at(volts + more).on_equalize >= at(volts).on_equalize);
    }
}
