//! SD-1, SD-2 and SG-5: self-discharge, freezing, and a spell in each way it can be left.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::electrolyte::{FREEZING_MARGIN, freezing_point};
use rainshadow_core::quantity::SpecificGravity;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{charge_of, volts_at_charge};
use rainshadow_core::severity::Severity;
use rainshadow_core::storage::{
    LOWS_UNDER_MEANS, MonthlyLoss, RechargeWhy, StorageAir, StorageAsked, StorageWay, StoredWay,
    plan_storage, usual_self_discharge,
};
use rainshadow_core::water::{MonthlyMeans, RecordLows};
use rainshadow_core::wording;
use std::path::Path;

const MEANS: [f64; 12] = [-8.0, -6.0, -2.0, 3.0, 8.0, 12.0, 15.0, 14.0, 10.0, 5.0, -1.0, -6.0];
const LOWS: [f64; 12] = [-26.0, -25.0, -20.0, -12.0, -5.0, -1.0, 2.0, 1.0, -3.0, -8.0, -16.0, -22.0];

fn gravity(value: f64) -> SpecificGravity {
    SpecificGravity::new(value).unwrap()
}

fn asked(ways: Vec<StorageWay>) -> StorageAsked {
    let layout = Layout { rows_per_string: 1, ..Layout::default() };
    StorageAsked {
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        shape: BankShape { system_voltage: 24, cells_per_battery: 3, series: 4, parallel: 2, layout },
        from: date(2026, 10, 18),
        until: date(2027, 5, 2),
        air: StorageAir {
            means: MonthlyMeans::try_from(MEANS).unwrap(),
            lows: Some(RecordLows::try_from(LOWS).unwrap()),
        },
        charged: 100.0,
        health: 100.0,
        loss: MonthlyLoss { inside: 6.0, tops: 0.0 },
        age: 1.0,
        reserve: Some(800.0),
        check_days: 60,
        ways,
    }
}

fn one(way: StorageWay) -> StoredWay {
    plan_storage(&asked(vec![way])).unwrap().ways.remove(0)
}

fn snowed_in(snow: f64) -> StorageWay {
    StorageWay::OnArray { amperes: 0.5, harvest: [30.0; 12], snow: [snow; 12] }
}

/// Published table: first ice by gravity, exact at its rows; it falls to 1.27 and does not fall past 1.30.
#[test]
fn electrolyte_freezes_where_the_published_table_says() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/published/freezing.csv");
    let mut reader = csv::ReaderBuilder::new().comment(Some(b'#')).from_path(path).unwrap();
    let rows: Vec<[f64; 2]> = reader
        .records()
        .map(|own| own.unwrap())
        .map(|own| [own[0].parse().unwrap(), own[1].parse().unwrap()])
        .collect();
    assert!(rows.len() >= 30);
    for [sg, celsius] in &rows {
        assert!((freezing_point(gravity(*sg)) - celsius).abs() < 1e-9, "{sg}");
    }
    for n in 0..400u32 {
        let at = |n: u32| freezing_point(gravity(1.0 + f64::from(n) / 1000.0));
        let falls = at(n + 1) <= at(n) + 1e-12;
        assert!(if n < 270 { falls } else { n < 300 || !falls || at(n + 1) >= at(n) }, "{n}");
    }
    // A row that lies between two: 1.155 is half of −15.0 and −16.9.
    assert!((freezing_point(gravity(1.155)) + 15.95).abs() < 1e-9);
}

