//! What a technician reads before, during and after a run: every sentence says what to do, then why.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, sg};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::ChargerTemperature;
use rainshadow_core::equalize::{
    Alarm, BeforeCheck, EndWhy, Load, LoggedEntry, Outcome, PauseWhy, RunEntry, RunEntryQuestion, RunFrame,
    RunKind, RunNow, RunPlan, RunQuestion, RunToPlan, judge_after, plan_run, run_now,
};
use rainshadow_core::feed::{Answering, FeedStage};
use rainshadow_core::finding::Certainty;
use rainshadow_core::finding::equalize::run_outcome;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::quantity::{Points, Temperature};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

fn units() -> ReaderUnits {
    ReaderUnits::default()
}

fn fahrenheit() -> ReaderUnits {
    ReaderUnits { temperature: TemperatureUnit::Fahrenheit, ..ReaderUnits::default() }
}

/// A run of a 24-cell bank with these entries, looked at after so many hours.
fn run(kind: RunKind, entries: &[(f64, RunEntry)], now: f64) -> RunNow {
    let checks = [BeforeCheck::Air];
    let frame = RunFrame {
        kind,
        cells: 24,
        watched: 3,
        checks: &checks,
        noise: 3.3,
        full: rainshadow_core::quantity::SpecificGravity::new(1.265).unwrap(),
        meant_amperes: 30.0,
        meant: None,
    };
    let log: Vec<LoggedEntry> = entries
        .iter()
        .enumerate()
        .map(|(i, (at, entry))| LoggedEntry { id: i.to_string(), at: *at, entry: entry.clone() })
        .collect();
    run_now(&frame, &log, &[], now)
}

fn said(kind: RunKind, entries: &[(f64, RunEntry)], now: f64) -> String {
    wording::run_verdict(&run(kind, entries, now), kind, "13:30", 54.0, units())
}

fn began() -> (f64, RunEntry) {
    (0.0, RunEntry::Began)
}

fn paused(why: PauseWhy) -> (f64, RunEntry) {
    (0.2, RunEntry::Paused { why })
}

fn plan() -> RunPlan {
    let asked = RunToPlan {
        kind: RunKind::Corrective,
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        cells: 24,
        strings: 2,
        temperature: Temperature::from_celsius(25.0).unwrap(),
        charger: ChargerTemperature::default(),
        source_amperes: None,
        loads: vec![Load { name: "dome drive".into(), highest_volts: 60.0 }],
        earlier_hours: Vec::new(),
        enclosure: None,
    };
    plan_run(&asked).unwrap()
}

#[test]
fn before_it_begins_the_checks_are_named_and_then_the_next_press() {
    assert_eq!(said(RunKind::Stir, &[], 0.0), "See to these before the charger is switched to equalize.");
    let confirmed = [(0.0, RunEntry::Confirmed { check: BeforeCheck::Air })];
    assert!(said(RunKind::Stir, &confirmed, 0.1).starts_with("All is seen to. Switch the charger"));
}

#[test]
fn a_check_says_its_figures_where_it_has_any() {
    // VE-1 and CH-2 for 24 cells at 25 °C: 61.9 V, 840 Ah at 5 %: 0.05 · 24 · 42 = 50.4 m³/h
    let plan = plan();
    let of = |check| wording::before_check(check, &plan, units());
    assert!(of(BeforeCheck::Air).1.starts_with("50.4 m³ an hour, or openings of 1411 cm²"));
    assert_eq!(of(BeforeCheck::LoadsOff).1, "Disconnect dome drive (60.0 V): the bank goes to 61.9 V.");
    assert_eq!(of(BeforeCheck::Cool).1, "Hottest cell under 40 °C.");
    assert_eq!(wording::before_check(BeforeCheck::Cool, &plan, fahrenheit()).1, "Hottest cell under 104 °F.");
    // every check has a name and something to see to, and no two are called alike
    let checks = BeforeCheck::of(BatteryModel::generic_by_key("flooded-6v-420").unwrap().construction);
    let names: std::collections::BTreeSet<String> = checks.iter().map(|c| of(*c).0).collect();
    assert_eq!((names.len(), checks.iter().all(|c| of(*c).1.len() > 10)), (checks.len(), true));
}

