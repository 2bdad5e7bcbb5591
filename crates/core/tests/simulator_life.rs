//! A cell over years: air and charger around it, what is done to it, what a meter shows.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::simulator::{
    CellKind, ChargerSettings, Climate, Drive, SimCell, SimCharger, SimString, Surroundings, season,
};

const MINUTE: f64 = 1.0 / 60.0;
const AIR: Surroundings = Surroundings::Air(25.0);
const CELLS: f64 = 6.0;

fn set() -> ChargerSettings {
    ChargerSettings {
        absorption: 2.45 * CELLS,
        float: 2.25 * CELLS,
        per_degree: 0.0,
        tail: 2.0,
        longest: 4.0,
    }
}

/// A string at a charger for so many hours: the highest volts, the last amperes.
fn charge(charger: &mut SimCharger, string: &mut SimString, amperes: f64, hours: f64) -> (f64, f64) {
    let (mut highest, mut last, mut left) = (0.0_f64, 0.0, hours);
    while left > 1e-9 {
        let drive = charger.drive(amperes, string.cells()[0].celsius());
        let shown = string.step(drive, MINUTE, AIR);
        charger.follow(drive, shown.volts, shown.amperes, MINUTE);
        (highest, last) = (highest.max(shown.volts), shown.amperes);
        left -= MINUTE;
    }
    (highest, last)
}

fn string(charged: f64) -> SimString {
    SimString::new(vec![SimCell::new(CellKind::FLOODED, 100.0).charged_to(charged); 6])
}

#[test]
fn a_charger_goes_from_all_it_has_to_its_volts_to_float() {
    let (mut charger, mut string) = (SimCharger::new(set()), string(0.5));
    let (highest, last) = charge(&mut charger, &mut string, 10.0, 2.0);
    assert!(highest < 14.7 && (last - 10.0).abs() < 1e-9, "all it has: {highest} V, {last} A");
    let (highest, _) = charge(&mut charger, &mut string, 10.0, 14.0);
    assert!((highest - 14.7).abs() < 0.01, "never over its absorption: {highest}");
    assert!(charger.is_done());
    let (highest, last) = charge(&mut charger, &mut string, 10.0, 6.0);
    assert!(highest < 13.6 && last < 0.5, "float: {highest} V, {last} A");
    charger.begin();
    assert!(!charger.is_done(), "a new day begins anew");
}

#[test]
fn absorption_ends_by_the_tail_or_by_the_clock() {
    // nearly full: the tail is there at once, yet it is watched for half an hour
    let (mut charger, mut full) = (SimCharger::new(set()), string(0.99));
    charge(&mut charger, &mut full, 10.0, 0.4);
    assert!(!charger.is_done());
    charge(&mut charger, &mut full, 10.0, 2.0);
    assert!(charger.is_done());
    // no tail within its hours: the clock ends it
    let slow = ChargerSettings { tail: 0.0, longest: 2.0, ..set() };
    let (mut charger, mut full) = (SimCharger::new(slow), string(0.99));
    charge(&mut charger, &mut full, 10.0, 1.5);
    assert!(!charger.is_done());
    charge(&mut charger, &mut full, 10.0, 2.0);
    assert!(charger.is_done());
}

#[test]
fn a_charger_without_a_source_lets_the_load_have_the_bank() {
    let charger = SimCharger::new(set());
    assert_eq!(charger.drive(-4.0, 25.0), Drive::Current(-4.0));
    assert_eq!(charger.drive(0.0, 25.0), Drive::Current(0.0));
    let follows = SimCharger::new(ChargerSettings { per_degree: -0.03, ..set() });
    // CH-2: −5 mV a cell and degree, six cells, ten degrees under 25
    let Drive::Charger { volts, .. } = follows.drive(10.0, 15.0) else { panic!("it charges") };
    assert!((volts - 15.0).abs() < 1e-9, "{volts}");
}