/// Common practice, no source: 5 to 8 % a month new, up to 15 aged; first order, doubles with 10 °C; tops do not.
#[test]
fn self_discharge_doubles_with_ten_degrees_and_dirty_tops_do_not() {
    let clean = MonthlyLoss { inside: 6.0, tops: 0.0 };
    let month = |loss: MonthlyLoss, at: f64| 1.0 - (-30.4 * loss.a_day(at)).exp();
    assert!((month(clean, 25.0) - 0.06).abs() < 1e-12);
    assert!((clean.a_day(35.0) / clean.a_day(25.0) - 2.0).abs() < 1e-12);
    assert!((clean.a_day(-5.0) / clean.a_day(25.0) - 0.125).abs() < 1e-12);
    let dirty = MonthlyLoss { inside: 6.0, tops: 5.0 };
    let added = |at: f64| dirty.a_day(at) - clean.a_day(at);
    assert!((added(35.0) - added(5.0)).abs() < 1e-15 && added(5.0) > 0.0);
    let (new, range) = usual_self_discharge(Construction::Flooded, 0.0);
    assert!((5.0..=8.0).contains(&new) && (range[0] - 5.0).abs() < 1e-9 && (range[1] - 8.0).abs() < 1e-9);
    assert!(usual_self_discharge(Construction::Flooded, 30.0).0 <= 15.0);
    let (sealed, _) = usual_self_discharge(Construction::Agm, 9.0);
    assert!((2.0..=3.0).contains(&sealed));
}

/// Worked independently: first order by the day at the mean air of that day, from the rule.
#[test]
fn disconnected_it_loses_what_the_rule_says_day_by_day() {
    let own = one(StorageWay::Disconnected);
    let mut charge = 100.0;
    let means = MonthlyMeans::try_from(MEANS).unwrap();
    let mut day = date(2026, 10, 18);
    while day < date(2027, 5, 2) {
        day = day.tomorrow().unwrap();
        let at = means.on_day(f64::from(day.day_of_year()) - 0.5);
        // 6 % a month at 25 °C
        charge *= (1.0f64 - 0.06).powf(2f64.powf((at - 25.0) / 10.0) / 30.4);
    }
    let last = own.days.last().unwrap();
    assert!((last.charge - charge).abs() < 0.02, "{} against {charge}", last.charge);
    assert_eq!((own.days.len(), last.day), (197, date(2027, 5, 2)));
    assert!(
        own.danger.is_none() && own.recharges.is_empty() && own.condition(Some(800.0)) == Severity::Steady
    );
    // Lows by hand: half of January's and February's on the last day of January.
    let turn = own.days.iter().find(|own| own.day == date(2027, 1, 31)).unwrap();
    assert!((turn.coldest + 25.5).abs() < 0.05, "{}", turn.coldest);
}

#[test]
fn under_snow_it_runs_down_and_freezes_and_without_snow_it_stays_full() {
    let under = one(snowed_in(0.0));
    // 0.5 A day and night for 196 days is 2352 Ah out of 840: it is flat long before.
    assert!(under.lowest.charge < 1.0 && under.condition(None) == Severity::Act);
    let [first, last] = under.freezing.unwrap();
    assert!(under.danger.unwrap() < first && first < last);
    // Charged a day before the margin is gone, or at 75 %, whichever is first: here the charge is.
    let (day, why) = under.recharges[0];
    assert_eq!(why, RechargeWhy::Charge);
    let asks = under.days.iter().find(|own| own.charge <= 75.0).unwrap();
    assert_eq!(day, asks.day);
    let clear = one(snowed_in(1.0));
    assert!(clear.lowest.charge > 95.0 && clear.danger.is_none() && clear.water > 0.0);
    let units = ReaderUnits::default();
    assert!(
        wording::way_comes_to(&under, units).contains("it can freeze"),
        "{}",
        wording::way_comes_to(&under, units)
    );
}

#[test]
fn a_weak_acid_is_charged_the_day_before_its_margin_is_gone() {
    // Full at 1.215 it freezes at −33 °C: at −26 °C the margin of 6 °C is there only near full charge.
    let mut all = BatteryModel::generic().into_iter().map(|own| own.1);
    let model = all.find(|own| own.full_gravity.value() < 1.22 && own.cells == 1).unwrap();
    let shape = BankShape {
        system_voltage: 24,
        cells_per_battery: 1,
        series: 12,
        parallel: 1,
        layout: Layout::default(),
    };
    let asked = StorageAsked { model, shape, ..asked(vec![StorageWay::Disconnected]) };
    let own = plan_storage(&asked).unwrap().ways.remove(0);
    let (day, why) = own.recharges[0];
    assert_eq!(why, RechargeWhy::Freezing);
    let at = own.days.iter().position(|own| own.day == day).unwrap();
    assert!(own.days[at].margin() >= FREEZING_MARGIN && own.days[at + 1].margin() < FREEZING_MARGIN);
    assert_eq!(own.danger, Some(own.days[at + 1].day));
}

