//! RC-1: batteries that were found dry, or opened: what is next, and that nothing is proven before a timed discharge.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::facts;
use crate::common::shape;
use crate::common::tests_made::test;
use crate::common::visits::past;
use jiff::civil::{Date, date};
use rainshadow_core::bank::BankShape;
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::{DischargeEvent, DischargePlan};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::load_test::LoadedVolts;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::recovery::{RecoveryStage, slow_charge};
use rainshadow_core::schedule::BankFacts;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, Entry, Judged, OnRecord, PastVisit, SeenFinding, TestEntry, Work, diagnosis_evidence,
    open_findings, open_unproven, ran_dry, unproven_findings,
};
use rainshadow_core::water::Poured;
use rainshadow_core::wording;

struct Bank {
    shape: BankShape,
    model: BatteryModel,
    rules: HouseRules,
}

impl Bank {
    fn of(model: &str) -> Self {
        let model = BatteryModel::generic_by_key(model).unwrap();
        Self { shape: shape(model.cells, 2, 1), model, rules: HouseRules::maker_first() }
    }

    fn judged(&self) -> Judged<'_> {
        Judged { shape: &self.shape, model: &self.model, rules: &self.rules }
    }

    fn stage(&self, visits: &[PastVisit]) -> Option<RecoveryStage> {
        ran_dry(visits, self.judged()).first().map(|own| own.stage)
    }

    fn said(&self, visits: &[PastVisit]) -> wording::SpokenFinding {
        let found = open_unproven(visits, self.judged()).remove(0).finding;
        assert_eq!(found.severity, Severity::Watch);
        wording::speak(&found, ReaderUnits::default())
    }
}

fn found(check: Check, kind: &str) -> Entry {
    let found =
        SeenFinding { kind: kind.into(), severity: Severity::Act, note: String::new(), measured: None };
    Entry::Checked { check, found: Some(found), measured: None }
}

fn water() -> Entry {
    Entry::Water {
        millilitres: 900.0,
        to_mark: false,
        by_kit: false,
        stands: true,
        poured: Poured::default(),
    }
}

fn discharged(reached_end: bool) -> Entry {
    let plan = DischargePlan {
        amperes: Some(5.0),
        end_per_cell: 1.75,
        temperature: Temperature::from_celsius(25.0).ok(),
        proven_full: true,
        every_minutes: 15.0,
    };
    test(TestEntry::Discharge {
        event: DischargeEvent::Noted { plan, hours: 11.0, reached_end, batteries: Vec::new() },
    })
}

fn full() -> Entry {
    Entry::Done { work: Work::ChargedFull, note: String::new() }
}

fn loaded() -> Entry {
    let read = LoadedVolts { before: 12.7, at_end: 11.2, after: None, stands: false };
    test(TestEntry::ShortLoad { read })
}

const DAY: Date = date(2026, 10, 3);

