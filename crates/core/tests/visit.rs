//! A visit: its steps, its cautions, and which entries stand.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::written as kept;
use crate::common::{cell, shape};
use rainshadow_core::battery_model::Construction;
use rainshadow_core::schedule::Task;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Caution, Check, ClosingItem, Entry, GearGroup, GearItem, Left, LeftAs, Place, SeenFinding, Step,
    StepProgress, StepState, Tool, Trip, VisitEntry, VisitSheet, checks, closing_items, steps, van_load,
};
use rainshadow_core::water::{Level, LevelStep, Poured};
use rainshadow_core::wording;

fn level(step: LevelStep) -> Entry {
    Entry::Level { level: Level::Step { step } }
}

fn water(millilitres: f64, to_mark: bool) -> Entry {
    Entry::Water { millilitres, to_mark, by_kit: false, stands: false, poured: Poured::default() }
}

#[test]
fn a_sealed_bank_has_no_round_no_water_and_no_caps() {
    let sealed = steps(Construction::Agm);
    let dry = [Step::MakeSafe, Step::LookOver, Step::RestCheck, Step::LoadTest, Step::Joints, Step::CloseUp];
    assert_eq!(sealed, dry);
    let flooded = steps(Construction::Flooded);
    assert_eq!((flooded.len(), flooded[5]), (9, Step::Equalize), "equalize follows the water");
    assert_eq!(flooded[6], Step::LoadTest, "tests come when it is full and watered");
    assert_eq!(flooded[7], Step::Joints, "joints are read under the load that is at hand then");
    assert!(!checks(Construction::Gel).contains(&Check::Caps));
    for left in LeftAs::ALL {
        assert!(!closing_items(Construction::Agm, left).contains(&ClosingItem::CapsOn));
    }
}

#[test]
fn cautions_stand_in_their_step_and_those_that_hurt_are_confirmed() {
    let bank = shape(3, 8, 2);
    let first = Step::MakeSafe.cautions(&bank, Construction::Flooded);
    assert!(first.contains(&Caution::HigherVoltage), "48 V passes 60 V on an equalize");
    assert!(
        !Step::MakeSafe.cautions(&shape(3, 2, 3), Construction::Flooded).contains(&Caution::HigherVoltage)
    );
    for caution in [Caution::Acid, Caution::MetalOff, Caution::Ventilated, Caution::Isolated] {
        assert!(first.contains(&caution) && caution.confirmed(), "{caution:?}");
    }
    let sealed = Step::LookOver.cautions(&shape(6, 2, 2), Construction::Agm);
    assert!(sealed.contains(&Caution::HotSealed) && sealed.contains(&Caution::NeverOpen));
    assert!(!Step::LookOver.cautions(&bank, Construction::Flooded).contains(&Caution::HotSealed));
    // never at the posts: the breaker is where a hot battery is stopped
    assert!(wording::caution(Caution::HotSealed, Construction::Agm).contains("never at the posts"));
}

#[test]
fn an_entry_takes_the_place_of_the_same_one_before_and_water_adds_up() {
    let sheet = VisitSheet::new(vec![
        kept("1", "A1", Entry::BatteryVolts { volts: 6.31, stands: false }),
        kept("2", "A1", Entry::BatteryVolts { volts: 6.34, stands: false }),
        kept("3", "A1-1", water(40.0, false)),
        kept("4", "A1-1", water(60.0, true)),
        kept("5", "A1-2", water(500.0, true)),
        kept("6", "", Entry::Withdrawn { entry: "5".into() }),
    ]);
    assert!((sheet.battery_volts()[0].volts - 6.34).abs() < 1e-9);
    assert_eq!(sheet.battery_volts().len(), 1);
    let added = sheet.water_added();
    assert_eq!((added.millilitres, added.to_mark, added.any), (100.0, true, true));
    assert!(!sheet.stands("1") && sheet.stands("2") && !sheet.stands("5"));
    assert_eq!(sheet.all().len(), 6, "nothing is overwritten");
}

