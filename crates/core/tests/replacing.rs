//! Replacing one battery: the house's limit for a new one (school 16: up to 12 months, 12 to 18 with a warning), and
//! RP-2 for a used one (within 12 months and 10 % of capacity).
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::replacing::{Gone, UsedBattery, one_new, used_match};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

fn used(months: Option<f64>, capacity: Option<f64>) -> UsedBattery {
    UsedBattery { months, capacity, milliohms: None }
}

#[test]
fn a_new_battery_joins_as_each_house_lets_it() {
    let all = HouseRules::shipped();
    // Maker first, Close watch, Light touch: 12, 6 and 18 months
    for (months, expected) in [
        (4.0, [Severity::Steady, Severity::Steady, Severity::Steady]),
        (12.0, [Severity::Steady, Severity::Act, Severity::Steady]),
        (15.0, [Severity::Watch, Severity::Act, Severity::Steady]),
        (24.0, [Severity::Act, Severity::Act, Severity::Watch]),
        (40.0, [Severity::Act, Severity::Act, Severity::Act]),
    ] {
        let told: Vec<Severity> = all.iter().map(|h| one_new(Some(months), h).condition).collect();
        assert_eq!(told, expected, "{months} months");
    }
    assert_eq!(one_new(None, &all[0]).condition, Severity::Watch, "nobody knows, nobody forbids");
}

#[test]
fn the_limit_is_said_with_the_age_it_is_applied_to() {
    let rules = HouseRules::maker_first();
    let said = |months| wording::one_new(&one_new(months, &rules), &rules.name);
    assert_eq!(
        said(Some(8.0)),
        "Maker first lets one new battery into a bank up to 12 months; this one is 8 months old, so it may."
    );
    assert!(said(Some(15.0)).ends_with("it can still be done, and the new one ages faster."));
    assert!(
        said(Some(36.0)).contains("this one is 3.0 years old. A new battery is pulled down by its old mates")
    );
    assert!(said(None).contains("nobody said when this one went into service"));
}

#[test]
fn a_used_battery_is_held_against_age_and_capacity() {
    for (own, bank, expected) in [
        (used(Some(30.0), Some(94.0)), Some(34.0), Severity::Steady),
        (used(Some(20.0), Some(94.0)), Some(34.0), Severity::Act),
        (used(Some(30.0), Some(85.0)), Some(34.0), Severity::Act),
        (used(Some(30.0), None), Some(34.0), Severity::Watch),
        (used(Some(30.0), Some(94.0)), None, Severity::Watch),
        (used(None, None), None, Severity::Watch),
    ] {
        assert_eq!(used_match(&own, bank).condition, expected, "{own:?} in {bank:?}");
    }
    let said = wording::used_match(&used_match(&used(Some(30.0), Some(92.0)), Some(34.0)));
    assert_eq!(
        said,
        "A match: 4 months younger than the bank, tested at 92 % of its capacity (RP-2: within 12 months and 10 %)."
    );
    let own = UsedBattery { milliohms: Some(3.1), ..used(Some(30.0), None) };
    assert_eq!(wording::used_battery(&own), "used, 2.5 years old, not tested, 3.10 mΩ");
}

#[test]
fn what_cannot_be_is_refused() {
    for odd in [used(Some(-1.0), None), used(Some(900.0), None), used(None, Some(180.0))] {
        assert!(odd.clone().checked().is_err(), "{odd:?}");
    }
    assert!(used(Some(30.0), Some(92.0)).checked().is_ok());
    // only what is kept can come in again
    assert_eq!(Gone::ALL.map(Gone::can_come_back), [false, false, true, false]);
}

proptest! {
    #[test]
    fn an_older_bank_is_never_judged_more_kindly(months in 0.0..200.0_f64, more in 0.0..100.0_f64) {
        for rules in HouseRules::shipped() {
            let judge = |m| one_new(Some(m), &rules).condition;
            prop_assert!(judge(months) <= judge(months + more));
        }
    }
}
