//! CV-1: volts of single cells against the table of float, full rest and their mates.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::cell_volts::{
    CellVolts, CellVoltsJudged, CellVoltsLimit, CellVoltsWhen, judge_cell_volts, least_volts,
};
use rainshadow_core::severity::Severity;

fn judged(when: CellVoltsWhen, volts: &[f64]) -> Vec<CellVoltsJudged> {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let cell = |battery| CellAddress { battery: BatteryAddress { string: 0, battery }, cell: 1 };
    let all: Vec<CellVolts> =
        (1..).zip(volts).map(|(battery, volts)| CellVolts { cell: cell(battery), volts: *volts }).collect();
    judge_cell_volts(when, &model, &all).unwrap()
}

/// Source: IEEE 450, from memory: vented cells on a float of 2.25 V, below 2.13 V act, below 2.07 V at once.
#[test]
fn a_vented_cell_on_float_under_the_table_is_acted_on() {
    let all = judged(CellVoltsWhen::OnFloat, &[2.25, 2.13, 2.12, 2.06]);
    let conditions: Vec<Severity> = all.iter().map(|own| own.condition).collect();
    // the third and the fourth by the table
    assert_eq!(conditions[2..], [Severity::Act, Severity::Act]);
    assert_eq!(conditions[0], Severity::Steady);
    let sealed = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    assert_eq!(least_volts(CellVoltsWhen::OnFloat, &sealed), None, "the table is that of vented cells");
}

/// Common practice, no source: a tenth of a volt under its mates near the end of a discharge.
#[test]
fn near_the_end_a_tenth_under_its_mates_is_the_weak_one() {
    let all = judged(CellVoltsWhen::NearEnd, &[1.82, 1.81, 1.82, 1.71, 1.80]);
    let weak: Vec<_> = all.iter().filter(|own| own.condition == Severity::Act).collect();
    assert_eq!(weak.len(), 1);
    assert_eq!(
        (weak[0].cell.to_string().as_str(), weak[0].fails),
        ("A4-1", Some(CellVoltsLimit::UnderMates))
    );
    // one cell alone is held against nothing
    assert_eq!(judged(CellVoltsWhen::NearEnd, &[1.2])[0].condition, Severity::NoReading);
}

#[test]
fn at_rest_after_a_full_charge_five_hundredths_under_full_ask_for_an_equalize() {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let least = least_volts(CellVoltsWhen::AtRestFull, &model).unwrap();
    let all = judged(CellVoltsWhen::AtRestFull, &[least + 0.05, least, least - 0.01]);
    let conditions: Vec<Severity> = all.iter().map(|own| own.condition).collect();
    assert_eq!(conditions, [Severity::Steady, Severity::Steady, Severity::Watch]);
}

#[test]
fn volts_that_no_cell_shows_are_refused() {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let cell = CellAddress { battery: BatteryAddress { string: 0, battery: 1 }, cell: 1 };
    let why =
        judge_cell_volts(CellVoltsWhen::NearEnd, &model, &[CellVolts { cell, volts: 12.6 }]).unwrap_err();
    assert!(why.to_string().contains("-2.000 to 3.000 V"), "{why}");
}

proptest! {
    /// A higher cell never stands worse than a lower one of the same reading.
    #[test]
    fn more_volts_never_stand_worse(volts in proptest::collection::vec(1.5f64..2.6, 3..12)) {
        for when in [CellVoltsWhen::AtRestFull, CellVoltsWhen::OnFloat, CellVoltsWhen::OnCharge, CellVoltsWhen::NearEnd] {
            let mut all = judged(when, &volts);
            all.sort_by(|a, b| a.volts.total_cmp(&b.volts));
            prop_assert!(all.windows(2).all(|pair| pair[1].condition <= pair[0].condition));
        }
    }
}
