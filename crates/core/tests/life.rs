//! LF-1 to LF-3: cycles by depth, what years and cycles use, and what is left by tests and by wear.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::life::{
    CalendarShare, CapacityOnDay, CycleTable, EndOfLife, GassingBy, LifeUse, cycles_allowed, design_life,
    end_capacity, gassing, remaining_by_tests, remaining_by_wear, wear,
};
use rainshadow_core::schedule::Duty;
use rainshadow_core::water::{Interval, MonthlyMeans, WaterHistory, WaterUse, forecast};
use rainshadow_core::wording;

fn near(found: f64, wanted: f64) {
    assert!((found - wanted).abs() < 1e-6 * wanted.abs().max(1.0), "{found} against {wanted}");
}

fn flat() -> CycleTable {
    CycleTable::usual(Construction::Flooded)
}

/// Common practice, no source: cycles at 100, 80, 50, 30 and 20 % of flat plate, tubular and AGM batteries.
#[test]
fn cycles_by_depth_are_those_of_the_table_and_straight_in_logarithms_between() {
    let rows = |construction, cycles: [f64; 5]| {
        let table = CycleTable::usual(construction);
        for (depth, n) in [100.0, 80.0, 50.0, 30.0, 20.0].into_iter().zip(cycles) {
            near(cycles_allowed(&table, depth).unwrap().cycles, n);
        }
    };
    rows(Construction::Flooded, [450.0, 700.0, 1200.0, 2000.0, 3000.0]);
    rows(Construction::FloodedTubular, [900.0, 1400.0, 2500.0, 4200.0, 6300.0]);
    rows(Construction::Agm, [300.0, 450.0, 800.0, 1400.0, 2200.0]);
    // the geometric mean of two depths has the geometric mean of their cycles
    near(cycles_allowed(&flat(), (50.0f64 * 80.0).sqrt()).unwrap().cycles, (1200.0f64 * 700.0).sqrt());
    // under 20 % as much charge in all: N20·20/depth
    near(cycles_allowed(&flat(), 10.0).unwrap().cycles, 6000.0);
    // fact of the trade (common practice, no source): 75 % gives 500 to 600, which lies within the range
    let own = cycles_allowed(&flat(), 75.0).unwrap();
    assert!(own.range[0] < 600.0 && own.range[1] > 600.0);
    near(own.range[0] * 1.5, own.cycles);
}

fn used(cycles: Vec<[f64; 2]>, calendar: Vec<(f64, f64)>) -> LifeUse {
    let calendar =
        calendar.into_iter().map(|(years, temperature)| CalendarShare { years, temperature }).collect();
    LifeUse { cycles, calendar, design_life: None, table: None }
}

/// Worked by hand from the rule: half of the cycles of 50 %; five years at 25 °C and one at 35 °C of ten.
#[test]
fn wear_is_cycles_over_those_allowed_and_years_that_heat_doubles() {
    let own =
        wear(&used(vec![[50.0, 600.0]], vec![(5.0, 25.0), (1.0, 35.0)]), Construction::Flooded).unwrap();
    near(own.cycles, 0.5);
    near(own.calendar, 0.5 + 0.2);
    near(own.total, 1.2);
    // cold saves no more than half
    near(wear(&used(vec![], vec![(1.0, -20.0)]), Construction::Flooded).unwrap().calendar, 0.05);
    assert!(design_life(Construction::FloodedTubular) > design_life(Construction::Agm));
    // (1/f - W)/rate for f = 1, 1.5 and 1/1.5, never below 0
    let half = wear(&used(vec![[50.0, 240.0]], vec![(2.0, 25.0)]), Construction::Flooded).unwrap();
    let [best, shortest, longest] = remaining_by_wear(&half).unwrap();
    near(best, (1.0 - 0.4) / 0.2);
    near(shortest, (1.0 / 1.5 - 0.4) / 0.2);
    near(longest, (1.5 - 0.4) / 0.2);
    assert!(remaining_by_wear(&own).unwrap()[0].abs() < 1e-9, "it is used up");
    assert!(wording::wear_said(&half, true).contains("its cycles 20 %: 40 % together"));
    assert!(
        wording::wear_on_record_said(&half, 362)
            .ends_with("had they always been as on the 362 days on record.")
    );
    assert!(wording::wear_said(&half, false).contains("its cycles are not counted"));
}

