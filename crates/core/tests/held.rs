//! HD-1 between two visits: what a bank lost while it stood disconnected, and that one loses too much.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::written;
use jiff::civil::{Date, date};
use jiff::{Timestamp, ToSpan};
use proptest::prelude::*;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::finding::{Finding, RuleId, Subject};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{RestConditions, judge_rest};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Entry, Gravities, Judged, OnRecord, PastVisit, RecheckWhy, Step, VisitSheet, diagnosis_evidence,
    electrical_findings, rechecks_wanted, rest_sheet,
};
use rainshadow_core::wording;

const FIRST: Date = date(2026, 10, 1);

struct Bank {
    shape: BankShape,
    model: BatteryModel,
    rules: HouseRules,
}

impl Bank {
    fn flooded() -> Self {
        let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
        Self { shape: shape(3, 4, 1), model, rules: HouseRules::maker_first() }
    }

    fn judged(&self) -> Judged<'_> {
        Judged { shape: &self.shape, model: &self.model, rules: &self.rules }
    }

    fn found(&self, visits: &[PastVisit]) -> Vec<Finding> {
        let (last, before) = visits.split_last().unwrap();
        electrical_findings(&last.sheet, before, self.judged(), &Gravities::new())
            .into_iter()
            .filter(|own| own.rule == RuleId::Hd1 && own.kind.code().contains("loses"))
            .collect()
    }

    fn lines(&self, visits: &[PastVisit]) -> Vec<String> {
        let (last, before) = visits.split_last().unwrap();
        wording::held_lines(&judge_rest(&rest_sheet(&last.sheet, before, self.judged(), &Gravities::new())))
    }
}

/// A visit some days after the first, when the charge was so many hours ago.
fn visit(days: i64, hours: f64, disconnected: bool, volts: [f64; 4]) -> PastVisit {
    let at = "2026-10-01T08:00:00Z".parse::<Timestamp>().unwrap() + (24 * days).hours();
    let conditions = RestConditions {
        hours_since_charge: Some(hours),
        hours_since_load: Some(hours),
        charged_full: true,
        disconnected,
        ..RestConditions::default()
    };
    let mut all = vec![written(&format!("{days} r"), "", Entry::Rested { conditions })];
    for (n, volts) in volts.into_iter().enumerate() {
        let place = format!("A{}", n + 1);
        all.push(written(&format!("{days} {n}"), &place, Entry::BatteryVolts { volts, stands: true }));
    }
    for entry in &mut all {
        entry.taken_at = at;
    }
    let day = FIRST.checked_add(days.days()).unwrap();
    PastVisit { day, sheet: VisitSheet::new(all), temperature: Some(25.0) }
}

#[test]
fn one_that_runs_down_by_itself_is_found_and_says_how_fast() {
    let own = Bank::flooded();
    let visits =
        [visit(0, 26.0, true, [6.36, 6.36, 6.36, 6.36]), visit(7, 194.0, true, [6.35, 6.27, 6.35, 6.35])];
    let found = own.found(&visits);
    assert_eq!(found.len(), 1, "{found:?}");
    assert_eq!(found[0].subject, Subject::Battery("A2".parse().unwrap()));
    assert_eq!(found[0].severity, Severity::Watch);
    let said = wording::speak(&found[0], ReaderUnits::default());
    // 0.09 V of the 3 × (1.265 − 1.120) V between full and empty, over 7 days.
    let span = 3.0 * (own.model.full_gravity.value() - own.model.discharged_gravity.value());
    let per_day = 100.0 * 0.09 / span / 7.0;
    assert!(said.headline.contains(&format!("A2 loses {per_day:.1} % a day")), "{said:?}");
    assert!(said.seen.contains("7 days"), "{said:?}");
    assert!(own.lines(&visits)[0].contains(&format!("A2 {per_day:.1}")), "{:?}", own.lines(&visits));
    // As evidence it is one battery that loses.
    let evidence = diagnosis_evidence(&visits, &[], own.judged(), &OnRecord::default(), visits[1].day);
    assert_eq!(evidence.held.len(), 1);
    assert!((evidence.held[0].days - 7.0).abs() < 1e-9);
    assert_eq!(evidence.held[0].batteries[1].first, Some(6.36));
}

#[test]
fn where_nearly_all_run_down_it_is_the_bank() {
    let own = Bank::flooded();
    let visits =
        [visit(0, 26.0, true, [6.36, 6.36, 6.36, 6.36]), visit(7, 194.0, true, [6.27, 6.26, 6.27, 6.35])];
    let found = own.found(&visits);
    assert_eq!(found.iter().map(|own| own.subject).collect::<Vec<_>>(), [Subject::Bank]);
    assert!(wording::speak(&found[0], ReaderUnits::default()).advice.contains("tops"));
}