#[test]
fn pauses_say_what_they_wait_for() {
    let reading = said(RunKind::Corrective, &[began(), paused(PauseWhy::Reading)], 0.3);
    assert!(reading.starts_with("Charger off, fan on, face shield"), "{reading}");
    let g = Some(sg(1.250));
    let taken = RunEntry::Read { gravities: vec![g; 3], celsius: Some(30.0), volts: None, amperes: None };
    let kept = said(RunKind::Corrective, &[began(), paused(PauseWhy::Reading), (0.25, taken.clone())], 0.3);
    assert_eq!(kept, "The reading is kept. Switch the charger on again and press Resume.");
    // a Resume that is forgotten would leave hours with the charger on uncounted
    let long = [began(), paused(PauseWhy::Reading), (0.25, taken)];
    let forgotten = said(RunKind::Corrective, &long, 0.4);
    assert!(forgotten.starts_with("Paused for 12 minutes: is the charger on again?"), "{forgotten}");
    assert!(run(RunKind::Corrective, &long, 0.4).pause_forgotten());
    let other = said(RunKind::Corrective, &[began(), paused(PauseWhy::Other)], 0.3);
    assert!(other.starts_with("Paused. The clock of the run stands"), "{other}");
    // nobody has read it: it may be as hot as before
    let unread = said(RunKind::Corrective, &[began(), paused(PauseWhy::Heat)], 0.3);
    assert_eq!(unread, "Wait: go on only once the hottest cell is under 40 °C.");
    let cold = RunEntry::Read { gravities: Vec::new(), celsius: Some(38.0), volts: None, amperes: None };
    let cooled = said(RunKind::Corrective, &[began(), paused(PauseWhy::Heat), (0.25, cold)], 0.3);
    assert_eq!(cooled, "It has cooled. Switch the charger on again and press Resume.");
}

#[test]
fn every_end_says_why_and_what_to_do_with_the_charger() {
    let stir = said(RunKind::Stir, &[began()], 1.0);
    assert_eq!(
        stir,
        "Stop: the hour of a stir is over. In the charger, turn the charger down to float, 54.0 V."
    );
    let cap = said(RunKind::Corrective, &[began()], 8.0);
    assert!(
        cap.starts_with("Stop: 8 h is as long as such a run goes. It is stopped, not finished."),
        "{cap}"
    );
    let ends: Vec<&str> =
        [EndWhy::Rule, EndWhy::Cap, EndWhy::Heat, EndWhy::Hand].into_iter().map(wording::end_said).collect();
    assert!(ends.iter().all(|s| s.starts_with("The run is over: stopped")), "{ends:?}");
    assert!(wording::stop_help(27.2).contains("27.2 V. One press here ends and logs the run."));
}

#[test]
fn the_rule_and_the_forecast_say_when_they_cannot_speak_yet() {
    let early = run(RunKind::Corrective, &[began()], 0.2);
    assert!(
        wording::rule_said(&early, RunKind::Corrective)
            .ends_with("It takes four readings over an hour and a half.")
    );
    assert_eq!(
        wording::run_forecast(&early, RunKind::Corrective),
        "Nothing is forecast before five readings of all watched cells."
    );
    assert_eq!(wording::run_forecast(&early, RunKind::Stir), "Nothing is forecast for a stir.");
    assert_eq!(wording::rule_said(&early, RunKind::Stir), "A stir ends by time alone, after one hour.");
}

#[test]
fn spans_are_said_as_people_say_them() {
    let all: Vec<String> = [0.01, 0.5, 1.4, 1.5, 7.99].into_iter().map(wording::run_span).collect();
    assert_eq!(all, ["1 minute", "30 minutes", "84 minutes", "1 h 30", "7 h 59"]);
}

fn asked(question: RunQuestion, cell: Option<&str>, units: ReaderUnits) -> String {
    let cell = cell.map(|c| c.parse().unwrap());
    wording::run_entry_question(&RunEntryQuestion::Reading(vec![(question, cell)]), units)
}

#[test]
fn questions_name_the_figure_and_what_would_be_usual() {
    let rose = RunQuestion::Moved { by: Points::new(22.0), before: sg(1.240), within: Points::new(15.0) };
    assert_eq!(
        asked(rose, Some("A7-1"), units()),
        "Re-read A7-1? It rose 22 points since the last reading, 1.240; up to 15 points would be usual."
    );
    let warm = RunQuestion::Warmed { by: 17.0, before: 31.0 };
    let said = asked(warm, None, fahrenheit());
    assert!(said.contains("warmer than at the last reading, 87.8 °F. Is the unit right?"), "{said}");
    let much = asked(RunQuestion::MuchCurrent { amperes: 120.0, most: 84.0 }, None, units());
    assert!(much.starts_with("120.0 A is more than a run has: never above 84.0 A"), "{much}");
}

