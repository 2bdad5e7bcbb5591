//! Whether something may be written down of a run of an equalize.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow_core::battery_model::Construction;
use rainshadow_core::equalize::{
    BeforeCheck, EndWhy, LoggedEntry, PauseWhy, RunEntry, RunEntryQuestion, RunFrame, RunKind, RunNow,
    RunQuestion, RunRefused, RunUnderWay, accept, run_now,
};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Points, SpecificGravity};
use rainshadow_core::wording;

/// A corrective run of 24 cells that is watched by three.
fn frame(checks: &[BeforeCheck]) -> RunFrame<'_> {
    RunFrame {
        kind: RunKind::Corrective,
        cells: 24,
        watched: 3,
        checks,
        noise: 2.0,
        full: SpecificGravity::new(1.265).unwrap(),
        meant_amperes: 20.0,
        meant: None,
    }
}

/// Where a run of three watched cells stands after these entries, an hour apart.
fn stands(entries: Vec<RunEntry>) -> RunNow {
    let checks = BeforeCheck::of(Construction::Flooded);
    let frame = frame(&checks);
    let confirmed = checks.iter().map(|check| RunEntry::Confirmed { check: *check });
    let log: Vec<LoggedEntry> = confirmed
        .map(|entry| (0.0, entry))
        .chain((0u8..).map(f64::from).zip(entries))
        .enumerate()
        .map(|(number, (at, entry))| LoggedEntry { id: number.to_string(), at, entry })
        .collect();
    let last = log.last().map_or(0.0, |l| l.at);
    run_now(&frame, &log, &[], last)
}

fn asked(
    now: &RunNow,
    over_for: Option<f64>,
    entry: &RunEntry,
    stands: bool,
) -> Result<Option<RunEntryQuestion>, RunRefused> {
    let watched = ["A1-1".parse().unwrap(), "A1-2".parse().unwrap(), "A1-3".parse().unwrap()];
    let took_back = RunEntry::Withdrawn { entry: "0".into() };
    let log = [LoggedEntry { id: "back".into(), at: 0.0, entry: took_back }];
    let noise = Points::new(2.0);
    let run = RunUnderWay { now, watched: &watched, noise, capacity: 840.0, log: &log, over_for, pace: 1.0 };
    accept(entry, stands, &run)
}

fn read(pilot: f64, celsius: f64) -> RunEntry {
    let sg = |value| SpecificGravity::new(value).ok();
    RunEntry::Read {
        gravities: vec![sg(pilot), sg(1.265), sg(1.266)],
        celsius: Some(celsius),
        volts: None,
        amperes: None,
    }
}

#[test]
fn a_run_goes_from_state_to_state_and_by_no_other_way() {
    let before = stands(Vec::new());
    let pause = RunEntry::Paused { why: PauseWhy::Reading };
    let end = RunEntry::Ended { why: EndWhy::Hand };
    assert_eq!(asked(&before, None, &RunEntry::Began, false), Ok(None));
    assert_eq!(asked(&before, None, &pause, false), Err(RunRefused::NotOn));
    assert_eq!(asked(&before, None, &end, false), Err(RunRefused::NotBegun));
    let running = stands(vec![RunEntry::Began]);
    assert_eq!(asked(&running, None, &RunEntry::Began, false), Err(RunRefused::BegunAlready));
    assert_eq!(asked(&running, None, &RunEntry::Resumed, false), Err(RunRefused::NotPaused));
    assert_eq!(asked(&running, None, &pause, false), Ok(None));
    assert_eq!(asked(&running, None, &end, false), Ok(None));
    let over = stands(vec![RunEntry::Began, end.clone()]);
    for entry in [RunEntry::Began, pause, RunEntry::Resumed, end, read(1.25, 25.0)] {
        assert_eq!(asked(&over, Some(60.0), &entry, false), Err(RunRefused::Over { why: EndWhy::Hand }));
    }
    let note = RunEntry::Note { text: "smelt fine".into() };
    assert_eq!(asked(&over, Some(60.0), &note, false), Ok(None));
    let said = wording::run_refused(&RunRefused::Over { why: EndWhy::Rule });
    assert_eq!(said, "The run is over: stopped by the rule. Nothing more is written into it but notes.");
}

