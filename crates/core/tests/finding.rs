//! What must hold of every finding of a bank, whatever was measured: its id, its limit, its words, and
//! how it counts in the state of the bank.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::facts;
use crate::common::rest::rest_sheet;
use crate::common::{past, round, shape};
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::finding::in_order;
use rainshadow_core::finding::{self, Certainty, Finding, FindingKind, Subject};
use rainshadow_core::ohmic::{OhmicReading, judge_ohmic};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{RestSheet, judge_rest};
use rainshadow_core::round::judge;
use rainshadow_core::schedule::{JudgedRound, OpenFinding};
use rainshadow_core::severity::Severity;
use rainshadow_core::water::{SPARING, THIRSTY, Uneven};
use rainshadow_core::wording;
use std::collections::HashSet;

/// Gravities of twelve cells, thousandths: even, with some far off.
fn gravities() -> impl Strategy<Value = Vec<f64>> {
    let one = prop_oneof![6 => 1250.0..1270.0f64, 1 => 1120.0..1250.0f64, 1 => 1270.0..1300.0f64];
    prop::collection::vec(one.prop_map(f64::round), 12)
}

/// Volts of four batteries of six volts.
fn volts() -> impl Strategy<Value = Vec<f64>> {
    prop::collection::vec(prop_oneof![4 => 6.30..6.40f64, 1 => 4.0..6.3f64], 4)
}

/// Resistance and case of four batteries.
fn cases() -> impl Strategy<Value = Vec<(f64, f64)>> {
    prop::collection::vec((3.0..9.0f64, 18.0..40.0f64), 4)
}

fn of_round(read: &[f64]) -> Vec<Finding> {
    let bank = shape(3, 4, 1);
    let before = vec![past(&bank, 30.0, &[0.0; 12])];
    judge(&rainshadow_core::round::RoundToJudge { past: before, ..round(bank, read) }).findings
}

fn volts_of_four(volts: &[f64]) -> RestSheet {
    rest_sheet(shape(3, 4, 1), volts)
}

fn of_resistance(cases: &[(f64, f64)]) -> Vec<Finding> {
    let readings: Vec<OhmicReading> = shape(3, 4, 1)
        .batteries()
        .zip(cases)
        .map(|(battery, (milliohms, celsius))| OhmicReading {
            battery,
            milliohms: *milliohms,
            baseline: None,
            baseline_temperature: None,
            case_temperature: Temperature::from_celsius(*celsius).ok(),
        })
        .collect();
    finding::ohmic::findings(&judge_ohmic(&readings))
}

/// Everything that gravities, volts and resistances of one visit show.
fn all(read: &[f64], volts: &[f64], cases: &[(f64, f64)]) -> Vec<Finding> {
    let rest = finding::rest::findings(&volts_of_four(volts));
    of_round(read).into_iter().chain(rest).chain(of_resistance(cases)).collect()
}

/// A cell that drinks so many times the median.
fn uneven(cell: &str, factor: f64) -> Uneven {
    Uneven { cell: cell.parse().unwrap(), factor, before: factor, more: factor > 1.0 }
}

proptest! {
    #[test]
    fn every_finding_has_an_id_of_its_own_and_can_be_told(
        read in gravities(),
        volts in volts(),
        cases in cases(),
    ) {
        let found = all(&read, &volts, &cases);
        let ids: HashSet<&str> = found.iter().map(|f| f.id.as_str()).collect();
        prop_assert_eq!(ids.len(), found.len(), "{:?}", found.iter().map(|f| &f.id).collect::<Vec<_>>());
        for finding in &found {
            prop_assert!(finding.id.starts_with(finding.kind.code()), "{}", finding.id);
            let words = wording::speak(finding, ReaderUnits::default());
            prop_assert!(!words.headline.is_empty() && !finding.rule.source().is_empty());
            // what was measured against a limit names the limit and whose it is
            if finding.certainty != Certainty::Recorded {
                let whose = finding.tolerance.as_ref().map(|t| t.whose.as_str());
                prop_assert!(whose.is_some_and(|w| !w.is_empty()), "{} has no limit", finding.id);
            }
        }
    }

    #[test]
    fn a_finding_is_the_same_after_it_was_written_down(
        read in gravities(),
        volts in volts(),
        cases in cases(),
    ) {
        for found in all(&read, &volts, &cases) {
            let text = serde_json::to_string(&found).unwrap();
            let again: Finding = serde_json::from_str(&text).unwrap();
            // figures lose at most their last digit on the way
            prop_assert_eq!(serde_json::to_string(&again).unwrap(), text);
            prop_assert_eq!((&again.id, again.subject, again.rule), (&found.id, found.subject, found.rule));
        }
    }

    #[test]
    fn a_bank_is_as_bad_as_the_worst_that_is_known_of_it(
        read in gravities(),
        volts in volts(),
        cases in cases(),
        factor in 0.1..4.0f64,
    ) {
        let judged = judge(&round(shape(3, 4, 1), &read));
        let mut known = facts();
        known.shape = shape(3, 4, 1);
        known.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
        let quiet = BankState::of(&BankKnown {
            facts: &known, round: Some(&judged), rest: None, uneven: &[],
        });
        let day = date(2026, 9, 1);
        let open = finding::rest::findings(&volts_of_four(&volts)).into_iter().chain(of_resistance(&cases));
        known.findings = open.map(|finding| OpenFinding { day, finding }).collect();
        let drinks = [uneven("A1-2", factor)];
        let state = BankState::of(&BankKnown {
            facts: &known, round: Some(&judged), rest: None, uneven: &drinks,
        });
        // knowing more never makes a bank better, and loses no finding
        prop_assert!(state.condition >= quiet.condition);
        prop_assert_eq!(state.findings.len(), quiet.findings.len() + known.findings.len() + 1);
        let worst = state.findings.iter().map(|f| f.severity).max().unwrap();
        prop_assert!(state.condition >= worst);
        // what is explained stands behind what explains it, and never leads
        for (place, finding) in state.findings.iter().enumerate() {
            if let Some(cause) = &finding.explained_by {
                prop_assert!(state.findings[..place].iter().any(|f| f.id == *cause), "{}", finding.id);
            }
        }
        // what stands open is due under the rule of its own finding
        for open in known.findings.iter().filter(|o| o.finding.severity == Severity::Act) {
            let rule = open.finding.rule;
            prop_assert!(state.due.iter().any(|item| item.rule == rule), "{} is not due", open.finding.id);
        }
    }

    #[test]
    fn findings_are_told_in_one_order_however_they_come(
        read in gravities(),
        volts in volts(),
        cases in cases(),
    ) {
        let found = all(&read, &volts, &cases);
        let backwards: Vec<Finding> = found.iter().rev().cloned().collect();
        let order = |findings: Vec<Finding>| -> Vec<(Severity, &'static str)> {
            in_order(findings).into_iter().map(|f| (f.severity, group(&f))).collect()
        };
        prop_assert_eq!(order(found), order(backwards));
    }
}

