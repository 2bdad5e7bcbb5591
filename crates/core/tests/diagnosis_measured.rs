//! DG-1 measured on banks that lived by a physics of their own: how often it is right, as the document says.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::document::document_shows;
use crate::truth::diagnosed::Case;
use crate::truth::figures::{Figures, followed};
use crate::truth::world::World;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::diagnosis::{Evidence, Weights, diagnose, signs};
use std::fmt::Write as _;

/// Seeds that nothing was fitted to.
const SEEDS: std::ops::Range<u64> = 50_000..51_200;

/// The figures as the document shows them, and those of three quarters made.
fn measured() -> (String, [Figures; 2], [f64; 2]) {
    let sets = [0.5, 0.75, 1.0].map(|complete| Figures::of(SEEDS, complete));
    let [by_worth, any_order] = followed(SEEDS);
    let [half, most, whole] = sets;
    let mut all = String::from(
        "| set | measurements made | banks | right cause leads | among the first three | called likely, and wrong | sound banks called likely ill | sound banks named so | calibration error |\n|---|---|---|---|---|---|---|---|---|\n",
    );
    let harder = Figures::of_world(World::HARDER, SEEDS, 0.75);
    let rows = [
        ("half", &half),
        ("three quarters", &most),
        ("everything", &whole),
        ("three quarters, harder world", &harder),
    ];
    for (name, own) in rows {
        all.push_str(&own.row(name));
        all.push('\n');
    }
    all.push_str(
        "\nWith three quarters made, what leads is right this often where it was given this probability:\n\n",
    );
    all.push_str(&most.bands());
    all.push_str("\nOf banks with one fault or none, with three quarters made (by the codes below, what is right first):\n\n");
    all.push_str(&most.confusion());
    let _ = writeln!(
        all,
        "\nFrom nothing known, {by_worth:.1} % have the right cause lead after 90 minutes of what is told next, {any_order:.1} % in any order."
    );
    (all, [most, whole], [by_worth, any_order])
}

#[test]
fn the_figures_are_those_of_the_document_and_no_worse_than_they_were() {
    let (told, [most, whole], [by_worth, any_order]) = measured();
    document_shows("docs/diagnosis.md", "measured", &told);
    let share = |part: f64, of: f64| 100.0 * part / of;
    assert!(share(most.first, most.banks) >= 82.0 && share(most.three, most.banks) >= 95.0);
    assert!(share(most.likely_wrong, most.banks) < 4.0, "likely and wrong");
    assert!(share(most.false_alarms, most.sound) < 3.0, "sound banks called likely ill");
    let one_in = most.likely / most.likely_wrong;
    assert!((17.0..23.0).contains(&one_in), "the page says one in twenty, not {one_in:.1}");
    assert!(most.calibration_error() < 0.05, "{}", most.calibration_error());
    assert!(share(whole.first, whole.banks) > 88.0, "with nothing missing");
    assert!(by_worth >= 80.0 && by_worth > any_order + 7.0, "{by_worth} against {any_order}");
}

#[test]
fn few_groups_are_never_enough_to_tell() {
    let none = Figures::of(50_000..50_200, 0.05);
    assert!(none.not_enough > 0.5 * none.banks, "{}", none.not_enough);
    for seed in 50_000..50_100 {
        let case = Case::make(seed, 0.1);
        let own = case.diagnosed(&case.evidence, Weights::shipped());
        assert_eq!(own.enough, own.groups.len() >= 2);
    }
}

/// The evidence of the bank as it stands in a mirror: strings, batteries and cells told from the other end.
fn mirrored(case: &Case) -> Evidence {
    let shape = &case.bank.shape;
    let battery = |own: BatteryAddress| BatteryAddress {
        string: shape.parallel - 1 - own.string,
        battery: shape.series + 1 - own.battery,
    };
    let mut own = case.evidence.clone();
    for cell in own.rounds.iter_mut().flat_map(|r| &mut r.cells) {
        cell.cell = CellAddress {
            battery: battery(cell.cell.battery),
            cell: shape.cells_per_battery + 1 - cell.cell.cell,
        };
    }
    let rest = own.rest.iter_mut().flat_map(|r| &mut r.batteries);
    let ohmic = own.resistances.iter_mut().flat_map(|r| &mut r.batteries);
    let loads = own.short_loads.iter_mut().flat_map(|r| &mut r.batteries);
    let held = own.held.iter_mut().flat_map(|r| &mut r.batteries);
    rest.chain(ohmic).chain(loads).chain(held).for_each(|b| b.battery = battery(b.battery));
    own.discharges.iter_mut().flat_map(|d| &mut d.early).for_each(|b| *b = battery(*b));
    own
}

#[test]
fn a_bank_and_its_mirror_image_get_mirrored_answers() {
    for seed in 300..360 {
        let case = Case::make(seed, 0.9);
        let told = |evidence: &Evidence| {
            let own = case.diagnosed(evidence, Weights::shipped());
            own.ranked.into_iter().map(|r| (r.hypothesis, r.score, r.standing)).collect::<Vec<_>>()
        };
        assert_eq!(told(&case.evidence), told(&mirrored(&case)), "seed {seed}");
    }
}

#[test]
fn what_is_too_old_counts_for_nothing_and_what_was_read_after_the_day_neither() {
    let case = Case::make(50_003, 1.0);
    let many = signs(&case.evidence, &case.bank.shape, &case.bank.model, Weights::shipped()).unwrap().0.len();
    let mut later = case.evidence.clone();
    later.today = Some(later.today.unwrap().saturating_add(jiff::ToSpan::years(3)));
    let (few, _) = signs(&later, &case.bank.shape, &case.bank.model, Weights::shipped()).unwrap();
    let readings = [
        "full_and",
        "volts",
        "risen",
        "baseline",
        "mates",
        "capacity",
        "loads",
        "holds",
        "distilled",
        "meter",
    ];
    assert!(few.len() < many);
    for own in &few {
        assert!(
            !readings.iter().any(|key| own.sign.contains(key)) || own.sign.starts_with("held_volts"),
            "{}",
            own.sign
        );
    }
    let mut before = case.evidence.clone();
    before.today = Some(jiff::civil::date(2020, 1, 1));
    let (none, _) = signs(&before, &case.bank.shape, &case.bank.model, Weights::shipped()).unwrap();
    assert_eq!(none.len(), few.len());
    assert!(diagnose(&none, case.kind(), Weights::shipped()).is_ok());
}
