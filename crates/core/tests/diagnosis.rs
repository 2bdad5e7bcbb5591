//! DG-1: the score, what is folded, what to measure next; signs of readings by date.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::diagnosis::{
    CellGravity, ChargerSettings, ChargingRecord, Diagnosis, Evidence, Hypothesis, MeasuredBattery,
    Measurement, ResistancesRead, RestVoltsRead, RoundRead, SeenSign, Sign, Standing, StringMeasured,
    TimedDischarge, WaterUse, Weights, diagnose, next_measurements, signs,
};
use rainshadow_core::quantity::SpecificGravity;
use rainshadow_core::wording;

const FLOODED: (bool, u8) = (true, 2);

fn told(keys: &[&str]) -> Diagnosis {
    let signs: Vec<Sign> =
        keys.iter().map(|key| Sign { sign: (*key).into(), seen: String::new(), of: String::new() }).collect();
    diagnose(&signs, FLOODED, Weights::shipped()).unwrap()
}

fn points(own: &Diagnosis, hypothesis: Hypothesis) -> f64 {
    own.ranked.iter().find(|r| r.hypothesis == hypothesis).unwrap().score
}

/// Checked by hand: prior -4, of each group the weight of greatest size, a tie to the negative one.
#[test]
fn of_each_group_the_strongest_counts_once() {
    let own = told(&["one_risen", "one_gives_way", "one_gives_out"]);
    assert!((points(&own, Hypothesis::WeakCell) - (-4.0 + 6.0 + 3.0 + 6.0)).abs() < 1e-9);
    // two of one group: the greater, not both
    let same = told(&["one_risen", "some_risen_a_fifth"]);
    assert!((points(&same, Hypothesis::WeakCell) - 2.0).abs() < 1e-9);
    // +3 and -3 of one group: against
    let five = [(Hypothesis::ShortedCell, 5)].into_iter().collect();
    let house = Weights::of_house(&[("one_gives_way".to_owned(), five)].into_iter().collect()).unwrap();
    let signs = ["one_gives_way", "loads_evenly"];
    let signs = signs.map(|key| Sign { sign: key.into(), seen: String::new(), of: String::new() });
    let tie = diagnose(&signs, FLOODED, &house).unwrap();
    assert!((points(&tie, Hypothesis::ShortedCell) - (-4.0 - 5.0)).abs() < 1e-9);
    // healthy gathers points once
    assert!(points(&told(&["full_and_even", "full_volts_right"]), Hypothesis::Healthy) <= 3.0);
}

/// The joints were measured and the tops were looked at; the ground was not.
#[test]
fn of_two_that_stand_alike_the_one_that_was_looked_for_less_comes_first() {
    let own = told(&["powder", "near_mates"]);
    let at = |hypothesis| own.ranked.iter().position(|r| r.hypothesis == hypothesis).unwrap();
    assert!((points(&own, Hypothesis::SelfDischarge) - points(&own, Hypothesis::StandingDraw)).abs() < 1e-9);
    // Looking over shows both; the record, which would show the draw best, was not looked at.
    let only_ohmic = told(&["near_mates"]);
    let at_ohmic = |h| only_ohmic.ranked.iter().position(|r| r.hypothesis == h).unwrap();
    assert!(
        at_ohmic(Hypothesis::Overcharge) < at_ohmic(Hypothesis::WornOut),
        "resistances would have shown it"
    );
    assert!(at(Hypothesis::BadJoint) < at(Hypothesis::SelfDischarge));
    // A battery that lacks a cell is not called weak.
    let dead = told(&["battery_cell_missing", "one_falls_a_cell", "one_risen", "one_gives_out"]);
    assert_eq!(dead.first().unwrap().hypothesis, Hypothesis::ShortedCell);
}

#[test]
fn what_leads_is_likely_only_with_a_lead_and_two_groups() {
    let one = told(&["capacity_low"]);
    assert!(!one.enough);
    assert!(wording::diagnosis_verdict(&one).starts_with("Not enough to tell"));
    let two = told(&["one_risen", "one_gives_out", "one_cell_low"]);
    assert_eq!(
        (two.first().unwrap().hypothesis, two.first().unwrap().standing),
        (Hypothesis::WeakCell, Standing::Likely)
    );
    assert_eq!(wording::diagnosis_verdict(&two), "Likely: a weak cell.");
    let near = told(&["capacity_low", "full_and_low"]);
    assert_eq!(near.first().unwrap().standing, Standing::Possible);
    let sound = told(&[
        "full_and_even",
        "full_volts_right",
        "drinks_as_usual",
        "near_baseline",
        "capacity_full",
        "tops_dry",
        "often_full",
    ]);
    assert_eq!(wording::diagnosis_verdict(&sound), "Likely healthy.");
    let few = told(&["full_and_even", "full_volts_right"]);
    assert_eq!(wording::diagnosis_verdict(&few), "Nothing found so far.");
}

