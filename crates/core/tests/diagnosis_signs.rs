//! DG-1: what short loads, holdings, checked instruments and past capacities are signs of, and what visits leave as evidence.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::tests_made::test;
use crate::common::visits::past;
use crate::common::{sg, shape};
use jiff::civil::{Date, date};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::diagnosis::{
    CellGravity, Evidence, HeldRead, InstrumentCheck, MeasuredBattery, Measurement, ResistancesRead,
    RestVoltsRead, RoundRead, ShortLoadRead, StringMeasured, TimedDischarge, WaterUse, Weights, signs,
};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::load_test::{LoadedVolts, ShortLoadSetUp, TesterLoad};
use rainshadow_core::round::judge;
use rainshadow_core::visit::{
    Check, Entry, Judged, OnRecord, RoundOnRecord, SeenFinding, TestEntry, diagnosis_evidence,
    step_that_measures,
};
use rainshadow_core::water::{Level, LevelStep, Poured};
use strum::VariantArray;

const TODAY: Date = date(2026, 10, 20);

fn bank() -> BankShape {
    shape(6, 2, 2)
}

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-12v-105").unwrap()
}

fn keys_of(evidence: &Evidence, shape: &BankShape) -> Vec<String> {
    let (all, _) = signs(evidence, shape, &model(), Weights::shipped()).unwrap();
    // What the levels of a round tell has a test of its own.
    all.into_iter().map(|own| own.sign).filter(|key| !key.starts_with("plates_")).collect()
}

fn keys(evidence: &Evidence) -> Vec<String> {
    keys_of(evidence, &bank())
}

fn four(values: [f64; 4], first: Option<f64>) -> Vec<MeasuredBattery> {
    let names = ["A1", "A2", "B1", "B2"];
    let of = |(name, value): (&str, f64)| MeasuredBattery { battery: name.parse().unwrap(), value, first };
    names.into_iter().zip(values).map(of).collect()
}

#[test]
fn short_loads_tell_who_gives_way_and_who_loses_a_cell() {
    let of = |values| {
        let read = ShortLoadRead { day: TODAY, batteries: four(values, None) };
        keys(&Evidence { short_loads: vec![read], ..Evidence::default() })
    };
    assert_eq!(of([11.4, 11.5, 11.45, 11.3]), ["loads_evenly"]);
    assert_eq!(of([11.4, 11.5, 11.45, 10.9]), ["one_gives_way"]);
    assert_eq!(of([11.4, 11.5, 11.45, 9.4]), ["one_falls_a_cell"]);
    assert_eq!(of([11.4, 10.6, 11.45, 10.7]), ["several_give_way"]);
    // one battery has no mates
    let alone = ShortLoadRead { day: TODAY, batteries: four([10.9; 4], None)[..1].to_vec() };
    assert!(
        keys_of(&Evidence { short_loads: vec![alone], ..Evidence::default() }, &shape(6, 1, 1)).is_empty()
    );
}

#[test]
fn a_holding_tells_a_loss_only_over_what_the_meter_can_tell_and_from_three_days_on() {
    let of = |after: [f64; 4], days: f64, temperature: Option<f64>| {
        let read =
            HeldRead { day: TODAY, days, temperature, noise: 0.003, batteries: four(after, Some(12.70)) };
        keys(&Evidence { held: vec![read], ..Evidence::default() })
    };
    assert_eq!(of([12.69, 12.69, 12.688, 12.69], 4.0, None), ["holds"]);
    assert_eq!(of([12.60, 12.61, 12.60, 12.60], 4.0, None), ["all_lose"]);
    assert_eq!(of([12.69, 12.69, 12.69, 12.55], 4.0, None), ["one_loses"]);
    assert!(of([12.60, 12.61, 12.60, 12.60], 2.0, None).is_empty(), "held for too short");
    // twenty degrees warmer such a battery loses four times as much by itself
    assert_eq!(of([12.64, 12.64, 12.64, 12.64], 4.0, Some(45.0)), ["holds"]);
    assert_eq!(of([12.64, 12.64, 12.64, 12.64], 4.0, Some(25.0)), ["all_lose"]);
}

fn round(off: f64) -> RoundRead {
    let full = model().full_gravity.value();
    let shape = bank();
    let cells = shape.cells().map(|cell| CellGravity {
        cell,
        gravity: sg(full + off / 1000.0),
        below_mark: Some(0.0),
        in_question: false,
    });
    RoundRead {
        day: TODAY,
        proven_full: true,
        instrument: "float".into(),
        noise: 3.0,
        cells: cells.collect(),
    }
}

