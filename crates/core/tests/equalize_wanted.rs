//! EQ-1, EQ-2, EQ-3 and EQ-5: whether an equalize is wanted, whether the day is long enough, and what
//! it did. Limits are those of the house rule sets that ship and EQ-5.
#![allow(clippy::unwrap_used, clippy::float_cmp, reason = "helpers fail loudly; exact sums")]

use crate::common::cell;
use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::{BatteryModel, ModelError};
use rainshadow_core::equalize::{
    BankToEqualize, BeforeCheck, DaySource, Expected, LastRound, Outcome, Reason, RunKind, judge_after,
    non_responding_cells, plan_day, wanted,
};
use rainshadow_core::finding::BarredBy;
use rainshadow_core::finding::equalize::run_outcome;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

const TODAY: Date = date(2026, 10, 8);

fn model(key: &str) -> BatteryModel {
    BatteryModel::generic_by_key(key).unwrap()
}

fn bank(round: Option<LastRound>) -> BankToEqualize {
    BankToEqualize {
        model: model("flooded-6v-420"),
        duty: Duty::Cycled,
        today: TODAY,
        known_since: date(2024, 1, 1),
        last_equalize: Some(date(2026, 9, 1)),
        round,
        barred: None,
    }
}

fn round(spread: f64) -> LastRound {
    LastRound {
        day: date(2026, 10, 1),
        spread: Some(Points::new(spread)),
        noise: Points::new(18.6),
        proven_full: true,
        barred: None,
        short: None,
        layered: None,
    }
}

#[test]
fn a_spread_at_the_limit_asks_for_a_corrective_one_and_each_house_by_its_own_limit() {
    // 30 points and a noise of 18.6 in quadrature are 35.3
    let own = wanted(&bank(Some(round(36.0))), &HouseRules::maker_first());
    assert_eq!(own.own.kind, Some(RunKind::Corrective));
    // 30 is Maker first's limit, 20 Close watch's, 70 Light touch's
    let kinds: Vec<_> = own.others.iter().map(|h| (h.house.as_str(), h.kind)).collect();
    assert_eq!(kinds, [("Close watch", Some(RunKind::Corrective)), ("Light touch", None)]);
    let own = wanted(&bank(Some(round(35.0))), &HouseRules::maker_first());
    assert_eq!(own.own.kind, None);
    assert_eq!(
        wording::wanted_verdict(&own, TODAY),
        "No equalize is wanted today; the calendar asks on 30 Nov."
    );
    // a limit of 10 becomes 21.1 with this instrument
    let mut tight = HouseRules::close_watch();
    tight.spread_equalize = Points::new(10.0);
    let asked = wanted(&bank(Some(round(21.0))), &tight);
    assert_eq!(asked.own.kind, None);
}

#[test]
fn short_of_full_corrects_layers_stir_and_the_calendar_prevents() {
    let short = LastRound { short: Some(Points::new(-14.0)), ..round(12.0) };
    let own = wanted(&bank(Some(short)), &HouseRules::maker_first());
    assert_eq!((own.own.kind, own.own.reasons.len()), (Some(RunKind::Corrective), 1));
    let layered = LastRound { layered: Some((2.12, 2.08)), ..round(12.0) };
    assert_eq!(wanted(&bank(Some(layered)), &HouseRules::maker_first()).own.kind, Some(RunKind::Stir));
    // volts that say less full than the gravity are no layers
    let other = LastRound { layered: Some((2.04, 2.08)), ..round(12.0) };
    assert_eq!(wanted(&bank(Some(other)), &HouseRules::maker_first()).own.kind, None);
    let mut due = bank(Some(round(12.0)));
    due.last_equalize = Some(date(2026, 7, 10));
    let own = wanted(&due, &HouseRules::maker_first());
    assert_eq!(own.own.kind, Some(RunKind::Preventive));
    assert!(matches!(own.own.reasons[0], Reason::Calendar { days: 90, due, .. } if due == TODAY));
    // a bank that is kept full has no calendar for it
    due.duty = Duty::Standby;
    assert_eq!(wanted(&due, &HouseRules::maker_first()).own.kind, None);
}

