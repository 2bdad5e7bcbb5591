//! ST-1 on banks that are described: against published networks and closed forms, and what would even them.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::conductor::{Cable, Section};
use rainshadow_core::joints::{Joint, JointPart, Pole, joints_of};
use rainshadow_core::parallel_share::ShareChange;
use rainshadow_core::wiring::{
    BatteryResistance, Coupling, Wiring, WiringError, WiringKnown, WiringShare, against_clamp, judge_wiring,
    string_currents,
};
use rainshadow_core::wording;
use std::collections::BTreeMap;
use std::path::Path;

/// A cable without lugs of so many mΩ: 17.241 mm² of copper is one a metre.
fn cable(milliohms: f64) -> Cable {
    Cable { section: Section::SquareMillimetres(17.241), metres: milliohms, lugs: 2, lug_milliohms: 0.0 }
}

fn rails(milliohms: f64, plus_at: u8, minus_at: u8) -> Wiring {
    let (positive, negative) = (vec![cable(milliohms)], vec![cable(milliohms)]);
    Wiring { link: None, coupling: Some(Coupling::Rails { positive, negative, plus_at, minus_at }) }
}

fn busbars(milliohms: f64) -> Wiring {
    let (positive, negative) = (vec![cable(milliohms)], vec![cable(milliohms)]);
    Wiring { link: None, coupling: Some(Coupling::Busbars { positive, negative }) }
}

fn joint(battery: &str, pole: Pole, part: JointPart) -> Joint {
    Joint { battery: battery.parse().unwrap(), pole, part }
}

struct Known {
    shape: BankShape,
    model: BatteryModel,
    batteries: BTreeMap<BatteryAddress, f64>,
    joints: BTreeMap<Joint, f64>,
    bad: Vec<Joint>,
}

impl Known {
    fn of(shape: BankShape, batteries: &[(&str, f64)]) -> Self {
        let batteries = batteries.iter().map(|(b, own)| (b.parse().unwrap(), *own)).collect();
        let model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
        Self { shape, model, batteries, joints: BTreeMap::new(), bad: Vec::new() }
    }

    fn with<'a>(&'a self, wiring: &'a Wiring) -> WiringKnown<'a> {
        WiringKnown {
            shape: &self.shape,
            model: &self.model,
            wiring,
            batteries: &self.batteries,
            joints: &self.joints,
            bad: &self.bad,
        }
    }

    fn share(&self, wiring: &Wiring, amperes: f64) -> WiringShare {
        judge_wiring(&self.with(wiring), amperes).unwrap().unwrap()
    }
}

/// Two strings of two: B2 has risen, B1+ has gone bad, and the string hangs on 0.9 m more cable.
fn launch() -> (Known, Wiring) {
    let mut known = Known::of(shape(6, 2, 2), &[("A1", 4.05), ("A2", 4.0), ("B1", 4.05), ("B2", 4.9)]);
    let wiring =
        |metres| Cable { section: Section::SquareMillimetres(25.0), metres, lugs: 2, lug_milliohms: 0.05 };
    for at in joints_of(&known.shape, &[]) {
        known.joints.insert(at, 0.12);
    }
    let bad = joint("B1", Pole::Positive, JointPart::Post);
    known.joints.insert(bad, 0.62);
    known.bad = vec![bad];
    let (positive, negative) = (vec![wiring(0.45)], vec![wiring(0.45)]);
    let coupling = Coupling::Rails { positive, negative, plus_at: 1, minus_at: 1 };
    (known, Wiring { link: Some(wiring(0.30)), coupling: Some(coupling) })
}

/// Source: parallel.csv, the exact nodal solution of each network.
#[test]
fn a_bank_that_is_described_shares_as_the_published_networks_do() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/published/parallel.csv");
    let mut reader = csv::ReaderBuilder::new().comment(Some(b'#')).flexible(true).from_path(path).unwrap();
    let mut rows = 0;
    for row in reader.records() {
        let row = row.unwrap();
        let strings: u8 = row[0].parse().unwrap();
        let own: Vec<(&str, f64)> = ["A1", "B1", "C1"].into_iter().map(|b| (b, 10.0)).collect();
        let known = Known::of(shape(6, 1, strings), &own[..usize::from(strings)]);
        let wiring = match &row[1] {
            "same_end" => rails(1.0, 1, 1),
            "opposite_ends" => rails(1.0, 1, strings),
            _ => busbars(1.0),
        };
        let solved = known.share(&wiring, 60.0);
        for (at, share) in solved.now.shares.iter().enumerate() {
            let published: f64 = row[2 + at].parse().unwrap();
            assert!((100.0 * share - published).abs() < 1e-4, "{row:?} {at}: {share}");
        }
        rows += 1;
    }
    assert_eq!(rows, 5);
}

