//! WA-1 to WA-6 and SG-4: Faraday's law, thirst and its range, order of filling, uneven thirst.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

mod common;

use common::{cell, sg};
use proptest::prelude::*;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::EntryQuestion;
use rainshadow_core::water::{
    AmountQuestion, Basis, Consumption, FillOrder, Interval, Level, LevelStep, OverchargeShare, WaterHistory,
    amount_question, concentrated, expected_temperature, fill_order, forecast, grams_per_ampere_hour,
    hydrogen_litres, kit_inspection, millilitres_per_ampere_hour, most_water, need, overcharge_of,
    prior_rate, uneven_consumption, water_of,
};
use rainshadow_core::wording::{self, forecast_line};

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-6v-225").unwrap()
}

fn step(step: LevelStep) -> Level {
    Level::Step { step }
}

#[test]
fn faraday_values_follow_the_codata_constants() {
    // CODATA 2018: e = 1.602176634e-19 C, N_A = 6.02214076e23 /mol, both exact, so F = e·N_A;
    // molar mass of water 18.01528 g/mol and of an ideal gas 22.41396954 L at 0 °C and 1 atm.
    let faraday = 1.602_176_634e-19 * 6.022_140_76e23;
    let moles = 3600.0 / (2.0 * faraday);
    assert!((grams_per_ampere_hour() - moles * 18.015_28).abs() < 1e-9);
    assert!((hydrogen_litres(1.0, 0.0) - moles * 22.413_969_54).abs() < 1e-9);
    // the usual roundings (WA-1)
    assert!((grams_per_ampere_hour() - 0.336).abs() < 5e-4);
    assert!((millilitres_per_ampere_hour() - 0.337_08).abs() < 5e-6);
    assert!((hydrogen_litres(1.0, 0.0) - 0.418).abs() < 5e-4);
    assert!((hydrogen_litres(1.0, 25.0) - 0.456).abs() < 5e-4);
}

#[test]
fn litres_logged_tell_the_overcharge() {
    // WA-1: Ah = mL/(0.337·cells); 24 cells, 1.62 L
    assert!((overcharge_of(1620.0, 24) - 1620.0 / (0.337_08 * 24.0)).abs() < 0.01);
    for (share, said) in [
        (0.01, OverchargeShare::NeverFull),
        (0.03, OverchargeShare::Little),
        (0.04, OverchargeShare::Normal),
        (0.20, OverchargeShare::Normal),
        (0.22, OverchargeShare::Much),
        (0.26, OverchargeShare::Overcharge),
    ] {
        assert_eq!(OverchargeShare::of(share * 100.0, 100.0), Some(said), "{share}");
    }
    assert_eq!(OverchargeShare::of(5.0, 0.0), None, "nothing discharged says nothing");
}

#[test]
fn thirst_is_the_median_rate_brought_to_25_degrees() {
    let every = |ml: f64, t: Option<f64>| Interval { days: 30.0, millilitres: ml, temperature: t };
    let three = Consumption::of(&[every(30.0, None), every(33.0, None), every(60.0, None)], 1.0);
    assert!((three.per_day - 1.1).abs() < 1e-9, "{three:?}");
    // at 35 °C it drinks 1.06^10 = 1.79 times as much: the rate at 25 °C is the smaller
    let warm = Consumption::of(&[every(30.0, Some(35.0))], 1.0);
    assert!((warm.per_day - 1.06f64.powi(-10)).abs() < 1e-9);
    assert_eq!((warm.scatter, warm.fills), (0.5, 1));
    let two = Consumption::of(&[every(30.0, None), every(33.0, None)], 1.0);
    assert!((two.scatter - 0.35).abs() < 1e-12);
    // three alike: never surer than 0.20
    assert!((Consumption::of(&[every(30.0, None); 3], 1.0).scatter - 0.20).abs() < 1e-12);
    assert_eq!(Consumption::of(&[], 1.5).fills, 0);
}

#[test]
fn days_to_the_margin_worked_out_by_hand() {
    // 1 mL a day, s = 0.2: P50 180 days for 180 mL, P10 180/e^(1.2816·0.2) = 139.3, P90 232.6
    let consumption = Consumption { per_day: 1.0, scatter: 0.2, fills: 3 };
    let days = consumption.days_for(180.0, None);
    assert!((days.p50 - 180.0).abs() < 1e-9);
    assert!((days.p10 - 139.305).abs() < 0.01, "{days:?}");
    assert!((days.p90 - 232.583).abs() < 0.01, "{days:?}");
}

fn history(intervals: Vec<Interval>) -> WaterHistory {
    WaterHistory {
        bank: intervals,
        cells: Vec::new(),
        days_since_fill: Some(10.0),
        levels: Vec::new(),
        expected_temperature: Some(25.0),
        cell_count: 24,
    }
}