#[test]
fn nobody_begins_before_everything_is_seen_to() {
    let checks = BeforeCheck::of(Construction::Flooded);
    let frame = frame(&checks);
    let nothing = run_now(&frame, &[], &[], 0.0);
    assert_eq!(asked(&nothing, None, &RunEntry::Began, true), Err(RunRefused::ChecksOpen));
    let skipped = RunEntry::Skipped { check: checks[0], reason: " ".into() };
    assert_eq!(asked(&nothing, None, &skipped, false), Err(RunRefused::NoReason));
}

#[test]
fn a_stop_is_taken_back_for_ten_seconds() {
    let over = stands(vec![RunEntry::Began, RunEntry::Ended { why: EndWhy::Hand }]);
    let back = |seconds| asked(&over, seconds, &RunEntry::TakenBack, false);
    assert_eq!(back(Some(9.0)), Ok(None));
    assert_eq!(back(Some(30.0)), Err(RunRefused::StoppedLongAgo));
    assert_eq!(back(None), Err(RunRefused::NotStopped));
}

#[test]
fn figures_that_jump_are_asked_about_with_their_cell_and_can_be_kept() {
    let once = stands(vec![RunEntry::Began, read(1.240, 24.0)]);
    assert_eq!(asked(&once, None, &read(1.245, 25.0), false), Ok(None));
    let jumped = read(1.270, 38.0);
    let Ok(Some(RunEntryQuestion::Reading(all))) = asked(&once, None, &jumped, false) else { panic!() };
    assert!(matches!(all[0], (RunQuestion::Moved { .. }, Some(cell)) if cell.to_string() == "A1-1"));
    assert!(matches!(all[1], (RunQuestion::Warmed { .. }, None)));
    assert_eq!(all.len(), 2);
    assert_eq!(asked(&once, None, &jumped, true), Ok(None));
    // a tenth of C20 is the most that a run has (EQ-3)
    let much = RunEntry::Read { gravities: vec![], celsius: None, volts: None, amperes: Some(85.0) };
    let Ok(Some(RunEntryQuestion::Reading(all))) = asked(&once, None, &much, false) else { panic!() };
    assert_eq!(all, [(RunQuestion::MuchCurrent { amperes: 85.0, most: 84.0 }, None)]);
    let nothing = RunEntry::Read { gravities: vec![None, None], celsius: None, volts: None, amperes: None };
    assert_eq!(asked(&once, None, &nothing, false), Err(RunRefused::NoFigure));
}

#[test]
fn a_run_paused_for_heat_goes_on_cooled_or_by_the_word_of_who_stays_with_it() {
    let heat = RunEntry::Paused { why: PauseWhy::Heat };
    let hot = stands(vec![RunEntry::Began, read(1.250, 47.0), heat.clone()]);
    let question = asked(&hot, None, &RunEntry::Resumed, false).unwrap();
    assert_eq!(question, Some(RunEntryQuestion::StillHot(47.0)));
    let said = wording::run_entry_question(&question.unwrap(), ReaderUnits::default());
    assert!(said.starts_with("Go on at 47 °C?") && said.contains("under 40 °C"), "{said}");
    assert_eq!(asked(&hot, None, &RunEntry::Resumed, true), Ok(None));
    let cooled = stands(vec![RunEntry::Began, read(1.250, 47.0), heat, read(1.250, 38.0)]);
    assert_eq!(asked(&cooled, None, &RunEntry::Resumed, false), Ok(None));
}

#[test]
fn only_a_reading_of_this_run_is_taken_back_or_what_took_one_back() {
    let once = stands(vec![RunEntry::Began, read(1.240, 24.0)]);
    let own = once.readings[0].id.clone();
    assert_eq!(asked(&once, None, &RunEntry::Withdrawn { entry: own }, false), Ok(None));
    let again = RunEntry::Withdrawn { entry: "back".into() };
    assert_eq!(asked(&once, None, &again, false), Ok(None));
    let other = RunEntry::Withdrawn { entry: "0".into() };
    assert_eq!(asked(&once, None, &other, false), Err(RunRefused::NoSuchReading));
}
