//! EQ-5 over runs, as a property: what the last runs did decides, and nothing before.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, round, shape};
use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::equalize::{NonRespondingCell, Outcome, non_responding_cells};
use rainshadow_core::finding::equalize::after_runs;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Assessment;
use rainshadow_core::round::judge;
use rainshadow_core::wording;

const TODAY: Date = date(2026, 10, 8);

const CELLS: [&str; 4] = ["A1-1", "A1-2", "B5-2", "B8-3"];

/// Any outcome: which of four cells did not answer; none of them is one that did something.
fn outcome() -> impl Strategy<Value = Outcome> {
    (prop::sample::subsequence(CELLS.to_vec(), 0..=4), 0..3u8).prop_map(|(non_responding, other)| {
        if non_responding.is_empty() {
            [Outcome::Evened, Outcome::Helped, Outcome::NoEffect][usize::from(other)].clone()
        } else {
            Outcome::DidNotAnswer { cells: non_responding.into_iter().map(cell).collect() }
        }
    })
}

fn names(outcome: Option<&Outcome>) -> Vec<String> {
    match outcome {
        Some(Outcome::DidNotAnswer { cells }) => cells.iter().map(ToString::to_string).collect(),
        _ => Vec::new(),
    }
}

/// Twelve cells around 1.262, the fifth, A2-2, 38 points under them.
fn low() -> [f64; 12] {
    [263.0, 261.0, 262.0, 264.0, 224.0, 262.0, 260.0, 263.0, 261.0, 262.0, 264.0, 262.0].map(|c| 1000.0 + c)
}

fn non_responding(of: &str, times: u8) -> [NonRespondingCell; 1] {
    [NonRespondingCell { cell: cell(of), times, last: date(2026, 8, 26) }]
}

/// The sentence of a round with what the runs before it say.
fn after(judged: &Assessment, runs: &[NonRespondingCell]) -> String {
    let findings: Vec<_> = judged.findings.iter().map(|f| after_runs(f.clone(), runs)).collect();
    wording::round_verdict(&findings, &judged.summary(), TODAY, ReaderUnits::default())
}

#[test]
fn the_verdict_of_a_round_knows_what_the_runs_before_it_did() {
    let judged = judge(&round(shape(3, 4, 1), &low()));
    let said = |runs: &[NonRespondingCell]| after(&judged, runs);
    assert_eq!(said(&[]), wording::verdict(&judged, ReaderUnits::default()));
    assert_eq!(
        said(&non_responding("A1-1", 2)),
        wording::verdict(&judged, ReaderUnits::default()),
        "another cell was silent"
    );
    assert_eq!(
        said(&non_responding("A2-2", 1)),
        "Equalize once more: cell A2-2 stands 38 points below the bank and did not answer the equalize of 26 Aug."
    );
    let twice = said(&non_responding("A2-2", 2));
    assert!(
        twice.starts_with("Plan to replace battery A2: cell A2-2 stands 38 points below the bank"),
        "{twice}"
    );
    assert!(twice.ends_with("did not answer two equalizes running, the last of 26 Aug."), "{twice}");
}

#[test]
fn once_silent_asks_for_no_equalize_that_the_house_does_not_ask_for() {
    // 51 points under its mates: suspect for every house, and Light touch equalizes from 50 points on
    let mut asked = round(shape(3, 4, 1), &low().map(|v| if v < 1240.0 { 1211.0 } else { v }));
    asked.rules.spread_equalize = rainshadow_core::quantity::Points::new(80.0);
    let judged = judge(&asked);
    let said = |times| after(&judged, &non_responding("A2-2", times));
    assert_eq!(said(1), wording::verdict(&judged, ReaderUnits::default()));
    assert!(said(1).starts_with("Test cell A2-2"), "{}", said(1));
    assert!(
        said(2).starts_with("Plan to replace battery A2: cell A2-2 stands 51 points below the bank"),
        "{}",
        said(2)
    );
}

#[test]
fn a_finding_gets_its_advice_from_the_runs_where_the_house_acts() {
    let mut asked = round(shape(3, 4, 1), &low());
    let spoken = |asked: &rainshadow_core::round::RoundToJudge, times| {
        let judged = judge(asked);
        let first = &judged.findings[0];
        let runs = non_responding("A2-2", times);
        (
            wording::speak(first, ReaderUnits::default()),
            wording::speak(&after_runs(first.clone(), &runs), ReaderUnits::default()),
        )
    };
    let (_, once) = spoken(&asked, 1);
    assert_eq!(
        once.advice,
        "Equalize once more with A2-2 as the pilot; if it does not answer again, replace A2."
    );
    assert!(once.seen.ends_with("A2-2 did not answer the equalize of 26 Aug 2026."), "{}", once.seen);
    let (_, twice) = spoken(&asked, 2);
    assert!(twice.advice.starts_with("Plan to replace A2;"), "{}", twice.advice);
    // a house that only watches it is not told to act
    asked.rules = HouseRules::light_touch();
    let (before, after) = spoken(&asked, 1);
    assert_eq!(before, after);
}

proptest! {
    #[test]
    fn a_cell_is_silent_for_as_long_as_it_has_not_answered(outcomes in prop::collection::vec(outcome(), 0..8)) {
        let day = |i: usize| date(2026, 1, 1).checked_add(jiff::Span::new().days(i64::try_from(i).unwrap() * 90)).unwrap();
        let runs: Vec<_> = outcomes.iter().enumerate().map(|(i, o)| (day(i), o)).collect();
        let non_responding = non_responding_cells(&runs);
        let told: Vec<String> = non_responding.iter().map(|s| s.cell.to_string()).collect();
        prop_assert_eq!(&told, &names(outcomes.last()), "those of the last run, in its order");
        for own in &non_responding {
            let n = usize::from(own.times);
            prop_assert!(n >= 1 && n <= outcomes.len());
            prop_assert_eq!(own.last, day(outcomes.len() - 1));
            let name = own.cell.to_string();
            prop_assert!(outcomes.iter().rev().take(n).all(|o| names(Some(o)).contains(&name)));
            let before = outcomes.len().checked_sub(n + 1).map(|i| names(Some(&outcomes[i])));
            prop_assert!(before.is_none_or(|names| !names.contains(&name)), "counted to the end");
            prop_assert_eq!(own.is_given_up(), n >= 2);
        }
    }
}
