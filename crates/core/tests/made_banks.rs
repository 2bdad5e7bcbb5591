//! Banks whose truth is known, judged: how often an even bank is alarmed about, how often what is wrong is
//! named and leads. Limits by simulation; `cargo run --release --example judgement` tells the whole table.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::truth::bank::{Fault, make, make_of};
use crate::truth::told::{PAIRS, Told, causes, of_two, share};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;

/// A fixed part of the banks the table is made of.
const SEEDS: std::ops::Range<u64> = 70_000..70_400;

fn at_least(what: &str, wanted: f64, found: f64) {
    assert!(found >= wanted, "{what}: {found:.1} %, wanted {wanted} %");
}

#[test]
fn even_banks_are_left_in_peace() {
    for history in [false, true] {
        for (large, wanted) in [(false, 3.0), (true, 5.0)] {
            let (mut banks, mut alarms) = (0.0, 0.0);
            let made = (70_000..74_000).filter_map(|seed| make(seed, Fault::Healthy, history));
            for made in made.filter(|made| (made.round.shape.cell_count() > 48) == large) {
                let told = Told::of(&made);
                banks += 1.0;
                alarms += f64::from(u8::from(told.alarms()));
                assert!(!told.equalizes(), "no even bank is equalized");
            }
            let percent = 100.0 * alarms / banks;
            assert!(banks > 600.0 && percent < wanted, "over 48 cells {large}: {percent:.1} % of {banks}");
        }
    }
}

#[test]
fn a_true_spread_of_25_points_is_seen_and_a_cell_30_points_low_is_named() {
    let seen = share(SEEDS, Fault::Spread(25.0), false, |told, _| told.alarms());
    at_least("a spread of 25", 92.0, seen.percent());
    let coarse = (70_000..70_400)
        .filter_map(|seed| make_of(seed, &[Fault::Spread(25.0)], false, Some(Instrument::hydrometer())));
    let (mut banks, mut hits) = (0.0, 0.0);
    for made in coarse {
        banks += 1.0;
        hits += f64::from(u8::from(Told::of(&made).alarms()));
    }
    at_least("a spread of 25 with marks of five", 88.0, 100.0 * hits / banks);
    let named = share(SEEDS, Fault::LowCells(1, 30.0), false, |told, made| told.names(made.cells[0]));
    assert_eq!(named.hits, named.banks, "a cell 30 points low is always named");
}

#[test]
fn who_is_different_is_named_with_the_right_cells() {
    for fault in [
        Fault::LowCells(1, 30.0),
        Fault::LowCells(1, 50.0),
        Fault::LowCells(2, 30.0),
        Fault::LowCells(2, 50.0),
        Fault::HighCells(1, 30.0),
        Fault::HighCells(2, 30.0),
        Fault::HighCells(3, 30.0),
        Fault::Battery(30.0),
        Fault::Battery(50.0),
        Fault::String(30.0),
        Fault::String(50.0),
        Fault::Gradient(30.0),
        Fault::Gradient(50.0),
    ] {
        let right = share(SEEDS, fault, false, Told::shape_is_right);
        assert!(right.banks > 100, "{fault:?} fits in few banks");
        at_least(&format!("{fault:?}"), 92.0, right.percent());
    }
}

#[test]
fn the_cause_leads_and_what_it_explains_stands_under_it() {
    for (fault, wanted) in [
        (Fault::AcidInAll(20.0), 95.0),
        (Fault::AcidInAll(35.0), 95.0),
        (Fault::AcidInCells(1, 30.0), 95.0),
        (Fault::AcidInCells(3, 30.0), 95.0),
        (Fault::LowLevels(15.0), 85.0),
        (Fault::LowLevels(26.0), 95.0),
        (Fault::ShortOfFull(25.0), 95.0),
        (Fault::NotFull(25.0), 95.0),
        (Fault::Stratified(20.0), 85.0),
        (Fault::Stratified(25.0), 95.0),
        (Fault::DeadCell, 95.0),
        (Fault::Battery(30.0), 95.0),
        (Fault::String(30.0), 95.0),
        (Fault::Gradient(30.0), 95.0),
        (Fault::LowCells(1, 50.0), 95.0),
    ] {
        let leads = share(SEEDS, fault, false, |told, _| causes(fault).contains(&told.lead_code()));
        at_least(&format!("{fault:?} leads"), wanted, leads.percent());
    }
    let spread_folded = share(SEEDS, Fault::Battery(50.0), false, |told, _| {
        let spread = told.assessment.findings.iter().find(|f| f.kind.code().starts_with("spread"));
        spread.is_some_and(|f| f.explained_by == told.lead().map(|lead| lead.id.clone()))
    });
    at_least("the spread under its battery", 95.0, spread_folded.percent());
}

#[test]
fn nobody_is_told_to_equalize_acid_high_cells_dead_cells_or_a_bank_that_was_not_full() {
    for fault in [
        Fault::AcidInAll(20.0),
        Fault::AcidInAll(35.0),
        Fault::AcidInCells(2, 40.0),
        Fault::HighCells(1, 40.0),
        Fault::LowLevels(26.0),
        Fault::Stratified(40.0),
        Fault::DeadCell,
        Fault::NotFull(40.0),
    ] {
        let told = share(SEEDS, fault, false, |told, _| {
            let words: Vec<_> = told
                .assessment
                .findings
                .iter()
                .map(|f| rainshadow_core::wording::speak(f, ReaderUnits::default()))
                .collect();
            let verdict = rainshadow_core::wording::verdict(&told.assessment, ReaderUnits::default());
            told.equalizes()
                || verdict.to_lowercase().contains("equalize")
                || words.iter().any(|w| w.advice.starts_with("Equalize") || w.headline.contains("equalize"))
        });
        assert!(told.percent() <= 0.5, "{fault:?}: {:.1} %", told.percent());
    }
}

#[test]
fn of_two_faults_the_one_that_comes_first_leads_and_the_cells_of_both_are_named() {
    for (faults, lead, barred) in PAIRS {
        let (banks, [leads, named, equalize]) = of_two(SEEDS, faults, lead);
        assert!(banks > 80, "{faults:?} fits in {banks} banks");
        at_least(&format!("{faults:?}: {lead} leads"), 95.0, leads);
        at_least(&format!("{faults:?}: all cells named"), 88.0, named);
        if barred {
            assert!(equalize <= 2.0, "{faults:?} is told to equalize in {equalize:.1} %");
        } else {
            at_least(&format!("{faults:?} is told to equalize"), 95.0, equalize);
        }
    }
}

#[test]
fn a_cell_that_was_read_wrong_is_asked_about_and_alarms_nobody() {
    for history in [false, true] {
        for points in [36.0, 100.0] {
            let misread = Fault::Misread(points);
            let asked = share(SEEDS, misread, history, |told, made| told.asks_about(made.cells[0]));
            at_least(&format!("{misread:?} asked about"), 99.0, asked.percent());
            let alarms = share(SEEDS, misread, history, |told, _| told.alarms());
            assert!(alarms.percent() < 4.5, "{misread:?}: {:.1} % alarmed", alarms.percent());
            assert_eq!(share(SEEDS, misread, history, |told, _| told.equalizes()).hits, 0);
        }
    }
}

#[test]
fn a_bank_made_twice_is_judged_alike() {
    for seed in [1, 77, 4_711] {
        let [a, b] = [(); 2].map(|()| make(seed, Fault::Healthy, true).map(|m| Told::of(&m).assessment));
        assert_eq!(a, b);
    }
}