#[test]
fn one_that_ran_dry_goes_from_stage_to_stage_and_is_proven_by_a_discharge_to_the_end_alone() {
    let bank = Bank::of("flooded-12v-105");
    let dry = past(DAY, vec![("A1", found(Check::Caps, "dry"))]);
    assert_eq!(bank.stage(std::slice::from_ref(&dry)), Some(RecoveryStage::Cover));
    assert_eq!(bank.said(std::slice::from_ref(&dry)).headline, "A1 ran dry: nothing is proven of it");
    let on = |entries: Vec<(&'static str, Entry)>| past(date(2026, 10, 10), entries);
    // a full charge of bare plates brings nothing further, water at another battery neither
    assert_eq!(
        bank.stage(&[dry.clone(), on(vec![("", full()), ("A2", water())])]),
        Some(RecoveryStage::Cover)
    );
    let covered = past(DAY, vec![("A1", found(Check::Caps, "dry")), ("A1", water())]);
    assert_eq!(bank.stage(std::slice::from_ref(&covered)), Some(RecoveryStage::Charge));
    // 3 and 5 % of 105 Ah, 2.70 V times six cells
    let said = bank.said(std::slice::from_ref(&covered)).advice;
    assert!(said.starts_with("Charge it slowly: 3.1 to 5.2 A, never over 16.2 V, 24 to 48 hours"), "{said}");
    let visits = |more: Vec<(&'static str, Entry)>| vec![covered.clone(), on(more)];
    assert_eq!(bank.stage(&visits(vec![("", full())])), Some(RecoveryStage::Load));
    assert_eq!(
        bank.stage(&visits(vec![("A1", loaded())])),
        Some(RecoveryStage::Charge),
        "loaded before it was charged"
    );
    assert_eq!(bank.stage(&visits(vec![("", full()), ("A1", loaded())])), Some(RecoveryStage::Prove));
    assert_eq!(bank.stage(&visits(vec![("", full()), ("A2", loaded())])), Some(RecoveryStage::Load));
    assert_eq!(
        bank.stage(&visits(vec![("", discharged(false))])),
        Some(RecoveryStage::Charge),
        "stopped early"
    );
    assert_eq!(bank.stage(&visits(vec![("", discharged(true))])), None, "proven, whatever it holds");
    assert_eq!(bank.stage(&visits(vec![("A2", discharged(true))])), Some(RecoveryStage::Charge));
    // dry again, it begins again
    let again = [
        visits(vec![("", discharged(true))]),
        vec![past(date(2027, 1, 1), vec![("A1", found(Check::Caps, "dry"))])],
    ];
    assert_eq!(bank.stage(&again.concat()), Some(RecoveryStage::Cover));
}

#[test]
fn a_sealed_one_that_was_opened_is_never_told_to_be_filled() {
    let bank = Bank::of("agm-12v-100");
    for kind in ["opened", "dry", "refilled"] {
        let visits = [past(DAY, vec![("A1", found(Check::Seal, kind))])];
        assert_eq!(bank.stage(&visits), Some(RecoveryStage::Load), "{kind}");
        let said = bank.said(&visits);
        assert!(said.headline.ends_with("was found opened: nothing is proven of it"), "{}", said.headline);
        assert!(said.advice.contains("not opened again and not filled"), "{}", said.advice);
    }
}

#[test]
fn a_visit_tells_what_it_found_itself_and_not_what_others_did() {
    let bank = Bank::of("flooded-12v-105");
    let dry = past(DAY, vec![("A1", found(Check::Caps, "dry"))]);
    let later = past(date(2026, 11, 1), vec![("A1", water())]);
    assert_eq!(unproven_findings(std::slice::from_ref(&dry), bank.judged()).len(), 1);
    assert!(unproven_findings(&[dry.clone(), later.clone()], bank.judged()).is_empty());
    assert_eq!(open_unproven(&[dry, later], bank.judged()).len(), 1);
}

#[test]
fn a_valve_that_vented_is_found_and_is_no_battery_that_was_opened() {
    let bank = Bank::of("agm-12v-100");
    let vented = past(date(2026, 5, 2), vec![("A1", found(Check::Seal, "vents"))]);
    assert_eq!(bank.stage(std::slice::from_ref(&vented)), None);
    let opened = past(date(2026, 5, 2), vec![("A1", found(Check::Seal, "opened"))]);
    assert!(bank.stage(&[opened]).is_some());
    assert!(wording::found_advice(Check::Seal, "vents").contains("Stop the charge"));
    let evidence = diagnosis_evidence(&[vented], &[], bank.judged(), &OnRecord::default(), date(2026, 5, 3));
    assert!(evidence.seen.iter().any(|own| own.sign == "spits" && own.of == "A1"), "{:?}", evidence.seen);
}

#[test]
fn one_found_dry_shows_its_plates_until_it_is_covered() {
    let bank = Bank::of("flooded-6v-225");
    let dry = past(date(2026, 5, 2), vec![("A1", found(Check::Caps, "dry"))]);
    let evidence = diagnosis_evidence(&[dry], &[], bank.judged(), &OnRecord::default(), date(2026, 5, 3));
    let signs: Vec<&str> = evidence.seen.iter().map(|own| own.sign.as_str()).collect();
    assert!(signs.contains(&"plates_show") && !signs.contains(&"plates_covered"), "{signs:?}");
}

#[test]
fn water_answers_what_was_seen_of_it_and_not_what_is_owed_it() {
    let bank = Bank::of("flooded-6v-225");
    let day = date(2026, 5, 2);
    let open = |visits: &[PastVisit]| open_findings(visits).len();
    let dry = ("A1", found(Check::Caps, "dry"));
    let poured = |place: &'static str| (place, water());
    assert_eq!(open(&[past(day, vec![dry.clone()])]), 1);
    for place in ["A1", "A1-2", "A"] {
        let same = [past(day, vec![dry.clone(), poured(place)])];
        assert_eq!(open(&same), 0, "{place}");
        assert_eq!(ran_dry(&same, bank.judged()).len(), 1, "nothing is proven of it yet");
        let later = [past(day, vec![dry.clone()]), past(date(2026, 5, 3), vec![poured(place)])];
        assert_eq!(open(&later), 0, "{place}");
    }
    // Water in another battery, or before it was found, covers nothing there.
    assert_eq!(open(&[past(day, vec![dry.clone(), poured("A2")])]), 1);
    assert_eq!(open(&[past(day, vec![poured("A1"), dry])]), 1);
}

#[test]
fn the_slow_charge_grows_with_the_battery_and_its_volts_with_its_cells() {
    let of = |key: &str, cells| slow_charge(&BatteryModel::generic_by_key(key).unwrap(), cells);
    let (small, large) = (of("flooded-12v-105", 6), of("flooded-6v-420", 3));
    assert!(large.amperes[0] > small.amperes[1] && large.amperes[0] < large.amperes[1]);
    assert!((small.volts - 16.2).abs() < 1e-9 && (large.volts - 8.1).abs() < 1e-9);
}

#[test]
fn what_the_eye_saw_of_it_is_told_under_what_is_still_to_be_done() {
    for (model, check, kind) in [
        ("flooded-6v-225", Check::Caps, "dry"),
        ("agm-12v-100", Check::Seal, "opened"),
        ("agm-12v-100", Check::Seal, "dry"),
    ] {
        let bank = Bank::of(model);
        let visits =
            [past(date(2026, 5, 2), vec![("A1", found(check, kind)), ("A2", found(Check::Case, "bulge"))])];
        let open = open_findings(&visits).into_iter().chain(open_unproven(&visits, bank.judged()));
        let facts = BankFacts { findings: open.collect(), ..facts() };
        let state = BankState::of(&BankKnown { facts: &facts, round: None, rest: None, uneven: &[] });
        let told: Vec<(&str, bool)> =
            state.findings.iter().map(|own| (own.kind.code(), own.explained_by.is_some())).collect();
        let unproven = state.findings.iter().find(|own| own.kind.code() == "unproven").unwrap();
        assert_eq!(unproven.severity, Severity::Act, "as bad as what it explains: {told:?}");
        let looks = state.findings.iter().filter(|own| own.kind.code() == "seen");
        let under: Vec<bool> = looks.map(|own| own.explained_by.as_ref() == Some(&unproven.id)).collect();
        assert_eq!(under.iter().filter(|own| **own).count(), 1, "the bulge stands by itself: {told:?}");
    }
}
