//! CH-4 and CH-5: time to full, and a year of a bank with its sources against its loads.
#![allow(
    clippy::unwrap_used,
    clippy::unnecessary_wraps,
    reason = "helpers fail loudly, and stand for a field"
)]

use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::charge::{Acceptance, time_to_full};
use rainshadow_core::charging_plan::{
    ChargingAsked, ChargingYear, EngineUse, PlugUse, Prices, best_year, charging_money, charging_year,
    depth_curve, stay, usual_array_watts,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::solar::{SolarArray, SolarSky};
use rainshadow_core::water::MonthlyMeans;
use rainshadow_core::wording::charging_verdict;

fn near(found: f64, wanted: f64, share: f64) {
    assert!((found - wanted).abs() <= share * wanted.abs(), "{found} against {wanted}");
}

/// Worked examples of the rule: from where absorption begins 0.1 C takes 4.426 h, from 90 % 3.02 h.
#[test]
fn absorption_takes_as_long_as_its_worked_examples() {
    let full = |from: f64| time_to_full(Construction::Flooded, 100.0, 10.0, from).unwrap().unwrap();
    near(full(80.0).absorption, 4.426, 5e-4);
    near(full(90.0).hours(), 3.02, 2e-3);
    near(full(80.0).absorbs_from, 80.0, 1e-9);
    // 0.1 C falling to 0.02 C while 0.2 C is returned: 2.5 h times the logarithm of five.
    near(2.5 * 5f64.ln(), 4.0236, 1e-4);
    // Fact of the trade (common practice, no source): from 25 % to full 10 to 12 h.
    assert!((9.5..12.0).contains(&full(25.0).hours()), "{}", full(25.0).hours());
    // An empty tail: no more than the tail is offered, so it takes what lacks over that.
    let slow = time_to_full(Construction::Flooded, 100.0, 1.5, 95.0).unwrap().unwrap();
    near(slow.hours(), 1.10 * 5.0 / 1.5, 1e-9);
    assert_eq!(time_to_full(Construction::Flooded, 100.0, 0.0, 50.0).unwrap(), None);
    assert_eq!(time_to_full(Construction::Flooded, 100.0, -4.0, 50.0).unwrap(), None);
    assert!(time_to_full(Construction::Flooded, 100.0, 10.0, 120.0).is_err());
    let sealed = time_to_full(Construction::Agm, 100.0, 10.0, 80.0).unwrap().unwrap();
    near(sealed.ampere_hours, 1.05 * 20.0, 1e-9);
}

fn asked() -> ChargingAsked {
    ChargingAsked {
        model: BatteryModel::generic_by_key("flooded-6v-225").unwrap(),
        shape: BankShape {
            system_voltage: 12,
            cells_per_battery: 3,
            series: 2,
            parallel: 3,
            layout: Layout::default(),
        },
        health: 100.0,
        loads: [2.0; 24],
        loads_by_month: [1.0; 12],
        means: MonthlyMeans::try_from([12.0; 12]).unwrap(),
        solar: None,
        engine: None,
        generator: None,
        shore: None,
        planned_depth: 50.0,
    }
}

fn sun(watts: f64) -> Option<(SolarArray, SolarSky)> {
    let sky = SolarSky { latitude: 47.0, altitude: 400.0, clearness: [0.6; 12], snow: [1.0; 12] };
    Some((SolarArray { watts, tilt: 45.0, azimuth: 180.0, left: 0.75 }, sky))
}

fn engine(hours: f64) -> Option<EngineUse> {
    Some(EngineUse { amperes: 130.0, hours, every_days: 1, volts: 2.35, litres: 1.2 })
}

fn shore(every_days: u16) -> Option<PlugUse> {
    Some(PlugUse { amperes: 60.0, hours: 14.0, every_days, from: 18, litres: 0.0 })
}

fn year(asked: &ChargingAsked) -> ChargingYear {
    charging_year(asked).unwrap()
}

/// Fact of the trade (common practice, no source): an engine run never fills a bank, however long; a night on shore does.
#[test]
fn an_engine_never_finishes_and_a_night_on_shore_does() {
    let short = year(&ChargingAsked { engine: engine(1.0), ..asked() });
    let long = year(&ChargingAsked { engine: engine(6.0), ..asked() });
    assert_eq!((short.full_days, long.full_days), (0, 0));
    assert_eq!(long.longest_without, 365);
    let weekly = year(&ChargingAsked { engine: engine(1.0), shore: shore(7), ..asked() });
    assert!((50..=106).contains(&weekly.full_days), "{}", weekly.full_days);
    assert!(weekly.longest_without <= 7, "{}", weekly.longest_without);
    assert!(
        weekly.wear.cycles > 0.0 && weekly.years[1] < weekly.years[0] && weekly.years[0] < weekly.years[2]
    );
}

/// Common practice, no source: an engine stops near four fifths, and hours more bring it to nine tenths, never all of it.
#[test]
fn an_engine_brings_about_nine_tenths() {
    let highest = |hours: f64| {
        let own = year(&ChargingAsked { engine: engine(hours), loads: [3.0; 24], ..asked() });
        own.days.iter().skip(180).map(|own| own.highest).fold(0.0, f64::max)
    };
    let (one, four) = (highest(1.5), highest(4.0));
    assert!((50.0..96.0).contains(&one) && (one..99.0).contains(&four), "{one} {four}");
}

#[test]
fn the_sun_fills_it_in_summer_and_less_in_winter() {
    let own = year(&ChargingAsked { solar: sun(600.0), ..asked() });
    let (winter, summer) = (
        own.months[11].full_days + own.months[0].full_days,
        own.months[5].full_days + own.months[6].full_days,
    );
    assert!(summer > winter && summer > 30, "{summer} {winter}");
    // Nothing missed is nothing, and not a rounding under it.
    let mut uneven = ChargingAsked { loads: [1.2; 24], solar: sun(900.0), ..asked() };
    uneven.loads[17..23].fill(10.4);
    assert!(year(&uneven).months.iter().all(|month| month.account.missed.is_sign_positive()));
    let none = year(&asked());
    assert_eq!(none.full_days, 0);
    assert!(none.account.missed > 0.9 * 48.0 * 365.0);
    let total: f64 = none.account.used + none.account.missed;
    near(total, 48.0 * 365.0, 1e-9);
}

/// By hand: 675 Ah at 48 Ah a day are 14.06 days, less what it loses by itself; none of it comes again.
#[test]
fn a_bank_that_runs_empty_tells_how_long_it_lasts_from_full() {
    let none = year(&asked());
    assert!(none.runs_empty() && none.sulfates());
    assert_eq!(none.empty_after, Some(13));
    let said = charging_verdict(&none, None);
    assert_eq!(
        said,
        "Nothing charges it: no sun, engine, generator or plug is told. \
         Full at New Year, it is empty after 13 days."
    );
    let at_once = year(&ChargingAsked { loads: [60.0; 24], ..asked() });
    assert!(charging_verdict(&at_once, None).ends_with(" Full at New Year, it is empty within a day."));
    // a little is not enough: the settled year tells what comes, the first one how long it lasts
    let little = charging_verdict(&year(&ChargingAsked { shore: shore(90), ..asked() }), None);
    assert!(little.starts_with("It runs empty: 48 Ah a day are wanted, and its sources bring "), "{little}");
    assert!(little.contains(" Full at New Year, it is empty after "), "{little}");
    let fed = year(&ChargingAsked { shore: shore(7), ..asked() });
    assert_eq!((fed.empty_after, fed.account.missed), (None, 0.0));
    assert!(!fed.runs_empty() && !fed.sulfates());
}

/// By hand: 840 Ah of 48 V are 3360 Ah of 12 V; 45 A into 48 V on charge (1.15 times) are 2484 W.
#[test]
fn an_array_is_as_large_as_its_controller_or_as_its_bank_wants() {
    near(usual_array_watts(840.0, 48.0, None), 3360.0, 1e-9);
    near(usual_array_watts(225.0, 12.0, None), 225.0, 1e-9);
    near(usual_array_watts(840.0, 48.0, Some(45.0)), 2484.0, 1e-9);
}

/// By hand: litres, kWh and money of a year.
#[test]
fn money_is_fuel_mains_and_the_bank_over_its_years() {
    let asked = ChargingAsked { engine: engine(0.5), shore: shore(7), ..asked() };
    let own = year(&asked);
    let prices = Prices { litre: 2.0, kilowatt_hour: 0.3, bank: 1200.0, watt: 0.0 };
    let money = charging_money(&asked, &own, &prices, 100.0).unwrap();
    near(money.litres, 365.0 * 0.5 * 1.2, 1e-9);
    let plug = own.account.shore * 12.0 * 1.15 * 1.15 / 1000.0;
    near(money.sources, 365.0 * 0.6 * 2.0 + plug * 0.3, 1e-9);
    near(money.bank, 1200.0 / own.years[0], 1e-9);
    near(money.ten_years, 100.0 + 10.0 * (money.sources + money.bank), 1e-9);
    near(money.a_kilowatt_hour.unwrap(), money.a_year / (own.account.used * 0.012), 1e-9);
    let e = charging_money(&asked, &own, &Prices { litre: -1.0, ..prices }, 0.0).unwrap_err();
    assert!(e.to_string().starts_with("price -1"), "{e}");
}

#[test]
fn a_stay_without_sources_lasts_until_the_planned_depth_and_says_when_to_charge() {
    // 48 Ah a day of 675 Ah, and what it loses by itself: half of it is gone at the end of the seventh day.
    let own = stay(&asked(), 1, 10).unwrap();
    assert_eq!(own.charge_on, Some(7));
    assert_eq!((own.empty_on, own.days.len()), (None, 10));
    let dry = stay(&asked(), 1, 20).unwrap();
    assert_eq!(dry.empty_on, Some(14));
    let sunny = stay(&ChargingAsked { solar: sun(800.0), ..asked() }, 6, 20).unwrap();
    assert_eq!(sunny.charge_on, None);
}

/// Common practice, no source: cycles by depth; a life in years is never longer than its years alone.
#[test]
fn depth_buys_capacity_with_life() {
    let curve = depth_curve(Construction::Flooded, 10.0);
    let at = |depth: f64| curve.iter().find(|own| (own.depth - depth).abs() < 1e-9).unwrap();
    near(at(50.0).cycles[0], 1200.0, 1e-9);
    near(at(80.0).cycles[0], 700.0, 1e-9);
    assert!(
        curve.windows(2).all(|pair| pair[1].years < pair[0].years && pair[1].cycles[0] < pair[0].cycles[0])
    );
    assert!(
        curve
            .iter()
            .all(|own| own.years < 10.0 && own.cycles[1] < own.cycles[0] && own.cycles[0] < own.cycles[2])
    );
}

#[test]
fn what_cannot_be_is_refused_with_its_field() {
    let refused = |own: ChargingAsked| {
        let e = charging_year(&own).unwrap_err();
        (e.field(), e.to_string())
    };
    let (field, said) = refused(ChargingAsked { loads: [0.0; 24], ..asked() });
    assert!(field == "loads" && said.contains("nothing is drawn"), "{said}");
    let mut far = sun(500.0).unwrap();
    far.1.latitude = 95.0;
    assert_eq!(refused(ChargingAsked { solar: Some(far), ..asked() }).0, "latitude");
    assert_eq!(refused(ChargingAsked { health: 300.0, ..asked() }).0, "health");
}

#[test]
fn a_change_that_does_no_harm_and_costs_least_is_advised() {
    let bad = year(&asked());
    assert_eq!(bad.condition(true), Severity::Act, "the loads miss all of it");
    let good = year(&ChargingAsked { shore: shore(1), ..asked() });
    assert_eq!(good.condition(true), Severity::Steady, "full on {} days", good.full_days);
    // harm is never bought, however cheap; of sound ones the cheaper
    assert_eq!(best_year(&[(&bad, 0.0), (&good, 900.0), (&good, 800.0)], true), 2);
    // where all do harm, the most full days, the first of equals
    assert_eq!(best_year(&[(&bad, 5.0), (&bad, 1.0)], true), 0);
    assert_eq!(best_year(&[], true), 0);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    /// Ampere-hours in = used + lost + stored, every month within 0.1 %, with any sources; days are possible.
    #[test]
    fn every_month_keeps_its_ampere_hours(
        load in 0.5..8.0f64, watts in 0.0..1500.0f64, hours in 0.0..5.0f64, every in 1u16..20, months in 0.2..2.0f64,
    ) {
        let mut by_month = [1.0; 12];
        by_month[6] = months;
        let own = year(&ChargingAsked {
            loads: [load; 24], loads_by_month: by_month, solar: sun(watts), engine: engine(hours), shore: shore(every),
            ..asked()
        });
        for (month, one) in own.months.iter().enumerate() {
            let a = one.account;
            let off = a.came() - a.used - a.lost - a.stored;
            prop_assert!(off.abs() <= 0.001 * a.used.max(1.0), "{month}: {off} {a:?}");
            prop_assert!(a.lost >= -1e-9);
        }
        prop_assert!(own.days.iter().all(|day| day.lowest >= -1e-9 && day.highest <= 100.0 + 1e-9));
    }

    /// More panel never fewer full days, more load never more.
    #[test]
    fn more_panel_never_fewer_full_days(load in 0.5..6.0f64, watts in 50.0..900.0f64, more in 1.1..3.0f64) {
        let days = |load: f64, watts: f64| {
            year(&ChargingAsked { loads: [load; 24], solar: sun(watts), ..asked() }).full_days
        };
        let now = days(load, watts);
        prop_assert!(days(load, watts * more) >= now);
        prop_assert!(days(load * more, watts) <= now);
    }

    /// Two half charges are one charge, and no charge goes over full.
    #[test]
    fn a_charge_in_parts_is_one_charge(amperes in 0.5..40.0f64, from in 0.0..1.0f64, hours in 0.1..20.0f64, part in 0.1..0.9f64) {
        let own = Acceptance::new(amperes, 100.0, Construction::Flooded);
        let (whole, taken) = own.after(from, hours);
        let (first, a) = own.after(from, hours * part);
        let (second, b) = own.after(first, hours * (1.0 - part));
        prop_assert!((whole - second).abs() < 1e-9 && (taken - a - b).abs() < 1e-9);
        prop_assert!(whole <= 1.0 + 1e-12 && whole >= from - 1e-12);
    }
}