#[test]
fn taking_back_the_newer_brings_the_older_back() {
    let sheet = VisitSheet::new(vec![
        kept("1", "A1-1", level(LevelStep::Low)),
        kept("2", "A1-1", level(LevelStep::PlatesBare)),
        kept("3", "", Entry::Withdrawn { entry: "2".into() }),
    ]);
    let levels = sheet.levels(&shape(3, 2, 1));
    assert_eq!(levels, [(cell("A1-1"), Level::Step { step: LevelStep::Low })]);
}

#[test]
fn a_level_of_the_whole_bank_holds_where_no_cell_says_otherwise() {
    let bank = shape(3, 2, 1);
    let sheet = VisitSheet::new(vec![
        kept("1", "", level(LevelStep::AtMark)),
        kept("2", "A2-1", level(LevelStep::Low)),
    ]);
    let levels = sheet.levels(&bank);
    assert_eq!(levels.len(), 6);
    let low: Vec<_> = levels.iter().filter(|(_, l)| *l == Level::Step { step: LevelStep::Low }).collect();
    assert_eq!((low.len(), low[0].0), (1, cell("A2-1")));
}

#[test]
fn water_of_a_battery_is_shared_among_its_cells() {
    let bank = shape(3, 2, 1);
    let sheet = VisitSheet::new(vec![kept("1", "A1", water(90.0, true)), kept("2", "", water(60.0, true))]);
    let by_cell = sheet.water_by_cell(&bank);
    assert!((by_cell[&cell("A1-2")] - 40.0).abs() < 1e-9 && (by_cell[&cell("A2-2")] - 10.0).abs() < 1e-9);
    assert!((by_cell.values().sum::<f64>() - 150.0).abs() < 1e-9, "nothing is lost");
    assert!(sheet.water_noted_by_cell().is_empty(), "nobody measured into a cell");
    let single =
        VisitSheet::new(vec![kept("1", "A1-2", water(30.0, true)), kept("2", "A1-2", water(5.0, true))]);
    assert_eq!(single.water_noted_by_cell().into_iter().collect::<Vec<_>>(), [(cell("A1-2"), 35.0)]);
}

#[test]
fn a_step_is_counted_done_skipped_and_taken_up_again() {
    let bank = shape(6, 2, 2);
    let step = |state, reason: &str| Entry::Step { step: Step::RestCheck, state, reason: reason.into() };
    let of = |entries: Vec<VisitEntry>| {
        StepProgress::of(Step::RestCheck, &VisitSheet::new(entries), &bank, Construction::Agm)
    };
    let volts = kept("1", "A1", Entry::BatteryVolts { volts: 12.8, stands: false });
    let counted = of(vec![volts.clone()]);
    assert_eq!((counted.done, counted.of, counted.state), (1, 4, None));
    let skipped = of(vec![volts.clone(), kept("2", "", step(StepState::Skipped, "meter is flat"))]);
    assert_eq!((skipped.state, skipped.reason.as_str()), (Some(StepState::Skipped), "meter is flat"));
    let again =
        of(vec![volts, kept("2", "", step(StepState::Done, "")), kept("3", "", step(StepState::Open, ""))]);
    assert_eq!(again.state, None);
}

#[test]
fn measured_play_and_tray_volts_are_judged() {
    assert_eq!(Check::HoldDown.judge(2.0), Some(Severity::Steady));
    assert_eq!(Check::HoldDown.judge(3.0), Some(Severity::Watch));
    assert_eq!(Check::HoldDown.judge(10.0), Some(Severity::Act));
    assert_eq!(Check::Tray.judge(0.6), Some(Severity::Watch));
    assert_eq!(Check::Case.judge(1.0), None);
    for check in Check::ALL {
        assert!(!check.kinds().is_empty() && !wording::check_advice(*check).is_empty(), "{check:?}");
        for kind in check.kinds() {
            assert_eq!(check.kind(kind.key).unwrap().severity, kind.severity);
            assert!(wording::found_kind(*check, kind.key).is_some(), "{check:?} says {} in words", kind.key);
        }
    }
}