/// Source: two branches in closed form, the share of one is the resistance of the other over the sum of both.
#[test]
fn cables_joints_and_batteries_add_up_to_what_each_string_gives() {
    let (known, wiring) = launch();
    let solved = known.share(&wiring, 60.0);
    let copper = |metres: f64| 17.241 * metres / 25.0 + 0.1;
    let (a, b) = (4.05 + 4.0 + copper(0.30), 4.05 + 4.9 + copper(0.30) + 0.5 + 2.0 * copper(0.45));
    assert!((solved.now.shares[0] - b / (a + b)).abs() < 1e-9, "{:?}", solved.now.shares);
    assert_eq!(solved.resistance, BatteryResistance::Read);
    // the rails carry what the far string gives
    assert!((solved.rails[0][0] - solved.now.amperes[1]).abs() < 1e-9);
    let why = solved.why.unwrap();
    assert_eq!((why.most, why.least), (0, 1));
    for (told, made) in [(why.leads, 2.0 * copper(0.45)), (why.batteries, 0.9), (why.joints, 0.5)] {
        assert!((told - made).abs() < 1e-9, "{told} {made}");
    }
    assert_eq!(
        wording::why_uneven(&why),
        "String B hangs on more cable (0.8 mΩ), has batteries of more resistance (0.9 mΩ) and has a joint that has gone bad (0.5 mΩ)."
    );
}

#[test]
fn the_least_work_that_evens_the_strings_is_named_and_a_new_battery_comes_last() {
    let (known, wiring) = launch();
    let solved = known.share(&wiring, 60.0);
    let best = &solved.options[solved.cheapest.unwrap()];
    assert_eq!((best.change, best.remade.len(), best.renewed), (ShareChange::MoveNegative, 1, None));
    assert_eq!(wording::wiring_option(best), "remake B1+ and take the minus from the other end");
    assert!(best.shares.even && !solved.now.even);
    assert_eq!(wiring.taken_off_after(best.change, 2), Some([0, 1]), "the minus goes to the other end");
    assert_eq!(wiring.taken_off_after(ShareChange::EqualLeads, 2), None);
    // nothing before it evens them, and each comes nearer than the one before
    for pair in solved.options[..=solved.cheapest.unwrap()].windows(2) {
        assert!(pair[0].minutes <= pair[1].minutes && pair[1].shares.furthest < pair[0].shares.furthest);
        assert!(!pair[0].shares.even);
    }
    assert!(best.remade == known.bad, "what is bad is remade whatever else is done");
    let last = solved.options.last().unwrap();
    assert_eq!(last.renewed, Some("B2".parse().unwrap()));
    assert!(last.shares.furthest < best.shares.furthest, "with a new battery it is nearer still");
}

#[test]
fn an_even_bank_asks_for_nothing_but_its_bad_joint() {
    let (mut known, _) = launch();
    known.batteries = Known::of(shape(6, 2, 2), &[]).batteries;
    known.joints.clear();
    let solved = known.share(&rails(0.05, 1, 2), 60.0);
    assert!(solved.now.even && solved.why.is_none() && solved.cheapest.is_none());
    assert_eq!(solved.resistance, BatteryResistance::Usual);
    assert!(solved.options.iter().all(|own| own.change == ShareChange::AsItIs && own.remade == known.bad));
    assert_eq!(wording::uneven_does(&solved), "");
}

#[test]
fn leads_are_bolted_where_the_current_goes_on_to_the_next_string() {
    let names = |wiring: &Wiring, strings| {
        let all = joints_of(&shape(6, 2, strings), &wiring.leads(strings));
        let leads = all.iter().filter(|j| j.part == JointPart::Lead).map(ToString::to_string);
        (all.len(), leads.collect::<Vec<_>>())
    };
    assert_eq!(names(&rails(1.0, 1, 1), 2), (10, vec!["A1+ lead".into(), "A2\u{2212} lead".into()]));
    assert_eq!(names(&rails(1.0, 1, 2), 2), (10, vec!["A1+ lead".into(), "B2\u{2212} lead".into()]));
    let three = names(&rails(1.0, 1, 1), 3);
    assert_eq!((three.0, three.1.len()), (16, 4), "the first and the middle string on each rail");
    assert_eq!(names(&busbars(1.0), 2).1.len(), 4, "each string has two");
    assert_eq!(names(&Wiring::default(), 2), (8, Vec::new()));
}

#[test]
fn what_goes_through_a_joint_is_what_hangs_behind_it() {
    let known = Known::of(shape(6, 1, 3), &[("A1", 10.0), ("B1", 10.0), ("C1", 10.0)]);
    let wiring = rails(1.0, 1, 1);
    let solved = known.share(&wiring, 60.0);
    let currents = string_currents(&known.with(&wiring)).unwrap().unwrap();
    let through = |battery, part| 60.0 * currents.through(joint(battery, Pole::Positive, part)).unwrap();
    let [a, b, c] = ["A1", "B1", "C1"].map(|battery| through(battery, JointPart::Post));
    assert!((a + b + c - 60.0).abs() < 1e-9 && a > b && b > c);
    assert!((through("A1", JointPart::Lead) - (b + c)).abs() < 1e-9);
    assert!((through("B1", JointPart::Lead) - c).abs() < 1e-9);
    assert_eq!(solved.rails[0].len(), 2);
}