#[test]
fn totals_take_the_thirstiest_cell_at_one_and_a_half_times_the_mean() {
    let thirty = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let f = forecast(&history(vec![thirty; 3]), &model()).unwrap();
    // reserve (22 − 10)·15 = 180 mL; 1.5 mL a day and cell on the mean, 2.25 for the thirstiest
    assert!((f.reserve - 180.0).abs() < 1e-9);
    assert_eq!((f.basis, f.cell), (Basis::Totals, None));
    assert!((f.days.p50 - (180.0 / 2.25 - 10.0)).abs() < 1e-9, "{f:?}");
    // 24 cells, 10 days gone and 20 to go: 24·1.5·30 mL, and a fifth of a scatter more to carry
    let (middle, most) = f.need_in(20.0);
    assert!((middle - 1080.0).abs() < 1e-6 && (most - 1080.0 * (1.2816f64 * 0.2).exp()).abs() < 1e-6);
}

#[test]
fn one_thirsty_cell_sets_the_date_where_cells_are_known() {
    let of = |ml: f64| vec![Interval { days: 30.0, millilitres: ml, temperature: None }; 3];
    let mut h = history(of(45.0));
    h.cells = vec![(cell("A1-1"), of(45.0)), (cell("A2-3"), of(120.0))];
    let f = forecast(&h, &model()).unwrap();
    assert_eq!((f.basis, f.cell), (Basis::ByCell, Some(cell("A2-3"))));
    assert!((f.days.p50 - (180.0 / 4.0 - 10.0)).abs() < 1e-9);
    // a level seen five days ago, 4 mm over the margin, knows better than the forecast
    h.levels = vec![(cell("A2-3"), 14.0, 5.0)];
    let f = forecast(&h, &model()).unwrap();
    assert!((f.days.p50 - (60.0 / 4.0 - 5.0)).abs() < 1e-9, "{f:?}");
}

#[test]
fn a_cell_under_its_margin_already_is_told_so_and_not_as_a_range_of_days() {
    let thirty = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let said = |days_since_fill: f64| {
        let h = WaterHistory { days_since_fill: Some(days_since_fill), ..history(vec![thirty; 3]) };
        forecast_line(&forecast(&h, &model()).unwrap(), ReaderUnits::default())
    };
    assert!(said(200.0).starts_with("The thirstiest cell stands lower than 10 mm over its plates already;"));
    assert!(said(10.0).contains(" to ") && said(10.0).contains("most likely 70 days"), "{}", said(10.0));
}

#[test]
fn a_sealed_bank_and_one_never_filled_have_no_forecast() {
    let agm = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    assert_eq!(forecast(&history(Vec::new()), &agm), None);
    assert_eq!(forecast(&WaterHistory::default(), &model()), None);
    assert_eq!(forecast(&history(Vec::new()), &model()).unwrap().basis, Basis::Prior);
}

#[test]
fn the_temperature_to_expect_is_that_of_the_season() {
    // two summers at 30 °C, two winters at 10 °C, asked for the third summer
    let known = [(180.0, 30.0), (362.0, 10.0), (545.0, 30.0), (727.0, 10.0)];
    assert_eq!(expected_temperature(&known, 911.0), Some(30.0));
    assert_eq!(expected_temperature(&known, 727.0 + 365.25), Some(10.0));
    assert_eq!(expected_temperature(&known, 820.0), Some(20.0), "in between: all of them");
    assert_eq!(expected_temperature(&[], 0.0), None);
}

#[test]
fn the_order_of_filling_by_level_charge_and_equalize() {
    let m = model();
    let all = |s: LevelStep| vec![(cell("A1-1"), step(s)), (cell("A1-2"), step(LevelStep::AtMark))];
    assert_eq!(fill_order(&[], &m, false, false), FillOrder::LookFirst);
    let bare = fill_order(&all(LevelStep::PlatesBare), &m, true, true);
    assert_eq!(bare, FillOrder::CoverFirst { cells: vec![cell("A1-1")] }, "plates come before everything");
    assert_eq!(
        fill_order(&all(LevelStep::Low), &m, false, false),
        FillOrder::ChargeFirst { cells: vec![cell("A1-1")] }
    );
    assert_eq!(
        fill_order(&all(LevelStep::Low), &m, true, false),
        FillOrder::FillNow { cells: vec![cell("A1-1")] }
    );
    assert_eq!(
        fill_order(&all(LevelStep::Low), &m, true, true),
        FillOrder::CoverForEqualize { cells: vec![cell("A1-1")] }
    );
    assert_eq!(fill_order(&all(LevelStep::AtMark), &m, false, false), FillOrder::NothingToFill);
}

