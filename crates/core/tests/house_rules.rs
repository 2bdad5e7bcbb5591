//! The three house rule sets that ship, against the table of choices in docs/formulas.md (common practice, no
//! source), and what each makes of the same numbers.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{round, shape};
use rainshadow_core::finding::RoundFinding;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::{BalanceVerdict, RoundToJudge, judge};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// A digital meter, so that its noise (5.1 · 2.02 = 10.3 points for 24 cells) hides no limit but ten.
fn bank(lowest: f64, rules: HouseRules) -> RoundToJudge {
    let mut values = [1262.0; 24];
    values[7] = 1262.0 - lowest;
    let mut r = round(shape(4, 6, 1), &values);
    r.instrument = Instrument::digital();
    r.rules = rules;
    r
}

fn verdict(lowest: f64, rules: HouseRules) -> BalanceVerdict {
    judge(&bank(lowest, rules)).balance.unwrap().verdict
}

#[test]
fn the_shipped_sets_carry_the_table_of_choices() {
    let [maker, close, light] = HouseRules::shipped();
    let row = |of: fn(&HouseRules) -> f64| [of(&maker), of(&close), of(&light)];
    let near = |found: [f64; 3], table: [f64; 3]| {
        assert!(found.iter().zip(table).all(|(f, t)| (f - t).abs() < 1e-9), "{found:?} {table:?}");
    };
    near(row(|r| r.spread_watch.value()), [15.0, 10.0, 30.0]);
    near(row(|r| r.spread_equalize.value()), [30.0, 20.0, 70.0]);
    near(row(|r| r.cell_suspect.value()), [50.0, 30.0, 70.0]);
    near(row(|r| r.equalize_every_days.into()), [90.0, 60.0, 180.0]);
    near(row(|r| r.water_check_days.into()), [30.0, 14.0, 60.0]);
    near(row(|r| r.kit_inspection_fills.into()), [4.0, 2.0, 6.0]);
    near(row(|r| r.planned_depth_percent.into()), [50.0, 40.0, 60.0]);
    near(row(|r| r.retorque_days.into()), [180.0, 90.0, 365.0]);
    near(row(|r| r.test_days.into()), [365.0, 180.0, 730.0]);
    near(row(|r| r.test_days_standby.into()), [180.0, 90.0, 365.0]);
    near(row(|r| r.settled_hours.into()), [24.0, 24.0, 12.0]);
    near(row(|r| r.usable_hours.into()), [4.0, 6.0, 2.0]);
    near(row(|r| r.storage_check_days.into()), [60.0, 30.0, 90.0]);
    near(row(|r| r.one_new_block_months.into()), [12.0, 6.0, 18.0]);
    assert_eq!(
        [maker.round_every_days, close.round_every_days, light.round_every_days],
        [Some(90), Some(30), None],
        "light touch reads at the start and the end of the season"
    );
}

#[test]
fn each_limit_of_spread_holds_from_its_own_point_on() {
    // each limit and 5.1 · √(1²/12 + 2²) = 10.3 points of noise in quadrature (SG-7)
    use BalanceVerdict::{Equalize, Even, Watch};
    for (name, rules, steps) in [
        (
            "maker first",
            HouseRules::maker_first(),
            [(18.0, Even), (19.0, Watch), (31.0, Watch), (32.0, Equalize)],
        ),
        (
            "close watch",
            HouseRules::close_watch(),
            [(14.0, Even), (15.0, Watch), (22.0, Watch), (23.0, Equalize)],
        ),
        (
            "light touch",
            HouseRules::light_touch(),
            [(31.0, Even), (32.0, Watch), (70.0, Watch), (71.0, Equalize)],
        ),
    ] {
        for (lowest, expected) in steps {
            assert_eq!(verdict(lowest, rules.clone()), expected, "{name} at {lowest} points");
        }
    }
}

#[test]
fn close_watch_never_asks_for_less_than_the_instrument_can_tell() {
    let judged = judge(&bank(10.0, HouseRules::close_watch())).balance.unwrap();
    // 10 points by the rule, 5.1 · √(1²/12 + 2²) = 10.3 by noise, 14.4 in quadrature (SG-7)
    assert!(judged.watch.noise_rules());
    assert!((judged.watch.used.value() - 14.36).abs() < 0.01, "{judged:?}");
    let mut hydrometer = bank(12.0, HouseRules::close_watch());
    hydrometer.instrument = Instrument::hydrometer();
    let judged = judge(&hydrometer).balance.unwrap();
    // 10 and 5.1 · 3.33 = 17.0
    assert!((judged.watch.used.value() - 19.70).abs() < 0.01, "{judged:?}");
    assert_eq!(judged.verdict, BalanceVerdict::Even);
}

#[test]
fn a_makers_own_limit_wins_in_maker_first_only_and_says_whose_it_is() {
    let with_maker = |rules| {
        let mut r = bank(23.0, rules);
        r.model.maker_spread_limit = Some(Points::new(20.0));
        judge(&r)
    };
    let maker = with_maker(HouseRules::maker_first());
    assert_eq!(maker.balance.unwrap().verdict, BalanceVerdict::Equalize);
    let finding = maker
        .findings
        .iter()
        .find(|f| matches!(f.of_round(), Some(RoundFinding::SpreadEqualize { .. })))
        .unwrap();
    assert!(
        wording::speak(finding, ReaderUnits::default())
            .rule
            .contains("limit 20 points (the maker), 22 with this instrument")
    );
    assert_eq!(with_maker(HouseRules::light_touch()).balance.unwrap().verdict, BalanceVerdict::Even);
}

#[test]
fn a_makers_limit_under_the_watch_limit_leaves_no_watch_between() {
    let mut r = bank(16.0, HouseRules::maker_first());
    r.model.maker_spread_limit = Some(Points::new(12.0));
    let balance = judge(&r).balance.unwrap();
    assert_eq!(balance.verdict, BalanceVerdict::Equalize);
    assert!(balance.watch.rule <= balance.equalize.rule);
}

#[test]
fn a_cell_is_suspect_by_the_limit_of_its_house_and_the_others_are_heard() {
    for (lowest, [maker, close, light]) in [
        // 0.6 · 10.3 = 6.2 points of noise widen 30 to 30.6, 50 to 50.4 and 70 to 70.3
        (30.0, [Severity::Watch, Severity::Watch, Severity::Watch]),
        (31.0, [Severity::Watch, Severity::Act, Severity::Watch]),
        (51.0, [Severity::Act, Severity::Act, Severity::Watch]),
        (71.0, [Severity::Act, Severity::Act, Severity::Act]),
    ] {
        for (rules, expected) in HouseRules::shipped().into_iter().zip([maker, close, light]) {
            let name = rules.name.clone();
            let judged = judge(&bank(lowest, rules));
            assert_eq!(judged.cells[7].condition, expected, "{name} at {lowest} points");
        }
    }
    let judged = judge(&bank(51.0, HouseRules::maker_first()));
    let said = wording::speak(&judged.findings[0], ReaderUnits::default());
    assert_eq!(said.others, "Light touch would watch it.");
    let judged = judge(&bank(31.0, HouseRules::close_watch()));
    let said = wording::speak(&judged.findings[0], ReaderUnits::default());
    assert_eq!(said.others, "Maker first would watch it. Light touch would watch it.");
}