#[test]
fn an_equalize_since_the_round_answers_it() {
    let mut since = bank(Some(round(45.0)));
    since.last_equalize = Some(date(2026, 10, 2));
    let own = wanted(&since, &HouseRules::maker_first());
    assert_eq!((own.own.kind, own.read_since), (None, false));
    assert_eq!(wording::wanted_verdict(&own, TODAY), "Nothing to decide by: read every cell first.");
}

#[test]
fn sealed_batteries_are_locked_until_their_makers_own_voltage_is_entered_with_its_source() {
    let mut sealed = bank(None);
    sealed.model = model("agm-12v-100");
    assert!(wanted(&sealed, &HouseRules::maker_first()).locked);
    sealed.model.setpoints.equalize = Some(2.50);
    let refused = sealed.model.clone().checked().unwrap_err();
    assert!(matches!(refused, ModelError::EqualizeOnSealed));
    sealed.model.conditioning_source = Some("  ".into());
    assert!(sealed.model.clone().checked().is_err());
    sealed.model.conditioning_source = Some("maker's manual, page 12".into());
    assert!(sealed.model.clone().checked().is_ok());
    let own = wanted(&sealed, &HouseRules::maker_first());
    // no calendar asks for it all the same
    assert_eq!((own.locked, own.own.kind, own.own.next), (false, None, None));
    let checks = BeforeCheck::of(sealed.model.construction);
    assert!(!checks.contains(&BeforeCheck::PlatesCovered) && checks.contains(&BeforeCheck::Air));
}

#[test]
fn a_run_must_end_before_dark_and_within_the_sun_and_the_fuel() {
    let hours = Expected { low: 3.0, middle: 4.5, high: 8.0 };
    let source = DaySource { sun: Some((9.5, 16.0)), fuel: None, dark: Some(18.5) };
    let day = plan_day(RunKind::Corrective, hours, &source).unwrap();
    // five minutes of pause every half hour: 4.5 h is 5.25 h by the clock, 8 h is 9.33 h
    assert!((day.clock_hours.middle - 5.25).abs() < 1e-9 && (day.clock_hours.high - 28.0 / 3.0).abs() < 1e-9);
    // the sun ends first, at 16:00
    assert!((day.start_by_usual.unwrap() - 10.75).abs() < 1e-9);
    // a long one would have to start before the sun is enough
    assert_eq!((day.start_by, day.enough, day.ample), (None, true, false));
    assert_eq!(day.condition(), Severity::Watch);
    let said =
        "A long run does not fit into this day; a usual one does when it starts from 9:30 on and by 10:45.";
    assert!(wording::day_plan(&day).iter().any(|s| s == said), "{:?}", wording::day_plan(&day));
    let dark = DaySource { sun: None, fuel: None, dark: Some(18.5) };
    let day = plan_day(RunKind::Corrective, hours, &dark).unwrap();
    assert!((day.start_by.unwrap() - (18.5 - 28.0 / 3.0)).abs() < 1e-9 && day.ample);
    assert_eq!(day.condition(), Severity::Steady);
    let fuel = DaySource { sun: None, fuel: Some((2.0, 10.0)), dark: None };
    let day = plan_day(RunKind::Corrective, hours, &fuel).unwrap();
    assert_eq!((day.enough, day.start_by, day.condition()), (false, None, Severity::Act));
    assert!((day.litres.unwrap().middle - 10.5).abs() < 1e-9);
    let short = DaySource { sun: Some((11.0, 14.0)), fuel: None, dark: None };
    let day = plan_day(RunKind::Corrective, hours, &short).unwrap();
    assert!(!day.enough && wording::day_plan(&day).iter().any(|s| s.starts_with("Not enough")));
    let wrong = DaySource { dark: Some(1830.0), ..DaySource::default() };
    assert!(plan_day(RunKind::Stir, hours, &wrong).unwrap_err().to_string().contains("0 to 24 h"));
}