#[test]
fn a_maintainer_holds_it_full_and_gasses_water_as_its_volts_drive() {
    let held = |volts| one(StorageWay::Maintained { volts: Some(volts), follows: false });
    let (low, high) = (held(2.20), held(2.30));
    assert!(low.lowest.charge > 99.0 && high.lowest.charge > 99.0);
    // Tafel: 0.1 V more gasses e^1.1 times as much, as long as the maintainer gives it.
    assert!((high.water / low.water - 1.1f64.exp()).abs() < 0.05, "{}", high.water / low.water);
    // 0.3371 mL a cell for each Ah gassed, of 420 Ah cells at 2.25 V and 25 °C 0.1 % C: about 0.14 mL an hour.
    assert!(low.water > 5.0 && low.water < 800.0, "{}", low.water);
    assert!(held(2.45).dry.is_some() || held(2.45).water > high.water);
}

#[test]
fn a_hot_store_is_charged_again_and_again_and_looked_at_monthly() {
    let hot = StorageAsked {
        air: StorageAir { means: MonthlyMeans::try_from([34.0; 12]).unwrap(), lows: None },
        ..asked(vec![StorageWay::Disconnected, StorageWay::Maintained { volts: None, follows: true }])
    };
    let plan = plan_storage(&hot).unwrap();
    let own = &plan.ways[0];
    // 6 % a month at 25 °C is 11 % at 34 °C: down to 75 % in about two and a half months, three times in 196 days at most.
    assert!((2..=3).contains(&own.recharges.len()), "{:?}", own.recharges);
    let days = |a: Date, b: Date| a.until(b).unwrap().get_days();
    let (first, second) = (own.recharges[0].0, own.recharges[1].0);
    assert!((days(first, second) - days(date(2026, 10, 18), first)).abs() <= 2);
    let looked = days(date(2026, 10, 18), own.checks[0].day);
    assert_eq!(looked, 30);
    assert!((own.worst.coldest - (34.0 - LOWS_UNDER_MEANS)).abs() < 1e-9);
    assert_eq!(plan.best, 1, "a maintainer saves the visits in the heat");
}

#[test]
fn what_a_look_should_show_reads_back_as_the_charge_it_stands_at() {
    for key in ["flooded-6v-420", "agm-12v-100"] {
        let model = BatteryModel::generic_by_key(key).unwrap();
        for percent in [95.0, 75.0, 60.0, 40.0] {
            let volts = volts_at_charge(percent, &model);
            let range = charge_of(volts, 0.0, model.construction, Some(&model));
            assert!(range.low <= percent && percent <= range.high, "{key} {percent}: {range:?}");
        }
    }
    let own = one(StorageWay::Disconnected);
    assert_eq!(own.checks.len(), 3);
    assert_eq!(own.checks[0].day, date(2026, 12, 17));
    assert!(own.checks[0].volts > own.checks[0].recharge_under);
}

#[test]
fn the_best_way_is_the_safe_one_with_the_fewest_visits_and_it_is_said() {
    let ways = vec![snowed_in(0.1), StorageWay::Disconnected, StorageWay::Indoors { mean: 8.0, low: 2.0 }];
    let plan = plan_storage(&asked(ways)).unwrap();
    assert_eq!(plan.conditions[0], Severity::Act);
    assert_eq!(plan.best, 1);
    let said = wording::storage_verdict(&plan, ReaderUnits::default());
    assert!(said.starts_with("Disconnect it full on 18 October: on the coldest night it stays "), "{said}");
    assert!(said.contains("short of freezing") && said.contains("reaches 2 May at 9"), "{said}");
    // Indoors it never freezes, but it loses more in the warm.
    let (cold, warm) = (&plan.ways[1], &plan.ways[2]);
    assert!(warm.days.last().unwrap().charge < cold.days.last().unwrap().charge);
}