#[test]
fn a_measured_level_means_the_step_it_comes_to() {
    // the mark stands 22 mm over the plates
    let m = model();
    for (mm, step, condition) in [
        (-1.0, LevelStep::PlatesBare, Severity::Act),
        (5.0, LevelStep::AtPlates, Severity::Act),
        (6.0, LevelStep::Low, Severity::Watch),
        (10.0, LevelStep::Low, Severity::Steady),
        (19.0, LevelStep::AtMark, Severity::Steady),
        (25.0, LevelStep::AtMark, Severity::Steady),
        (26.0, LevelStep::Over, Severity::Watch),
    ] {
        let level = Level::measured(mm).unwrap();
        assert_eq!((level.step(&m), level.condition(&m)), (step, condition), "{mm}");
    }
    assert!(Level::measured(-51.0).is_err() && Level::measured(f64::NAN).is_err());
    // WA-3: 10 mm under the mark at 15 mL per mm
    let missing = need(Level::measured(12.0).unwrap(), &m).unwrap();
    assert!((missing.millilitres() - 150.0).abs() < 1e-9);
}

#[test]
fn water_lost_concentrates_and_water_added_dilutes() {
    // SG-4 by hand: 1 + 0.265·3000/2800
    assert!((concentrated(sg(1.265), 3000.0, 2800.0).value() - 1.283_93).abs() < 1e-5);
    assert!(concentrated(sg(1.265), 2800.0, 3000.0).value() < 1.265);
}

#[test]
fn only_two_fills_running_convict_a_cell() {
    let fill = |odd: f64| -> Vec<(CellAddress, f64)> {
        vec![(cell("A1-1"), 100.0), (cell("A1-2"), 100.0), (cell("A1-3"), odd), (cell("A2-1"), 110.0)]
    };
    let found = uneven_consumption(&fill(170.0), &fill(160.0));
    assert_eq!((found.len(), found[0].cell, found[0].more), (1, cell("A1-3"), true));
    assert!(uneven_consumption(&fill(170.0), &fill(100.0)).is_empty(), "once is no evidence");
    assert!(!uneven_consumption(&fill(50.0), &fill(40.0))[0].more);
    assert!(uneven_consumption(&fill(170.0), &[]).is_empty());
}

#[test]
fn a_kit_is_looked_behind_by_the_house_rule() {
    // WA-6, common practice: every 4th fill for Maker first, every 2nd for Close watch
    assert!(!kit_inspection(2, &HouseRules::maker_first()).due);
    assert!(kit_inspection(3, &HouseRules::maker_first()).due);
    assert!(kit_inspection(1, &HouseRules::close_watch()).due);
}

/// xorshift and Box-Muller: the same histories on every machine.
struct Chance(u64);

impl Chance {
    fn uniform(&mut self) -> f64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        f64::from(u32::try_from(self.0 >> 32).unwrap()) / f64::from(u32::MAX)
    }

    fn between(&mut self, low: u32, high: u32) -> u32 {
        self.0 = self.0.wrapping_add(0x9e37_79b9);
        self.uniform();
        low + u32::try_from(self.0 >> 33).unwrap() % (high - low)
    }

    fn normal(&mut self) -> f64 {
        let (a, b) = (self.uniform().max(1e-12), self.uniform());
        (-2.0 * a.ln()).sqrt() * (std::f64::consts::TAU * b).cos()
    }
}

/// A cell with a known rate, scatter and season is filled a number of times; the forecast after the
/// last fill is held against what it then does.
fn outcome(chance: &mut Chance) -> bool {
    let rate = 0.6 + 2.4 * chance.uniform();
    let scatter = 0.20 + 0.15 * chance.uniform();
    let (mean, swing) = (12.0 + 12.0 * chance.uniform(), 3.0 + 9.0 * chance.uniform());
    let season = |day: f64| mean + swing * (std::f64::consts::TAU * day / 365.25).sin();
    let fills = chance.between(6, 18);
    // mL lost day by day, one scatter for each stretch between fills
    let lost = |from: f64, days: u32, noise: f64| -> f64 {
        (0..days)
            .map(|d| rate * 1.06f64.powf(season(from + f64::from(d)) - 25.0) * (scatter * noise).exp())
            .sum()
    };
    let (mut day, mut known, mut intervals) = (365.0 * chance.uniform(), Vec::new(), Vec::new());
    for _ in 0..fills {
        let days = chance.between(30, 90);
        let (millilitres, middle) = (lost(day, days, chance.normal()), day + f64::from(days) / 2.0);
        known.push((middle, season(middle)));
        intervals.push(Interval { days: f64::from(days), millilitres, temperature: Some(season(middle)) });
        day += f64::from(days);
    }
    let consumption = Consumption::of(&intervals, 1.0);
    let reserve = 60.0 + 120.0 * chance.uniform();
    // first guess the length, then take the season of its middle
    let guess = consumption.days_for(reserve, expected_temperature(&known, day + 30.0)).p50;
    let range = consumption.days_for(reserve, expected_temperature(&known, day + guess / 2.0));
    let noise = chance.normal();
    let (mut gone, mut days) = (0.0, 0u32);
    while gone < reserve && days < 5000 {
        gone += lost(day + f64::from(days), 1, noise);
        days += 1;
    }
    (range.p10..=range.p90).contains(&f64::from(days))
}