#[test]
fn of_next_to_nothing_no_battery_is_said_to_drink_more() {
    let drinks = |share| {
        let water = WaterUse {
            share: Some(share),
            on_float: false,
            per_degree: None,
            furthest_battery: Some(3.0),
            strings_apart: Some(2.0),
        };
        keys(&Evidence { water: Some(water), ..Evidence::default() })
    };
    assert_eq!(drinks(0.10), ["drinks_as_usual", "one_drinks_odd", "strings_drink_apart"]);
    assert_eq!(drinks(0.01), ["hardly_drinks"]);
}

#[test]
fn what_was_measured_and_shows_nothing_is_not_asked_for_again() {
    let strings = |currents: [f64; 2]| {
        let own = StringMeasured { joints_out: None, currents: currents.to_vec(), to_case: None };
        signs(&Evidence { strings: Some(own), ..Evidence::default() }, &bank(), &model(), Weights::shipped())
            .unwrap()
    };
    let (none, made) = strings([35.0, 25.0]);
    assert!(none.is_empty(), "between alike and uneven it is a sign of nothing: {none:?}");
    assert_eq!(made, [Measurement::Currents]);
    assert_eq!(strings([30.0, 30.5]).0[0].sign, "strings_share");
    let old = RoundRead { day: date(2024, 1, 1), ..round(0.0) };
    let evidence = Evidence { rounds: vec![old], today: Some(TODAY), ..Evidence::default() };
    assert!(
        signs(&evidence, &bank(), &model(), Weights::shipped()).unwrap().1.is_empty(),
        "too old to count"
    );
}

#[test]
fn the_check_of_an_instrument_is_said_as_exactly_as_it_can_be_read() {
    let check = |off| vec![InstrumentCheck { day: TODAY, instrument: String::new(), off }];
    let said = |evidence: Evidence| {
        signs(&evidence, &bank(), &model(), Weights::shipped()).unwrap().0.remove(0).seen
    };
    let meter = said(Evidence { meter: check(0.013_651_9), ..Evidence::default() });
    assert!(meter.starts_with("+0.01 V on 12 V on "), "{meter}");
    let float = said(Evidence { distilled: check(8.000_000_001), ..Evidence::default() });
    assert!(float.starts_with("+8 points on "), "{float}");
}

#[test]
fn an_instrument_that_was_found_off_is_told_and_its_readings_are_put_right() {
    let check = |instrument: &str, off| InstrumentCheck { day: TODAY, instrument: instrument.into(), off };
    let read =
        |off, distilled| keys(&Evidence { rounds: vec![round(off)], distilled, ..Evidence::default() });
    assert_eq!(read(30.0, vec![]), ["over_full_levels_known"]);
    assert_eq!(read(30.0, vec![check("float", 28.0)]), ["full_and_even", "distilled_off"]);
    assert_eq!(read(0.0, vec![check("float", 3.0)]), ["full_and_even", "distilled_right"]);
    // the check of another float says nothing of this one
    assert_eq!(read(30.0, vec![check("the other one", 28.0)]), ["over_full_levels_known", "distilled_off"]);
    let full = 6.0 * (model().full_gravity.value() + 0.845);
    let rest = |volts: f64| RestVoltsRead {
        day: TODAY,
        settled: true,
        proven_full: true,
        batteries: four([volts; 4], None),
    };
    let volts = |volts, off| {
        let meter = vec![check("", off)];
        keys(&Evidence { rest: vec![rest(volts)], meter, ..Evidence::default() })
    };
    assert_eq!(volts(full + 0.3, 0.30), ["full_volts_right", "meter_off"]);
    assert_eq!(volts(full + 0.3, 0.01), ["full_volts_high", "meter_right"]);
    // beside a round the two agree or not as they were read; a wrong one is never called right by the other
    let both = |off| {
        keys(&Evidence {
            rounds: vec![round(off)],
            rest: vec![rest(full)],
            distilled: vec![check("float", off)],
            ..Evidence::default()
        })
    };
    assert!(both(28.0).contains(&"volts_below_gravity".to_owned()));
    assert!(both(0.0).contains(&"volts_agree_with_gravity".to_owned()));
    assert!(!both(8.0).contains(&"volts_agree_with_gravity".to_owned()));
}