#[test]
fn a_cause_leads_the_conditions_it_explains() {
    let own = told(&["absorption_off", "held_volts_off", "hardly_drinks", "full_and_low", "capacity_low"]);
    assert_eq!(own.first().unwrap().hypothesis, Hypothesis::WrongSetpoint);
    let under = own.ranked.iter().find(|r| r.hypothesis == Hypothesis::Undercharge).unwrap();
    assert_eq!(under.under, Some(Hypothesis::WrongSetpoint));
}

#[test]
fn of_a_bank_that_shows_nothing_what_a_measurement_would_show_is_named() {
    let sound = told(&["full_and_even", "full_volts_right", "tops_dry"]);
    let next = next_measurements(&sound, &[], (24.0, 6.0), (true, 2), Weights::shipped());
    let why =
        |m| wording::next_why(next.iter().find(|n| n.measurement == m).unwrap(), &sound, Weights::shipped());
    let currents = why(Measurement::Currents);
    assert!(currents.contains("a bad joint or open link") && currents.contains(" or "), "{currents}");
    // Where it would tell the second from the first, that is said instead.
    let settings = why(Measurement::Settings);
    assert!(settings.contains("would speak for the charger is set wrong"), "{settings}");
}

#[test]
fn what_the_evidence_speaks_against_is_told_under_no_cause() {
    let own = told(&["absorption_off", "held_volts_off", "gasses_as_usual", "often_full"]);
    assert_eq!(own.first().unwrap().hypothesis, Hypothesis::WrongSetpoint);
    let of = |h| own.ranked.iter().find(|r| r.hypothesis == h).unwrap();
    assert_eq!(of(Hypothesis::Undercharge).under, None);
    assert_eq!(of(Hypothesis::Overcharge).under, None);
    assert!(own.ranked[..3].iter().all(|r| r.score > -5.0), "{:?}", &own.ranked[..3]);
}

#[test]
fn currents_that_are_alike_and_joints_speak_of_a_bad_joint_for_themselves() {
    let joint = |signs: &[&str]| {
        told(signs).ranked.into_iter().find(|r| r.hypothesis == Hypothesis::BadJoint).unwrap()
    };
    let alone = joint(&["joint_out"]);
    let alike = joint(&["joint_out", "strings_share"]);
    let apart = joint(&["joint_out", "strings_share_apart"]);
    assert!(alike.score < alone.score && alone.score < apart.score);
    // Two instruments that say the same are two groups, and it leads what either could be alone.
    assert_eq!(apart.speaks.iter().filter(|s| s.points > 0).count(), 2);
    let leads = told(&["joint_out", "strings_share_apart"]).first().unwrap().hypothesis;
    assert_eq!(leads, Hypothesis::BadJoint);
}

#[test]
fn sealed_banks_and_single_strings_have_no_faults_they_cannot_have() {
    let own = diagnose(&[], (false, 1), Weights::shipped()).unwrap();
    let has = |h| own.ranked.iter().any(|r| r.hypothesis == h);
    assert!(!has(Hypothesis::Stratified) && !has(Hypothesis::AcidAdded) && !has(Hypothesis::UnevenStrings));
    let next = next_measurements(&own, &[], (24.0, 4.0), (false, 1), Weights::shipped());
    let asked = |m| next.iter().any(|n| n.measurement == m);
    assert!(!asked(Measurement::Round) && !asked(Measurement::Currents) && asked(Measurement::Ohmic));
}

#[test]
fn the_next_measurement_settles_most_for_its_minutes_and_is_none_that_was_made() {
    // worn out, or one weak cell: resistances tell the two apart
    let own = told(&["capacity_low", "one_gives_out"]);
    let next = next_measurements(&own, &[Measurement::Discharge], (24.0, 6.0), (true, 1), Weights::shipped());
    assert!(next.iter().all(|n| n.measurement != Measurement::Discharge));
    assert!(
        next.windows(2).all(|p| p[0].gain / (p[0].minutes + 5.0) >= p[1].gain / (p[1].minutes + 5.0) - 1e-12)
    );
    assert!(next.iter().all(|n| n.gain >= 0.0));
    assert!(wording::next_said(&next).unwrap().contains("min: of all that is left"));
}

fn day(n: i8) -> Date {
    date(2026, 3, n)
}

fn round_of(bank: &BankShape, n: i8, proven_full: bool, gravity: impl Fn(CellAddress) -> f64) -> RoundRead {
    let cells = bank.cells().map(|cell| CellGravity {
        cell,
        gravity: SpecificGravity::new(gravity(cell)).unwrap(),
        below_mark: Some(0.0),
        in_question: false,
    });
    RoundRead { day: day(n), proven_full, instrument: "float".into(), noise: 3.0, cells: cells.collect() }
}

