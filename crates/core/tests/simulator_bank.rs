//! Strings in parallel (ST-1): one voltage, shares that add up, and nothing lost between them.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::simulator::{CellKind, Drive, SimBank, SimCell, SimString, Surroundings};

const HELD: Surroundings = Surroundings::Held(25.0);

fn string(cells: usize, charged: f64) -> SimString {
    SimString::new(vec![SimCell::new(CellKind::FLOODED, 420.0).charged_to(charged); cells])
}

/// Volts of a string and its link at the share it has.
fn terminals(bank: &SimBank, i: usize, share: f64, link: f64) -> f64 {
    bank.strings()[i].cells().iter().map(|c| c.volts_at(share).0).sum::<f64>() + link * share
}

#[test]
fn equal_strings_share_alike_and_a_longer_cable_takes_less() {
    let mut even = SimBank::new(vec![string(6, 0.6), string(6, 0.6)], &[0.002, 0.002]);
    let reading = even.step(Drive::Current(-80.0), 1.0 / 60.0, HELD);
    assert!((reading.shares[0] + 40.0).abs() < 0.05, "{reading:?}");
    let mut uneven = SimBank::new(vec![string(6, 0.6), string(6, 0.6)], &[0.001, 0.003]);
    let shares = uneven.step(Drive::Current(-80.0), 1.0 / 60.0, HELD).shares;
    assert!(shares[0] < shares[1] - 5.0 && (shares[0] + shares[1] + 80.0).abs() < 1e-6, "{shares:?}");
}

#[test]
fn a_fuller_string_feeds_an_emptier_one_when_nothing_else_flows() {
    let mut bank = SimBank::new(vec![string(6, 0.9), string(6, 0.4)], &[0.002, 0.002]);
    let before: f64 = bank.strings().iter().map(|s| s.cells()[0].ampere_hours()).sum();
    let reading = bank.step(Drive::Current(0.0), 2.0, HELD);
    assert!(reading.shares[0] < -0.1 && reading.shares[1] > 0.1, "{reading:?}");
    let after: f64 = bank.strings().iter().map(|s| s.cells()[0].ampere_hours()).sum();
    // what the one lost the other has, but for self-discharge and gas
    assert!((before - after).abs() < 0.01 * before, "{before} {after}");
}

#[test]
fn a_charger_holds_its_volts_and_takes_nothing_out() {
    let mut bank = SimBank::new(vec![string(24, 0.98), string(24, 0.95)], &[0.002, 0.002]);
    let charger = Drive::Charger { volts: 61.9, amperes: 42.0 };
    let mut reading = bank.step(charger, 6.0, Surroundings::Held(25.0));
    // common practice, no source: a 24-cell bank is equalized near 61.8 V; at the end the volts hold and the current falls
    assert!((reading.volts - 61.9).abs() < 0.01 && reading.amperes < 42.0, "{reading:?}");
    assert!(reading.shares.iter().all(|s| *s > 0.0));
    reading = bank.step(Drive::Charger { volts: 48.0, amperes: 42.0 }, 0.1, HELD);
    assert!(reading.amperes.abs() < 1e-6, "{reading:?}");
}

#[test]
fn a_trickle_out_of_a_string_is_found_as_well_as_a_stream() {
    // under a thousandth of C20 an hour volts still fall with the current
    let cell = SimCell::new(CellKind::FLOODED, 420.0).charged_to(0.27);
    for amperes in [0.05, 0.3, 0.4, 2.0, 40.0] {
        let (here, slope) = cell.volts_at(-amperes);
        let found = (here - cell.volts_at(-amperes * 1.01).0) / (amperes * 0.01);
        assert!((slope / found - 1.0).abs() < 0.05, "{amperes} A: {slope} against {found}");
    }
    let mut string = string(6, 0.27);
    for volts in [11.97, 11.98, 11.985, 11.99] {
        let share = string.amperes_at(volts, 0.0073);
        let own: f64 = string.cells().iter().map(|c| c.volts_at(share).0).sum();
        assert!((own + 0.0073 * share - volts).abs() < 1e-3, "{volts} V: {share} A");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]
    #[test]
    fn shares_add_up_and_the_terminals_agree(
        a in 0.2f64..1.0, b in 0.2f64..1.0, amperes in -150.0f64..150.0, link in 0.0005f64..0.01
    ) {
        let mut bank = SimBank::new(vec![string(6, a), string(6, b)], &[0.001, link]);
        let before = bank.clone();
        let reading = bank.step(Drive::Current(amperes), 1e-6, HELD);
        prop_assert!((reading.shares.iter().sum::<f64>() - amperes).abs() < 1e-6);
        for (i, link) in [0.001, link].into_iter().enumerate() {
            let share = reading.shares[i];
            // a string that stands between charge and discharge takes a part of the jump
            if share.abs() > 1.0 {
                let v = terminals(&before, i, share, link);
                prop_assert!((v - reading.volts).abs() < 0.02, "{} {v} {}", share, reading.volts);
            }
        }
    }
}