#[test]
fn outcomes_are_short_in_a_list_and_carry_their_rule() {
    let cells = ["A1-1", "A1-2", "A1-3"];
    let with = |values: [f64; 3]| {
        cells.iter().zip(values).map(|(c, v)| (cell(c), Points::new(v))).collect::<Vec<_>>()
    };
    let judged =
        judge_after(&with([0.0, -40.0, 2.0]), &with([0.0, -38.0, 2.0]), Points::new(15.0), Points::new(3.3))
            .unwrap();
    assert_eq!(wording::outcome_short(&judged.outcome), "A1-2 did not answer");
    let said = wording::speak(&run_outcome("r1", &judged, "Maker first"), ReaderUnits::default());
    assert_eq!(said.headline, "A1-2 did not answer");
    assert_eq!(said.seen, "It is still 38 points below the bank; a gain counts from 7 points on.");
    assert_eq!(
        said.rule,
        "EQ-5, what an equalize did: limit 15 points (Maker first), 19 with this instrument"
    );
    assert_eq!((said.severity, said.cells), (Severity::Act, vec!["A1-2".to_owned()]));
    // three cells of a coarser hydrometer scatter by more than the rule allows: then noise sets the limit
    let coarse =
        judge_after(&with([0.0, -20.0, 9.0]), &with([0.0, -16.0, 9.0]), Points::new(15.0), Points::new(9.0));
    let finding = run_outcome("r2", &coarse.unwrap(), "Maker first");
    assert_eq!((finding.id.as_str(), finding.certainty), ("run_outcome r2", Certainty::WithinInstrument));
    let short: Vec<String> =
        [Outcome::Evened, Outcome::Helped, Outcome::NoEffect].iter().map(wording::outcome_short).collect();
    assert_eq!(short, ["evened", "helped", "no effect"]);
    assert_eq!(wording::unread_after(&[]), "");
    assert!(
        wording::unread_after(&[cell("B5-2")]).starts_with("Not judged: B5-2 has no reading that stands")
    );
}

#[test]
fn kinds_have_names_and_say_what_they_are_for() {
    assert_eq!(wording::run_kind_name(RunKind::Corrective), "Corrective");
    for kind in [RunKind::Corrective, RunKind::Preventive, RunKind::Stir] {
        assert!(wording::run_kind_for(kind).ends_with('.') && !wording::run_kind(kind).is_empty());
    }
    assert_eq!(wording::signed_points(Points::new(-1.0)), "\u{2212}1 point");
    assert_eq!(wording::signed_points(Points::new(19.0)), "+19 points");
}

fn read(celsius: f64) -> RunEntry {
    let g = Some(sg(1.24));
    RunEntry::Read { gravities: vec![g; 3], celsius: Some(celsius), volts: None, amperes: None }
}

#[test]
fn the_room_hears_the_most_pressing_thing_and_the_title_says_it() {
    let corrective = RunKind::Corrective;
    let heard = |entries: &[(f64, RunEntry)], now: f64| {
        let own = run(corrective, entries, now);
        (own.alarm(), wording::run_title(own.alarm(), own.phase, "Kestrel Dome"))
    };
    let first = (0.0, read(20.0));
    let title = |said: &str| format!("{said} \u{b7} Kestrel Dome");
    assert_eq!(heard(&[], 1.0), (None, title("Before the run")));
    assert_eq!(heard(&[began(), first.clone()], 0.4), (None, title("Equalizing")));
    assert_eq!(heard(&[began(), first.clone()], 0.6), (Some(Alarm::Reading), title("Reading due")));
    // 46 °C pauses, 52 °C stops (EQ-4), and a stop is heard in a pause too
    let warm = [began(), (0.1, read(46.5))];
    assert_eq!(heard(&warm, 0.2), (Some(Alarm::Pause), title("Pause the charger")));
    let paused_hot = [warm[0].clone(), warm[1].clone(), paused(PauseWhy::Heat)];
    assert_eq!(heard(&paused_hot, 0.3), (None, title("Paused")));
    let hot = [warm[0].clone(), paused(PauseWhy::Heat), (0.3, read(52.0))];
    assert_eq!(heard(&hot, 0.4), (Some(Alarm::Stop), title("STOP the charger")));
    // a pause for a reading that nobody ends
    assert_eq!(
        heard(&[began(), paused(PauseWhy::Reading)], 0.9),
        (Some(Alarm::Resume), title("Press Resume"))
    );
    let over = [began(), (0.5, RunEntry::Ended { why: EndWhy::Hand })];
    assert_eq!(heard(&over, 9.0), (None, title("Run over")));
}