#[test]
fn a_life_that_cannot_be_is_refused() {
    let odd = |own: &LifeUse| wear(own, Construction::Flooded).unwrap_err().to_string();
    assert!(odd(&used(vec![[150.0, 10.0]], vec![])).contains("depth of a cycle"));
    assert!(odd(&used(vec![[50.0, -1.0]], vec![])).contains("cycles"));
    assert!(odd(&used(vec![], vec![(3.0, 95.0)])).contains("temperature"));
    let table = Some(CycleTable { rows: vec![[50.0, 900.0], [80.0, 1200.0]] });
    let said = odd(&LifeUse { table, ..used(vec![[50.0, 1.0]], vec![]) });
    assert!(said.contains("depths rise and its cycles fall"), "{said}");
    let twice = [test_on(2024, 1, 90.0), test_on(2024, 1, 88.0)];
    assert!(
        remaining_by_tests(&twice, Duty::Standby).unwrap_err().to_string().contains("one a day is taken")
    );
}

fn test_on(year: i16, month: i8, percent: f64) -> CapacityOnDay {
    CapacityOnDay { day: date(year, month, 1), percent }
}

const LAST: Date = date(2026, 1, 1);

#[test]
fn a_slope_is_told_from_three_tests_and_a_range_from_five() {
    assert_eq!((end_capacity(Duty::Standby), end_capacity(Duty::Cycled)), (80.0, 60.0));
    let two = [test_on(2024, 1, 100.0), test_on(2025, 1, 95.0)];
    let own = remaining_by_tests(&two, Duty::Standby).unwrap();
    assert_eq!((own.per_year, &own.ends), (None, &EndOfLife::TooFew { tests: 2 }));
    assert!(wording::remaining_life(&own, LAST).contains("one more to go"));
    // five points a year from 100: at 90 now, 80 in two years, which is as long as the record
    let three = [test_on(2024, 1, 100.0), test_on(2025, 1, 95.0), test_on(2026, 1, 90.0)];
    let own = remaining_by_tests(&three, Duty::Standby).unwrap();
    let EndOfLife::Years { best, range } = own.ends else { panic!("{own:?}") };
    assert!((best - 2.0).abs() < 0.01 && range.is_none(), "{best}");
    assert!((own.per_year.unwrap() + 5.0).abs() < 0.01);
    let said = wording::remaining_life(&own, LAST);
    assert_eq!(
        said,
        "It falls 5 points a year: 80 % in about January 2028. A range is told from five tests on."
    );
    // the same fall to 60 % lies further ahead than twice the record
    let EndOfLife::Beyond { years, shortest } = remaining_by_tests(&three, Duty::Cycled).unwrap().ends else {
        panic!()
    };
    assert!((years - 4.0).abs() < 0.01 && shortest.is_none());
    let five = [
        test_on(2022, 1, 100.0),
        test_on(2023, 1, 97.0),
        test_on(2024, 1, 90.0),
        test_on(2025, 1, 87.0),
        test_on(2026, 1, 82.0),
    ];
    let own = remaining_by_tests(&five, Duty::Standby).unwrap();
    let EndOfLife::Years { best, range: Some([low, high]) } = own.ends else { panic!("{own:?}") };
    assert!(low <= best && best <= high && high <= 8.0, "{low} {best} {high}");
    assert!(wording::remaining_life(&own, LAST).contains(" to "));
}

#[test]
fn what_does_not_fall_and_what_has_ended_is_said_so() {
    let even = [test_on(2024, 1, 96.0), test_on(2025, 1, 97.0), test_on(2026, 1, 97.0)];
    let own = remaining_by_tests(&even, Duty::Standby).unwrap();
    assert_eq!(own.ends, EndOfLife::NoDecline);
    assert_eq!(wording::remaining_life(&own, LAST), "No decline was seen.");
    let ended = [test_on(2026, 1, 58.0)];
    let own = remaining_by_tests(&ended, Duty::Cycled).unwrap();
    assert_eq!(own.ends, EndOfLife::Ended);
    assert!(wording::remaining_life(&own, LAST).contains("passed 60 %"));
    assert!(
        wording::remaining_life(&remaining_by_tests(&[], Duty::Cycled).unwrap(), LAST)
            .contains("No capacity")
    );
}

/// A bank whose fills, a year apart, grow by so much a year at one temperature.
fn drinks(growth: f64, fills: u32) -> WaterUse {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let interval = |n: u32| Interval {
        days: 182.6,
        millilitres: 60.0 * (growth * f64::from(n) / 2.0).exp(),
        temperature: Some(25.0),
    };
    let history = WaterHistory {
        bank: (0..fills).map(interval).collect(),
        days_since_fill: Some(10.0),
        cell_count: 24,
        today: Some(date(2026, 10, 8)),
        climate: Some(MonthlyMeans::try_from([25.0; 12]).unwrap()),
        ..WaterHistory::default()
    };
    forecast(&history, &model).unwrap().consumption
}

