//! Everything known of a bank merged: one condition, one sentence, every finding with its rule.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::{TODAY, facts};
use crate::common::rest::rest_sheet;
use crate::common::{cell, round, shape};
use jiff::civil::date;
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerSettings, Stage, settings_audit};
use rainshadow_core::equalize::NonRespondingCell;
use rainshadow_core::equipment::EquipmentJudged;
use rainshadow_core::finding::{
    self, BarredBy, Bound, ChargerFinding, FindingKind, RoundFinding, RuleId, Subject,
};
use rainshadow_core::ohmic::{OhmicReading, judge_ohmic};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::rest::judge_rest;
use rainshadow_core::round::{Assessment, judge};
use rainshadow_core::schedule::{
    BankFacts, Consequence, DueItem, JudgedRound, OpenFinding, Task, due, equipment_findings,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, SeenFinding};
use rainshadow_core::wording::{self, DueReader};

/// Twelve even cells.
const EVEN: [f64; 12] =
    [1263.0, 1261.0, 1262.0, 1264.0, 1262.0, 1262.0, 1260.0, 1263.0, 1261.0, 1262.0, 1264.0, 1262.0];

fn known<'a>(facts: &'a BankFacts, round: &'a Assessment) -> BankKnown<'a> {
    BankKnown { facts, round: Some(round), rest: None, uneven: &[] }
}

fn of(facts: &BankFacts, round: &Assessment) -> BankState {
    BankState::of(&known(facts, round))
}

fn reader(facts: &BankFacts) -> DueReader {
    let construction = facts.model.construction;
    DueReader { construction, cells: 12, today: TODAY, units: ReaderUnits::default() }
}

fn seen(check: Check, kind: &str, place: &str, severity: Severity) -> OpenFinding {
    let found = SeenFinding { kind: kind.into(), severity, note: String::new(), measured: None };
    let finding = finding::look::finding("entry 1", place.parse().unwrap(), check, &found);
    OpenFinding { day: date(2026, 9, 1), finding }
}

fn even() -> (BankFacts, Assessment) {
    let judged = judge(&round(shape(3, 4, 1), &EVEN));
    let mut facts = facts();
    facts.shape = shape(3, 4, 1);
    facts.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
    (facts, judged)
}

#[test]
fn a_loose_hold_down_keeps_an_even_bank_from_having_nothing_to_do() {
    let (mut facts, judged) = even();
    let quiet = of(&facts, &judged);
    assert_eq!(quiet.condition, Severity::Steady);
    let said = wording::bank_verdict(&quiet, &reader(&facts));
    assert!(
        said.starts_with("The bank is even: all 12 cells lie within 4 points. Nothing to do before "),
        "{said}"
    );
    facts.findings = vec![seen(Check::HoldDown, "missing", "A2", Severity::Act)];
    let state = of(&facts, &judged);
    assert_eq!(state.condition, Severity::Act);
    let said = wording::bank_verdict(&state, &reader(&facts));
    assert!(said.starts_with("A2, hold-down: missing. Secure it"), "{said}");
}

#[test]
fn what_is_due_stands_in_the_sentence_of_an_even_bank() {
    let (mut facts, judged) = even();
    facts.last_water_check = Some(date(2026, 8, 1));
    let said = wording::bank_verdict(&of(&facts, &judged), &reader(&facts));
    assert!(said.ends_with("Due since 31 Aug: Look at the levels."), "{said}");
}

#[test]
fn a_hot_case_and_volts_against_gravity_are_findings_with_an_id_that_lasts() {
    let case = |battery: &str, celsius| OhmicReading {
        battery: battery.parse().unwrap(),
        milliohms: 4.0,
        baseline: None,
        baseline_temperature: None,
        case_temperature: Temperature::from_celsius(celsius).ok(),
    };
    // 3 °C over the others is the limit (OH-1; IEEE 1188, from memory)
    let found =
        |hot| finding::ohmic::findings(&judge_ohmic(&[case("A1", 24.0), case("A2", hot), case("A3", 24.0)]));
    assert!(found(26.9).is_empty());
    let hot = found(29.0);
    assert_eq!((hot.len(), hot[0].id.as_str(), hot[0].rule), (1, "hot_case A2", RuleId::Oh1));
    assert!(matches!(hot[0].tolerance.as_ref().unwrap().limit, Bound::Celsius { .. }));
    assert!(wording::speak(&hot[0], ReaderUnits::default()).headline.starts_with("A2 is 5 °C hotter"));

    // 2.11 V a cell settled, and gravity that leads to 2.05 V: 0.02 V a cell is the limit (SG-3)
    let sheet = |own| {
        let mut sheet = rest_sheet(shape(3, 2, 1), &[own]);
        sheet.batteries[0].gravity = SpecificGravity::new(1.200).ok();
        sheet
    };
    let found: Vec<_> =
        finding::rest::findings(&sheet(6.33)).into_iter().filter(|f| f.rule == RuleId::Sg3).collect();
    assert_eq!((found.len(), found[0].id.as_str()), (1, "disagrees A1"));
    // measured again a little otherwise it is the same finding: a sentence is no key
    assert_eq!(finding::rest::findings(&sheet(6.34))[0].id, found[0].id);
    assert_ne!(
        wording::speak(&finding::rest::findings(&sheet(6.34))[0], ReaderUnits::default()).seen,
        wording::speak(&found[0], ReaderUnits::default()).seen
    );
}

