//! Water as it is really added: known, estimated or not measured, by whatever, with what goes wrong beside it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::{past, sheet};
use crate::common::{cell, shape};
use jiff::Timestamp;
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::Volume;
use rainshadow_core::quantity::units::{
    CUPS_PER_GALLON, OUNCES_PER_GALLON, PINTS_PER_GALLON, QUARTS_PER_GALLON, ReaderUnits, VolumeUnit,
};
use rainshadow_core::visit::{
    Entry, EntryQuestion, Place, VisitSheet, VisitUnderWay, accept, fills, kit_fills, uneven, water_history,
};
use rainshadow_core::water::{
    AmountKnown, AmountQuestion, FillWay, Level, LevelLamp, LevelStep, Poured, Spill,
};
use rainshadow_core::wording;

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-6v-225").unwrap()
}

fn poured(millilitres: f64, to_mark: bool, amount: AmountKnown, how: Option<FillWay>) -> Entry {
    let poured = Poured { amount, how, flow_stopped: None };
    Entry::Water { millilitres, to_mark, by_kit: false, stands: false, poured }
}

fn measured(millilitres: f64) -> Entry {
    poured(millilitres, true, AmountKnown::Measured, None)
}

fn unknown() -> Entry {
    poured(0.0, true, AmountKnown::Unknown, None)
}

fn drawn(millilitres: f64) -> Entry {
    Entry::Spilled { spill: Spill::DrawnOff, millilitres: Some(millilitres), note: String::new() }
}

fn level(step: LevelStep) -> Entry {
    Entry::Level { level: Level::Step { step } }
}

fn work(sheet: &VisitSheet) -> Option<String> {
    wording::water_work(&sheet.water_added(), ReaderUnits::default())
}

#[test]
fn what_went_in_is_told_as_well_as_it_is_known() {
    assert_eq!(work(&sheet(Vec::new())), None);
    let jug = poured(1200.0, true, AmountKnown::Measured, Some(FillWay::Jug));
    assert_eq!(
        work(&sheet(vec![("", jug)])).unwrap(),
        "1.2 L of distilled water added up to the mark, by jug"
    );
    let guessed = poured(300.0, false, AmountKnown::Estimated, None);
    assert_eq!(
        work(&sheet(vec![("A1", guessed)])).unwrap(),
        "About 300 mL of distilled water added to cover the plates"
    );
    assert_eq!(
        work(&sheet(vec![("", unknown())])).unwrap(),
        "Distilled water added up to the mark; the amount was not measured"
    );
    let some = sheet(vec![("A1", measured(500.0)), ("A2-1", measured(90.0))]);
    let told = |cells| {
        let filled = some.cells_filled(&shape(3, 2, 1)).len();
        wording::water_went_in(&some.water_added(), filled, cells, ReaderUnits::default())
    };
    assert_eq!(told(6), "590 mL of distilled water went in to bring four cells to their mark.");
    assert_eq!(told(4), "590 mL of distilled water went in to bring every cell to its mark.");
    assert_eq!(
        work(&sheet(vec![("A1", measured(500.0)), ("A2", unknown())])).unwrap(),
        "500 mL and more of distilled water added up to the mark; a part of it was not measured"
    );
}

#[test]
fn a_fill_that_nobody_measured_begins_an_interval_and_ends_none() {
    let bank = shape(3, 2, 1);
    let visits = [
        past(date(2026, 1, 1), vec![("", measured(600.0))]),
        past(date(2026, 3, 1), vec![("", unknown())]),
        past(date(2026, 5, 1), vec![("", measured(360.0))]),
    ];
    let all = fills(&visits, &bank);
    assert_eq!(all.iter().map(|f| f.unknown).collect::<Vec<_>>(), [false, true, false]);
    let history = water_history(&visits, &bank, &model(), date(2026, 5, 2));
    // 360 mL over six cells in the 61 days from the first of March to the first of May
    assert_eq!(history.bank.len(), 1);
    assert!((history.bank[0].days - 61.0).abs() < 1e-9 && (history.bank[0].millilitres - 60.0).abs() < 1e-9);
    assert_eq!(history.days_since_fill, Some(1.0));
    assert!(uneven(&visits, &bank).is_empty());
}

#[test]
fn what_was_drawn_off_is_no_water_that_the_cells_had_lost() {
    let bank = shape(3, 2, 1);
    let visits = [past(date(2026, 1, 1), vec![("", measured(900.0)), ("A1-1", drawn(120.0))])];
    assert!((fills(&visits, &bank)[0].millilitres - 780.0).abs() < 1e-9);
    let all = visits[0].sheet.water_added();
    assert_eq!((all.millilitres, all.drawn_off), (900.0, 120.0));
}

#[test]
fn kits_and_reservoirs_fill_unseen_and_fillers_that_close_by_themselves_do_not() {
    let by = |how| {
        let entry = poured(900.0, true, AmountKnown::Measured, Some(how));
        kit_fills(&[past(date(2026, 1, 1), vec![("", entry)])]).map(|(n, _)| n)
    };
    assert_eq!(by(FillWay::WateringKit), Some(1));
    assert_eq!(by(FillWay::GravityReservoir), Some(1));
    for seen in [FillWay::Bottle, FillWay::Jug, FillWay::Bulb, FillWay::Syringe, FillWay::SelfClosingFiller] {
        assert_eq!(by(seen), None, "{seen:?}");
    }
}

