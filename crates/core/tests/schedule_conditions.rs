//! SC-1: what a finding or a measured condition asks for, and when it no longer does.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::{TODAY, facts, has, item};
use crate::common::{cell, round, shape};
use jiff::civil::date;
use rainshadow_core::equalize::NonRespondingCell;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Points, Voltage};
use rainshadow_core::round::judge;
use rainshadow_core::schedule::{BankFacts, Consequence, JudgedRound, Task, Why, due, on_the_move};
use rainshadow_core::wording::{self, DueReader};

fn reader(facts: &BankFacts) -> DueReader {
    DueReader {
        construction: facts.model.construction,
        cells: 48,
        today: TODAY,
        units: ReaderUnits::default(),
    }
}

#[test]
fn a_suspect_cell_comes_first_and_carries_the_equalize_as_its_pilot() {
    let mut f = facts();
    let round = f.round.as_mut().unwrap();
    round.suspects = vec![(cell("B5-2"), Points::new(-31.0), true)];
    round.equalize = Some((Points::new(30.0), true));
    let first = &due(&f)[0];
    assert_eq!((first.task, first.consequence), (Task::SuspectCell, Consequence::Loss));
    assert!(!has(&f, Task::Equalize), "said once");
    let said = wording::due(first, &reader(&f));
    assert_eq!(said.title, "Equalize, with B5-2 as pilot");
    assert!(said.why.starts_with("B5-2 lies 31 points under the bank and sinks"), "{}", said.why);
    // an equalize since then is answered by the next round
    f.last_equalize = Some(date(2026, 10, 3));
    assert!(!has(&f, Task::SuspectCell));
}

#[test]
fn a_spread_alone_is_a_loss_with_the_calendar_kept_beside_it() {
    let mut f = facts();
    let round = f.round.as_mut().unwrap();
    round.spread = Some(Points::new(34.0));
    round.equalize = Some((Points::new(30.0), false));
    let wanted = item(&f, Task::Equalize);
    assert_eq!((wanted.date, wanted.consequence), (date(2026, 10, 8), Consequence::Loss));
    assert_eq!(wanted.other.unwrap().date, date(2026, 11, 30));
}

#[test]
fn a_bank_that_is_never_near_full_asks_how_it_is_charged() {
    let mut f = facts();
    assert!(!has(&f, Task::Charge));
    f.round.as_mut().unwrap().never_full = Some((72.0, 75.0));
    let charge = item(&f, Task::Charge);
    assert_eq!((charge.date, charge.consequence), (date(2026, 10, 15), Consequence::Loss));
    // what a proven full charge says counts for more
    f.round.as_mut().unwrap().off_full = Some(Points::new(-22.0));
    assert!(matches!(item(&f, Task::Charge).why, Why::OffFull { .. }));
}

#[test]
fn a_cell_that_did_not_answer_is_tried_once_more_and_then_given_up() {
    let mut f = facts();
    let round = f.round.as_mut().unwrap();
    round.suspects =
        vec![(cell("B5-2"), Points::new(-35.0), true), (cell("A1-1"), Points::new(-31.0), false)];
    round.equalize = Some((Points::new(30.0), true));
    let non_responding = |times| NonRespondingCell { cell: cell("B5-2"), times, last: date(2026, 8, 26) };
    f.non_responding = vec![non_responding(1)];
    let said = wording::due(&item(&f, Task::SuspectCell), &reader(&f));
    assert_eq!(said.title, "Equalize once more, with B5-2 as pilot");
    assert!(
        said.why.ends_with(
            "it did not answer the equalize of 26 Aug, and one that does not answer twice is replaced."
        ),
        "{}",
        said.why
    );
    // given up: the other cell is the pilot now, and with none left no equalize is asked for it
    f.non_responding = vec![non_responding(2)];
    assert_eq!(wording::due(&item(&f, Task::SuspectCell), &reader(&f)).title, "Equalize, with A1-1 as pilot");
    f.round.as_mut().unwrap().suspects.truncate(1);
    assert!(!has(&f, Task::SuspectCell));
}

/// The bank after a round with these gravities, and volts of the whole bank at rest.
fn after_round(read: &[f64; 12], rest_volts: Option<f64>) -> BankFacts {
    let mut asked = round(shape(3, 4, 1), read);
    asked.conditions.rest_volts = rest_volts.map(|v| Voltage::from_volts(v).unwrap());
    let mut f = facts();
    f.shape = shape(3, 4, 1);
    f.round = Some(JudgedRound::of(date(2026, 10, 1), &judge(&asked)));
    f.last_equalize = Some(date(2025, 1, 1));
    f
}

const FULL: [f64; 12] =
    [1263.0, 1261.0, 1262.0, 1264.0, 1262.0, 1262.0, 1260.0, 1263.0, 1261.0, 1262.0, 1264.0, 1262.0];

