//! DG-1: the table of weights, what a house takes otherwise, and the document that shows it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::document::document_shows;
use rainshadow_core::diagnosis::{Group, HouseWeights, Hypothesis, Measurement, Weights};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::wording;
use std::fmt::Write as _;
use strum::VariantArray;

#[test]
fn the_table_ships_whole_and_every_group_measurement_and_fault_is_in_it() {
    let table = Weights::shipped();
    assert!(table.rows().len() >= 95, "{}", table.rows().len());
    for hypothesis in Hypothesis::VARIANTS.iter().filter(|h| **h != Hypothesis::Healthy) {
        let speaks = table.rows().iter().any(|row| row.weights.get(hypothesis).is_some_and(|w| *w > 0));
        assert!(speaks, "nothing speaks for {hypothesis:?}");
    }
    for measurement in Measurement::VARIANTS {
        assert!(table.rows().iter().any(|row| row.measurement == *measurement), "{measurement:?}");
    }
    for group in Group::VARIANTS {
        assert!(table.rows().iter().any(|row| row.group == *group), "{group:?}");
    }
    // what a sound bank shows never speaks for a fault, but for a capacity that is only fair
    for row in table.rows().iter().filter(|row| row.normal) {
        assert!(row.weights.iter().all(|(h, w)| *w < 0 || *h == Hypothesis::Healthy), "{}", row.sign);
    }
}

#[test]
fn a_table_that_cannot_be_is_refused_by_its_line() {
    let refuse = |line: &str| Weights::parse(&format!("# remark\n{line}")).unwrap_err();
    assert_eq!(refuse("gravity\tround\tno\tx\twords").line, 2);
    assert!(refuse("gravity\tround\tno\tx\twords\tXX+3").why.contains("no hypothesis XX"));
    assert!(refuse("gravity\tround\tno\tx\twords\tUC+0").why.contains("-9 to +9"));
    assert!(refuse("smell\tround\tno\tx\twords\tUC+3").why.contains("no group smell"));
    let twice = "gravity\tround\tno\tx\twords\tUC+3\ngravity\tround\tno\tx\twords\tUC+3";
    assert!(refuse(twice).why.contains("there twice"));
}

/// Weights of a house: sign, hypothesis, points.
fn house(own: &[(&str, Hypothesis, i8)]) -> HouseWeights {
    let mut all = HouseWeights::new();
    for (sign, hypothesis, points) in own {
        all.entry((*sign).into()).or_default().insert(*hypothesis, *points);
    }
    all
}

#[test]
fn a_house_takes_single_weights_otherwise_and_none_that_cannot_be() {
    let own = house(&[("tops_wet", Hypothesis::SelfDischarge, 2), ("one_risen", Hypothesis::Healthy, 0)]);
    let table = Weights::of_house(&own).unwrap();
    assert_eq!(table.row("tops_wet").unwrap().weights[&Hypothesis::SelfDischarge], 2);
    assert!(!table.row("one_risen").unwrap().weights.contains_key(&Hypothesis::Healthy), "0 takes it out");
    let others = |table: &Weights| table.rows().iter().filter(|row| !own.contains_key(&row.sign)).count();
    assert_eq!(others(&table), others(Weights::shipped()));
    assert_eq!(Weights::of_house(&HouseWeights::new()).unwrap(), *Weights::shipped());
    for (sign, hypothesis, points, part) in [
        ("ghost", Hypothesis::WeakCell, 3, "no sign \u{201c}ghost\u{201d}"),
        ("one_risen", Hypothesis::WeakCell, 12, "12 is no weight; accepted is -9 to 9"),
        ("near_baseline", Hypothesis::WornOut, 3, "a sound bank shows that"),
    ] {
        let set = HouseRules { weights: house(&[(sign, hypothesis, points)]), ..HouseRules::maker_first() };
        let why = set.checked().unwrap_err();
        assert_eq!(why.field(), "weights");
        assert!(why.to_string().contains(part), "{why}");
    }
    // A set that takes none otherwise is written as it was before there were any, and a written one comes back.
    let plain = serde_json::to_value(HouseRules::maker_first()).unwrap();
    assert!(plain.get("weights").is_none());
    let set = HouseRules { weights: own, ..HouseRules::maker_first() };
    let back: HouseRules = serde_json::from_value(serde_json::to_value(&set).unwrap()).unwrap();
    assert_eq!(back, set);
    assert!(wording::weighed_by(&set).contains("two weights"), "{}", wording::weighed_by(&set));
}

fn table() -> String {
    let mut out = String::from("| group | seen | measured by | for | against |\n|---|---|---|---|---|\n");
    for row in Weights::shipped().rows() {
        let said = |pick: fn(i8) -> bool| {
            let own = row.weights.iter().filter(|(_, w)| pick(**w));
            let all: Vec<String> =
                own.map(|(h, w)| format!("{} {}", wording::hypothesis(*h), w.abs())).collect();
            all.join(", ")
        };
        let minutes = wording::measurement_next(row.measurement);
        let _ = writeln!(
            out,
            "| {} | {} | {minutes} | {} | {} |",
            wording::evidence_group(row.group),
            row.words,
            said(|w| w > 0),
            said(|w| w < 0)
        );
    }
    out
}

#[test]
fn the_document_shows_the_table_that_the_code_uses() {
    document_shows("docs/diagnosis.md", "weights", &table());
}