fn keys(evidence: &Evidence) -> Vec<String> {
    let (bank, model) = (shape(3, 4, 2), BatteryModel::generic_by_key("flooded-6v-420").unwrap());
    let (all, _) = signs(evidence, &bank, &model, Weights::shipped()).unwrap();
    // What the levels of a round tell has a test of its own.
    all.into_iter().map(|s| s.sign).filter(|key| !key.starts_with("plates_")).collect()
}

#[test]
fn gravities_are_signs_by_their_shape_and_by_their_centre() {
    let bank = shape(3, 4, 2);
    let full = BatteryModel::generic_by_key("flooded-6v-420").unwrap().full_gravity.value();
    let of = |round: RoundRead| keys(&Evidence { rounds: vec![round], ..Evidence::default() });
    assert_eq!(of(round_of(&bank, 1, true, |_| full)), ["full_and_even"]);
    assert_eq!(of(round_of(&bank, 1, true, |_| full - 0.030)), ["full_and_low"]);
    assert_eq!(of(round_of(&bank, 1, false, |_| full - 0.020)), ["even_not_proven"]);
    assert_eq!(of(round_of(&bank, 1, false, |_| full - 0.060)), ["far_from_full"]);
    assert_eq!(of(round_of(&bank, 1, true, |_| full + 0.025)), ["over_full_levels_known"]);
    let cell = |text: &str| text.parse::<CellAddress>().unwrap();
    let low = |at: &'static str, by: f64| {
        move |c: CellAddress| if c == at.parse().unwrap() { full - by } else { full }
    };
    assert_eq!(of(round_of(&bank, 1, true, low("A2-2", 0.045))), ["one_cell_low"]);
    assert_eq!(of(round_of(&bank, 1, true, low("A2-2", 0.120))), ["one_cell_far_low"]);
    let scattered = [cell("A1-2"), cell("A3-1"), cell("B2-2")];
    assert_eq!(
        of(round_of(&bank, 1, true, |c| if scattered.contains(&c) { full - 0.05 } else { full })),
        ["cells_low"]
    );
    let string = |c: CellAddress| if c.battery.string == 1 { full - 0.04 } else { full };
    assert_eq!(of(round_of(&bank, 1, true, string)), ["string_off"]);
    let run = [cell("A1-1"), cell("A1-2"), cell("A1-3")];
    assert_eq!(
        of(round_of(&bank, 1, true, |c| if run.contains(&c) { full - 0.05 } else { full })),
        ["run_low_from_end"]
    );
    // a newer round takes the place of an older, in whatever order they are given
    let both = vec![round_of(&bank, 9, true, |_| full), round_of(&bank, 1, true, low("A2-2", 0.045))];
    assert_eq!(keys(&Evidence { rounds: both, ..Evidence::default() }), ["full_and_even"]);
    // what is in question counts for nothing
    let mut asked = round_of(&bank, 1, true, low("A2-2", 0.045));
    asked.cells.iter_mut().find(|c| c.cell == cell("A2-2")).unwrap().in_question = true;
    assert_eq!(of(asked), ["full_and_even"]);
    let mut other = round_of(&bank, 5, true, |_| full - 0.008);
    other.instrument = "refractometer".into();
    let jumped = vec![round_of(&bank, 1, true, |_| full + 0.008), other];
    assert!(
        keys(&Evidence { rounds: jumped, ..Evidence::default() })
            .contains(&"jumped_with_instrument".to_owned())
    );
}