/// What a finding leads by, among those that are equally bad.
fn group(finding: &Finding) -> &'static str {
    match finding.kind {
        FindingKind::Round(_) => "round",
        FindingKind::Rest(_) => "rest",
        FindingKind::Ohmic(_) => "ohmic",
        _ => "other",
    }
}

#[test]
fn plates_that_stand_bare_lead_and_a_cell_that_drinks_comes_last() {
    let bare = finding::water::plates_bare(&["A2-1".parse().unwrap()]).unwrap();
    let drinks = finding::water::uneven(&uneven("A1-3", 1.9));
    let hot = of_resistance(&[(4.0, 22.0), (4.0, 35.0), (4.0, 22.0), (4.0, 22.0)]);
    let low = of_round(&[
        1262.0, 1262.0, 1180.0, 1262.0, 1262.0, 1262.0, 1262.0, 1262.0, 1262.0, 1262.0, 1262.0, 1262.0,
    ]);
    let told = in_order([vec![drinks], hot, low, vec![bare]].concat());
    assert_eq!(told[0].id, "plates_bare");
    assert_eq!(told.last().unwrap().id, "uneven_consumption A1-3");
    assert!(finding::water::plates_bare(&[]).is_none());
}

#[test]
fn one_thing_found_again_keeps_its_id_whatever_the_figures() {
    let drinks = |factor| finding::water::uneven(&uneven("A1-3", factor));
    assert_eq!(drinks(1.6).id, drinks(2.4).id);
    assert_ne!(drinks(1.6), drinks(2.4));
    assert_ne!(drinks(1.6).id, finding::water::uneven(&uneven("A1-2", 1.6)).id);
    let hot = |celsius| of_resistance(&[(4.0, 22.0), (4.0, celsius), (4.0, 22.0), (4.0, 22.0)]);
    let ids = |found: Vec<Finding>| found.into_iter().map(|f| f.id).collect::<Vec<_>>();
    assert_eq!(ids(hot(30.0)), ids(hot(34.0)));
}

#[test]
fn a_finding_names_whom_it_is_about() {
    assert_eq!(finding::water::uneven(&uneven("A1-3", 1.9)).subject, Subject::Cell("A1-3".parse().unwrap()));
    let hot = of_resistance(&[(4.0, 22.0), (4.0, 35.0), (4.0, 22.0), (4.0, 22.0)]);
    assert_eq!(hot[0].subject, Subject::Battery("A2".parse().unwrap()));
    // the limits of WA-5: over one and a half times the median, and under six tenths (common practice,
    // no source)
    assert!((THIRSTY - 1.5).abs() < f64::EPSILON && (SPARING - 0.6).abs() < f64::EPSILON);
    let rest = judge_rest(&volts_of_four(&[6.36, 6.36, 5.10, 6.36]));
    let short = finding::rest::findings(&volts_of_four(&[6.36, 6.36, 5.10, 6.36]));
    assert_eq!(rest.batteries[2].condition, Severity::Act);
    assert!(short.iter().any(|f| f.subject.battery() == Some("A3".parse().unwrap())), "{short:?}");
}