fn deviations(values: &[f64]) -> Vec<(CellAddress, Points)> {
    let cells = ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"];
    cells.iter().zip(values).map(|(c, v)| (cell(c), Points::new(*v))).collect()
}

/// EQ-5 with Maker first's 15 points and a hydrometer's 3.3292 (SG-7): noise of six cells is 13.3.
fn after(before: &[f64], after: &[f64]) -> Outcome {
    let judged = judge_after(&deviations(before), &deviations(after), Points::new(15.0), Points::new(3.3292));
    judged.unwrap().outcome
}

#[test]
fn what_a_run_did_is_told_by_the_first_that_matches() {
    let before = [0.0, 4.0, -45.0, 2.0, -3.0, 1.0];
    assert_eq!(after(&before, &[0.0, 4.0, -10.0, 2.0, -3.0, 1.0]), Outcome::Evened);
    // gained 5 points, under 2u = 6.7, and still at −40
    assert_eq!(
        after(&before, &[0.0, 4.0, -40.0, 2.0, -3.0, 1.0]),
        Outcome::DidNotAnswer { cells: vec![cell("A1-3")] }
    );
    // 49 to 32: cut by a third and by more than 2√2·u = 9.4, and the cell gained 17
    assert_eq!(after(&before, &[0.0, 4.0, -28.0, 2.0, -3.0, 1.0]), Outcome::Helped);
    // even is under √(15² + 13.3²) = 20.1; 29 to 25 is nothing that can be told
    assert_eq!(
        after(&[0.0, 4.0, -25.0, 2.0, -3.0, 1.0], &[0.0, 3.0, -22.0, 2.0, -3.0, 1.0]),
        Outcome::NoEffect
    );
    assert!(
        judge_after(&deviations(&[0.0]), &deviations(&[0.0]), Points::new(15.0), Points::new(3.3)).is_none()
    );
}

#[test]
fn the_cell_that_did_not_answer_is_named_with_what_comes_next() {
    let judged = judge_after(
        &deviations(&[0.0, 4.0, -45.0, 2.0, -3.0, 1.0]),
        &deviations(&[0.0, 4.0, -44.0, 2.0, -3.0, 1.0]),
        Points::new(15.0),
        Points::new(3.3292),
    );
    assert_eq!(
        wording::outcome_verdict(&run_outcome("r1", &judged.unwrap(), "Maker first"), ReaderUnits::default()),
        "A1-3 did not answer: it is still 44 points below the bank; a gain counts from 7 points on. Equalize once more; a cell that does not answer twice is replaced."
    );
}

#[test]
fn a_cell_that_does_not_answer_twice_running_is_given_up() {
    let did_not = |cells: &[&str]| Outcome::DidNotAnswer { cells: cells.iter().map(|c| cell(c)).collect() };
    let (one, both, even) = (did_not(&["B5-2"]), did_not(&["B5-2", "A1-1"]), Outcome::Evened);
    let days = [date(2026, 3, 1), date(2026, 6, 1), date(2026, 8, 26)];
    let of = |runs: &[&Outcome]| {
        let runs: Vec<_> = days.into_iter().zip(runs.iter().copied()).collect();
        non_responding_cells(&runs)
            .iter()
            .map(|s| (s.cell.to_string(), s.times, s.is_given_up()))
            .collect::<Vec<_>>()
    };
    assert_eq!(of(&[]), []);
    assert_eq!(of(&[&one, &even]), [], "it answered since");
    assert_eq!(of(&[&one]), [("B5-2".to_owned(), 1, false)]);
    assert_eq!(of(&[&one, &both]), [("B5-2".to_owned(), 2, true), ("A1-1".to_owned(), 1, false)]);
    assert_eq!(of(&[&one, &even, &one]), [("B5-2".to_owned(), 1, false)], "running, not in all");
    let told = |runs: &[&Outcome]| {
        let runs: Vec<_> = days.into_iter().zip(runs.iter().copied()).collect();
        wording::non_responding_reason(non_responding_cells(&runs)[0], TODAY)
    };
    assert_eq!(
        told(&[&one]),
        "B5-2 did not answer the equalize of 1 Mar; one that does not answer twice is replaced."
    );
    assert_eq!(
        told(&[&even, &one, &one]),
        "B5-2 did not answer two equalizes running, the last of 26 Aug: another one brings the others together, not this cell. Replace B5 first."
    );
}

