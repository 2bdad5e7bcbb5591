//! The electrolyte rules against published tables; each file's first line names its source.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::electrolyte::{
    Correction, PLAIN_COEFFICIENT, measured_rest_voltage, plain_rule_error, rule_rest_voltage,
};
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use std::path::Path;

/// What the plain rule may be off between 1.20 and 1.30, 0 to 50 °C.
const PLAIN_TOLERANCE: f64 = 0.0012;
/// What the measured-density correction may be off there.
const MEASURED_TOLERANCE: f64 = 0.0006;
/// The tables are printed to four decimals.
const PRINTED: f64 = 0.000_051;

fn rows(name: &str) -> Vec<Vec<f64>> {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/published").join(name);
    let mut reader = csv::ReaderBuilder::new().comment(Some(b'#')).from_path(path).unwrap();
    let all: Vec<Vec<f64>> =
        reader.records().map(|r| r.unwrap().iter().map(|f| f.parse().unwrap()).collect()).collect();
    // An empty or cut table would agree with everything.
    assert!(all.len() >= 24, "{name} has {} rows", all.len());
    all
}

/// Rows of a range of gravity, by the column it stands in; never none.
fn between(name: &str, column: usize, range: std::ops::Range<f64>) -> Vec<Vec<f64>> {
    let rows: Vec<Vec<f64>> = rows(name).into_iter().filter(|r| range.contains(&r[column])).collect();
    assert!(rows.len() >= 4, "{name}: {} rows between {range:?}", rows.len());
    rows
}

fn sg(value: f64) -> SpecificGravity {
    SpecificGravity::new(value).unwrap()
}

fn celsius(value: f64) -> Temperature {
    Temperature::from_celsius(value).unwrap()
}

fn plain() -> Correction {
    Correction::Plain { per_celsius: PLAIN_COEFFICIENT }
}

/// Density columns: mass %, molality, then gravity at these temperatures.
const DENSITY_AT: [f64; 5] = [15.0, 20.0, 25.0, 26.7, 40.0];

#[test]
fn correcting_a_measured_density_gives_the_density_at_the_reference() {
    let mut compared = 0;
    for row in rows("density.csv") {
        let at_reference = row[5];
        if !(1.20..=1.30).contains(&at_reference) {
            continue;
        }
        for (i, at) in DENSITY_AT.iter().enumerate() {
            let read = sg(row[2 + i]);
            for (how, tolerance) in
                [(plain(), PLAIN_TOLERANCE), (Correction::MeasuredDensity, MEASURED_TOLERANCE)]
            {
                let corrected = how.apply(read, celsius(*at), celsius(26.7)).value();
                assert!((corrected - at_reference).abs() <= tolerance, "{how:?} {read} at {at}: {corrected}");
                compared += 1;
            }
        }
    }
    assert!(compared >= 40, "only {compared} comparisons");
}

#[test]
fn correcting_weak_acid_by_measured_density_stays_right_where_the_plain_rule_errs() {
    // density.csv, 14 % acid: 1.0971 at 15 °C, 1.0912 at 26.7 °C
    for row in between("density.csv", 5, 1.06..1.20) {
        let corrected = Correction::MeasuredDensity.apply(sg(row[2]), celsius(15.0), celsius(26.7)).value();
        assert!((corrected - row[5]).abs() <= MEASURED_TOLERANCE, "{row:?}: {corrected}");
    }
}

#[test]
fn the_stated_error_of_the_plain_rule_covers_its_true_error_on_weak_acid() {
    for row in between("density.csv", 5, 1.06..1.20) {
        for (i, at) in DENSITY_AT.iter().enumerate() {
            let corrected = plain().apply(sg(row[2 + i]), celsius(*at), celsius(26.7)).value();
            let stated = plain_rule_error(sg(row[5]), celsius(*at), celsius(26.7)).value() / 1000.0;
            assert!(
                (corrected - row[5]).abs() <= stated + 2.0 * PRINTED,
                "{row:?} at {at}: {corrected}, {stated}"
            );
        }
    }
}

