//! What stands at a bank as judged: sources by CH-3, the air by VE-1, and whether anything finishes a charge.

#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerSettings, Stage};
use rainshadow_core::equipment::{
    Equipment, EquipmentJudged, Fitting, FittingKind, Source, SourceKind, Surroundings, Vents, judge_air,
    judge_equipment,
};
use rainshadow_core::finding::charger::findings;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits};
use rainshadow_core::severity::Severity;
use rainshadow_core::ventilation::{GassingBank, Ventilation, ventilation};
use rainshadow_core::wording;

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-6v-420").unwrap()
}

/// 48 V of two strings at 25 °C: the bank of VE-1's check value.
fn judged(equipment: &Equipment) -> EquipmentJudged {
    judge_equipment(equipment, &model(), (24, 2), Temperature::from_celsius(25.0).unwrap())
}

fn set(absorption: f64) -> ChargerSettings {
    ChargerSettings { absorption: Some(absorption), ..ChargerSettings::default() }
}

fn source(kind: SourceKind, absorption: f64) -> Source {
    Source { kind: Some(kind), settings: set(absorption), ..Source::default() }
}

fn said(judged: &EquipmentJudged) -> Vec<String> {
    findings(judged).iter().map(|f| wording::speak(f, ReaderUnits::default()).headline).collect()
}

fn air(stage: Stage) -> Ventilation {
    let construction = model().construction;
    ventilation(&GassingBank {
        construction,
        cells: 24,
        capacity: 840.0,
        stage,
        current: None,
        enclosure: None,
    })
    .unwrap()
}

#[test]
fn every_source_is_judged_and_named_by_its_kind() {
    let own = Equipment {
        kind: Some(SourceKind::SolarController),
        charger: set(58.8),
        others: vec![source(SourceKind::Alternator, 56.0), source(SourceKind::SolarController, 61.9)],
        ..Equipment::default()
    };
    let judged = judged(&own);
    // the generic model asks for 2.45 V a cell: 24 · 2.45 = 58.8 V
    let conditions: Vec<Severity> =
        judged.sources.iter().map(|s| s.audit.as_ref().unwrap().condition).collect();
    assert_eq!(conditions, [Severity::Steady, Severity::Act, Severity::Act]);
    assert_eq!(
        said(&judged),
        ["The alternator: absorption too low", "Solar controller 3: absorption too high"]
    );
    let ids: Vec<String> = findings(&judged).iter().map(|f| f.id.clone()).collect();
    assert_ne!(ids[0], ids[1], "each is a finding of its own");
    assert_eq!(wording::equipment_verdict(&judged), "Change the alternator: absorption is off.");
}

#[test]
fn a_charger_of_which_only_settings_are_told_is_called_the_charger() {
    let judged = judged(&Equipment { charger: set(56.0), ..Equipment::default() });
    assert_eq!(said(&judged), ["The charger: absorption too low"]);
    assert_eq!(wording::equipment_verdict(&judged), "Change the charger: absorption is off.");
}

#[test]
fn an_alternator_and_a_maintainer_finish_no_charge() {
    let alone = Equipment {
        kind: Some(SourceKind::Alternator),
        charger: set(58.8),
        others: vec![source(SourceKind::Maintainer, 58.8)],
        ..Equipment::default()
    };
    let told = findings(&judged(&alone));
    assert_eq!((told.len(), told[0].severity), (1, Severity::Watch));
    assert!(
        wording::owner_finding(&told[0], ReaderUnits::default()).unwrap().contains("all the way to full")
    );
    let seen = |own: &Equipment| wording::speak(&findings(&judged(own))[0], ReaderUnits::default()).seen;
    assert!(seen(&alone).contains("alternator") && seen(&alone).contains("maintainer"));
    // what is told names the case, and not the other
    let engine = Equipment { others: vec![], ..alone.clone() };
    assert!(seen(&engine).contains("alternator") && !seen(&engine).contains("maintainer"));
    let held = Equipment { kind: Some(SourceKind::Maintainer), ..engine };
    assert!(seen(&held).contains("maintainer") && !seen(&held).contains("alternator"));
    // with a charger, or a source of which nobody said what it is, nothing is claimed
    for other in [source(SourceKind::ShoreCharger, 58.8), Source { settings: set(58.8), ..Source::default() }]
    {
        let own = Equipment { others: vec![other], ..alone.clone() };
        assert_eq!(judged(&own).none_finishes, None);
    }
    assert_eq!(judged(&Equipment::default()).none_finishes, None);
}