#[test]
fn what_was_found_stays_and_fine_after_it_says_that_it_was_put_right() {
    let found = |kind: &str| {
        let found =
            SeenFinding { kind: kind.into(), severity: Severity::Watch, note: String::new(), measured: None };
        Entry::Checked { check: Check::Terminals, found: Some(found), measured: None }
    };
    let fine = Entry::Checked { check: Check::Terminals, found: None, measured: None };
    let sheet = VisitSheet::new(vec![
        kept("1", "A3", found("green")),
        kept("2", "B1", found("powder")),
        kept("3", "A3", fine),
    ]);
    let left: Vec<_> = sheet.found_and_done().iter().map(|f| (f.entry.place.to_string(), f.left)).collect();
    let expected = [("A3".to_owned(), Left::PutRight), ("B1".to_owned(), Left::AsFound)];
    assert_eq!(left, expected, "what was found stays found");
    assert_eq!(Place::Bank.said(), "the bank");
}

#[test]
fn the_van_carries_the_forecasts_with_a_quarter_spare_and_each_thing_once() {
    let spares = vec!["vent caps".to_owned()];
    let trips = [
        Trip {
            site: "Kestrel Dome",
            construction: Construction::Flooded,
            tasks: &[Task::Water, Task::Round],
            water: 2200.0,
            spares: &spares,
            wrenches: "13 mm posts, 10 mm cover",
            awkward: "B8 needs a filler jug",
        },
        Trip {
            site: "Arboretum tram 4",
            construction: Construction::Flooded,
            tasks: &[Task::Water],
            water: 1800.0,
            spares: &[],
            wrenches: "",
            awkward: "",
        },
    ];
    let load = van_load(&trips);
    assert!((load.water - 5000.0).abs() < 1e-9 && (load.spare - 1000.0).abs() < 1e-9);
    let caps: Vec<_> = load.gear.iter().filter(|g| wording::gear(g) == "Vent caps").collect();
    assert_eq!((caps.len(), caps[0].group, caps[0].whereto.as_str()), (1, GearGroup::Fit, "Kestrel Dome"));
    let jug = load.gear.iter().find(|g| g.item == GearItem::Tool { tool: Tool::FillerJug }).unwrap();
    assert_eq!(jug.whereto, "Kestrel Dome, Arboretum tram 4");
    let noted: Vec<(String, &str)> = load
        .gear
        .iter()
        .filter(|g| matches!(g.item, GearItem::Wrenches { .. } | GearItem::ForAwkwardCells { .. }))
        .map(|g| (wording::gear(g), g.whereto.as_str()))
        .collect();
    let wrenches = ("Wrenches: 13 mm posts, 10 mm cover".to_owned(), "Kestrel Dome");
    let awkward = ("For awkward cells: B8 needs a filler jug".to_owned(), "Kestrel Dome");
    assert_eq!(noted, [wrenches, awkward], "what the access note says is loaded");
    assert!(load.gear.windows(2).all(|w| w[0].group <= w[1].group));
    assert!(van_load(&[]).gear.is_empty(), "no visit, nothing to load");
}

mod record {
    use super::*;
    use crate::common::visits::past;
    use jiff::civil::date;
    use rainshadow_core::battery_model::BatteryModel;
    use rainshadow_core::visit::{
        PastVisit, Work, fills, kit_fills, last_done, last_water_check, open_findings, plates_bare,
        water_history,
    };
    use rainshadow_core::water::forecast;

    fn model() -> BatteryModel {
        BatteryModel::generic_by_key("flooded-6v-225").unwrap()
    }

