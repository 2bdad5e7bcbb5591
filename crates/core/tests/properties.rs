//! What must hold for every round.

use crate::common::{Noise, cell, round, sg, shape};
use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::electrolyte::{Correction, measured_rest_voltage, rule_rest_voltage};
use rainshadow_core::finding::RuleId;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::{Instrument, spread_of_noise};
use rainshadow_core::log::{LogEntry, standing};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Points, Temperature};
use rainshadow_core::round::{
    Assessment, BalanceVerdict, CellReading, RoundToJudge, RunningRound, Shape, judge,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use std::collections::BTreeSet;

/// Banks of 6 to 96 cells as they stand in the field.
fn shapes() -> impl Strategy<Value = BankShape> {
    prop_oneof![
        Just((3, 2, 1)),
        Just((6, 2, 1)),
        Just((1, 12, 1)),
        Just((3, 2, 3)),
        Just((4, 6, 1)),
        Just((3, 8, 2)),
        Just((1, 24, 2)),
        Just((6, 4, 4)),
    ]
    .prop_map(|(c, s, p)| shape(c, s, p))
}

/// Standard uncertainty of a hydrometer reading, points (SG-7: √(5²/12 + 3²)).
const HYDROMETER_U: f64 = 3.3292;

fn with_values() -> impl Strategy<Value = (BankShape, Vec<f64>)> {
    shapes().prop_flat_map(|s| {
        let n = s.cell_count();
        (Just(s), prop::collection::vec(1150.0..1290.0f64, n))
    })
}

fn named(r: &RoundToJudge) -> BTreeSet<CellAddress> {
    judge(r)
        .findings
        .iter()
        // a finding about the spread names its two ends
        .filter(|f| f.rule != RuleId::Rd4)
        .flat_map(|f| f.cells.clone())
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(96))]

    #[test]
    fn the_order_of_entry_does_not_matter((shape, values) in with_values(), seed in any::<u64>()) {
        let ordered = round(shape, &values);
        let mut shuffled = ordered.clone();
        let mut noise = Noise(seed | 1);
        shuffled.readings.sort_by_cached_key(|_| (noise.uniform() * 1e9).round().to_string());
        prop_assert_eq!(judge(&ordered), judge(&shuffled));
    }

    #[test]
    fn a_constant_added_to_all_cells_changes_no_deviation((shape, values) in with_values(), shift in -60.0..0.0f64) {
        // over full, or over what its gradient says, a cell tells of its acid and not of its charge: none of
        // them does before or after
        let read = |v: f64| v.min(1265.0);
        let at = |add: f64| judge(&round(shape.clone(), &values.iter().map(|v| read(*v) + add).collect::<Vec<_>>()));
        let (before, after) = (at(0.0), at(shift));
        let acid = |round: &Assessment| round.findings.iter().any(|f| matches!(f.rule, RuleId::Sg4 | RuleId::Sg6));
        prop_assume!(!acid(&before) && !acid(&after));
        for (a, b) in before.cells.iter().zip(&after.cells) {
            prop_assert!((a.deviation.unwrap().value() - b.deviation.unwrap().value()).abs() < 1e-5);
        }
    }

    #[test]
    fn one_low_cell_in_an_otherwise_even_bank_is_the_only_one_named(
        shape in shapes(), which in any::<prop::sample::Index>(), seed in any::<u64>(), digital in any::<bool>(),
    ) {
        let u = if digital { 2.0207 } else { HYDROMETER_U };
        let mut noise = Noise(seed | 1);
        // mates scatter by the uncertainty of the instrument, the low cell lies under their median
        let mut values: Vec<f64> = (0..shape.cell_count()).map(|_| 1260.0 + u * (2.0 * noise.uniform() - 1.0)).collect();
        let i = which.index(values.len());
        values[i] = 1260.0 - u;
        let centre = judge(&round(shape.clone(), &values)).centre.unwrap().value() * 1000.0;
        values[i] = centre - f64::max(20.0, 6.0 * u);
        let low = shape.cells().nth(i).unwrap();
        let mut r = round(shape, &values);
        if digital {
            r.instrument = Instrument::digital();
        }
        prop_assert_eq!(named(&r), BTreeSet::from([low]));
    }

    #[test]
    fn a_cell_that_reads_lower_is_never_in_better_condition(
        shape in shapes(), which in any::<prop::sample::Index>(), a in 0.0..90.0f64, b in 0.0..90.0f64, set in 0usize..3,
    ) {
        let condition = |below: f64| {
            let mut values = vec![1262.0; shape.cell_count()];
            values[which.index(shape.cell_count())] -= below;
            let mut r = round(shape.clone(), &values);
            r.rules = HouseRules::shipped()[set].clone();
            let judged = judge(&r);
            (judged.cells[which.index(shape.cell_count())].condition, judged.condition)
        };
        let (less, more) = (condition(a.min(b)), condition(a.max(b)));
        prop_assert!(less.0 <= more.0 && less.1 <= more.1, "{:?} {:?}", less, more);
    }

    #[test]
    fn spread_deviations_and_median_belong_together((shape, values) in with_values()) {
        let judged = judge(&round(shape, &values));
        let (centre, spread) = (judged.centre.unwrap(), judged.spread.unwrap());
        prop_assert!(spread.lowest_gravity <= centre && centre <= spread.highest_gravity);
        prop_assert!((spread.points.value() - (spread.highest_gravity - spread.lowest_gravity).value()).abs() < 1e-6);
        // where nobody is named, the centre is the median of all that do not stand high by themselves
        if matches!(judged.shape, Shape::Even) {
            let below = judged.cells.iter().filter(|c| c.deviation.unwrap() < Points::new(-1e-9)).count();
            prop_assert!(below <= judged.cells.len() / 2, "it is a median");
        }
        for string in &judged.strings {
            prop_assert!(string.spread.points <= spread.points, "no string is wider than its bank");
        }
    }

    #[test]
    fn what_would_raise_no_question_raises_none(
        shape in shapes(), seed in any::<u64>(), taken in 0usize..40, t in 0.0..45.0f64, at in 0.0..=1.0f64,
    ) {
        let mut noise = Noise(seed | 1);
        let values: Vec<f64> = (0..shape.cell_count()).map(|_| 1258.0 + 3.0 * noise.normal()).collect();
        let mut r = round(shape.clone(), &values);
        r.conditions.temperature = rainshadow_core::round::RoundTemperature::OneForAll {
            temperature: Temperature::from_celsius(t).unwrap(),
        };
        let next = shape.cells().nth(taken.min(shape.cell_count() - 1)).unwrap();
        r.readings.truncate(taken.min(shape.cell_count() - 1));
        let running = RunningRound::new(&r);
        let range = running.unquestioned(next);
        let (low, high) = (range.low.value() + 5e-4, range.high.value() - 5e-4);
        prop_assume!(low < high);
        let inside = sg(low + at * (high - low));
        prop_assert_eq!(running.preview(next, inside, None).question, None);
    }

    #[test]
    fn noise_explains_more_in_a_larger_bank_and_with_a_coarser_instrument(n in 2usize..190, more in 1usize..40, u in 0.5..8.0f64) {
        prop_assert!(spread_of_noise(n, Points::new(u)) <= spread_of_noise(n + more, Points::new(u)));
        prop_assert!(spread_of_noise(n, Points::new(u)) < spread_of_noise(n, Points::new(u + 0.1)));
    }

    #[test]
    fn more_gravity_means_more_rest_volts_and_rule_and_measure_stay_near(a in 1.05..1.30f64, b in 1.05..1.30f64) {
        let (low, high) = (sg(a.min(b)), sg(a.max(b)));
        prop_assert!(measured_rest_voltage(low) <= measured_rest_voltage(high));
        // 24 mV is what the rule may be off over this range (Bode's curve)
        prop_assert!((measured_rest_voltage(low) - rule_rest_voltage(low)).abs() <= 0.024);
    }

    #[test]
    fn of_a_ledger_stands_only_what_was_recorded_and_nothing_is_taken_back_twice(
        rows in prop::collection::vec((prop::option::of(0usize..20), any::<bool>()), 1..20),
    ) {
        let entries: Vec<LogEntry> = rows
            .iter()
            .enumerate()
            .map(|(i, (target, withdraws))| {
                // an entry can only name one that is there already
                let supersedes = target.filter(|t| *t < i).map(|t| format!("e{t}"));
                LogEntry { withdraws: *withdraws && supersedes.is_some(), supersedes, ..LogEntry::records(&format!("e{i}")) }
            })
            .collect();
        let stand = standing(&entries);
        let unique: BTreeSet<&String> = stand.iter().collect();
        prop_assert_eq!(unique.len(), stand.len(), "nothing stands twice");
        for id in &stand {
            let entry = entries.iter().find(|e| e.id == *id).unwrap();
            prop_assert!(!entry.withdraws, "a withdrawal is no reading");
        }
        // the last reading that took nothing's place stands unless something names it
        if let Some(last) = entries.last().filter(|e| !e.withdraws) {
            prop_assert!(stand.contains(&last.id));
        }
    }

    #[test]
    fn correcting_and_uncorrecting_returns_the_reading(value in 1.06..1.32f64, t in 0.0..50.0f64) {
        for how in [Correction::default(), Correction::MeasuredDensity] {
            let (at, reference) = (Temperature::from_celsius(t).unwrap(), Temperature::from_celsius(25.0).unwrap());
            let there = how.apply(sg(value), at, reference);
            let back = how.apply(there, reference, at);
            prop_assert!((back.value() - value).abs() < 2e-5, "{:?}: {} {}", how, value, back.value());
        }
    }

    #[test]
    fn more_gravity_never_means_less_charge(a in 1.0..1.4f64, b in 1.0..1.4f64) {
        for (_, model) in rainshadow_core::battery_model::BatteryModel::generic() {
            let (low, high) = (sg(a.min(b)), sg(a.max(b)));
            prop_assert!(model.state_of_charge(low).percent <= model.state_of_charge(high).percent);
        }
    }

    #[test]
    fn nothing_that_can_be_recorded_panics_and_the_verdict_is_a_sentence(
        (shape, values) in with_values(), kinds in prop::collection::vec(0u8..5, 96), stands in any::<bool>(),
    ) {
        let mut r = round(shape, &values);
        for (record, kind) in r.readings.iter_mut().zip(kinds) {
            record.stands = stands;
            match kind {
                0 => record.reading = CellReading::BelowScale,
                1 => record.reading = CellReading::AboveScale,
                2 => record.reading = CellReading::NotRead { reason: "cap seized".into() },
                3 => record.reading = CellReading::Gravity { read: sg(1.39) },
                _ => {}
            }
        }
        let a = judge(&r);
        let verdict = wording::verdict(&a, ReaderUnits::default());
        prop_assert!(verdict.ends_with('.'), "{}", verdict);
        for finding in &a.findings {
            let said = wording::speak(finding, ReaderUnits::default());
            prop_assert!(!said.headline.is_empty() && said.seen.ends_with('.'), "{:?}", said);
        }
        let json = serde_json::to_string(&a).unwrap();
        let back: Assessment = serde_json::from_str(&json).unwrap();
        prop_assert_eq!(serde_json::to_string(&back).unwrap(), json);
    }
}

