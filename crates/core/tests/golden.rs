//! Judgements of fixed banks, as they were written down under a revision of the rules.
//!
//! When one of them changes and the revision does not, kept rows would go on saying the old: raise
//! `RULES_REVISION`, look at the difference, and write the file anew with `GOLDEN=write`.
#![allow(clippy::unwrap_used, clippy::cast_precision_loss, reason = "helpers fail loudly, and cells are few")]

use crate::common::facts::{TODAY, facts};
use crate::common::{cell, round, shape};
use jiff::civil::date;
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equalize::NonRespondingCell;
use rainshadow_core::finding;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{BatteryVolts, RestConditions, RestSheet};
use rainshadow_core::revision::RULES_REVISION;
use rainshadow_core::round::{RoundToJudge, judge};
use rainshadow_core::schedule::{JudgedRound, OpenFinding, due};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, SeenFinding};
use rainshadow_core::wording::{self, DueReader};
use std::fmt::Write as _;
use std::path::Path;

/// Readings around a median with a scatter that no chance decides: the same in every run.
fn scattered(cells: usize, middle: f64, width: f64, seed: usize) -> Vec<f64> {
    (0..cells)
        .map(|i| middle + width * (((i * 7 + seed * 3) % 11) as f64 / 10.0 - 0.5))
        .map(f64::round)
        .collect()
}

fn with(mut readings: Vec<f64>, changes: &[(usize, f64)]) -> Vec<f64> {
    for (at, by) in changes {
        readings[*at] += by;
    }
    readings
}

fn rounds() -> Vec<(&'static str, RoundToJudge)> {
    let even = || scattered(24, 1262.0, 8.0, 1);
    let mut unproven = round(shape(3, 8, 1), &scattered(24, 1215.0, 8.0, 1));
    unproven.conditions.proven_full = None;
    let mut charging = round(shape(3, 8, 1), &even());
    charging.conditions.charging = true;
    let mut light = round(shape(3, 8, 1), &with(even(), &[(4, -45.0)]));
    light.rules = HouseRules::light_touch();
    vec![
        ("even", round(shape(3, 8, 1), &even())),
        ("one cell 31 low", round(shape(3, 8, 1), &with(even(), &[(4, -31.0)]))),
        ("one cell 60 low", round(shape(3, 8, 1), &with(even(), &[(4, -60.0)]))),
        ("one cell 30 high", round(shape(3, 8, 1), &with(even(), &[(10, 30.0)]))),
        ("a pair low", round(shape(3, 8, 1), &with(even(), &[(3, -28.0), (4, -30.0)]))),
        ("a battery low", round(shape(3, 8, 1), &with(even(), &[(3, -20.0), (4, -22.0), (5, -21.0)]))),
        (
            "a string low",
            round(shape(3, 4, 2), &with(even(), &(12..24).map(|i| (i, -18.0)).collect::<Vec<_>>())),
        ),
        (
            "a row that falls",
            round(shape(3, 8, 1), &with(even(), &(0..24).map(|i| (i, -1.2 * i as f64)).collect::<Vec<_>>())),
        ),
        ("wide", round(shape(3, 8, 1), &scattered(24, 1258.0, 36.0, 2))),
        ("short of full", round(shape(3, 8, 1), &scattered(24, 1238.0, 8.0, 1))),
        ("above full", round(shape(3, 8, 1), &scattered(24, 1300.0, 8.0, 1))),
        ("far from full, unproven", unproven),
        ("on charge", charging),
        ("another house", light),
        ("two cells", round(shape(1, 2, 1), &[1262.0, 1255.0])),
        ("96 cells", round(shape(3, 8, 4), &scattered(96, 1262.0, 14.0, 5))),
    ]
}

fn told(out: &mut String, findings: &[finding::Finding]) {
    for f in findings {
        let said = wording::speak(f, ReaderUnits::default());
        let cells: Vec<String> = f.cells.iter().map(ToString::to_string).collect();
        writeln!(out, "  {} [{}] {:?} {}", f.severity.word(), f.id, f.certainty, cells.join(" ")).unwrap();
        writeln!(out, "    {}. {} {} | {} {}", said.headline, said.seen, said.advice, said.rule, said.others)
            .unwrap();
    }
}