#[test]
fn a_year_is_warm_in_july_and_a_day_in_the_afternoon() {
    let valley = Climate { mean: 14.0, year: 8.0, day: 4.0 };
    assert!((season(205.0) - 1.0).abs() < 1e-9 && season(22.0) < -0.99);
    assert!((valley.air(205.0, 15.0) - 26.0).abs() < 1e-9);
    assert!((valley.air(205.0, 3.0) - 18.0).abs() < 1e-9, "half a day from the warmest hour");
    let all: f64 = (0..365).map(|day| valley.air(f64::from(day), 21.0)).sum();
    assert!((all / 365.0 - 14.0).abs() < 0.1, "the year lies around its mean");
}

#[test]
fn hard_sulfate_keeps_acid_out_of_the_electrolyte_and_wear_does_not() {
    let full = |change: fn(&mut SimCell)| {
        let mut cell = SimCell::new(CellKind::FLOODED, 100.0);
        change(&mut cell);
        cell.gravity_on_top()
    };
    let sound = full(|_| {});
    // a fifth of the plates: a fifth of the fall from full to empty, 29 points
    assert!((sound - full(|cell| cell.harden(0.2)) - 0.029).abs() < 1e-9);
    assert!((sound - full(|cell| cell.wear(0.2))).abs() < 1e-9, "shed plates bind no acid");
}

#[test]
fn a_wet_lid_loses_so_many_times_what_a_dry_one_loses() {
    let lost = |times: f64| {
        let mut cell = SimCell::new(CellKind::FLOODED, 100.0);
        cell.leak(times);
        cell.step(0.0, 720.0, Surroundings::Held(25.0));
        100.0 - cell.ampere_hours()
    };
    // 8.47e-5 an hour for a month ("The simulator", common practice, no source)
    assert!((lost(1.0) - 5.9).abs() < 0.1, "{}", lost(1.0));
    assert!((lost(3.0) / lost(1.0) - 2.83).abs() < 0.05, "{}", lost(3.0));
    assert!(lost(0.0).abs() < 1e-9);
}

#[test]
fn a_shake_mixes_what_a_slow_charge_has_layered() {
    let mut cell = SimCell::new(CellKind::FLOODED, 100.0).charged_to(0.4);
    cell.step(3.0, 10.0, Surroundings::Held(25.0));
    let on_top = cell.gravity_on_top();
    cell.shake(0.0);
    assert!(cell.gravity_on_top() > on_top + 0.005, "{on_top} to {}", cell.gravity_on_top());
}

#[test]
fn a_meter_of_resistance_sees_worn_and_cold_plates() {
    let new = SimCell::new(CellKind::AGM, 100.0);
    // 0.06 V for one C20 in an hour at 100 Ah is 0.6 mΩ
    assert!((new.milliohms() - 0.6).abs() < 1e-9);
    assert!((SimCell::aged(CellKind::AGM, 100.0, 1.0, 0.25).milliohms() - 0.9).abs() < 1e-9);
    assert!(new.clone().at(5.0).milliohms() > new.milliohms() * 1.2);
}

proptest! {
    #[test]
    fn what_is_done_to_a_cell_takes_no_charge_out_of_the_books(
        charged in 0.0..1.0f64, worn in 0.0..0.5f64, hard in 0.0..0.4f64, hours in 0.0..200.0f64,
    ) {
        let mut cell = SimCell::new(CellKind::FLOODED, 100.0).charged_to(charged);
        let before = cell.ampere_hours();
        cell.wear(worn);
        cell.harden(hard);
        cell.step(0.0, hours, AIR);
        let books = cell.charge_account();
        prop_assert!((before - cell.ampere_hours() - books.self_discharged).abs() < 1e-6);
        prop_assert!(cell.state_of_charge() <= 1.0 + 1e-9 && cell.full() > 0.0);
    }

    #[test]
    fn a_charger_never_gives_more_than_it_has(amperes in 0.1..60.0f64, charged in 0.1..0.99f64) {
        let (mut charger, mut string) = (SimCharger::new(set()), string(charged));
        for _ in 0..120 {
            let drive = charger.drive(amperes, 25.0);
            let shown = string.step(drive, MINUTE, AIR);
            prop_assert!(shown.amperes <= amperes + 1e-9 && shown.volts <= set().absorption + 1e-3);
            charger.follow(drive, shown.volts, shown.amperes, MINUTE);
        }
    }
}