#[test]
fn the_air_that_is_there_is_held_against_the_standard() {
    // VE-1's check value: 24 cells, 840 Ah: boost 20.16 m³/h and 564 cm²; float a quarter of it
    let (boost, float) = (air(Stage::Equalize), air(Stage::Float));
    assert!((boost.opening - 564.5).abs() < 0.1 && (float.opening - 141.1).abs() < 0.1);
    let condition = |vents: Vents| judge_air(vents, boost, float).map(|air| (air.condition, air.one_way));
    let vents = |inlet, outlet| Vents { fan: None, inlet: Some(inlet), outlet: Some(outlet) };
    assert_eq!(condition(Vents::default()), None);
    assert_eq!(condition(vents(565.0, 600.0)), Some((Severity::Steady, false)));
    assert_eq!(condition(vents(600.0, 150.0)), Some((Severity::Watch, false)));
    assert_eq!(condition(vents(600.0, 80.0)), Some((Severity::Act, false)));
    assert_eq!(condition(Vents { outlet: Some(600.0), ..Vents::default() }), Some((Severity::Watch, true)));
    assert_eq!(condition(Vents { outlet: Some(20.0), ..Vents::default() }), Some((Severity::Act, true)));
    assert_eq!(condition(Vents { fan: Some(25.0), ..Vents::default() }), Some((Severity::Steady, false)));
    assert_eq!(condition(Vents { fan: Some(6.0), ..Vents::default() }), Some((Severity::Watch, false)));
}

#[test]
fn too_little_air_is_told_in_the_readers_units() {
    let vents = Vents { fan: None, inlet: Some(20.0), outlet: Some(20.0) };
    let told = findings(&judged(&Equipment { vents, ..Equipment::default() }));
    assert_eq!(told[0].rule.id(), "VE-1");
    let inches = ReaderUnits { length: LengthUnit::Inch, ..ReaderUnits::default() };
    let (metric, us) = (wording::speak(&told[0], ReaderUnits::default()), wording::speak(&told[0], inches));
    assert!(
        metric.seen.contains("20 cm² low and 20 cm² high") && metric.seen.contains("564 cm²"),
        "{metric:?}"
    );
    // 564.5 ÷ 6.4516 = 87.5 in²; 20.16 ÷ 1.699 = 11.9 ft³/min
    assert!(us.seen.contains("11.9 cubic feet a minute") && us.seen.contains("87 in²"), "{us:?}");
    assert!(!us.seen.contains("cm²") && !us.seen.contains("m³"), "{us:?}");
    assert!(wording::owner_finding(&told[0], inches).unwrap().contains("vents or a fan"));
}

#[test]
fn who_works_there_is_told_of_it_before_he_stands_there() {
    let own = Equipment {
        could_hole: "a seat bolt over A2.".into(),
        surroundings: vec![Surroundings::LivingSpace, Surroundings::EngineHeat],
        fittings: vec![
            Fitting { kind: FittingKind::Balancer, whereto: "string A".into(), amperes: None },
            Fitting { kind: FittingKind::Fuse, whereto: "bilge pump".into(), amperes: Some(10.0) },
        ],
        others: vec![source(SourceKind::Alternator, 58.8)],
        ..Equipment::default()
    };
    let told = wording::what_stands_there(&own);
    assert_eq!(told[0], "Could hole a case: a seat bolt over A2.");
    assert!(told[1].starts_with("Where people live or sleep: Gas goes outside"), "{told:?}");
    assert!(told.iter().any(|line| line.contains("hide the spread between batteries")), "{told:?}");
    assert!(told.contains(&"Fuse, 10 A: bilge pump".to_owned()), "{told:?}");
    assert!(told.last().unwrap().contains("Alternator: absorption 58.8 V"), "{told:?}");
    assert!(wording::what_stands_there(&Equipment::default()).is_empty());
}

proptest! {
    #[test]
    fn more_air_is_never_judged_worse(
        fan in 0.0..60.0_f64, inlet in 0.0..1500.0_f64, outlet in 0.0..1500.0_f64, more in 0.0..500.0_f64,
    ) {
        let (boost, float) = (air(Stage::Equalize), air(Stage::Float));
        let judge = |by: f64| {
            let vents = Vents { fan: Some(fan + by / 10.0), inlet: Some(inlet + by), outlet: Some(outlet + by) };
            judge_air(vents, boost, float).unwrap().condition
        };
        prop_assert!(judge(more) <= judge(0.0));
    }
}
