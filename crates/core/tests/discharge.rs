//! Timed discharges against what is published: Peukert's closed form, worked capacity examples, factor tables.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::discharge::{
    CapacityMethod, CapacityResult, CapacityTest, CapacityTestError, Drawn, NotTold, PeukertError, RatedFrom,
    capacity_condition, capacity_test, exponent, known_load, peukert_hours, rated_time, sizing_factor,
    test_factor, usual_exponents,
};
use rainshadow_core::quantity::{Charge, Temperature};
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use std::path::Path;

fn at(celsius: f64) -> Temperature {
    Temperature::from_celsius(celsius).unwrap()
}

fn model(key: &str) -> BatteryModel {
    BatteryModel::generic_by_key(key).unwrap()
}

/// A model of which nothing is published but its capacity.
fn bare(c20: f64, construction: Construction) -> BatteryModel {
    let c20 = Charge::from_ampere_hours(c20).unwrap();
    BatteryModel { c20, construction, rates: Vec::new(), ..model("agm-12v-100") }
}

fn rows(name: &str) -> Vec<Vec<Option<f64>>> {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/published").join(name);
    let mut reader = csv::ReaderBuilder::new().comment(Some(b'#')).from_path(path).unwrap();
    let all: Vec<Vec<Option<f64>>> =
        reader.records().map(|r| r.unwrap().iter().map(|f| f.parse().ok()).collect()).collect();
    assert!(all.len() >= 6, "{name} has {} rows", all.len());
    all
}

fn tested(model: &BatteryModel, drawn: &Drawn, celsius: Option<f64>, reached_end: bool) -> CapacityResult {
    let temperature = celsius.map(at);
    capacity_test(&CapacityTest { model, strings: 1, drawn, temperature, reached_end }).unwrap()
}

fn constant(amperes: f64, hours: f64) -> Drawn {
    Drawn::Constant { amperes, hours }
}

/// Source: Peukert's equation in its closed form, t = H (C / (I H))^k.
#[test]
fn peukert_is_his_closed_form() {
    assert!((peukert_hours(100.0, 5.0, 1.2) - 20.0).abs() < 1e-12);
    assert!((peukert_hours(100.0, 25.0, 1.2) - 2.8991).abs() < 5e-5);
    // slower than rated nothing is credited beyond the rated capacity
    assert!((peukert_hours(100.0, 1.0, 1.2) - 100.0).abs() < 1e-12);
    // 100 Ah in 20 h and 85 Ah in 5 h
    assert!((exponent((5.0, 20.0), (17.0, 5.0)).unwrap() - 1.1328).abs() < 5e-5);
    assert_eq!(exponent((5.0, 20.0), (5.0, 19.0)), Err(PeukertError::OneRate));
    let odd = exponent((5.0, 10.0), (17.0, 12.0)).unwrap_err();
    assert!(odd.to_string().contains("17 A lasted 12 h"), "{odd}");
    assert!(matches!(exponent((0.0, 10.0), (17.0, 2.0)), Err(PeukertError::OutOfRange(_))));
}

/// Source: the factor tables of IEEE 450 and IEEE 485, from memory, in `published/temperature_factors.csv`.
#[test]
fn temperature_factors_meet_the_rows_of_the_tables() {
    for row in rows("temperature_factors.csv") {
        let celsius = at(row[0].unwrap());
        if let Some(factor) = row[1] {
            assert!((test_factor(celsius).unwrap() - factor).abs() < 1e-9, "{celsius:?}");
        }
        assert!((sizing_factor(celsius).unwrap() - row[2].unwrap()).abs() < 1e-9, "{celsius:?}");
    }
    assert_eq!((test_factor(at(4.0)), test_factor(at(38.0))), (None, None));
    assert_eq!((sizing_factor(at(-5.0)), sizing_factor(at(52.0))), (None, None));
}