#[test]
fn the_range_holds_seven_to_nine_of_ten_outcomes_over_many_histories() {
    let mut chance = Chance(0x5eed_0f0a_11fe_5eed);
    let n = 2000u32;
    let held: u32 = (0..n).map(|_| u32::from(outcome(&mut chance))).sum();
    let share = f64::from(held) / f64::from(n);
    // 200 histories stray by ±0.057 (two standard deviations); ten times as many by ±0.018
    assert!((0.70..=0.90).contains(&share), "{share}");
}

proptest! {
    #[test]
    fn overcharge_and_water_are_inverse(ml in 0.0..100_000.0f64, cells in 1u32..192) {
        let back = water_of(overcharge_of(ml, cells), cells);
        prop_assert!((back - ml).abs() < 1e-6 * ml.max(1.0));
    }

    #[test]
    fn a_thirstier_or_warmer_cell_never_lasts_longer(
        rate in 0.01..20.0f64, more in 1.0..3.0f64, s in 0.2..0.6f64, t in -10.0..45.0f64, dt in 0.0..20.0f64,
    ) {
        let consumption = Consumption { per_day: rate, scatter: s, fills: 3 };
        let base = consumption.days_for(200.0, Some(t));
        prop_assert!(base.p10 <= base.p50 && base.p50 <= base.p90);
        prop_assert!(consumption.times(more).days_for(200.0, Some(t)).p10 <= base.p10 + 1e-9);
        prop_assert!(consumption.days_for(200.0, Some(t + dt)).p50 <= base.p50 + 1e-9);
    }

    #[test]
    fn no_fill_history_panics_or_gives_nonsense(
        fills in prop::collection::vec((0.001..4000.0f64, 0.0..100_000.0f64, prop::option::of(-40.0..80.0f64)), 0..12),
    ) {
        let intervals: Vec<Interval> =
            fills.into_iter().map(|(days, millilitres, temperature)| Interval { days, millilitres, temperature }).collect();
        let consumption = Consumption::of(&intervals, prior_rate(model().c20));
        let days = consumption.days_for(180.0, None);
        prop_assert!(consumption.per_day > 0.0 && days.p10.is_finite() && days.p90.is_finite() && days.p10 > 0.0);
    }
}

#[test]
fn what_cannot_go_into_a_cell_is_bounded_and_what_is_unlikely_is_asked_about() {
    let m = model();
    let acid = m.acid_volume.unwrap().millilitres();
    assert!((most_water(1, &m) - acid).abs() < 1e-9);
    assert!((most_water(12, &m) - 12.0 * acid).abs() < 1e-9);
    let fits = m.free_area.unwrap() * (m.fill_mark_above_plates.unwrap().millimetres() + 10.0);
    assert_eq!(amount_question(fits - 1.0, 1, &[], &m), None);
    let asked = amount_question(fits * 3.0 + 3.0, 3, &[], &m).unwrap();
    assert_eq!(asked, AmountQuestion::MoreThanFits { each: fits + 1.0 });
    let amount = |question, place: &str| {
        wording::entry_question(&EntryQuestion::Amount { question, place: place.parse().unwrap() })
    };
    assert!(amount(asked, "A3").ends_with("Is the unit right?"));
    let over = [step(LevelStep::Low), step(LevelStep::Over)];
    assert_eq!(amount_question(50.0, 2, &over, &m), Some(AmountQuestion::OverTheMark));
    assert_eq!(amount_question(0.0, 2, &over, &m), None, "nothing was poured");
    assert!(amount(AmountQuestion::OverTheMark, "").contains("the bank"));
    // where the maker publishes no free area nobody can say what fits
    let blind = BatteryModel { free_area: None, acid_volume: None, ..m };
    assert_eq!(amount_question(4000.0, 1, &[], &blind), None);
    assert!((most_water(2, &blind) - 10_000.0).abs() < 1e-9);
}