#[test]
fn what_cannot_be_is_refused_with_its_field() {
    let refused = |asked: &StorageAsked| {
        let e = plan_storage(asked).unwrap_err();
        (e.field(), e.to_string())
    };
    let base = asked(vec![StorageWay::Disconnected]);
    let backwards = StorageAsked { until: date(2026, 1, 1), ..base.clone() };
    assert_eq!(refused(&backwards).0, "until");
    let (field, said) = refused(&StorageAsked { charged: 120.0, ..base.clone() });
    assert!(field == "charged" && said.contains("0 to 100 %"), "{said}");
    let (field, said) = refused(&StorageAsked { ways: Vec::new(), ..base.clone() });
    assert!(field == "ways" && said.contains("name one"));
    let mut lows = LOWS;
    lows[6] = 30.0;
    let air = StorageAir { lows: Some(RecordLows::try_from(lows).unwrap()), ..base.air };
    let (field, said) = refused(&StorageAsked { air, ..base.clone() });
    assert!(field == "air" && said.starts_with("July: record low 30"), "{said}");
    let ways = vec![StorageWay::Indoors { mean: 2.0, low: 8.0 }];
    assert!(refused(&StorageAsked { ways, ..base }).1.contains("above its mean"));
}

proptest! {
    /// Ampere-hours in = out + stored + lost, in every way.
    #[test]
    fn ampere_hours_are_conserved(
        amperes in 0.0..3.0f64, harvest in 0.0..400.0f64, snow in 0.0..1.0f64, charged in 20.0..100.0f64,
        volts in 2.17..2.5f64, shift in -20.0..15.0f64,
    ) {
        let ways = vec![
            StorageWay::Disconnected,
            StorageWay::OnLoads { amperes },
            StorageWay::OnArray { amperes, harvest: [harvest; 12], snow: [snow; 12] },
            StorageWay::Maintained { volts: Some(volts), follows: true },
            StorageWay::Indoors { mean: 10.0, low: 4.0 },
        ];
        let means = MonthlyMeans::try_from(MEANS.map(|own| own + shift)).unwrap();
        let air = StorageAir { means, lows: None };
        let plan = plan_storage(&StorageAsked { charged, air, ..asked(ways) }).unwrap();
        for own in &plan.ways {
            let a = own.account;
            let off = a.charged - a.drawn - a.self_discharged - a.not_stored - a.stored;
            prop_assert!(off.abs() < 1e-6, "{:?}", own.way);
            prop_assert!(own.days.iter().all(|day| (0.0..=100.0).contains(&day.charge)));
            prop_assert!(own.water >= 0.0);
        }
    }

    /// More standing draw, dirtier tops and more heat never leave more charge; more sun never less.
    #[test]
    fn charge_falls_with_what_draws_and_rises_with_what_charges(
        amperes in 0.0..1.0f64, more in 0.0..1.0f64, harvest in 0.0..100.0f64, shift in 0.0..10.0f64,
    ) {
        let last = |own: StoredWay| own.days.last().unwrap().charge;
        let way = |amperes, harvest| {
            let ways = vec![StorageWay::OnArray { amperes, harvest: [harvest; 12], snow: [0.5; 12] }];
            last(plan_storage(&asked(ways)).unwrap().ways.remove(0))
        };
        prop_assert!(way(amperes + more, harvest) <= way(amperes, harvest) + 1e-9);
        prop_assert!(way(amperes, harvest + 10.0 * more) >= way(amperes, harvest) - 1e-9);
        let at = |shift: f64| {
            let means = MonthlyMeans::try_from(MEANS.map(|own| own + shift)).unwrap();
            let air = StorageAir { means, lows: None };
            let asked = StorageAsked { air, ..asked(vec![StorageWay::Disconnected]) };
            last(plan_storage(&asked).unwrap().ways.remove(0))
        };
        prop_assert!(at(shift) <= at(0.0) + 1e-9);
    }

    /// Charge to gravity and back.
    #[test]
    fn gravity_at_a_charge_reads_back_as_that_charge(percent in 0.0..100.0f64) {
        for (key, model) in BatteryModel::generic() {
            let back = model.state_of_charge(model.gravity_at(percent)).percent;
            prop_assert!((back - percent).abs() < 1e-6, "{key} {percent} {back}");
        }
    }
}
