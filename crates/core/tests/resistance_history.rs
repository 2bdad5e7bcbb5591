//! OH-1 over the years: each battery against its own first value, and what another tester or a new baseline changes.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::past;
use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::visit::{Entry, PastVisit, ResistanceHistory, resistance_history};
use rainshadow_core::wording;

fn read(milliohms: f64, tester: &str, new_baseline: bool) -> Entry {
    Entry::Ohmic { milliohms, tester: tester.into(), new_baseline, stands: true }
}

fn year(n: i16, entries: Vec<(&str, Entry)>) -> PastVisit {
    past(date(2020 + n, 6, 1), entries)
}

fn rises(own: &ResistanceHistory) -> Vec<(i16, i64)> {
    #[expect(clippy::cast_possible_truncation, reason = "per cent")]
    own.read.iter().map(|read| (read.day.year(), (100.0 * read.rise).round() as i64)).collect()
}

#[test]
fn each_battery_rises_over_its_own_first_value() {
    let bank = shape(6, 2, 1);
    let visits = [
        year(0, vec![("A1", read(4.0, "", false)), ("A2", read(5.0, "", false))]),
        year(1, vec![("A1", read(4.2, "", false))]),
        year(2, vec![("A1", read(4.4, "", false)), ("A2", read(7.0, "", false))]),
    ];
    let own = resistance_history(&visits, &bank);
    assert_eq!(own.len(), 2);
    assert_eq!(rises(&own[0]), [(2020, 0), (2021, 5), (2022, 10)]);
    assert_eq!(rises(&own[1]), [(2020, 0), (2022, 40)]);
    let said =
        |visits: &[PastVisit]| wording::resistances_over_years(&resistance_history(visits, &bank), TODAY);
    assert_eq!(
        said(&visits).unwrap(),
        "A2 stands 40 % over its first value (investigate); the other within 10 % of its own."
    );
    assert!(said(&visits[..2]).unwrap().starts_with("All within 5 %"));
    // One that fell is as far off as one that rose.
    let fell = [
        year(0, vec![("A1", read(4.0, "", false)), ("A2", read(5.0, "", false))]),
        year(1, vec![("A1", read(3.6, "", false)), ("A2", read(5.0, "", false))]),
    ];
    assert!(said(&fell).unwrap().starts_with("All within 10 %"), "{:?}", said(&fell));
    assert!(said(&visits[..1]).unwrap().starts_with("Read once, on 1 Jun 2020"));
    assert_eq!(said(&[]), None);
}

const TODAY: Date = date(2026, 10, 8);

#[test]
fn another_tester_does_not_compare_and_a_new_baseline_begins_again() {
    let bank = shape(6, 1, 1);
    let visits = [
        year(0, vec![("A1", read(4.0, "clamp", false))]),
        year(1, vec![("A1", read(6.0, "bridge", false))]),
        year(2, vec![("A1", read(6.2, "bridge", true))]),
        year(3, vec![("A1", read(6.82, "bridge", false))]),
    ];
    assert_eq!(rises(&resistance_history(&visits, &bank)[0]), [(2020, 0), (2022, 0), (2023, 10)]);
}

proptest! {
    #[test]
    fn it_scales_with_nothing_but_the_ratio(first in 0.5f64..50.0, by in 0.5f64..2.0) {
        let visits = [year(0, vec![("A1", read(first, "", false))]), year(1, vec![("A1", read(first * by, "", false))])];
        let own = resistance_history(&visits, &shape(6, 1, 1));
        prop_assert!((own[0].read[1].rise - (by - 1.0)).abs() < 1e-9);
    }
}