#[test]
fn what_is_due_names_the_rule_of_its_own_finding() {
    let (mut facts, judged) = even();
    let rest = rest_sheet(shape(6, 2, 1), &[12.80, 12.60]);
    let volts = finding::rest::findings(&rest).remove(0);
    let given_up = NonRespondingCell { cell: cell("A3-1"), times: 2, last: date(2026, 9, 1) };
    facts.non_responding = vec![given_up];
    facts.findings = vec![
        OpenFinding { day: date(2026, 9, 1), finding: volts },
        OpenFinding { day: date(2026, 9, 1), finding: finding::equalize::given_up(&[given_up]).remove(0) },
        seen(Check::Terminals, "powder", "A1", Severity::Watch),
    ];
    let state = of(&facts, &judged);
    let rules: Vec<RuleId> = state.due.iter().filter(|i| !i.about().is_empty()).map(|i| i.rule).collect();
    assert_eq!(rules, [RuleId::Eq5, RuleId::Rd7, RuleId::Lo1]);
    for item in state.due.iter().filter(|i| !i.about().is_empty()) {
        let said = wording::due(item, &reader(&facts)).rule;
        assert!(said.starts_with(item.rule.id()), "{said}");
    }
}

#[test]
fn a_cell_that_did_not_answer_is_told_once_with_its_gravity_or_by_itself() {
    let low = EVEN.map(|v| if (v - 1260.0).abs() < 0.5 { 1205.0 } else { v });
    let judged = judge(&round(shape(3, 4, 1), &low));
    let (mut facts, calm) = even();
    let own = NonRespondingCell { cell: cell("A3-1"), times: 2, last: date(2026, 9, 1) };
    facts.non_responding = vec![own];
    facts.findings =
        vec![OpenFinding { day: own.last, finding: finding::equalize::given_up(&[own]).remove(0) }];
    let state = of(&facts, &judged);
    let about =
        |state: &BankState| state.findings.iter().filter(|f| f.subject == Subject::Cell(own.cell)).count();
    assert_eq!(about(&state), 1, "{:?}", state.findings);
    let suspect = state.findings.iter().find(|f| f.subject == Subject::Cell(own.cell)).unwrap();
    assert!(
        matches!(suspect.of_round(), Some(RoundFinding::SuspectCell { after_run: Some(told), .. }) if *told == own)
    );
    assert!(wording::bank_verdict(&state, &reader(&facts)).starts_with("Plan to replace battery A3: "));
    // where the round is calm again the runs speak for themselves
    let state = of(&facts, &calm);
    assert!(matches!(state.findings[0].kind, FindingKind::Equalize(_)));
    assert!(
        wording::bank_verdict(&state, &reader(&facts)).starts_with("Plan to replace battery A3: cell A3-1 ")
    );
}

#[test]
fn plates_that_show_lead_and_the_charger_is_heard() {
    let (mut facts, judged) = even();
    facts.plates_bare = Some((vec![cell("A1-1")], date(2026, 10, 1)));
    let settings = ChargerSettings { absorption: Some(26.0), ..ChargerSettings::default() };
    let audit =
        settings_audit(&facts.model, 12, Temperature::from_celsius(25.0).unwrap(), &settings).unwrap();
    let told = [(date(2026, 10, 2), EquipmentJudged::of_charger(audit))];
    facts.findings = equipment_findings(&told, None);
    let state = BankState::of(&known(&facts, &judged));
    let rules: Vec<RuleId> = state.findings.iter().map(|f| f.rule).collect();
    assert_eq!(rules, [RuleId::Wa4, RuleId::Ch3], "worst first, and harm before settings");
    let charger = &state.findings[1];
    assert!(matches!(charger.subject, Subject::Equipment(_)));
    // 0.06 V a cell acts (CH-3, common practice, no source)
    assert_eq!(charger.tolerance.as_ref().unwrap().limit, Bound::VoltsPerCell { volts: 0.06 });
    assert_eq!(state.condition, Severity::Act);
    // undercharge costs capacity: due on the day it was told, after the plates
    let due: Vec<_> = state.due.iter().take(2).map(|i| (i.rule, i.date, i.is_of_equipment())).collect();
    assert_eq!(due, [(RuleId::Wa4, date(2026, 10, 1), false), (RuleId::Ch3, date(2026, 10, 2), true)]);
    assert_eq!(state.due[1].consequence, Consequence::Loss);
}

