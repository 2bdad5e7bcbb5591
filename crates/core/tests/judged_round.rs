//! What the schedule reads out of a judged round, and CH-5: a bank that is never near full.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, round, sg, shape};
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::Points;
use rainshadow_core::round::FAR_FROM_FULL;
use rainshadow_core::round::{CellReading, judge};
use rainshadow_core::schedule::{Consequence, JudgedRound, RoundCharge, never_full};
use rainshadow_core::severity::Severity;

const DAY: jiff::civil::Date = date(2026, 10, 1);

/// Twelve cells at 1.280 but for one.
fn but_one(read: f64) -> JudgedRound {
    let mut cells = [1280.0; 12];
    cells[4] = read;
    let judged = judge(&round(shape(3, 4, 1), &cells));
    JudgedRound::of(DAY, &judged)
}

#[test]
fn a_steady_round_asks_for_nothing() {
    let found = but_one(1278.0);
    assert_eq!((found.day, found.condition), (DAY, Severity::Steady));
    assert_eq!(found.spread, Some(Points::new(2.0)));
    assert!(found.suspects.is_empty() && found.in_question.is_empty());
    assert_eq!((found.equalize, found.off_full, found.never_full), (None, None, None));
}

#[test]
fn a_suspect_cell_and_the_spread_it_makes_are_both_carried() {
    let found = but_one(1221.0);
    assert_eq!(found.condition, Severity::Act);
    let [(address, deviation, sinking)] = found.suspects.as_slice() else { panic!("one suspect") };
    assert_eq!((*address, deviation.value().round(), *sinking), (cell("A2-2"), -59.0, false));
    let (limit, proven_full) = found.equalize.unwrap();
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let rules = rainshadow_core::house_rules::HouseRules::maker_first();
    // 30 points, and 4.6 · 3.3292 of noise in quadrature (SG-7)
    let used = rules.balance_limits(&model).equalize.value().hypot(4.6 * 3.3292);
    assert!((limit.value() - used).abs() < 0.01, "the limit that was used: {limit}");
    assert!(proven_full);
}

#[test]
fn short_of_full_is_carried_with_its_points() {
    // every cell 25 points under the model's full gravity, after a proven full charge
    let judged = judge(&round(shape(3, 4, 1), &[1250.0; 12]));
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let short = 1250.0 - model.full_gravity.value() * 1000.0;
    let found = JudgedRound::of(DAY, &judged).off_full.unwrap();
    assert!((found.value() - short).abs() < 0.5, "{found} against {short}");
}

#[test]
fn readings_left_in_question_are_named() {
    let mut case = round(shape(3, 4, 1), &[1280.0; 12]);
    case.readings[7].reading = CellReading::Gravity { read: sg(1.020) };
    case.readings[7].stands = false;
    let found = JudgedRound::of(DAY, &judge(&case));
    assert_eq!(found.in_question, [cell("A3-2")]);
}

fn charge(percent: f64) -> RoundCharge {
    RoundCharge { percent: Some(percent), proven_full: false }
}

#[test]
fn two_rounds_running_far_from_full_are_never_full() {
    assert_eq!(never_full(&[charge(72.0), charge(80.0)]), Some((72.0, 80.0)));
    assert_eq!(never_full(&[charge(72.0), charge(80.0), charge(99.0)]), Some((72.0, 80.0)), "the last two");
    assert_eq!(never_full(&[charge(72.0)]), None, "one round says nothing");
    assert_eq!(never_full(&[charge(72.0), charge(FAR_FROM_FULL)]), None, "85 % is near");
    let proven = RoundCharge { percent: Some(72.0), proven_full: true };
    assert_eq!(never_full(&[charge(72.0), proven]), None, "it was full then");
    let unknown = RoundCharge { percent: None, proven_full: false };
    assert_eq!(never_full(&[unknown, charge(72.0)]), None, "nobody knows");
}

#[test]
fn the_mark_of_a_consequence_worsens_with_it() {
    let marks = [Consequence::Routine, Consequence::Loss, Consequence::Harm].map(Consequence::condition);
    assert_eq!(marks, [Severity::Steady, Severity::Watch, Severity::Act]);
}

proptest! {
    #[test]
    fn never_full_is_said_exactly_when_both_are_low(a in 0.0..100.0f64, b in 0.0..100.0f64) {
        let both = a < FAR_FROM_FULL && b < FAR_FROM_FULL;
        prop_assert_eq!(never_full(&[charge(a), charge(b)]).is_some(), both);
    }
}