#[test]
fn what_the_meter_cannot_tell_is_not_told_and_under_three_days_nothing_is_compared() {
    let own = Bank::flooded();
    let first = visit(0, 26.0, true, [6.36; 4]);
    let as_is = [first.clone(), visit(7, 194.0, true, [6.35; 4])];
    assert!(own.found(&as_is).is_empty());
    assert!(
        own.lines(&as_is)[0].contains("nobody lost more than this meter tells"),
        "{:?}",
        own.lines(&as_is)
    );
    let short = [first, visit(2, 74.0, true, [6.36, 6.20, 6.36, 6.36])];
    assert!(own.found(&short).is_empty());
    assert!(own.lines(&short).iter().any(|line| line.contains("Held for 3 days")));
}

#[test]
fn only_readings_of_one_charge_with_nothing_connected_compare() {
    let own = Bank::flooded();
    let first = || visit(0, 26.0, true, [6.36; 4]);
    let fell = [6.35, 6.20, 6.35, 6.35];
    for (why, visits) in [
        ("charged between", vec![first(), visit(7, 30.0, true, fell)]),
        ("connected", vec![first(), visit(7, 194.0, false, fell)]),
        ("connected at first", vec![visit(0, 26.0, false, [6.36; 4]), visit(7, 194.0, true, fell)]),
        ("surface charge on it at first", vec![visit(0, 5.0, true, [6.40; 4]), visit(7, 173.0, true, fell)]),
        ("nothing before", vec![visit(7, 194.0, true, fell)]),
    ] {
        assert!(own.lines(&visits).is_empty(), "{why}");
        assert!(own.found(&visits).is_empty(), "{why}");
    }
}

#[test]
fn of_visits_typed_later_the_day_tells_how_long_it_stood() {
    let own = Bank::flooded();
    let mut visits = [visit(0, 26.0, true, [6.36; 4]), visit(7, 200.0, true, [6.35, 6.24, 6.35, 6.35])];
    // All was typed in one evening.
    for visit in &mut visits {
        let mut all = visit.sheet.all().to_vec();
        for entry in &mut all {
            entry.taken_at = "2026-11-01T19:00:00Z".parse().unwrap();
        }
        visit.sheet = VisitSheet::new(all);
    }
    assert!(own.lines(&visits).is_empty(), "as if nothing lay between");
    for visit in &mut visits {
        visit.sheet.typed_for = Some(visit.day);
    }
    assert!(own.lines(&visits)[0].contains("7 days"), "{:?}", own.lines(&visits));
    assert_eq!(own.found(&visits).len(), 1);
}

#[test]
fn a_little_low_after_a_day_it_is_to_be_held_for_three() {
    let own = Bank::flooded();
    let wanted_after = |hours: f64, volts: [f64; 4], entries: Vec<(&str, Entry)>| {
        let read = visit(0, hours, true, volts);
        let mut all = read.sheet.all().to_vec();
        all.extend(entries.into_iter().enumerate().map(|(n, (at, e))| written(&format!("x{n}"), at, e)));
        rechecks_wanted(&VisitSheet::new(all), own.judged())
            .iter()
            .filter(|own| own.why == RecheckWhy::Held)
            .map(|own| (own.step, own.hours))
            .collect::<Vec<_>>()
    };
    let wanted = |volts, entries| wanted_after(26.0, volts, entries);
    let full = 3.0 * rainshadow_core::rest::full_rest_volts(&own.model);
    assert!(wanted([full; 4], Vec::new()).is_empty(), "it holds");
    let low = [full, full - 0.05, full, full];
    assert_eq!(wanted(low, Vec::new()), [(Step::RestCheck, 72.0)]);
    assert!(wanted([full, full - 0.3, full, full], Vec::new()).is_empty(), "it fails already");
    let alone = || vec![("", Entry::Only { step: Step::RestCheck })];
    assert_eq!(wanted([full; 4], alone()), [(Step::RestCheck, 72.0)], "read for nothing else");
    assert!(wanted_after(98.0, [full; 4], alone()).is_empty(), "the second reading asks for no third");
}

proptest! {
    #[test]
    fn a_battery_that_fell_less_is_never_found_where_one_that_fell_more_is_not(
        days in 3i64..30, fell in 0.0f64..0.3, more in 0.0f64..0.2
    ) {
        let own = Bank::flooded();
        let count = |by: f64| {
            let volts = [6.36 - by, 6.36, 6.36, 6.36];
            own.found(&[visit(0, 26.0, true, [6.36; 4]), visit(days, 26.0 + 24.0 * f64::from(u32::try_from(days).unwrap()), true, volts)]).len()
        };
        prop_assert!(count(fell + more) >= count(fell));
    }
}