#[test]
fn the_levels_of_a_round_tell_of_plates_that_show_or_are_covered() {
    let flooded = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    let height = flooded.fill_mark_above_plates.unwrap().millimetres();
    let bank = shape(3, 2, 1);
    let of = |below: &dyn Fn(usize) -> Option<f64>, seen: &[&str]| {
        let cells = bank.cells().enumerate().map(|(at, cell)| CellGravity {
            cell,
            gravity: sg(1.265),
            below_mark: below(at),
            in_question: false,
        });
        let round = RoundRead {
            day: TODAY,
            proven_full: true,
            instrument: String::new(),
            noise: 3.0,
            cells: cells.collect(),
        };
        let seen = seen
            .iter()
            .map(|key| rainshadow_core::diagnosis::SeenSign { sign: (*key).into(), of: String::new() })
            .collect();
        let evidence = Evidence { rounds: vec![round], seen, ..Evidence::default() };
        let (all, _) = signs(&evidence, &bank, &flooded, Weights::shipped()).unwrap();
        let plates = all.into_iter().filter(|own| own.sign.starts_with("plates_"));
        plates.map(|own| (own.sign, own.of)).collect::<Vec<_>>()
    };
    let told = |key: &str, of: &str| vec![(key.to_owned(), of.to_owned())];
    assert_eq!(of(&|_| Some(3.0), &[]), told("plates_covered", ""));
    assert_eq!(of(&|at| Some(if at == 4 { height + 3.0 } else { 3.0 }), &[]), told("plates_show", "A2-2"));
    assert_eq!(of(&|_| Some(height), &[]), [], "at the plates: nobody can say");
    assert_eq!(of(&|at| (at < 2).then_some(3.0), &[]), [], "too few are known");
    assert_eq!(of(&|_| Some(3.0), &["plates_show"]), told("plates_show", ""), "who looked tells better");
}

#[test]
fn a_single_battery_that_lacks_a_cell_is_seen_without_mates() {
    let one = |value, proven_full| {
        let batteries = four([value; 4], None)[..1].to_vec();
        let rest = RestVoltsRead { day: TODAY, settled: true, proven_full, batteries };
        keys_of(&Evidence { rest: vec![rest], ..Evidence::default() }, &shape(6, 1, 1))
    };
    assert!(one(10.6, true).contains(&"battery_cell_missing".to_owned()));
    assert!(
        one(10.6, false).contains(&"battery_cell_missing".to_owned()),
        "under what its cells have when empty"
    );
    assert!(!one(12.1, false).contains(&"battery_cell_missing".to_owned()));
}

#[test]
fn a_capacity_that_falls_test_by_test_is_a_sign_of_its_own() {
    let of = |percents: &[f64]| {
        let tests = percents.iter().zip(2022..);
        let discharges = tests
            .map(|(percent, year)| TimedDischarge {
                day: date(year, 9, 1),
                percent: *percent,
                batteries_read: false,
                early: vec![],
            })
            .collect();
        keys(&Evidence { discharges, ..Evidence::default() })
    };
    assert_eq!(of(&[99.0, 92.0, 84.0]), ["capacity_fair", "capacity_falls"]);
    assert_eq!(of(&[99.0, 84.0]), ["capacity_fair"], "two tests are no trend");
    assert_eq!(of(&[99.0, 82.0, 90.0]), ["capacity_fair"], "it came back");
    assert_eq!(of(&[96.0, 95.0, 93.0]), ["capacity_full"], "within what tests differ by");
}

#[test]
fn resistances_that_rose_together_are_told_from_one_that_rose_alone() {
    let of = |values| {
        let read = ResistancesRead { day: TODAY, batteries: four(values, Some(4.0)) };
        keys(&Evidence { resistances: vec![read], ..Evidence::default() })
    };
    assert_eq!(of([5.4, 5.5, 5.3, 5.6]), ["all_risen"]);
    assert_eq!(of([4.9, 5.0, 4.8, 4.9]), ["all_risen_a_fifth"]);
    assert_eq!(of([4.1, 4.0, 4.2, 5.5]), ["one_risen"]);
    assert_eq!(of([4.1, 4.0, 4.2, 4.1]), ["near_baseline"]);
}