#[test]
fn what_a_round_finds_of_the_whole_bank_is_due_and_no_equalize_beside_it() {
    // even, nothing over full: the calendar asks
    assert!(has(&after_round(&FULL, None), Task::Equalize));

    // 24 V of twelve cells that rest 2 V too low: a cell gives nothing (SG-3)
    let dead = after_round(&FULL, Some(23.3));
    let first = &due(&dead)[0];
    assert_eq!((first.about().as_str(), first.consequence), ("dead_cell", Consequence::Harm));
    assert_eq!(wording::due(first, &reader(&dead)).title, "One cell gives no volts");
    // with a cell far below its mates the dead one is likely it, and stands folded under it
    let mut low = FULL;
    low[7] = 1170.0;
    let low = after_round(&low, Some(23.3));
    let items = due(&low);
    let said = wording::due(&items[0], &reader(&low)).why;
    assert!(said.starts_with("Read the volts of A3 first, since A3-2 lies far below its mates."), "{said}");
    assert!(said.ends_with("It explains: A3-2 is far below its mates."), "{said}");
    assert!(!items.iter().any(|i| i.task == Task::SuspectCell), "told once");
    assert!(!has(&dead, Task::Equalize), "not beside a dead cell, by no calendar");

    // two cells far over full among even mates: acid in them (SG-6)
    let mut acid = FULL;
    (acid[4], acid[5]) = (1325.0, 1320.0);
    let acid = after_round(&acid, None);
    let found = item(&acid, Task::SeenFinding);
    assert!(found.about().starts_with("acid_in_cells"), "{}", found.about());
    assert_eq!((found.date, found.consequence), (date(2026, 10, 15), Consequence::Loss));
    assert!(!has(&acid, Task::Equalize));
    // charging does not take it out again
    let answered = BankFacts { round: acid.round.clone().map(JudgedRound::answered), ..acid };
    assert!(has(&answered, Task::SeenFinding) && !has(&answered, Task::Equalize));
}

#[test]
fn a_bank_that_nobody_charged_full_is_charged_and_read_again_before_any_equalize() {
    let mut asked = round(shape(3, 4, 1), &FULL.map(|v| v - 50.0));
    asked.conditions.proven_full = None;
    let mut f = facts();
    f.shape = shape(3, 4, 1);
    f.round = Some(JudgedRound::of(date(2026, 10, 1), &judge(&asked)));
    f.last_equalize = Some(date(2025, 1, 1));
    let found = item(&f, Task::SeenFinding);
    assert_eq!((found.about().as_str(), found.date), ("far_from_full", date(2026, 10, 15)));
    assert!(!has(&f, Task::Equalize));
    // twice running it is told by how it is charged, once
    f.round.as_mut().unwrap().never_full = Some((55.0, 60.0));
    assert!(has(&f, Task::Charge) && !has(&f, Task::SeenFinding));
}

#[test]
fn what_is_told_to_be_done_today_is_due_on_its_day_and_what_is_watched_has_time() {
    use crate::common::rest::rest_sheet;
    use rainshadow_core::finding;
    use rainshadow_core::rest::RestFinding;
    use rainshadow_core::schedule::OpenFinding;
    // 12.0 V on a sealed 12 V battery is a quarter charged (RD-7): "charge it fully today"
    let low = finding::rest::findings(&rest_sheet(shape(6, 2, 1), &[12.0, 12.0]));
    // 12.80 and 12.68 V rest apart (RD-7): charged, rested, read again
    let apart = finding::rest::findings(&rest_sheet(shape(6, 2, 1), &[12.80, 12.68]));
    let due_in = |found: Vec<finding::Finding>| {
        let mut f = facts();
        f.findings = found.into_iter().map(|finding| OpenFinding { day: TODAY, finding }).collect();
        let all = due(&f);
        let own = all.iter().find(|i| i.task == Task::SeenFinding).unwrap();
        TODAY.until(own.date).unwrap().get_days()
    };
    let told = wording::speak(&low[0], ReaderUnits::default()).advice;
    assert!(told.starts_with("Charge it fully today"), "{told}");
    assert_eq!(due_in(low), 0);
    assert!(matches!(apart[0].kind, finding::FindingKind::Rest(RestFinding::Apart { .. })));
    assert_eq!(due_in(apart), 30);
}

#[test]
fn joints_on_the_road_or_the_water_are_retorqued_twice_as_often() {
    for (words, moves) in [
        ("mobile library coach", true),
        ("river-survey launch", true),
        ("utility cart", true),
        ("radio relay, standby", false),
        ("Vanguard farm", false),
        ("", false),
    ] {
        assert_eq!(on_the_move(words), moves, "{words}");
    }
    let mut own = facts();
    own.last_retorque = Some(date(2026, 7, 1));
    // maker first asks for retorque and cleaning every 180 days
    assert_eq!(item(&own, Task::RetorqueAndClean).date, date(2026, 12, 28));
    own.on_the_move = true;
    let due = item(&own, Task::RetorqueAndClean);
    assert_eq!(due.date, date(2026, 9, 29));
    assert_eq!(due.why, Why::Shaken { days: 180, last: Some(date(2026, 7, 1)) });
}
