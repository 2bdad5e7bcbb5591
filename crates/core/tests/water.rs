//! WA-1 to WA-6 and SG-4: Faraday's law, thirst and its range, order of filling, uneven thirst.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, sg};
use proptest::prelude::*;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::EntryQuestion;
use rainshadow_core::water::{
    AmountQuestion, Basis, FillOrder, Interval, Level, LevelStep, MonthlyMeans, OverchargeShare, Season,
    WaterHistory, WaterUse, amount_question, concentrated, fill_order, forecast, grams_per_ampere_hour,
    hydrogen_litres, kit_inspection, millilitres_per_ampere_hour, most_water, need, overcharge_of,
    uneven_consumption, water_of,
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

/// What a bank of these intervals drinks, at one temperature all year.
fn drinks(intervals: &[Interval], celsius: f64) -> WaterUse {
    let known = WaterHistory { expected_temperature: Some(celsius), ..history(intervals.to_vec()) };
    forecast(&known, &model()).unwrap().consumption
}

#[test]
fn consumption_is_the_mean_logarithm_of_the_rates_brought_to_25_degrees() {
    let every = |ml: f64, t: Option<f64>| Interval { days: 30.0, millilitres: ml, temperature: t };
    let three = drinks(&[every(30.0, None), every(30.0, None), every(30.0, None)], 25.0);
    assert!((three.per_day - 1.0).abs() < 1e-9 && three.growth.abs() < 1e-9, "{three:?}");
    // v = 4 · 0.12² / (3 + 3) where the fills are alike
    assert!((three.variance - 4.0 * 0.0144 / 6.0).abs() < 1e-9);
    // at 35 °C it drinks 1.06^10 = 1.79 times as much: the rate at 25 °C is the smaller
    let warm = drinks(&[every(30.0, Some(35.0))], 35.0);
    assert!((warm.per_day - 1.06f64.powi(-10)).abs() < 1e-9);
    assert!((warm.rate_at(5.0) - 1.0).abs() < 1e-9, "and so it does at 35 °C again");
    // a charger that compensates leaves little of the season: 1.005 a degree
    let mut held = history(vec![every(30.0, Some(35.0))]);
    (held.compensates, held.expected_temperature) = (true, Some(35.0));
    let held = forecast(&held, &model()).unwrap().consumption;
    assert!((held.per_day - 1.005f64.powi(-10)).abs() < 1e-9);
    assert_eq!(drinks(&[], 25.0).fills, 0);
}

#[test]
fn a_bank_that_drinks_more_each_year_is_expected_to_go_on() {
    // twelve fills a month apart, each three per cent more than the one before
    let rising: Vec<Interval> = (0..12i32)
        .map(|i| Interval { days: 30.0, millilitres: 30.0 * 1.03f64.powi(i), temperature: Some(25.0) })
        .collect();
    let told = drinks(&rising, 25.0);
    // ln 1.03 a month is 0.36 a year; drawn to none by what is not known
    assert!((0.2..0.36).contains(&told.growth), "{told:?}");
    assert!(told.rate_at(60.0) > told.rate_at(0.0));
}

#[test]
fn the_season_of_a_site_moves_the_day() {
    let fills =
        |celsius: f64| vec![Interval { days: 60.0, millilitres: 60.0, temperature: Some(celsius) }; 4];
    // winter fills at 5 °C, filled on 1 March: summer comes
    let mut known = history(fills(5.0));
    (known.expected_temperature, known.days_since_fill) = (None, Some(0.0));
    known.today = Some(jiff::civil::date(2026, 3, 1));
    known.climate =
        MonthlyMeans::try_from([2.0, 3.0, 7.0, 11.0, 16.0, 20.0, 22.0, 21.0, 17.0, 12.0, 6.0, 3.0]).ok();
    let spring = forecast(&known, &model()).unwrap();
    known.today = Some(jiff::civil::date(2026, 10, 1));
    let autumn = forecast(&known, &model()).unwrap();
    assert!(spring.days.p50 + 20.0 < autumn.days.p50, "{:?} {:?}", spring.days, autumn.days);
    // south of the equator a wave turns round
    let mut south = history(
        [8.0, 12.0, 20.0, 24.0]
            .map(|t| Interval { days: 60.0, millilitres: 60.0, temperature: Some(t) })
            .to_vec(),
    );
    (south.expected_temperature, south.days_since_fill) = (None, Some(0.0));
    south.today = Some(jiff::civil::date(2026, 1, 20));
    south.southern = true;
    assert!(
        matches!(forecast(&south, &model()).unwrap().consumption.season, Season::Wave { swing, .. } if swing > 1.0)
    );
}

fn history(intervals: Vec<Interval>) -> WaterHistory {
    WaterHistory {
        bank: intervals,
        cells: Vec::new(),
        days_since_fill: Some(10.0),
        levels: Vec::new(),
        expected_temperature: Some(25.0),
        cell_count: 24,
        today: None,
        climate: None,
        southern: false,
        compensates: false,
    }
}

#[test]
fn totals_take_the_thirstiest_cell_as_such_banks_have_it() {
    let thirty = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let f = forecast(&history(vec![thirty; 3]), &model()).unwrap();
    // reserve (22 − 10)·15 = 180 mL; 1.5 mL a day and cell on the mean, 1.26 times that for the thirstiest of 24
    assert!((f.reserve - 180.0).abs() < 1e-9);
    assert_eq!((f.basis, f.cell), (Basis::Totals, None));
    assert!((f.days.p50 - (180.0 / (1.5 * 1.26) - 10.0)).abs() < 0.2, "{f:?}");
    assert!(f.days.p10 < f.days.p50 && f.days.p50 < f.days.p90);
    // 24 cells, 10 days gone and 20 to go: 24·1.5·30 mL, and more to carry
    let (middle, most) = f.need_in(20.0);
    assert!((middle - 1080.0).abs() < 1e-6 && most > middle * 1.1 && most < middle * 1.5, "{most}");
}

/// Without amounts by cell nobody knows which drinks most, but where every one was looked at that one was seen too.
#[test]
fn a_look_at_every_cell_knows_better_than_totals() {
    let thirty = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let mut h = WaterHistory { days_since_fill: Some(90.0), ..history(vec![thirty; 3]) };
    let days = |h: &WaterHistory| forecast(h, &model()).unwrap().days;
    let unseen = days(&h);
    assert!(unseen.p50 < 10.0, "{unseen:?}");
    let every = |mm: f64, ago: f64| -> Vec<_> {
        (0..24u8)
            .map(|n| {
                (
                    cell(&format!("{}{}-{}", ["A", "B"][usize::from(n / 12)], n / 3 % 4 + 1, n % 3 + 1)),
                    mm,
                    ago,
                )
            })
            .collect()
    };
    h.levels = every(22.0, 4.0);
    // 180 mL at 1.5 mL a day, 1.26 times that for the thirstiest of 24, of which four days are gone
    assert!((days(&h).p50 - (180.0 / (1.5 * 1.26) - 4.0)).abs() < 0.5, "{:?}", days(&h));
    // the lowest that was seen counts, and of two looks at a cell the last
    h.levels[7].1 = 16.0;
    assert!((days(&h).p50 - (90.0 / (1.5 * 1.26) - 4.0)).abs() < 0.5, "{:?}", days(&h));
    h.levels.push((h.levels[7].0, 22.0, 4.0));
    assert!((days(&h).p50 - (180.0 / (1.5 * 1.26) - 4.0)).abs() < 0.5, "{:?}", days(&h));
    // one that nobody looked at may be the thirstiest
    h.levels = every(22.0, 4.0)[1..].to_vec();
    assert_eq!(days(&h), unseen);
}

#[test]
fn one_thirsty_cell_sets_the_date_where_cells_are_known() {
    let of = |ml: f64| vec![Interval { days: 30.0, millilitres: ml, temperature: None }; 3];
    let mut h = history(of(45.0));
    h.cells = vec![(cell("A1-1"), of(45.0)), (cell("A1-2"), of(45.0)), (cell("A2-3"), of(120.0))];
    let f = forecast(&h, &model()).unwrap();
    assert_eq!((f.basis, f.cell), (Basis::ByCell, Some(cell("A2-3"))));
    // against mates that are alike its own share counts almost whole
    let thirsty = f.cells.iter().find(|c| c.cell == cell("A2-3")).unwrap();
    assert!((thirsty.factor - 120.0 / 45.0).abs() < 0.05, "{thirsty:?}");
    assert!((f.days.p50 - (180.0 / 4.0 - 10.0)).abs() < 1.0, "{f:?}");
    // a level seen five days ago, 4 mm over the margin, knows better than the forecast
    h.levels = vec![(cell("A2-3"), 14.0, 5.0)];
    let f = forecast(&h, &model()).unwrap();
    assert!((f.days.p50 - (60.0 / 4.0 - 5.0)).abs() < 1.0, "{f:?}");
}

#[test]
fn a_cell_under_its_margin_already_is_told_so_and_not_as_a_range_of_days() {
    let thirty = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let said = |days_since_fill: f64| {
        let h = WaterHistory { days_since_fill: Some(days_since_fill), ..history(vec![thirty; 3]) };
        forecast_line(&forecast(&h, &model()).unwrap(), ReaderUnits::default())
    };
    assert!(said(200.0).starts_with("The thirstiest cell stands lower than 10 mm over its plates already;"));
    assert!(said(10.0).contains(" to ") && said(10.0).contains("most likely 3 months"), "{}", said(10.0));
}

#[test]
fn a_sealed_bank_and_one_never_filled_have_no_forecast() {
    let agm = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    assert_eq!(forecast(&history(Vec::new()), &agm), None);
    assert_eq!(forecast(&WaterHistory::default(), &model()), None);
    assert_eq!(forecast(&history(Vec::new()), &model()).unwrap().basis, Basis::Prior);
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

proptest! {
    #[test]
    fn overcharge_and_water_are_inverse(ml in 0.0..100_000.0f64, cells in 1u32..192) {
        let back = water_of(overcharge_of(ml, cells), cells);
        prop_assert!((back - ml).abs() < 1e-6 * ml.max(1.0));
    }

    #[test]
    fn a_thirstier_or_warmer_bank_never_lasts_longer(
        ml in 1.0..600.0f64, more in 1.0..3.0f64, t in -10.0..45.0f64, dt in 0.0..20.0f64, n in 1usize..8,
    ) {
        let days = |ml: f64, ahead: f64| {
            let own = Interval { days: 30.0, millilitres: ml, temperature: Some(t) };
            let known = WaterHistory { expected_temperature: Some(ahead), ..history(vec![own; n]) };
            forecast(&known, &model()).unwrap().days
        };
        let base = days(ml, t);
        prop_assert!(base.p10 <= base.p50 && base.p50 <= base.p90);
        prop_assert!(days(ml * more, t).p50 <= base.p50 + 1e-6);
        prop_assert!(days(ml, t + dt).p50 <= base.p50 + 1e-6);
    }

    #[test]
    fn no_fill_history_panics_or_gives_nonsense(
        fills in prop::collection::vec((0.001..4000.0f64, 0.0..100_000.0f64, prop::option::of(-40.0..80.0f64)), 0..12),
        month in 1i8..=12,
        climate in prop::option::of(prop::array::uniform12(-30.0..40.0f64)),
    ) {
        let intervals: Vec<Interval> =
            fills.into_iter().map(|(days, millilitres, temperature)| Interval { days, millilitres, temperature }).collect();
        let mut known = history(intervals);
        known.today = Some(jiff::civil::date(2026, month, 1));
        known.expected_temperature = None;
        known.climate = climate.and_then(|means| MonthlyMeans::try_from(means).ok());
        let told = forecast(&known, &model()).unwrap();
        prop_assert!(told.per_day_now() > 0.0 && told.days.p10.is_finite() && told.days.p90.is_finite());
        prop_assert!(told.days.p10 <= told.days.p50 && told.days.p50 <= told.days.p90);
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
        wording::entry_question(
            &EntryQuestion::Amount { question, place: place.parse().unwrap() },
            ReaderUnits::default(),
        )
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