#[test]
fn levels_follow_lamps_spills_and_what_was_drawn_off() {
    let bank = shape(3, 2, 1);
    let of = |entries: Vec<(&str, Entry)>, at: &str| {
        let all = sheet(entries).levels(&bank);
        all.into_iter().find(|(own, _)| *own == cell(at)).map(|(_, level)| level.step(&model()))
    };
    assert_eq!(of(vec![("A1", Entry::Lamp { lamp: LevelLamp::Off })], "A1-2"), Some(LevelStep::Low));
    assert_eq!(of(vec![("A1", Entry::Lamp { lamp: LevelLamp::Bright })], "A1-2"), None);
    let over = Entry::Spilled { spill: Spill::Overfilled, millilitres: None, note: String::new() };
    assert_eq!(of(vec![("A1-1", over.clone())], "A1-1"), Some(LevelStep::Over));
    assert_eq!(of(vec![("A1-1", over), ("A1-1", drawn(40.0))], "A1-1"), Some(LevelStep::AtMark));
}

#[test]
fn water_to_the_mark_where_the_level_stood_over_it_is_asked_about_measured_or_not() {
    let (bank, model, now) = (shape(3, 2, 1), model(), Timestamp::UNIX_EPOCH);
    let seen = sheet(vec![("A1-1", level(LevelStep::Over))]);
    let visit = VisitUnderWay { shape: &bank, model: &model, sheet: &seen, taking: true };
    for entry in [unknown(), measured(80.0)] {
        let asked = accept((Place::Cell(cell("A1-1")), &entry, now), &visit, now).unwrap();
        assert!(
            matches!(asked, Some(EntryQuestion::Amount { question: AmountQuestion::OverTheMark, .. })),
            "{asked:?}"
        );
    }
    let elsewhere = accept((Place::Cell(cell("A2-1")), &unknown(), now), &visit, now).unwrap();
    assert_eq!(elsewhere, None);
}

#[test]
fn levels_that_stand_apart_at_the_first_look_are_told_even_when_they_were_filled() {
    let bank = shape(3, 2, 1);
    let filled = sheet(vec![
        ("", level(LevelStep::AtMark)),
        ("A2-3", level(LevelStep::AtPlates)),
        ("", measured(200.0)),
    ]);
    // a look into one cell says more of it than the one over the whole bank, whichever came first
    let own = filled.uneven_levels(&bank, &model()).unwrap();
    assert_eq!(own.lowest, [cell("A2-3")]);
    assert_eq!(filled.filled_from_plates(&bank, &model()), [cell("A2-3")]);
    let other_way = sheet(vec![
        ("A2-3", level(LevelStep::AtPlates)),
        ("A", level(LevelStep::AtMark)),
        ("A2-3", measured(90.0)),
    ]);
    assert_eq!(other_way.uneven_levels(&bank, &model()).unwrap().lowest, [cell("A2-3")]);
    // what is noted after the water is no more what was found
    let after = sheet(vec![("", measured(200.0)), ("A2-3", level(LevelStep::AtPlates))]);
    assert!(after.levels_as_found(&bank).is_empty() && after.filled_from_plates(&bank, &model()).is_empty());
    let by_cell = sheet(vec![
        ("A1", level(LevelStep::AtMark)),
        ("A2-1", level(LevelStep::AtMark)),
        ("A2-2", level(LevelStep::AtMark)),
        ("A2-3", level(LevelStep::AtPlates)),
        ("", measured(200.0)),
    ]);
    let own = by_cell.uneven_levels(&bank, &model()).unwrap();
    assert_eq!(own.lowest, [cell("A2-3")]);
    let said = wording::uneven_levels(&own, ReaderUnits::default());
    assert!(said.starts_with("The levels were uneven when first looked at: A2-3 stood "), "{said}");
}

#[test]
fn amounts_are_said_in_the_measures_people_use() {
    // NIST Handbook 44, appendix C: a gallon is 4 quarts, 8 pints, 16 cups, 128 fluid ounces
    let gallon = (QUARTS_PER_GALLON, PINTS_PER_GALLON, CUPS_PER_GALLON, OUNCES_PER_GALLON);
    assert_eq!(gallon, (4.0, 8.0, 16.0, 128.0));
    let us = ReaderUnits { volume: VolumeUnit::UsGallon, ..ReaderUnits::default() };
    let said = |ml: f64| us.say_volume(Volume::from_millilitres(ml).unwrap());
    // 29.5735 mL to the fluid ounce, 946.353 to the quart
    assert_eq!(said(150.0), "5.1 US fl oz", "never 0.04 gal");
    assert_eq!(said(1900.0), "2.0 US qt");
    assert_eq!(said(76_000.0), "20.08 US gal");
}

proptest! {
    #[test]
    fn more_water_is_never_told_as_less_and_cells_add_up_to_the_whole(
        amounts in proptest::collection::vec((0usize..7, 0.0..400.0f64), 1..20)
    ) {
        let bank = shape(3, 2, 1);
        let places = ["", "A", "A1", "A2", "A1-1", "A2-2", "A2-3"];
        let mut entries: Vec<(&str, Entry)> = Vec::new();
        let mut before = 0.0;
        for (place, ml) in amounts {
            entries.push((places[place], measured(ml)));
            let now = sheet(entries.clone());
            let added = now.water_added().millilitres;
            prop_assert!(added + 1e-9 >= before);
            before = added;
            let by_cell: f64 = now.water_by_cell(&bank).values().sum();
            prop_assert!((by_cell - added).abs() < 1e-6);
        }
    }

    #[test]
    fn drawing_off_never_makes_a_fill_negative(added in 0.0..2000.0f64, off in 0.0..4000.0f64) {
        let visits = [past(date(2026, 1, 1), vec![("", measured(added)), ("", drawn(off))])];
        let all = fills(&visits, &shape(3, 2, 1));
        prop_assert!(all[0].millilitres >= 0.0 && all[0].millilitres <= added);
    }
}