    #[test]
    fn fills_are_counted_from_mark_to_mark_and_covering_counts_to_the_next() {
        let bank = shape(3, 2, 1);
        let visits = [
            past(date(2026, 1, 1), vec![("", water(600.0, true))]),
            past(date(2026, 1, 20), vec![("A1-1", water(50.0, false))]),
            past(date(2026, 1, 31), vec![("", water(250.0, true))]),
        ];
        let all = fills(&visits, &bank);
        assert_eq!(all.len(), 2);
        assert!((all[1].millilitres - 300.0).abs() < 1e-9);
        let history = water_history(&visits, &bank, &model(), date(2026, 2, 10));
        // 300 mL over six cells in 30 days; the first fill only starts the clock
        assert_eq!(history.bank.len(), 1);
        assert!(
            (history.bank[0].millilitres - 50.0).abs() < 1e-9 && (history.bank[0].days - 30.0).abs() < 1e-9
        );
        assert_eq!(history.days_since_fill, Some(10.0));
        let f = forecast(&history, &model()).unwrap();
        assert!((f.consumption.per_day - 50.0 / 30.0).abs() < 1e-9);
    }

    #[test]
    fn plates_stay_bare_until_they_are_covered_or_seen_covered() {
        let bank = shape(3, 2, 1);
        let seen = past(
            date(2026, 1, 1),
            vec![("A1-2", level(LevelStep::PlatesBare)), ("A2-1", level(LevelStep::PlatesBare))],
        );
        let covered = past(date(2026, 1, 2), vec![("A1-2", water(80.0, false))]);
        let bare = |visits: &[PastVisit]| plates_bare(visits, &bank, &model());
        assert_eq!(bare(std::slice::from_ref(&seen)).unwrap().0, [cell("A1-2"), cell("A2-1")]);
        assert_eq!(bare(&[seen.clone(), covered]).unwrap().0, [cell("A2-1")]);
        let all = past(date(2026, 1, 3), vec![("", level(LevelStep::AtMark))]);
        assert_eq!(bare(&[seen, all]), None);
    }

    #[test]
    fn a_finding_stays_open_until_the_same_check_is_fine_there() {
        let found = SeenFinding {
            kind: "green".into(),
            severity: Severity::Watch,
            note: String::new(),
            measured: None,
        };
        let see =
            |found: Option<SeenFinding>| Entry::Checked { check: Check::Terminals, found, measured: None };
        let first = past(date(2026, 1, 1), vec![("A1", see(Some(found.clone()))), ("A2", see(Some(found)))]);
        let second = past(date(2026, 2, 1), vec![("A1", see(None))]);
        let third = past(date(2026, 3, 1), vec![("", see(None))]);
        assert_eq!(open_findings(std::slice::from_ref(&first)).len(), 2);
        let open = open_findings(&[first.clone(), second.clone()]);
        assert_eq!((open.len(), open[0].finding.subject.to_string().as_str()), (1, "A2"));
        assert_eq!(wording::spare(&open[0].finding), "lugs, wire brush");
        assert!(open_findings(&[first, second, third]).is_empty(), "fine for the whole bank");
    }

    #[test]
    fn the_last_time_of_everything() {
        let done = |work| Entry::Done { work, note: String::new() };
        let by_kit = || Entry::Water {
            millilitres: 900.0,
            to_mark: true,
            by_kit: true,
            stands: false,
            poured: Poured::default(),
        };
        let visits = [
            past(date(2026, 1, 1), vec![("", done(Work::Retorqued)), ("", by_kit())]),
            past(date(2026, 2, 1), vec![("", by_kit()), ("", done(Work::CellsInspected))]),
            past(date(2026, 3, 1), vec![("", by_kit())]),
            past(date(2026, 4, 1), vec![("", level(LevelStep::AtMark))]),
        ];
        assert_eq!(last_done(&visits, &[Work::Retorqued]), Some(date(2026, 1, 1)));
        assert_eq!(last_done(&visits, &[Work::LoadTested, Work::CapacityTested]), None);
        assert_eq!(last_water_check(&visits), Some(date(2026, 4, 1)));
        assert_eq!(kit_fills(&visits), Some((1, date(2026, 3, 1))));
        assert_eq!(kit_fills(&visits[..2]), None);
    }
}