#[test]
fn visits_leave_evidence_and_what_was_put_right_is_none() {
    let (bank, model, rules) = (bank(), model(), HouseRules::maker_first());
    let judged = Judged { shape: &bank, model: &model, rules: &rules };
    let found = |kind: &str| {
        let seen = SeenFinding {
            kind: kind.into(),
            severity: rainshadow_core::severity::Severity::Watch,
            note: String::new(),
            measured: None,
        };
        Entry::Checked { check: Check::Top, found: Some(seen), measured: None }
    };
    let ohmic =
        |milliohms| Entry::Ohmic { milliohms, tester: String::new(), new_baseline: false, stands: false };
    let set_up = ShortLoadSetUp {
        load: TesterLoad::HalfCapacity { c20: 105.0 },
        seconds: 15.0,
        temperature: None,
        charged: Some(100.0),
        tester: String::new(),
    };
    let load = |at_end| {
        test(TestEntry::ShortLoad { read: LoadedVolts { before: 12.7, at_end, after: None, stands: false } })
    };
    let first = past(
        date(2026, 9, 1),
        vec![
            ("A1", ohmic(4.0)),
            ("B2", ohmic(4.0)),
            ("A1", found("wet")),
            ("", test(TestEntry::SetUp { set_up })),
            ("A1", load(11.4)),
            ("B2", load(10.9)),
        ],
    );
    let of = |visits: &[rainshadow_core::visit::PastVisit]| {
        diagnosis_evidence(visits, &[], judged, &OnRecord::default(), TODAY)
    };
    let own = of(std::slice::from_ref(&first));
    assert_eq!(own.today, Some(TODAY));
    assert_eq!(own.short_loads[0].batteries.len(), 2);
    assert_eq!(own.resistances[0].batteries.len(), 2);
    assert_eq!((own.seen[0].sign.as_str(), own.seen[0].of.as_str()), ("tops_wet", "A1"));
    // looked at again and in order; the newer resistances against the first
    let fine = Entry::Checked { check: Check::Top, found: None, measured: None };
    let second = past(date(2026, 10, 1), vec![("", fine), ("A1", ohmic(4.1)), ("B2", ohmic(5.4))]);
    let own = of(&[first, second]);
    let seen: Vec<&str> = own.seen.iter().map(|s| s.sign.as_str()).collect();
    assert_eq!(seen, ["tops_dry"]);
    let b2 = own.resistances[0].batteries.iter().find(|b| b.battery == "B2".parse().unwrap()).unwrap();
    assert_eq!((b2.value, b2.first), (5.4, Some(4.0)));
    // what no step measures is told so
    let steps = Measurement::VARIANTS.iter().filter(|m| step_that_measures(**m).is_some());
    assert_eq!(steps.count(), 12);
    assert!(step_that_measures(Measurement::Record).is_none());
}

#[test]
fn a_level_that_was_called_low_by_eye_is_told_by_the_water_that_brought_it_to_the_mark() {
    let (shape, model, rules) = (bank(), model(), HouseRules::maker_first());
    let judged_by = Judged { shape: &shape, model: &model, rules: &rules };
    let full = 1000.0 * model.full_gravity.value();
    let judged = judge(&crate::common::round(shape.clone(), &[full; 24]));
    let read = RoundOnRecord { day: TODAY, proven_full: true, instrument: "hydrometer", judged: &judged };
    let below = |entries: Vec<(&str, Entry)>| {
        let visit = past(TODAY, entries);
        let own = diagnosis_evidence(&[visit], &[read], judged_by, &OnRecord::default(), TODAY);
        let keys = keys_of(&own, &shape);
        (own.rounds[0].cells[0].below_mark, keys)
    };
    let level = |level| ("", Entry::Level { level });
    let low = || level(Level::Step { step: LevelStep::Low });
    let poured = |millilitres| {
        let poured = Poured::default();
        ("", Entry::Water { millilitres, to_mark: true, by_kit: false, stands: false, poured })
    };
    // by eye alone nobody knows how far: the gravity counts as it was read
    let (told, keys) = below(vec![low()]);
    assert_eq!(told, None);
    assert!(keys.contains(&"full_and_even".into()), "{keys:?}");
    // two millimetres a cell by the water that went in
    let area = model.free_area.unwrap();
    let (told, keys) = below(vec![low(), poured(24.0 * 2.0 * area)]);
    assert!((told.unwrap() - 2.0).abs() < 1e-9, "{told:?}");
    assert!(keys.contains(&"full_and_even".into()), "{keys:?}");
    assert_eq!(below(vec![level(Level::Step { step: LevelStep::AtMark })]).0, Some(0.0));
    let mark = model.fill_mark_above_plates.unwrap().millimetres();
    assert_eq!(below(vec![level(Level::Millimetres { mm: mark - 7.0 })]).0, Some(7.0));
}