/// Source: worked examples of IEEE 450, from memory: 250 min of 300 at 21.1 °C are 87.26 %; 384 of 480 at 25 °C 80 %.
#[test]
fn worked_examples_of_the_time_adjusted_method() {
    for (ran, rated, celsius, percent) in [(250.0, 300.0, 21.1, 87.26), (384.0, 480.0, 25.0, 80.0)] {
        let own = bare(100.0, Construction::Agm);
        // the current that is rated for so long by this model
        let amperes =
            (1..200_000).map(|n| f64::from(n) / 1000.0).find(|a| rated_time(&own, *a).hours <= rated / 60.0);
        let amperes = amperes.unwrap();
        let result = tested(&own, &constant(amperes, ran / 60.0), Some(celsius), true);
        assert_eq!(result.method, CapacityMethod::TimeAdjusted);
        assert!((result.percent.unwrap() - percent).abs() < 0.02, "{:?}", result.percent);
        let [low, high] = result.range.unwrap();
        assert!(low < percent && percent < high);
    }
}

#[test]
fn a_rate_table_is_met_at_its_rows_and_goes_on_as_is_usual() {
    let own = model("flooded-6v-225");
    for row in &own.rates {
        let amperes = row.capacity.ampere_hours() / row.hours;
        let rated = rated_time(&own, amperes);
        assert!((rated.hours - row.hours).abs() < 1e-6, "{} h", row.hours);
        assert_eq!(rated.from, RatedFrom::Table);
    }
    let fastest = &own.rates[0];
    let beyond = rated_time(&own, 2.0 * fastest.capacity.ampere_hours() / fastest.hours);
    assert_eq!(beyond.from, RatedFrom::BeyondTable);
    assert!(beyond.low < beyond.hours && beyond.hours < beyond.high);
    let slowest = own.rates.last().unwrap();
    let slow = rated_time(&own, 0.5 * slowest.capacity.ampere_hours() / slowest.hours);
    assert!((slow.hours - 2.0 * slowest.hours).abs() < 1e-6, "nothing beyond the slowest row's capacity");
    assert_eq!(rated_time(&bare(100.0, Construction::Agm), 5.0).from, RatedFrom::Peukert);
}

/// Source: `published/discharge_rates.csv`, a porous-electrode model of an AGM battery; the shape within 8 %.
#[test]
fn peukert_of_an_agm_has_the_shape_of_a_porous_electrode() {
    for row in rows("discharge_rates.csv") {
        let (rate, capacity) = (row[0].unwrap(), row[1].unwrap());
        if rate > 1.0 {
            continue; // one exponent is a local fit
        }
        let [low, _, _] = usual_exponents(Construction::Agm);
        let own = rate * peukert_hours(1.0, rate, low);
        assert!((own / capacity - 1.0).abs() < 0.08, "{rate}: {own} for {capacity}");
    }
}

#[test]
fn a_test_tells_no_more_than_it_saw() {
    let own = model("flooded-6v-225");
    // stopped: at least; a minute: nothing; no temperature, or one the factors do not reach: nothing
    let stopped = tested(&own, &constant(25.0, 4.0), Some(25.0), false);
    assert!(stopped.at_least && stopped.percent.is_some());
    let minute = tested(&own, &constant(25.0, 0.02), Some(25.0), false);
    assert_eq!((minute.percent, minute.not_told), (None, Some(NotTold::TooShort)));
    // one that falls to its end at once is empty, and that is told
    assert!(tested(&own, &constant(25.0, 0.02), Some(25.0), true).percent.unwrap() < 1.0);
    assert_eq!(tested(&own, &constant(25.0, 5.0), None, true).not_told, Some(NotTold::TemperatureUnknown));
    let cold = tested(&own, &constant(25.0, 5.0), Some(0.0), true);
    assert_eq!((cold.percent, cold.not_told), (None, Some(NotTold::TemperatureOutside)));
    assert!((cold.ampere_hours - 125.0).abs() < 1e-9, "what was drawn is told all the same");
    // under an hour by current
    let fast = tested(&own, &constant(250.0, 0.4), Some(25.0), true);
    assert_eq!(fast.method, CapacityMethod::RateAdjusted);
}