#[test]
fn every_cell_has_its_mark_before_and_after() {
    let judged = judge_after(
        &deviations(&[0.0, 4.0, -45.0, -12.0, -3.0, 1.0]),
        &deviations(&[0.0, 4.0, -44.0, -2.0, -14.0, 1.0]),
        Points::new(15.0),
        Points::new(3.3292),
    )
    .unwrap();
    let marks = |of: &str| {
        let own = judged.cells.iter().find(|c| c.cell == cell(of)).unwrap();
        (judged.condition_before(own), judged.condition_after(own))
    };
    // RD-8: steady within 10 points, which is more than the 6.7 that the instrument scatters
    assert_eq!(judged.steady().value(), 10.0);
    assert_eq!(marks("A1-1"), (Severity::Steady, Severity::Steady));
    assert_eq!(marks("A1-3"), (Severity::Watch, Severity::Act), "it did not answer");
    assert_eq!(marks("A2-1"), (Severity::Watch, Severity::Steady), "it came up");
    assert_eq!(marks("A2-2"), (Severity::Steady, Severity::Watch), "it fell");
    let told: Vec<String> = judged.told_of().map(|c| c.cell.to_string()).collect();
    assert_eq!(told, ["A1-3", "A2-1", "A2-2"]);
    // an instrument that scatters more makes the band wider
    let coarse =
        judge_after(&deviations(&[0.0, 4.0]), &deviations(&[0.0, 4.0]), Points::new(15.0), Points::new(6.0));
    assert_eq!(coarse.unwrap().steady().value(), 12.0);
}

proptest! {
    #[test]
    fn a_bank_that_is_even_afterwards_is_always_evened(
        before in prop::collection::vec(-60.0f64..20.0, 6), after_ in prop::collection::vec(-7.0f64..7.0, 6)
    ) {
        prop_assert_eq!(after(&before, &after_), Outcome::Evened);
    }

    #[test]
    fn a_wider_limit_never_asks_for_more(spread in 0.0f64..90.0, a in 10.0f64..80.0, b in 10.0f64..80.0) {
        let by = |limit: f64| {
            let mut rules = HouseRules::light_touch();
            rules.spread_equalize = Points::new(limit);
            wanted(&bank(Some(round(spread))), &rules).own.kind == Some(RunKind::Corrective)
        };
        prop_assert!(by(a.min(b)) || !by(a.max(b)));
    }
}

#[test]
fn a_dead_cell_found_by_other_means_than_a_round_bars_every_kind_and_says_so() {
    let wide = round(48.0);
    let asked = |barred| {
        let last_equalize = Some(date(2025, 1, 1));
        wanted(&BankToEqualize { barred, last_equalize, ..bank(Some(wide)) }, &HouseRules::maker_first())
    };
    assert_eq!(asked(None).own.kind, Some(RunKind::Corrective));
    let barred = asked(Some(BarredBy::DeadCell));
    assert_eq!((barred.own.kind, barred.barred), (None, Some(BarredBy::DeadCell)));
    assert!(barred.others.iter().all(|house| house.kind.is_none()));
    assert_eq!(wording::wanted_verdict(&barred, TODAY), "No equalize now. Find the dead cell first.");
    // and so where the round itself found acid, after which its calendar would ask
    let acid = LastRound { barred: Some(BarredBy::Acid), ..wide };
    let own = wanted(&bank(Some(acid)), &HouseRules::maker_first());
    assert_eq!(wording::wanted_verdict(&own, TODAY), "No equalize now. Find out about the acid first.");
}
