//! Battery models: figures that contradict each other are refused by name; SG-2 on published tables.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow_core::battery_model::{BatteryModel, Construction, ModelError, RatePoint};
use rainshadow_core::electrolyte::{SocPoint, StateOfChargeBasis};
use rainshadow_core::quantity::{Charge, Points, SpecificGravity, Temperature};

fn sg(value: f64) -> SpecificGravity {
    SpecificGravity::new(value).unwrap()
}

fn generic(key: &str) -> BatteryModel {
    BatteryModel::generic_by_key(key).unwrap()
}

fn refused(change: impl FnOnce(&mut BatteryModel)) -> ModelError {
    let mut model = generic("flooded-6v-420");
    change(&mut model);
    model.checked().unwrap_err()
}

fn row(percent: f64, gravity: f64) -> SocPoint {
    SocPoint { percent, gravity: sg(gravity), cell_volts: None }
}

fn rate(hours: f64, capacity: f64) -> RatePoint {
    RatePoint { hours, capacity: Charge::from_ampere_hours(capacity).unwrap() }
}

#[test]
fn every_contradiction_is_refused_in_a_sentence_and_names_its_figure() {
    for (error, field, part) in [
        (refused(|m| m.name = "  ".into()), "name", "has no name"),
        (refused(|m| m.cells = 7), "model", "cells in one battery 7"),
        (refused(|m| m.full_gravity = sg(1.330)), "full_gravity", "accepted is 1.180 to 1.320"),
        (
            refused(|m| m.reference_temperature = Temperature::from_celsius(45.0).unwrap()),
            "reference_temperature",
            "accepted is 10 to 35 °C",
        ),
        (
            refused(|m| m.discharged_gravity = sg(1.265)),
            "full_gravity",
            "is not above the discharged gravity",
        ),
        (refused(|m| m.setpoints.float = 27.0), "model", "cell voltage 27 is not possible here"),
        (
            refused(|m| m.maker_spread_limit = Some(Points::new(0.03))),
            "maker_spread_limit",
            "5 to 100 points",
        ),
        (
            refused(|m| m.soc_table = vec![row(100.0, 1.265), row(75.0, 1.225), row(80.0, 1.190)]),
            "soc_table",
            "row 3 of the state-of-charge table does not fall",
        ),
        (
            refused(|m| m.soc_table = vec![row(100.0, 1.265), row(75.0, 1.265)]),
            "soc_table",
            "row 2 of the state-of-charge table does not fall",
        ),
        (
            refused(|m| m.full_gravity = sg(1.280)),
            "soc_table",
            "the charge table is full at 1.265, but the full-charge gravity is 1.280",
        ),
        (
            refused(|m| m.rates = vec![rate(5.0, 300.0), rate(20.0, 290.0)]),
            "rates",
            "row 2 of the rate table",
        ),
        (
            refused(|m| m.rates = vec![rate(20.0, 290.0), rate(5.0, 300.0)]),
            "rates",
            "row 2 of the rate table",
        ),
        (
            refused(|m| m.construction = Construction::Agm),
            "equalize",
            "a sealed battery has no equalize setpoint",
        ),
    ] {
        assert_eq!(error.field(), field, "{error}");
        assert!(error.to_string().contains(part), "{error}");
    }
}

#[test]
fn a_table_that_does_not_begin_at_full_is_taken() {
    let mut model = generic("flooded-6v-420");
    model.soc_table = vec![row(90.0, 1.250), row(10.0, 1.130)];
    assert!(model.checked().is_ok());
}

#[test]
fn the_deep_cycle_table_is_met_at_its_rows_and_between() {
    // A published deep-cycle table, from memory (SG-2).
    let table = [1.277, 1.258, 1.238, 1.217, 1.195, 1.172, 1.148, 1.124, 1.098, 1.073];
    let model = generic("flooded-6v-225");
    for (i, gravity) in (0..).zip(table) {
        let percent = 100.0 - 10.0 * f64::from(i);
        let soc = model.state_of_charge(sg(gravity));
        assert!((soc.percent - percent).abs() < 1e-6, "{gravity}: {soc:?}");
        assert_eq!(soc.basis, StateOfChargeBasis::ModelTable);
    }
    // halfway between 1.238 at 80 % and 1.217 at 70 %
    assert!((model.state_of_charge(sg(1.2275)).percent - 75.0).abs() < 1e-6);
    // below the last row its stretch goes on, 10 % for 25 points: 1.048 is empty, and less is not less
    assert!(model.state_of_charge(sg(1.048)).percent.abs() < 1e-6);
    assert!(model.state_of_charge(sg(1.000)).percent.abs() < 1e-9);
}

#[test]
fn without_a_table_charge_is_scaled_between_full_and_discharged() {
    let tubular = generic("tubular-2v-300");
    assert!(tubular.soc_table.is_empty());
    // full 1.240, discharged 1.100
    for (gravity, percent) in [(1.240, 100.0), (1.170, 50.0), (1.135, 25.0), (1.100, 0.0), (1.090, 0.0)] {
        let soc = tubular.state_of_charge(sg(gravity));
        assert!((soc.percent - percent).abs() < 1e-6, "{gravity}: {soc:?}");
        assert_eq!(soc.basis, StateOfChargeBasis::FullAndDischarged);
    }
    let over = tubular.state_of_charge(sg(1.252));
    assert!((over.percent - 100.0).abs() < 1e-9, "never more than full");
    assert!((over.above_full.value() - 12.0).abs() < 1e-6, "the excess is told apart");
}

#[test]
fn nominal_volts_are_two_a_cell_and_only_flooded_cells_have_caps() {
    let expect = [
        ("flooded-6v-420", 6, true),
        ("flooded-6v-370", 6, true),
        ("flooded-6v-225", 6, true),
        ("flooded-8v-170", 8, true),
        ("tubular-2v-300", 2, true),
        ("agm-12v-100", 12, false),
        ("flooded-12v-105", 12, true),
        ("standby-2v-500", 2, true),
        ("standby-6v-200", 6, true),
        ("gel-6v-180", 6, false),
    ];
    for (key, volts, caps) in expect {
        let model = generic(key);
        assert_eq!((model.nominal_volts(), model.construction.has_caps()), (volts, caps), "{key}");
    }
}

#[test]
fn a_rate_table_of_another_capacity_than_c20_is_told() {
    let mut model = generic("flooded-6v-420");
    assert_eq!(model.rates_against_c20(), None);
    let told = |model: &BatteryModel| model.rates_against_c20().map(|at| at.ampere_hours().round());
    model.rates = vec![rate(5.0, 180.0), rate(20.0, 225.0)];
    assert_eq!(told(&model), Some(225.0));
    // between its rows: 10 h 100 Ah and 40 h 400 Ah are 200 Ah at 20 h on a straight line of logarithms
    model.rates = vec![rate(10.0, 100.0), rate(40.0, 400.0)];
    assert_eq!(told(&model), Some(200.0));
    model.rates = vec![rate(5.0, 180.0), rate(10.0, 200.0)];
    assert_eq!(told(&model), None, "nothing is told beyond its rows");
    model.rates = vec![rate(20.0, 405.0)];
    assert_eq!(told(&model), None, "sheets round");
}