#[test]
fn a_setting_is_due_since_it_was_first_told_off_whatever_else_was_changed() {
    let (facts, _) = even();
    let judged = |absorption: f64, float: f64| {
        let settings = ChargerSettings {
            absorption: Some(absorption),
            float: Some(float),
            ..ChargerSettings::default()
        };
        let at = Temperature::from_celsius(25.0).unwrap();
        EquipmentJudged::of_charger(settings_audit(&facts.model, 12, at, &settings).unwrap())
    };
    let day = |n| date(2026, 10, n);
    // 29.2 and 27.0 V are within 0.03 and 0.02 V a cell of the model (CH-3): too high, mended, too high again
    let told = [
        (day(1), judged(31.0, 27.0)),
        (day(2), judged(29.2, 27.0)),
        (day(3), judged(31.0, 27.0)),
        (day(4), judged(31.0, 25.0)),
    ];
    let open: Vec<_> = equipment_findings(&told, None)
        .iter()
        .map(|own| {
            let FindingKind::Charger(ChargerFinding::OffSetpoint { stage }) = own.finding.kind else {
                panic!("{:?}", own.finding.kind)
            };
            (stage.stage, own.day, Consequence::of(&own.finding))
        })
        .collect();
    // volts that boil the cells do harm, volts that starve them cost capacity (SC-1)
    let high = (Stage::Absorption, day(3), Consequence::Harm);
    assert_eq!(open, [high, (Stage::Float, day(4), Consequence::Loss)]);
    // judged at what was read after it was told: since then
    let read: Vec<_> = equipment_findings(&told[..1], Some(day(9))).iter().map(|own| own.day).collect();
    assert_eq!(read, [day(9)]);
    assert!(equipment_findings(&told[..2], None).is_empty());
    assert!(equipment_findings(&[], None).is_empty());

    // one visit to the charger: one line, as bad and as soon as the worst of it
    let facts = BankFacts { findings: equipment_findings(&told, None), ..facts };
    let due: Vec<DueItem> = due(&facts).into_iter().filter(DueItem::is_of_equipment).collect();
    assert_eq!(due.len(), 1);
    let said = wording::due(&due[0], &reader(&facts));
    assert_eq!(due[0].date, day(3));
    assert_eq!(said.title, "The charger: absorption too high, float too low");
    assert_eq!(said.why, "Change it at the charger; the maker's figure comes first.");
}

#[test]
fn a_bank_that_is_never_near_full_says_so_before_what_the_eye_found() {
    let (mut facts, judged) = even();
    facts.round.as_mut().unwrap().never_full = Some((72.0, 75.0));
    facts.findings = vec![seen(Check::Sensor, "missing", "", Severity::Watch)];
    let state = of(&facts, &judged);
    assert_eq!(state.findings[0].rule, RuleId::Ch5);
    let said = wording::bank_verdict(&state, &reader(&facts));
    assert_eq!(
        said,
        "Find out how it is charged: it stood at 72 % on the last round and at 75 % on the one before."
    );
}

#[test]
fn a_state_survives_being_kept() {
    let (mut facts, judged) = even();
    facts.findings = vec![seen(Check::Case, "crack", "A2", Severity::Act)];
    facts.plates_bare = Some((vec![cell("A1-1")], date(2026, 10, 1)));
    let low = EVEN.map(|v| if (v - 1260.0).abs() < 0.5 { 1205.0 } else { v });
    for round in [judged, judge(&round(shape(3, 4, 1), &low))] {
        let state = of(&facts, &round);
        let kept: BankState = serde_json::from_str(&serde_json::to_string(&state).unwrap()).unwrap();
        assert_eq!(kept, state);
    }
}

#[test]
fn a_sealed_bank_speaks_by_its_volts() {
    let mut facts = facts();
    facts.model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    facts.shape = shape(6, 2, 1);
    facts.round = None;
    let rest = judge_rest(&rest_sheet(shape(6, 2, 1), &[12.90, 12.89]));
    let state = BankState::of(&BankKnown {
        facts: &facts,
        round: None,
        rest: Some((date(2026, 10, 1), &rest)),
        uneven: &[],
    });
    assert_eq!(
        (state.condition, state.batteries.len(), state.read_on),
        (Severity::Steady, 2, Some(date(2026, 10, 1)))
    );
    let said = wording::bank_verdict(&state, &reader(&facts));
    assert!(said.starts_with("Two batteries read, alike; the bank rests at"), "{said}");
    let none = BankState::of(&BankKnown { facts: &facts, round: None, rest: None, uneven: &[] });
    assert_eq!(none.condition, Severity::NoReading);
}