/// Banks of pure instrument noise: marks of five points, scatter of three.
fn noisy_banks() -> Vec<RoundToJudge> {
    let mut noise = Noise(0x5eed_cafe_f00d_u64);
    let sizes = [shape(3, 2, 1), shape(1, 12, 1), shape(4, 6, 1), shape(3, 8, 2), shape(6, 4, 4)];
    (0..1000)
        .map(|i| {
            let shape = sizes[i % sizes.len()].clone();
            // where the true gravity falls between the marks is chance too
            let truth = 1255.0 + 5.0 * noise.uniform();
            let values: Vec<f64> = (0..shape.cell_count())
                .map(|_| ((truth + 3.0 * noise.normal()) / 5.0).round() * 5.0)
                .collect();
            round(shape, &values)
        })
        .collect()
}

#[test]
fn noise_alone_names_a_lone_cell_in_under_one_bank_of_twenty() {
    let lone = noisy_banks().iter().filter(|r| matches!(judge(r).shape, Shape::LoneCell { .. })).count();
    assert!(lone < 50, "{lone} of 1000");
}

#[test]
fn noise_alone_asks_for_an_equalize_in_under_one_bank_of_twenty() {
    let asked = noisy_banks()
        .iter()
        .filter(|r| judge(r).balance.is_some_and(|b| b.verdict == BalanceVerdict::Equalize))
        .count();
    assert!(asked < 50, "{asked} of 1000");
    // what wrong program would still pass? one that never asks: a true spread must still be asked for
    let mut values = vec![1262.0; 12];
    values[3] = 1220.0;
    assert_eq!(judge(&round(shape(1, 12, 1), &values)).condition, Severity::Act);
    assert_eq!(named(&round(shape(1, 12, 1), &values)), BTreeSet::from([cell("A4-1")]));
}