#[test]
fn a_bad_joint_at_a_busbar_counts_in_its_string_and_is_what_evens_them() {
    let mut known = Known::of(shape(6, 1, 2), &[("A1", 8.0), ("B1", 8.0)]);
    let wiring = busbars(0.4);
    for at in joints_of(&known.shape, &wiring.leads(2)) {
        known.joints.insert(at, 0.1);
    }
    let bad = joint("B1", Pole::Positive, JointPart::Lead);
    known.joints.insert(bad, 2.1);
    known.bad = vec![bad];
    let solved = known.share(&wiring, 60.0);
    // in closed form: 8.8 mΩ beside 10.8 mΩ
    assert!((solved.now.shares[0] - 10.8 / 19.6).abs() < 1e-9, "{:?}", solved.now.shares);
    let best = &solved.options[solved.cheapest.unwrap()];
    assert_eq!((best.change, &best.remade), (ShareChange::AsItIs, &known.bad));
    assert!((best.shares.shares[0] - 0.5).abs() < 1e-9);
}

#[test]
fn a_clamp_agrees_within_what_it_may_be_off_by() {
    let (known, wiring) = launch();
    let solved = known.share(&wiring, 60.0);
    let own = solved.now.amperes.clone();
    let agrees = against_clamp(&solved, &[own[0] + 0.4, own[1] - 0.4]).unwrap();
    assert!(agrees.agrees && (agrees.furthest - 0.4).abs() < 1e-9);
    assert_eq!(wording::clamp_said(&agrees), "clamp agrees within 0.4 A");
    let off = against_clamp(&solved, &[own[0] - 5.0, own[1] + 5.0]).unwrap();
    assert!(!off.agrees && wording::clamp_said(&off).starts_with("clamp and cables differ by 5.0 A"));
    assert_eq!(against_clamp(&solved, &[60.0]), None);
    assert_eq!(against_clamp(&solved, &[5.0, -5.0]), None);
}

#[test]
fn what_no_bank_is_wired_with_is_refused_with_what_is_accepted() {
    let thin = |section, metres| {
        let link = Some(Cable { section, metres, lugs: 2, lug_milliohms: 0.05 });
        Wiring { link, coupling: None }.checked(2).unwrap_err().to_string()
    };
    assert!(thin(Section::SquareMillimetres(0.0), 1.0).contains("0.5 to 400.0 mm"));
    assert!(thin(Section::SquareMillimetres(25.0), 1000.0).contains("0.01 to 50.00 m"));
    let end = rails(1.0, 3, 1).checked(2).unwrap_err();
    assert_eq!(end, WiringError::TakeOff { at: 3, strings: 2 });
    assert_eq!(rails(1.0, 1, 1).checked(1).unwrap_err(), WiringError::OneString);
    let two = vec![cable(1.0); 2];
    let wiring = |coupling| Wiring { link: None, coupling: Some(coupling) };
    let (positive, negative) = (two.clone(), Vec::new());
    let short = wiring(Coupling::Rails { positive, negative, plus_at: 1, minus_at: 1 });
    assert!(short.checked(2).unwrap_err().to_string().starts_with("2 strings have 1 cables between them"));
    let many = wiring(Coupling::Busbars { positive: two.clone(), negative: two });
    assert_eq!(many.checked(3).unwrap_err(), WiringError::Leads { strings: 3, given: 2 });
}

proptest! {
    /// More resistance in a string never raises its share, and what the strings give is what is drawn.
    #[test]
    fn a_worse_joint_never_gives_its_string_more(
        own in 1.0f64..30.0, other in 1.0f64..30.0, cable in 0.02f64..3.0, more in 0.0f64..5.0, amperes in 1.0f64..400.0,
    ) {
        let mut known = Known::of(shape(6, 1, 2), &[("A1", other), ("B1", own)]);
        let at = joint("B1", Pole::Negative, JointPart::Post);
        for other in joints_of(&known.shape, &[]) {
            known.joints.insert(other, 0.1);
        }
        let before = known.share(&rails(cable, 1, 1), amperes);
        known.joints.insert(at, 0.1 + more);
        let after = known.share(&rails(cable, 1, 1), amperes);
        prop_assert!(after.now.shares[1] <= before.now.shares[1] + 1e-9);
        prop_assert!((after.now.amperes.iter().sum::<f64>() - amperes).abs() < 1e-6 * amperes);
    }

    /// A bank and its mirror image get mirrored answers.
    #[test]
    fn a_mirrored_bank_shares_the_other_way_round(own in 1.0f64..30.0, other in 1.0f64..30.0, cable in 0.02f64..3.0) {
        let known = Known::of(shape(6, 1, 2), &[("A1", own), ("B1", other)]);
        let mirror = Known::of(shape(6, 1, 2), &[("A1", other), ("B1", own)]);
        let (one, two) = (known.share(&rails(cable, 1, 1), 60.0), mirror.share(&rails(cable, 2, 2), 60.0));
        prop_assert!((one.now.shares[0] - two.now.shares[1]).abs() < 1e-9);
        prop_assert_eq!(one.now.even, two.now.even);
    }
}