#[test]
fn what_is_left_is_counted_from_today_and_not_from_the_last_test() {
    let tests = [(2023, 100.0), (2024, 90.0), (2025, 80.0)];
    let tests = tests.map(|(year, percent)| CapacityOnDay { day: date(year, 6, 1), percent });
    let own = remaining_by_tests(&tests, Duty::Cycled).unwrap();
    // ten points a year, twenty to go: two years from the last test, half a year less today; LF-1 spreads by 1.5
    let [best, shortest, longest] = own.years_from(date(2025, 6, 1), date(2025, 12, 1)).unwrap();
    let since = 183.0 / 365.25;
    assert!((best - (2.0 - since)).abs() < 0.01, "{best}");
    assert!((shortest - (2.0 / 1.5 - since)).abs() < 0.01 && (longest - (3.0 - since)).abs() < 0.01);
    assert_eq!(own.years_from(date(2025, 6, 1), date(2035, 6, 1)), Some([0.0; 3]), "never under none");
    let few = remaining_by_tests(&tests[..2], Duty::Cycled).unwrap();
    assert_eq!(few.years_from(date(2024, 6, 1), date(2025, 6, 1)), None);
}

/// What is known of the plates of an old bank: how much more it drinks than it did, else its years (SM-1: 1 to 4 times).
#[test]
fn old_plates_gas_more_by_what_they_drink_or_by_their_years() {
    let flat = Construction::Flooded;
    let new = gassing(flat, Some(0.0), None);
    near(new.times, 1.0);
    assert_eq!(new.by, GassingBy::Age { years: 0.0 });
    near(gassing(flat, Some(design_life(flat)), None).times, 4.0);
    near(gassing(flat, Some(design_life(flat) / 2.0), None).times, 2.5);
    assert_eq!(gassing(flat, None, None).by, GassingBy::Unknown);
    near(gassing(flat, Some(60.0), None).times, 4.0);
    // six years, and 20 % more water every year: e^(0.18 · 6) by hand, as far as the fills are believed
    let thirsty = drinks(0.2, 8);
    let told = gassing(flat, Some(6.0), Some(&thirsty));
    near(told.times, (thirsty.growth * 6.0).exp());
    assert!(told.times > 2.2 && told.times < 3.4, "{told:?}");
    assert!(matches!(told.by, GassingBy::Water { fills: 8, .. }));
    assert!(wording::gassing_by(&told).contains("% a year over 8 fills"));
    // one that drinks less every year has not grown younger, and two fills tell nothing
    near(gassing(flat, Some(6.0), Some(&drinks(-0.2, 8))).times, 1.0);
    assert_eq!(gassing(flat, Some(6.0), Some(&drinks(0.2, 2))).by, GassingBy::Age { years: 6.0 });
}

proptest! {
    /// Deeper cycles are fewer, whatever the construction.
    #[test]
    fn deeper_cycles_are_never_more(a in 1.0f64..100.0, b in 1.0f64..100.0) {
        for construction in [Construction::Flooded, Construction::FloodedTubular, Construction::Agm] {
            let table = CycleTable::usual(construction);
            let of = |depth| cycles_allowed(&table, depth).unwrap().cycles;
            prop_assert!(of(a.min(b)) >= of(a.max(b)) - 1e-9);
        }
    }

    /// No forecast reaches further than twice the record, and its range holds its best.
    #[test]
    fn a_forecast_never_reaches_further_than_twice_the_record(
        percents in proptest::collection::vec(61.0f64..110.0, 3..9),
    ) {
        let tests: Vec<CapacityOnDay> = percents
            .iter()
            .zip(2015..)
            .map(|(percent, year)| test_on(year, 1, *percent))
            .collect();
        let span = f64::from(u32::try_from(percents.len()).unwrap() - 1);
        for duty in [Duty::Standby, Duty::Cycled] {
            let own = remaining_by_tests(&tests, duty).unwrap();
            let mut turned = tests.clone();
            turned.reverse();
            prop_assert_eq!(&own, &remaining_by_tests(&turned, duty).unwrap());
            if let EndOfLife::Years { best, range } = own.ends {
                prop_assert!(best > 0.0 && best <= 2.0 * span + 0.02);
                if let Some([low, high]) = range {
                    prop_assert!(low <= best + 1e-9 && best <= high + 1e-9);
                }
            }
        }
    }
}