#[test]
fn the_error_of_the_plain_rule_agrees_with_the_published_column() {
    // The column is the largest error between 0 and 50 °C; 0 °C is the farther end from 26.7 °C.
    for row in between("temperature_coefficient.csv", 0, 1.0..1.20) {
        let stated = plain_rule_error(sg(row[0]), celsius(0.0), celsius(26.7)).value() / 1000.0;
        assert!((stated - row[4]).abs() < 1e-6, "{row:?}: {stated}");
    }
}

#[test]
fn the_worked_examples_of_the_trade_come_out() {
    // BCI, from memory: 1.250 at 110 °F is 1.262, at 50 °F 1.238, reference 80 °F, 0.004 per 10 °F.
    let bci = Correction::Plain { per_celsius: 0.0004 * 1.8 };
    let reference = Temperature::from_fahrenheit(80.0).unwrap();
    for (fahrenheit, said) in [(110.0, "1.262"), (50.0, "1.238"), (80.0, "1.250")] {
        let at = Temperature::from_fahrenheit(fahrenheit).unwrap();
        assert_eq!(bci.apply(sg(1.250), at, reference).to_string(), said);
    }
}

#[test]
fn the_measured_rest_voltage_meets_every_row_of_bode() {
    for row in rows("ocv.csv") {
        assert!((measured_rest_voltage(sg(row[0])) - row[1]).abs() < 0.001, "{row:?}");
    }
}

#[test]
fn the_rule_of_rest_voltage_is_near_bode_where_batteries_live() {
    for row in rows("ocv.csv") {
        let off = (rule_rest_voltage(sg(row[0])) - row[1]).abs();
        if (1.20..=1.30).contains(&row[0]) {
            assert!(off <= 0.010, "{row:?}: {off}");
        }
        assert!(off <= 0.024, "{row:?}: {off}");
    }
}

#[test]
fn the_general_table_of_charge_is_met_at_its_rows_and_between() {
    // BCI, from memory: 1.265/1.225/1.190/1.155/1.120 at 100/75/50/25/0 %.
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    for (gravity, percent) in [
        (1.265, 100.0),
        (1.225, 75.0),
        (1.190, 50.0),
        (1.155, 25.0),
        (1.120, 0.0),
        (1.245, 87.5),
        (1.100, 0.0),
    ] {
        let soc = model.state_of_charge(sg(gravity));
        assert!((soc.percent - percent).abs() < 1e-6, "{gravity}: {soc:?}");
    }
    let high = model.state_of_charge(sg(1.280));
    assert!((high.percent - 100.0).abs() < 1e-9 && (high.above_full.value() - 15.0).abs() < 1e-6);
}

#[test]
fn the_deep_cycle_table_obeys_the_rest_voltage_rule() {
    // Published deep-cycle table, from memory: both its columns are one source.
    let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    assert_eq!(model.soc_table.len(), 10);
    for row in &model.soc_table {
        assert!((rule_rest_voltage(row.gravity) - row.cell_volts.unwrap()).abs() < 1e-9, "{row:?}");
    }
}

#[test]
fn measured_densities_of_another_table_are_met() {
    // International Critical Tables by way of Perry's handbook, from memory: 30 % and 40 % acid. The
    // correction's own table is made from a polynomial, not from these.
    let tables = [
        ([(10.0, 1.2255), (20.0, 1.2185), (30.0, 1.2115), (40.0, 1.2046)], 1.2150),
        ([(10.0, 1.3103), (20.0, 1.3028), (30.0, 1.2953), (40.0, 1.2880)], 1.2991),
    ];
    for (row, at_25) in tables {
        for (at, read) in row {
            let corrected = Correction::MeasuredDensity.apply(sg(read), celsius(at), celsius(25.0)).value();
            assert!(
                (corrected - at_25).abs() <= MEASURED_TOLERANCE,
                "{read} at {at}: {corrected} of {at_25}"
            );
            // and the plain rule meets them within what is said of it
            let plain = plain().apply(sg(read), celsius(at), celsius(25.0)).value();
            assert!((plain - at_25).abs() <= PLAIN_TOLERANCE, "{read} at {at}: {plain} of {at_25}");
        }
    }
}
