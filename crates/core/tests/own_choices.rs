//! Choices of a house rule set taken otherwise: every one has a name, a unit and a range.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::house_rules::{CHOICES, ChoiceError, HouseRules, Overrides, overridden, value};

#[test]
fn every_number_of_a_set_is_a_choice_with_a_range_the_shipped_sets_keep() {
    let body = serde_json::to_value(HouseRules::maker_first()).unwrap();
    let times = body["times"].as_object().unwrap();
    let numbers: Vec<&String> = body
        .as_object()
        .unwrap()
        .iter()
        .chain(times)
        .filter(|(_, v)| v.is_number() || v.is_null())
        .map(|(k, _)| k)
        .collect();
    for key in &numbers {
        assert!(CHOICES.iter().any(|c| c.key == key.as_str()), "{key} cannot be chosen");
    }
    assert_eq!(numbers.len(), CHOICES.len());
    for set in HouseRules::shipped() {
        assert_eq!(set.clone().checked(), Ok(set));
    }
}

#[test]
fn a_set_kept_before_times_were_chosen_has_the_usual_ones() {
    let mut body = serde_json::to_value(HouseRules::light_touch()).unwrap();
    body.as_object_mut().unwrap().remove("times");
    assert_eq!(serde_json::from_value::<HouseRules>(body).unwrap(), HouseRules::light_touch());
}

#[test]
fn a_refusal_names_the_choice_what_was_given_and_what_is_accepted() {
    let set = HouseRules::maker_first;
    let said = |key: &str, value: Option<f64>| set().with(key, value).unwrap_err().to_string();
    assert_eq!(
        said("water_check_days", Some(0.0)),
        "Water check at the latest 0 is not possible; accepted is 3 to 365 days"
    );
    assert_eq!(
        said("water_check_days", Some(14.5)),
        "Water check at the latest 14.5 is not whole; accepted is a whole number of days"
    );
    assert!(said("retorque_days", None).contains("is empty; accepted is 30 to 1095 days"));
    assert!(said("luck", Some(1.0)).contains("no choice “luck”"));
    assert_eq!(set().with("spread_watch", Some(f64::NAN)).unwrap_err().field(), "spread_watch");
    // a round every so many days may be left to the season
    assert_eq!(set().with("round_every_days", None).unwrap().round_every_days, None);
}

#[test]
fn choices_that_contradict_each_other_are_refused_together() {
    let own: Overrides = [("spread_watch".to_owned(), Some(40.0))].into();
    let refused = overridden(&HouseRules::maker_first(), &own).unwrap_err();
    assert!(matches!(refused, ChoiceError::Contradiction { .. }), "{refused}");
    let own: Overrides = [("usable_hours".to_owned(), Some(30.0))].into();
    assert!(overridden(&HouseRules::maker_first(), &own).is_err());
    let own: Overrides = [("water_check_days".to_owned(), Some(20.0))].into();
    let rules = overridden(&HouseRules::maker_first(), &own).unwrap();
    assert_eq!((rules.name.as_str(), rules.water_check_days), ("Maker first, own choices", 20));
    assert_eq!(overridden(&HouseRules::maker_first(), &Overrides::new()).unwrap(), HouseRules::maker_first());
}

proptest! {
    #[test]
    fn a_choice_in_its_range_is_kept_and_changes_nothing_else(index in 0..CHOICES.len(), at in 0.0..=1.0_f64) {
        let choice = &CHOICES[index];
        let wanted = (choice.low + at * (choice.high - choice.low)).round();
        let before = HouseRules::light_touch();
        let after = before.clone().with(choice.key, Some(wanted)).unwrap();
        prop_assert_eq!(value(&after, choice.key), Some(wanted));
        for other in CHOICES.iter().filter(|c| c.key != choice.key) {
            prop_assert_eq!(value(&after, other.key), value(&before, other.key));
        }
        prop_assert!(before.clone().with(choice.key, Some(choice.high + 1.0)).is_err());
        prop_assert!(before.with(choice.key, Some(choice.low - 1.0)).is_err());
    }
}