#[test]
fn the_log_tells_what_is_not_told_elsewhere() {
    let line = |entry| wording::run_entry(&entry, false);
    assert_eq!(line(RunEntry::Confirmed { check: BeforeCheck::Air }), None);
    assert_eq!(line(read(20.0)), None);
    assert_eq!(line(RunEntry::Paused { why: PauseWhy::Heat }).unwrap(), "Paused to cool.");
    assert_eq!(line(RunEntry::Note { text: "fan on two".into() }).unwrap(), "fan on two");
    let taken = RunEntry::Withdrawn { entry: "1".into() };
    assert_eq!(line(taken.clone()).unwrap(), "A reading was taken back.");
    assert_eq!(wording::run_entry(&taken, true).unwrap(), "The reading that was taken back counts again.");
    let back = line(RunEntry::ClockSet { hours: -1.5 }).unwrap();
    assert!(back.starts_with("The clock of this machine was set back by 1 h 30;"), "{back}");
    assert_eq!(wording::clock_set(0.0), "");
    assert!(wording::clock_set(0.5).contains("set by 30 minutes while this ran"));
    assert_eq!(
        wording::run_over(RunKind::Corrective, 3.02, Some(EndWhy::Rule)),
        "corrective, 3:01 h, stopped by the rule"
    );
    assert!(wording::run_over(RunKind::Stir, 0.5, None).ends_with("stopped by hand"));
}

#[test]
fn figures_of_a_plan_say_how_they_come_about() {
    // EQ-4: 2 to 5 % of 840 Ah, never above a tenth; VE-1: 50.4 m³/h
    let figures = wording::plan_figures(&plan(), units());
    let of = |name: &str| figures.iter().find(|f| f.name == name).unwrap();
    assert_eq!((of("Current").value.as_str(), of("Current").unit), ("17 to 42", "A"));
    assert!(of("Current").how.contains("never above 84 A (EQ-4)"));
    assert_eq!(of("Air").value, "50.4");
    assert!(of("Hours").how.contains("as such runs usually go; stopped at 8 h"));
    assert_eq!(wording::most_amperes(&plan()), "17 to 42 A suit it, never above 84 A");
    assert_eq!(wording::run_limits(fahrenheit()), "pause at 114.8 °F, stop at 125.6 °F");
    assert_eq!(wording::run_cap(RunKind::Corrective), "EQ-4 ends any corrective run at 8:00");
    // 2 h at 30 A, two strings: 30 Ah a cell, 10.1 mL (WA-1)
    let own = run(RunKind::Corrective, &[began()], 2.0);
    assert!((own.water_a_cell(2) - 10.11).abs() < 0.01, "{}", own.water_a_cell(2));
    let how = wording::run_water(&own, 24, 2, units());
    assert!(how.starts_with("60.0 Ah of the bank over 24 cells in series, 10 mL a cell (WA-1)"), "{how}");
}

#[test]
fn a_feed_says_what_is_wrong_with_it_and_what_to_do() {
    let said = |feed, marked| wording::feed_said(feed, "12:04", marked);
    assert!(said(Answering::NotConnected, 0).ends_with("type what its display shows."));
    assert_eq!(
        said(Answering::Answers { stage: Some(FeedStage::Charging) }, 0),
        "The charger answers, charging."
    );
    assert_eq!(
        said(Answering::Answers { stage: None }, 1),
        "The charger answers. One sample of this run did not count."
    );
    let stopped = said(Answering::Stopped { stage: Some(FeedStage::Charging) }, 12);
    assert!(stopped.contains("it last did at 12:04, charging. The run goes on:"), "{stopped}");
    assert!(stopped.ends_with("12 samples of this run did not count."), "{stopped}");
    let left = said(Answering::LeftRun { stage: FeedStage::Holding }, 0);
    assert_eq!(left, "The charger says it is holding (float): has it left equalize?");
}