/// Even gravities, a spread that asks for an equalize, and a battery of the same bank short of a cell.
fn short_of_a_cell() -> (BankFacts, Assessment) {
    let wide = EVEN.map(|v| if (v - 1260.0).abs() < 0.5 { 1205.0 } else { v });
    let judged = judge(&round(shape(3, 4, 1), &wide));
    let (mut facts, _) = even();
    facts.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
    facts.last_equalize = Some(date(2025, 1, 1));
    (facts, judged)
}

#[test]
fn nobody_equalizes_beside_a_battery_that_is_short_of_a_cell_whatever_found_it() {
    let (mut facts, judged) = short_of_a_cell();
    let before = of(&facts, &judged);
    assert!(before.due.iter().any(DueItem::equalizes), "the spread asks for one: {:?}", before.due);
    assert_eq!(before.equalize_barred, None);

    // one battery of six volts 2 V under its mates: a cell of it gives nothing (SG-3)
    let volts = finding::rest::findings(&rest_sheet(shape(3, 4, 1), &[6.36, 4.30, 6.35, 6.36]));
    facts.findings =
        volts.into_iter().map(|finding| OpenFinding { day: date(2026, 10, 5), finding }).collect();
    let state = of(&facts, &judged);
    assert_eq!(state.equalize_barred, Some(BarredBy::DeadCell));
    assert!(!state.due.iter().any(DueItem::equalizes), "neither by spread nor by calendar");
    assert!(state.due.iter().any(|i| i.task == Task::SuspectCell), "the low cell is still tested");
    let first = &state.due[0];
    assert_eq!((first.consequence, first.about().as_str()), (Consequence::Harm, "cells_missing A2"));
    let said = wording::bank_verdict(&state, &reader(&facts));
    assert!(!said.contains("qualize"), "{said}");
}

/// What is damaged is taken out: nothing of it is charged or equalized beside that (common practice, no source).
#[test]
fn a_damaged_case_explains_its_volts_and_forbids_an_equalize() {
    let (mut facts, _) = even();
    // A2-2 lags as a suspect, and its battery bulges
    let low = EVEN.map(|v| if (v - 1260.0).abs() < 0.5 { 1205.0 } else { v });
    let judged = judge(&round(shape(3, 4, 1), &low));
    facts.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
    let suspect = judged.findings.iter().find(|f| f.severity == Severity::Act).unwrap().cells[0].battery;
    let asks = |facts: &BankFacts| of(facts, &judged).due.iter().any(DueItem::equalizes);
    assert!(asks(&facts), "without it an equalize is wanted");
    let place = suspect.to_string();
    let volts = finding::rest::findings(&rest_sheet(shape(3, 4, 1), &[6.36, 6.35, 6.02, 6.36]));
    let of_volts: Vec<OpenFinding> = volts
        .into_iter()
        .filter(|f| f.subject.battery() == Some(suspect))
        .map(|finding| OpenFinding { day: date(2026, 9, 1), finding })
        .collect();
    for kind in ["bulge", "crack", "leak", "hot"] {
        let mut damaged = seen(Check::Case, kind, &place, Severity::Act);
        damaged.finding.id = "case".into();
        facts.findings = of_volts.iter().cloned().chain([damaged]).collect();
        let state = of(&facts, &judged);
        assert_eq!(state.findings[0].id, "case", "{kind} leads");
        assert_eq!(state.equalize_barred, Some(BarredBy::DamagedCase));
        assert!(!asks(&facts), "{kind}: {:?}", state.due);
        let own = |f: &&finding::Finding| {
            f.cells.iter().any(|c| c.battery == suspect) || f.subject.battery() == Some(suspect)
        };
        let open: Vec<_> = state.findings.iter().filter(own).filter(|f| f.explained_by.is_none()).collect();
        assert_eq!(open.len(), 1, "{kind}: {open:?}");
        // no word anywhere that charges, tests or equalizes it
        let said = wording::speak_all(&state.findings, ReaderUnits::default());
        let folded: Vec<_> = said.iter().filter(|f| f.explained_by.as_deref() == Some("case")).collect();
        assert!(
            folded.len() > 1 && folded.iter().all(|f| f.advice.starts_with("Nothing by itself")),
            "{folded:?}"
        );
    }
    // a case that is only watched, or another battery, explains nothing
    let mut watched = seen(Check::Case, "bulge", &place, Severity::Watch);
    watched.finding.id = "case".into();
    facts.findings = vec![watched];
    assert!(asks(&facts));
}
