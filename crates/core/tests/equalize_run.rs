//! A run as it was written down: pauses, clocks, currents, the forecast and what a stop taken back
//! restores.
#![allow(clippy::unwrap_used, clippy::float_cmp, reason = "helpers fail loudly; exact sums")]

use crate::common::{Noise, cell, sg, shape};
use proptest::prelude::*;
use rainshadow_core::equalize::{
    Advice, BeforeCheck, EndWhy, FeedMinute, LoggedEntry, PauseWhy, Phase, RunEntry, RunEntryQuestion,
    RunFrame, RunKind, RunNow, RunQuestion, feed_at, forecast, moved, much_current, pilot, run_now,
    volts_on_charge, warmed, watched,
};
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;

const CHECKS: [BeforeCheck; 2] = [BeforeCheck::Full, BeforeCheck::Air];

fn frame() -> RunFrame<'static> {
    RunFrame {
        kind: RunKind::Corrective,
        cells: 24,
        watched: 3,
        checks: &CHECKS,
        noise: 3.3,
        full: rainshadow_core::quantity::SpecificGravity::new(1.265).unwrap(),
        meant_amperes: 30.0,
        meant: None,
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

fn at(entries: &[(f64, RunEntry)], now: f64) -> RunNow {
    run_now(&frame(), &log(entries), &[], now)
}

fn heat() -> RunEntry {
    RunEntry::Paused { why: PauseWhy::Heat }
}

#[test]
fn nothing_counts_before_the_charger_is_switched_and_checks_left_open_are_named() {
    let run = at(&[(0.0, RunEntry::Confirmed { check: BeforeCheck::Air })], 2.0);
    assert_eq!((run.phase, run.elapsed, run.water, run.reading_in), (Phase::Before, 0.0, 0.0, None));
    assert_eq!(run.open_checks, [BeforeCheck::Full]);
    let skipped = RunEntry::Skipped { check: BeforeCheck::Full, reason: "on float since morning".into() };
    assert!(
        at(&[(0.0, RunEntry::Confirmed { check: BeforeCheck::Air }), (0.1, skipped)], 2.0)
            .open_checks
            .is_empty()
    );
}

#[test]
fn pauses_are_left_out_of_the_hours_and_the_water() {
    let entries = [(1.0, RunEntry::Began), (2.0, heat()), (2.5, RunEntry::Resumed)];
    let run = at(&entries, 4.0);
    // 1 h and 1.5 h on; 30 A over 24 cells at 0.33708 mL an Ah and cell (WA-1): 606.7 mL
    assert_eq!((run.phase, run.elapsed, run.ampere_hours), (Phase::Running, 2.5, 75.0));
    assert!((run.water - 606.7).abs() < 0.2, "{}", run.water);
    let paused = at(&entries[..2], 3.0);
    assert_eq!((paused.phase, paused.elapsed), (Phase::Paused { why: PauseWhy::Heat }, 1.0));
    assert_eq!(paused.paused_for, Some(1.0));
}

#[test]
fn the_water_of_six_and_of_twenty_four_cells_follows_the_current_that_was_read() {
    // WA-1: 0.33708 mL per Ah and cell. 2 h at 10 A, then 1 h at 8 A: 28 Ah.
    let amperes = |a: f64| RunEntry::Read { gravities: vec![], celsius: None, volts: None, amperes: Some(a) };
    let entries = [(0.0, RunEntry::Began), (0.5, amperes(10.0)), (2.0, amperes(8.0))];
    for (cells, water) in [(6, 56.63), (24, 226.5)] {
        let run = run_now(&RunFrame { cells, ..frame() }, &log(&entries), &[], 3.0);
        assert_eq!(run.ampere_hours, 28.0);
        assert!((run.water - water).abs() < 0.05, "{cells}: {}", run.water);
    }
}

#[test]
fn the_feed_counts_where_it_was_there_and_the_typed_current_between() {
    // one hour of feed at 20 A, then an hour without: the current typed last, 30 A
    let feed: Vec<FeedMinute> = (0..60)
        .map(|m| FeedMinute {
            at: f64::from(m) / 60.0,
            hours: 1.0 / 60.0,
            amperes: 20.0,
            volts: 61.0,
            celsius: None,
        })
        .collect();
    let run = run_now(&frame(), &log(&[(0.0, RunEntry::Began)]), &feed, 2.0);
    assert!((run.ampere_hours - 50.0).abs() < 1e-6, "{}", run.ampere_hours);
    // a feed never ends a run
    assert_eq!(run.state.advice, Advice::GoOn);
}

#[test]
fn what_the_charger_told_at_a_moment_is_two_minutes_old_at_most() {
    let minute =
        |at: f64, amperes: f64| FeedMinute { at, hours: 1.0 / 60.0, amperes, volts: 62.0, celsius: None };
    let feed = [minute(0.5, 30.0), minute(31.0 / 60.0, 31.0), minute(1.0, 32.0)];
    let told = |at: f64| feed_at(&feed, at).map(|m| m.amperes);
    assert_eq!((told(0.4), told(0.505), told(0.53)), (None, Some(30.0), Some(31.0)));
    assert_eq!((told(0.75), told(1.02)), (None, Some(32.0)), "it was away in between");
}

#[test]
fn a_reading_is_due_half_an_hour_after_the_last_whole_one_and_overdue_after_that() {
    let due = |entries: &[(f64, RunEntry)], now: f64| at(entries, now).reading_in.unwrap();
    let mut entries = vec![(0.0, read(1230.0, 25.0)), (1.0, RunEntry::Began)];
    assert!((due(&entries, 1.2) - 0.3).abs() < 1e-9);
    assert!((due(&entries, 1.75) + 0.25).abs() < 1e-9);
    // a temperature by itself is kept and puts nothing off
    entries.push((
        1.4,
        RunEntry::Read { gravities: vec![None; 3], celsius: Some(26.0), volts: None, amperes: None },
    ));
    assert!((due(&entries, 1.75) + 0.25).abs() < 1e-9);
    entries.push((1.7, read(1236.0, 26.0)));
    assert!((due(&entries, 1.75) - 0.45).abs() < 1e-9);
    let said =
        wording::run_verdict(&at(&entries, 2.5), RunKind::Corrective, "10:12", 54.0, ReaderUnits::default());
    assert_eq!(said, "Read now: the reading of 10:12 is overdue by 18 minutes.");
}

#[test]
fn a_clock_that_is_set_changes_no_hour_of_the_run() {
    let began = (0.0, RunEntry::Began);
    // an hour on, then the clock jumps forward by five, then another hour
    let forward = [began.clone(), (6.0, RunEntry::ClockSet { hours: 5.0 })];
    assert_eq!(at(&forward, 7.0).elapsed, 2.0);
    assert_eq!(at(&forward, 7.0).clock_set, 5.0);
    // the same backward: the entry that notices it stands before the beginning
    let back = [(0.0, RunEntry::Began), (-4.0, RunEntry::ClockSet { hours: -5.0 })];
    assert_eq!(at(&back, -3.0).elapsed, 2.0);
    // nobody noticed yet: the run stands still, it never goes back
    assert_eq!(at(&[began.clone(), (1.0, read(1240.0, 30.0))], 0.2).elapsed, 1.0);
}

#[test]
fn a_stop_can_be_taken_back_as_if_it_had_not_been_pressed() {
    let stop = |at| (at, RunEntry::Ended { why: EndWhy::Hand });
    let entries = [(0.0, RunEntry::Began), stop(1.0), (1.001, RunEntry::TakenBack)];
    let run = at(&entries, 2.0);
    assert_eq!((run.phase, run.elapsed), (Phase::Running, 2.0));
    let paused = [(0.0, RunEntry::Began), (0.5, heat()), stop(1.0), (1.001, RunEntry::TakenBack)];
    assert_eq!(
        (at(&paused, 2.0).phase, at(&paused, 2.0).elapsed),
        (Phase::Paused { why: PauseWhy::Heat }, 0.5)
    );
    let over = at(&[(0.0, RunEntry::Began), stop(1.0)], 9.0);
    assert_eq!((over.phase, over.elapsed), (Phase::Ended { why: EndWhy::Hand }, 1.0));
    // nothing switches a run on that is over
    assert_eq!(at(&[(0.0, RunEntry::Began), stop(1.0), (2.0, RunEntry::Resumed)], 9.0).elapsed, 1.0);
}

#[test]
fn a_withdrawn_reading_is_as_if_it_had_not_been_typed() {
    let entries =
        [(0.0, RunEntry::Began), (0.5, read(1240.0, 60.0)), (0.6, RunEntry::Withdrawn { entry: "1".into() })];
    assert_eq!(at(&entries[..2], 0.7).state.advice, Advice::Abort);
    let run = at(&entries, 0.7);
    assert_eq!((run.state.advice, run.readings.len()), (Advice::GoOn, 0));
}

#[test]
fn the_reading_that_would_end_a_run_is_told_beforehand_and_ends_it() {
    let values = [1240.0, 1252.0, 1258.0, 1261.0, 1262.0, 1263.0, 1263.0, 1264.0];
    let mut entries = vec![(0.0, RunEntry::Began)];
    for (i, v) in (0..).zip(values) {
        entries.push((f64::from(i) * 0.5, read(v, 30.0)));
    }
    let run = at(&entries, 3.6);
    let limit = run.ends_at.unwrap();
    let next = |v: f64| {
        let mut all = entries.clone();
        all.push((4.0, read(v, 30.0)));
        at(&all, 4.0).state.advice
    };
    let ends = limit.value() * 1000.0;
    assert_eq!((next(ends), next(ends + 1.0)), (Advice::Done, Advice::GoOn));
    let said = wording::run_verdict(&run, RunKind::Corrective, "13:30", 54.0, ReaderUnits::default());
    assert!(said.ends_with(&format!("If the mean then is {limit} or less, the run is done.")), "{said}");
}

#[test]
fn heat_pauses_and_aborts_and_says_where_to_stop() {
    let hot = |celsius: f64| at(&[(0.0, RunEntry::Began), (0.5, read(1240.0, celsius))], 0.6);
    let said =
        |run: &RunNow| wording::run_verdict(run, RunKind::Corrective, "13:30", 54.0, ReaderUnits::default());
    assert_eq!(said(&hot(46.0)), "Pause the charger: a cell is at 46 °C or above. Go on under 40 °C.");
    assert_eq!(
        said(&hot(52.0)),
        "Stop now, at the charger’s switch or breaker, never at the posts: a cell is at 52 °C or above."
    );
    assert_eq!(EndWhy::by(hot(52.0).state.advice), EndWhy::Heat);
}

#[test]
fn a_plateau_is_found_from_the_published_curve() {
    // SG(t) = SG∞ − (SG∞ − SG0)·exp(−t/τ) of EQ-4 with 1.260, 1.230 and 1.6 h, without noise
    let curve = |t: f64| 1.260 - 0.030 * (-t / 1.6).exp();
    let readings: Vec<(f64, f64)> = (0..6).map(|i| f64::from(i) * 0.5).map(|t| (t, curve(t))).collect();
    assert!(forecast(RunKind::Corrective, &readings[..4], 3.3).is_none());
    let found = forecast(RunKind::Corrective, &readings, 0.1).unwrap();
    assert!((found.plateau.best - 1.260).abs() < 1e-3, "{found:?}");
    assert!((found.tau - 1.6).abs() < 0.15 && (found.at(4.0) - curve(4.0)).abs() < 1e-3);
    // by hand: the averaged rise is 30·e^(−t/τ)·(e^(1.5/τ) + e^(2/τ) − 1 − e^(0.5/τ))/2 ≤ 2 from
    // t = τ·ln(15·(2.5536 + 3.4903 − 1 − 1.3668)/2) = 5.32 h on, so at the reading of 5.5 h
    assert!((found.ends.best - 5.5).abs() < 1e-6, "{found:?}");
    // a hydrometer tells less: the same readings leave a wider interval around the same plateau
    let coarse = forecast(RunKind::Corrective, &readings, 3.3).unwrap();
    assert!(coarse.plateau.high - coarse.plateau.low > found.plateau.high - found.plateau.low);
    assert!(coarse.plateau.low <= 1.260 && 1.260 <= coarse.plateau.high, "{coarse:?}");
    // a flat run has its plateau where it is
    let flat: Vec<(f64, f64)> = (0..6).map(|i| (f64::from(i) * 0.5, 1.262)).collect();
    let found = forecast(RunKind::Corrective, &flat, 3.3).unwrap();
    assert!((found.plateau.best - 1.262).abs() < 1e-3 && found.ends.best <= 3.0, "{found:?}");
}

#[test]
fn four_in_five_intervals_hold_the_plateau() {
    // invented plateaus and paces, readings with the noise of three cells by hydrometer (SG-7: 3.3 points)
    let mut noise = Noise(0x5eed_0004);
    let (mut held, mut all) = (0, 0);
    for _ in 0..200 {
        let (rise, tau) = (0.015 + 0.03 * noise.uniform(), 0.8 + 1.5 * noise.uniform());
        let readings: Vec<(f64, f64)> = (0..7)
            .map(|i| f64::from(i) * 0.5)
            .map(|t| (t, 1.260 - rise * (-t / tau).exp() + 0.0033 / 3.0_f64.sqrt() * noise.normal()))
            .collect();
        let f = forecast(RunKind::Corrective, &readings, 3.3).unwrap();
        all += 1;
        held += i32::from(f.plateau.low <= 1.260 && 1.260 <= f.plateau.high);
    }
    assert!(held * 100 >= all * 70, "{held} of {all}");
}

#[test]
fn the_pilot_is_the_lowest_cell_and_two_low_ones_keep_it_company() {
    let bank = shape(3, 8, 2);
    let low = [
        (cell("B5-2"), sg(1.232)),
        (cell("A1-1"), sg(1.260)),
        (cell("A3-2"), sg(1.250)),
        (cell("B1-1"), sg(1.255)),
    ];
    assert_eq!(pilot(&bank, &low), Some(cell("B5-2")));
    assert_eq!(watched(&bank, &low, cell("B5-2")), [cell("B5-2"), cell("A3-2"), cell("B1-1")]);
    assert_eq!(watched(&bank, &low, cell("A1-1")), [cell("A1-1"), cell("B5-2"), cell("A3-2")]);
    // nothing read yet: both ends and the middle
    assert_eq!(watched(&bank, &[], cell("A1-1")), [cell("A1-1"), cell("B8-3"), cell("B1-1")]);
    // a bank of one cell has no other
    assert_eq!(watched(&shape(1, 1, 1), &[], cell("A1-1")), [cell("A1-1")]);
}

#[test]
fn figures_that_cannot_be_are_refused_and_unlikely_ones_asked_about() {
    let u = Points::new(3.3292);
    // a fall of 50 points between two readings; RD-3's limit is 15 points
    let asked = moved(Some(sg(1.250)), sg(1.200), u).unwrap();
    let asked = RunEntryQuestion::Reading(vec![(asked, "B5-2".parse().ok())]);
    let said = wording::run_entry_question(&asked, ReaderUnits::default());
    assert_eq!(
        said,
        "Re-read B5-2? It fell 50 points since the last reading, 1.250; up to 15 points would be usual."
    );
    assert_eq!(moved(Some(sg(1.250)), sg(1.235), u), None);
    assert_eq!(moved(None, sg(1.100), u), None);
    assert!(matches!(warmed(Some(31.0), 48.9), Some(RunQuestion::Warmed { .. })));
    assert_eq!(warmed(Some(31.0), 36.0), None);
    assert!(much_current(84.0, 840.0).unwrap().is_none() && much_current(85.0, 840.0).unwrap().is_some());
    let said = volts_on_charge(15.5, 24).unwrap_err().to_string();
    assert_eq!(
        said,
        "15.5 V over 24 cells in series is 0.65 V a cell; accepted is 45.6 to 69.6 V. Read over the whole string"
    );
    assert!(volts_on_charge(61.8, 24).is_ok() && volts_on_charge(15.5, 6).is_ok());
}

proptest! {
    #[test]
    fn hours_never_run_back_and_never_faster_than_the_clock(
        steps in prop::collection::vec((0u8..6, 0.0f64..2.0), 1..20), wait in 0.0f64..3.0
    ) {
        let mut entries = vec![(0.0, RunEntry::Began)];
        let mut t = 0.0;
        let mut last = 0.0;
        for (what, dt) in steps {
            t += dt;
            let entry = match what {
                0 => RunEntry::Paused { why: PauseWhy::Other },
                1 => RunEntry::Resumed,
                2 => RunEntry::Ended { why: EndWhy::Hand },
                3 => RunEntry::TakenBack,
                4 => RunEntry::Note { text: String::new() },
                _ => read(1240.0, 30.0),
            };
            // a stop that is taken back gives the time since it back: that is what it is for
            let back = matches!(entry, RunEntry::TakenBack);
            entries.push((t, entry));
            let run = at(&entries, t);
            prop_assert!(run.elapsed >= last - 1e-9 || back, "{} after {last}", run.elapsed);
            prop_assert!(run.elapsed <= t + 1e-9 && run.water >= 0.0);
            last = run.elapsed;
        }
        prop_assert!(at(&entries, t + wait).elapsed <= t + wait + 1e-9);
    }

    #[test]
    fn a_forecast_is_a_number_whatever_was_read(values in prop::collection::vec(1.05f64..1.33, 5..14)) {
        let readings: Vec<(f64, f64)> = (0..).map(|i| f64::from(i) * 0.5).zip(values).collect();
        if let Some(f) = forecast(RunKind::Corrective, &readings, 3.3) {
            prop_assert!(f.plateau.low <= f.plateau.best && f.plateau.best <= f.plateau.high);
            prop_assert!(f.ends.low <= f.ends.best && f.ends.best <= f.ends.high && f.ends.high <= 8.0);
            prop_assert!(f.at(1.0).is_finite());
        }
    }
}