#[test]
fn a_changing_current_counts_stretch_by_stretch_and_a_steady_one_as_constant() {
    let own = model("flooded-6v-225");
    let steady = Drawn::Changing { readings: vec![[0.0, 25.0], [1.0, 25.0], [5.5, 25.0]] };
    let one = tested(&own, &steady, Some(25.0), true);
    let other = tested(&own, &constant(25.0, 5.5), Some(25.0), true);
    assert!((one.percent.unwrap() - other.percent.unwrap()).abs() < 1e-6);
    let changing = Drawn::Changing { readings: vec![[0.0, 20.0], [2.0, 30.0], [4.0, 20.0]] };
    assert!((tested(&own, &changing, Some(25.0), true).ampere_hours - 100.0).abs() < 1e-9, "by trapezoid");
    let back = Drawn::Changing { readings: vec![[0.0, 20.0], [2.0, 30.0], [1.0, 20.0]] };
    let test = |drawn: &Drawn| {
        let temperature = Some(at(25.0));
        capacity_test(&CapacityTest { model: &own, strings: 1, drawn, temperature, reached_end: true })
    };
    assert_eq!(test(&back), Err(CapacityTestError::ClockWentBack { row: 3 }));
    assert_eq!(
        test(&Drawn::Changing { readings: vec![[0.0, 20.0]] }),
        Err(CapacityTestError::TooFewReadings(1))
    );
    for amperes in [0.0, -20.0] {
        let said = test(&constant(amperes, 5.0)).unwrap_err().to_string();
        assert!(
            said.contains("current of the test") && said.contains("accepted is 0.1 to 5000.0 A"),
            "{said}"
        );
    }
}

#[test]
fn the_duty_decides_what_a_result_means_and_a_range_that_reaches_over_a_limit_is_not_worse() {
    let result = |percent: f64, range: [f64; 2], at_least| CapacityResult {
        percent: Some(percent),
        range: Some(range),
        at_least,
        ..tested(&model("flooded-6v-225"), &constant(25.0, 5.0), Some(25.0), true)
    };
    let weak = result(75.0, [73.0, 77.0], false);
    assert_eq!(capacity_condition(&weak, Duty::Standby), Severity::Act);
    assert_eq!(capacity_condition(&weak, Duty::Cycled), Severity::Watch);
    let maybe = result(78.0, [74.0, 82.0], false);
    assert_eq!(capacity_condition(&maybe, Duty::Standby), Severity::Watch);
    assert_eq!(capacity_condition(&result(95.0, [92.0, 98.0], true), Duty::Standby), Severity::Steady);
    assert_eq!(capacity_condition(&result(40.0, [38.0, 42.0], true), Duty::Standby), Severity::NoReading);
    assert!((known_load(20.0, 17.0).unwrap() - 0.85).abs() < 1e-12);
    assert!(known_load(0.0, 17.0).is_err());
}

proptest! {
    #[test]
    fn more_current_never_lasts_longer_and_more_time_is_never_less_capacity(
        amperes in 1.0..300.0f64, more in 1.0..3.0f64, hours in 0.3..15.0f64, celsius in 4.5..37.7f64,
        key in prop::sample::select(vec!["flooded-6v-225", "agm-12v-100", "flooded-6v-420"]),
    ) {
        let own = model(key);
        prop_assert!(rated_time(&own, amperes * more).hours <= rated_time(&own, amperes).hours + 1e-9);
        let rated = rated_time(&own, amperes);
        prop_assert!(rated.low <= rated.hours && rated.hours <= rated.high);
        let one = tested(&own, &constant(amperes, hours), Some(celsius), true);
        let longer = tested(&own, &constant(amperes, hours * more), Some(celsius), true);
        if let (Some(a), Some(b)) = (one.percent, longer.percent) {
            prop_assert!(b >= a - 1e-6, "{a} {b}");
            let [low, high] = one.range.unwrap();
            prop_assert!(low <= a && a <= high);
        }
        // the colder, the more the same time is worth
        let warmer = tested(&own, &constant(amperes, hours), Some((celsius + 3.0).min(37.8)), true);
        if one.method == CapacityMethod::TimeAdjusted {
            prop_assert!(warmer.percent.unwrap() <= one.percent.unwrap() + 1e-9);
        }
        // two strings share the current
        let drawn = constant(2.0 * amperes, hours);
        let both = capacity_test(&CapacityTest { model: &own, strings: 2, drawn: &drawn, temperature: Some(at(celsius)), reached_end: true }).unwrap();
        prop_assert_eq!(both.percent, one.percent);
    }
}