fn volts(cells: u8, volts: &[f64], model: &str) -> Vec<finding::Finding> {
    let series = u8::try_from(volts.len()).unwrap();
    let shape = shape(cells, series, 1);
    let batteries = shape.batteries().zip(volts);
    finding::rest::findings(&RestSheet {
        batteries: batteries
            .map(|(battery, v)| BatteryVolts { battery, volts: *v, gravity: None, stands: false })
            .collect(),
        model: BatteryModel::generic_by_key(model).unwrap(),
        rules: HouseRules::maker_first(),
        conditions: RestConditions {
            hours_since_charge: Some(30.0),
            hours_since_load: Some(30.0),
            ..RestConditions::default()
        },
        strings: Vec::new(),
        held: None,
        shape,
    })
}

fn judgements() -> String {
    let mut out = format!("revision {RULES_REVISION}\n");
    for (name, asked) in rounds() {
        let judged = judge(&asked);
        writeln!(
            out,
            "\n{name}: {}\n  {}",
            judged.condition.word(),
            wording::verdict(&judged, ReaderUnits::default())
        )
        .unwrap();
        told(&mut out, &judged.findings);
        let mut facts = facts();
        facts.shape = asked.shape.clone();
        facts.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
        for item in due(&facts).iter().take(3) {
            writeln!(out, "  due {} {:?} {}", item.date, item.task, item.rule.id()).unwrap();
        }
    }
    for (name, found) in [
        ("flooded at rest, a dead cell", volts(3, &[6.37, 4.25, 6.36], "flooded-6v-225")),
        ("sealed at rest, one low", volts(6, &[12.85, 12.84, 12.86, 12.60], "agm-12v-100")),
        ("sealed and half empty", volts(6, &[12.30, 12.31, 12.29, 12.30], "agm-12v-100")),
    ] {
        writeln!(out, "\n{name}").unwrap();
        told(&mut out, &found);
    }
    out + &merged()
}

/// A bank on which everything happened at once.
fn merged() -> String {
    let judged = judge(&round(shape(3, 8, 1), &with(scattered(24, 1262.0, 8.0, 1), &[(4, -31.0)])));
    let mut facts = facts();
    facts.shape = shape(3, 8, 1);
    facts.round = Some(JudgedRound::of(date(2026, 10, 1), &judged));
    facts.non_responding = vec![NonRespondingCell { cell: cell("A2-2"), times: 1, last: date(2026, 9, 1) }];
    facts.plates_bare = Some((vec![cell("A1-1"), cell("A1-2")], date(2026, 10, 1)));
    let seen = SeenFinding {
        kind: "play".into(),
        severity: Severity::Watch,
        note: "rubs".into(),
        measured: Some(4.0),
    };
    let finding = finding::look::finding("entry 1", "A3".parse().unwrap(), Check::HoldDown, &seen);
    facts.findings = vec![OpenFinding { day: date(2026, 9, 1), finding }];
    let state = BankState::of(&BankKnown { facts: &facts, round: Some(&judged), rest: None, uneven: &[] });
    let construction = facts.model.construction;
    let reader = DueReader { construction, cells: 24, today: TODAY, units: ReaderUnits::default() };
    let mut out = format!(
        "\neverything at once: {}\n  {}\n",
        state.condition.word(),
        wording::bank_verdict(&state, &reader)
    );
    told(&mut out, &state.findings);
    for item in &state.due {
        let said = wording::due(item, &reader);
        writeln!(out, "  due {} {}: {} {}", item.date, said.title, said.why, said.rule).unwrap();
    }
    out
}

#[test]
fn judgements_change_only_with_the_revision_of_the_rules() {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/golden/judgements.txt");
    let now = judgements();
    let kept = std::fs::read_to_string(&file).unwrap_or_default();
    let same_revision = kept.lines().next() == now.lines().next();
    if std::env::var_os("GOLDEN").is_some() && (kept.is_empty() || !same_revision) {
        std::fs::write(&file, &now).unwrap();
        return;
    }
    assert!(
        same_revision,
        "the revision was raised: look at the difference and write {} anew with GOLDEN=write",
        file.display()
    );
    for (line, (was, is)) in kept.lines().zip(now.lines()).enumerate() {
        assert_eq!(was, is, "line {}: a judgement changed and RULES_REVISION did not", line + 1);
    }
    assert_eq!(kept.lines().count(), now.lines().count());
}