#[test]
fn figures_of_every_other_kind_are_signs_by_their_limits() {
    let battery =
        |name: &str, value: f64, first| MeasuredBattery { battery: name.parse().unwrap(), value, first };
    let eight = ["A1", "A2", "A3", "A4", "B1", "B2", "B3", "B4"];
    let volts = |b3: f64| RestVoltsRead {
        day: day(1),
        settled: true,
        proven_full: false,
        batteries: eight.map(|n| battery(n, if n == "B3" { b3 } else { 6.36 }, None)).to_vec(),
    };
    let rest = |own| keys(&Evidence { rest: vec![own], ..Evidence::default() });
    assert_eq!(rest(volts(4.30)), ["battery_cell_missing"]);
    assert_eq!(rest(volts(6.25)), ["battery_low"]);
    assert!(rest(RestVoltsRead { settled: false, ..volts(4.30) }).is_empty(), "not settled tells nothing");
    let ohms = |b3: f64, first| ResistancesRead {
        day: day(1),
        batteries: eight.map(|n| battery(n, if n == "B3" { b3 } else { 2.0 }, first)).to_vec(),
    };
    let ohmic = |own| keys(&Evidence { resistances: vec![own], ..Evidence::default() });
    assert_eq!(ohmic(ohms(2.7, None)), ["one_risen"]);
    assert_eq!(ohmic(ohms(2.0, None)), ["near_mates"]);
    assert_eq!(ohmic(ohms(2.0, Some(2.0))), ["near_baseline"]);
    assert_eq!(ohmic(ohms(2.0, Some(1.5))), ["all_risen"]);
    let discharge = |percent, early: &[&str]| TimedDischarge {
        day: day(1),
        percent,
        batteries_read: true,
        early: early.iter().map(|b| b.parse().unwrap()).collect(),
    };
    let capacity = |own| keys(&Evidence { discharges: vec![own], ..Evidence::default() });
    assert_eq!(capacity(discharge(96.0, &[])), ["capacity_full"]);
    assert_eq!(capacity(discharge(64.0, &[])), ["capacity_low_none_early"]);
    assert_eq!(capacity(discharge(64.0, &["A3"])), ["capacity_low", "one_gives_out"]);
    let more = Evidence {
        water: Some(WaterUse { share: Some(0.30), per_degree: Some(0.06), ..WaterUse::default() }),
        record: Some(ChargingRecord {
            full_days: Some(0.05),
            longest_gap: Some(14.0),
            ..ChargingRecord::default()
        }),
        settings: Some(ChargerSettings {
            absorption_off: Some(-0.08),
            compensates: Some(false),
            ..ChargerSettings::default()
        }),
        strings: Some(StringMeasured {
            joints_out: Some(1),
            currents: vec![9.0, 1.0],
            to_case: Some([0.2, 0.1]),
        }),
        age: Some(9.0),
        design_life: Some(10.0),
        seen: vec![SeenSign { sign: "tops_wet".into(), of: String::new() }],
        ..Evidence::default()
    };
    assert_eq!(
        keys(&more),
        [
            "drinks_much",
            "drinks_with_heat",
            "hardly_full",
            "absorption_off",
            "no_compensation",
            "joint_out",
            "strings_share_apart",
            "no_leak",
            "old",
            "tops_wet",
        ]
    );
}

#[test]
fn evidence_that_cannot_be_is_refused() {
    let (bank, model) = (shape(3, 4, 2), BatteryModel::generic_by_key("flooded-6v-420").unwrap());
    let refuse = |own: &Evidence| signs(own, &bank, &model, Weights::shipped()).unwrap_err().to_string();
    let seen = vec![SeenSign { sign: "a_ghost".into(), of: String::new() }];
    assert!(refuse(&Evidence { seen, ..Evidence::default() }).contains("a_ghost"));
    let far = MeasuredBattery { battery: "D9".parse().unwrap(), value: 6.3, first: None };
    let rest = RestVoltsRead { day: day(1), settled: true, proven_full: false, batteries: vec![far] };
    assert_eq!(refuse(&Evidence { rest: vec![rest], ..Evidence::default() }), "the bank has no D9");
    let most = TimedDischarge { day: day(1), percent: 900.0, batteries_read: false, early: vec![] };
    assert!(refuse(&Evidence { discharges: vec![most], ..Evidence::default() }).contains("0 to 200 %"));
}

fn any_sign() -> impl Strategy<Value = Sign> {
    let all: Vec<String> = Weights::shipped().rows().iter().map(|r| r.sign.clone()).collect();
    proptest::sample::select(all).prop_map(|sign| Sign { sign, seen: String::new(), of: String::new() })
}

proptest! {
    /// The order of evidence does not matter, and probabilities are all of one.
    #[test]
    fn the_order_of_evidence_does_not_matter(mut all in proptest::collection::vec(any_sign(), 0..12)) {
        let own = diagnose(&all, FLOODED, Weights::shipped()).unwrap();
        all.reverse();
        let turned = diagnose(&all, FLOODED, Weights::shipped()).unwrap();
        prop_assert_eq!(&own, &turned);
        prop_assert!((own.ranked.iter().map(|r| r.probability).sum::<f64>() - 1.0).abs() < 1e-9);
    }

    /// What a sound bank shows never raises a fault.
    #[test]
    fn evidence_of_health_never_raises_a_fault(all in proptest::collection::vec(any_sign(), 0..8), more in any_sign()) {
        prop_assume!(Weights::shipped().row(&more.sign).unwrap().normal);
        let before = diagnose(&all, FLOODED, Weights::shipped()).unwrap();
        let mut with = all.clone();
        with.push(more);
        let after = diagnose(&with, FLOODED, Weights::shipped()).unwrap();
        for own in before.ranked.iter().filter(|r| r.hypothesis != Hypothesis::Healthy) {
            prop_assert!(points(&after, own.hypothesis) <= own.score + 1e-9, "{:?}", own.hypothesis);
        }
    }
}
