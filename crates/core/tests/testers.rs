//! Resistances by tester: whose baseline they are held against, in which unit they were read.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::tests_made::after_nine;
use crate::common::visits::{past, sheet};
use jiff::civil::date;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::ohmic::{OhmicUnit, resistance};
use rainshadow_core::visit::{
    Entry, EntryQuestion, PastVisit, VisitSheet, VisitUnderWay, accept, baseline_of_another_tester, ohmic,
    ohmic_baselines,
};
use rainshadow_core::wording;

/// Two strings of two twelve-volt AGM batteries.
fn launch() -> (BankShape, BatteryModel) {
    (shape(6, 2, 2), BatteryModel::generic_by_key("agm-12v-100").unwrap())
}

fn asked(shape: &BankShape, model: &BatteryModel, entry: &Entry) -> Option<EntryQuestion> {
    let visit = VisitUnderWay { shape, model, sheet: &VisitSheet::default(), taking: true };
    let now = after_nine(0.0);
    accept(("A1".parse().unwrap(), entry, now), &visit, now).unwrap()
}

fn read_ohmic(milliohms: f64, tester: &str, new_baseline: bool) -> Vec<(&'static str, Entry)> {
    let own = |milliohms| Entry::Ohmic { milliohms, tester: tester.into(), new_baseline, stands: false };
    vec![("A1", own(4.0)), ("A2", own(4.0)), ("B1", own(4.0)), ("B2", own(milliohms))]
}

#[test]
fn a_baseline_of_another_tester_is_held_against_nothing_and_can_be_set_anew() {
    let (shape, _) = launch();
    let first = past(date(2024, 1, 1), read_ohmic(3.0, "bridge", false));
    let risen = |tester: &str, new_baseline, before: &[PastVisit]| {
        let now = sheet(read_ohmic(4.1, tester, new_baseline));
        let judged = ohmic(&now, &shape, &ohmic_baselines(before));
        judged.iter().find(|j| j.battery.to_string() == "B2").unwrap().rise.unwrap()
    };
    let before = std::slice::from_ref(&first);
    assert!((risen("bridge", false, before) - 0.3667).abs() < 1e-3);
    assert!((risen("Bridge ", false, before) - 0.3667).abs() < 1e-3, "the same tester, typed otherwise");
    assert!((risen("", false, before) - 0.3667).abs() < 1e-3, "nobody said that it is another");
    // held against its mates only
    assert!((risen("clamp", false, before) - 0.025).abs() < 1e-3);
    let other = baseline_of_another_tester(&sheet(read_ohmic(4.1, "clamp", false)), &ohmic_baselines(before));
    assert_eq!(other.len(), 4);
    let anew = [first, past(date(2025, 1, 1), read_ohmic(4.1, "clamp", true))];
    assert!(risen("clamp", false, &anew) < 0.03);
    assert!(
        baseline_of_another_tester(&sheet(read_ohmic(4.1, "clamp", false)), &ohmic_baselines(&anew))
            .is_empty()
    );
}

/// Source: R = 1 / G.
#[test]
fn ohms_and_mhos_are_told_apart_and_a_wrong_unit_is_asked_about() {
    assert!((resistance(0.0041, OhmicUnit::Ohm).unwrap() - 4.1).abs() < 1e-9);
    assert!((resistance(250.0, OhmicUnit::Mho).unwrap() - 4.0).abs() < 1e-9);
    let (shape, model) = launch();
    let read =
        |milliohms, stands| Entry::Ohmic { milliohms, tester: String::new(), new_baseline: false, stands };
    assert_eq!(asked(&shape, &model, &read(4.1, false)), None);
    // 250 S typed as 250 mΩ, and 4.1 mΩ typed as 4.1 S
    for milliohms in [250.0, 1000.0 / 4.1] {
        let question = asked(&shape, &model, &read(milliohms, false)).unwrap();
        let said =
            wording::entry_question(&question, rainshadow_core::quantity::units::ReaderUnits::default());
        assert!(said.contains("milliohms or siemens"), "{said}");
        assert_eq!(asked(&shape, &model, &read(milliohms, true)), None);
    }
}
