//! RD-5: shapes and levels at their boundaries, on banks worked out by hand.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, round, sg, shape};
use rainshadow_core::bank::BankShape;
use rainshadow_core::finding::{RoundFinding, RuleId};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::{Assessment, CellReading, Level, RoundToJudge, Shape, Side, judge};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// Gravity of every mate, thousandths.
const MATES: f64 = 1262.0;

fn low(shape: BankShape, cells: &[(usize, f64)]) -> RoundToJudge {
    let mut values = vec![MATES; shape.cell_count()];
    for (i, below) in cells {
        values[*i] -= below;
    }
    round(shape, &values)
}

fn pattern(shape: BankShape, cells: &[(usize, f64)]) -> Shape {
    judge(&low(shape, cells)).shape
}

fn bank() -> BankShape {
    shape(3, 8, 2)
}

#[test]
fn a_bank_within_the_watch_limit_is_even_whatever_stands_low_in_it() {
    // √(15² + (5.6 · 3.33)²) = 23.9 points for 48 cells read with a hydrometer
    assert_eq!(pattern(bank(), &[(5, 23.0)]), Shape::Even);
    assert_eq!(pattern(bank(), &[(5, 30.0)]), Shape::LoneCell { cell: cell("A2-3"), side: Side::Low });
}

#[test]
fn two_cells_of_one_case_that_are_not_neighbours_are_no_pair() {
    assert_eq!(pattern(bank(), &[(3, 30.0), (4, 30.0)]), Shape::Pair { cells: [cell("A2-1"), cell("A2-2")] });
    let cells = vec![cell("A2-1"), cell("A2-3")];
    assert_eq!(pattern(bank(), &[(3, 30.0), (5, 30.0)]), Shape::Cells { cells, side: Side::Low });
}

#[test]
fn neighbours_in_different_cases_are_no_pair_though_they_stand_side_by_side() {
    let cells = vec![cell("A1-3"), cell("A2-1")];
    let told = Shape::Cells { cells, side: Side::Low };
    assert_eq!(pattern(bank(), &[(2, 30.0), (3, 30.0)]), told, "A1-3 and A2-1 share no partition");
}

#[test]
fn a_lone_cell_in_a_bank_that_is_not_even_without_it_does_not_stand_alone() {
    // one far below, others scattered by more than the watch limit
    let mut r = low(bank(), &[(5, 60.0)]);
    for (i, record) in r.readings.iter_mut().enumerate() {
        if i % 4 == 0 {
            record.reading = CellReading::Gravity { read: sg(1.292) };
        }
    }
    let judged = judge(&r);
    assert_eq!(judged.shape, Shape::LoneCell { cell: cell("A2-3"), side: Side::Low }, "it is named");
    let alone = judged.findings.iter().any(|f| {
        matches!(
            f.of_round(),
            Some(RoundFinding::SuspectCell { alone: true, .. } | RoundFinding::LowCells { alone: true, .. })
        )
    });
    assert!(!alone, "and not said to stand below an even bank");
}

#[test]
fn a_battery_is_low_as_a_whole_from_ten_points_under_the_others() {
    // a digital meter, u = 2.02: the bank is not even from √(15² + (5.6 · 2.02)²) = 18.8 points on
    let whole = |by: f64| {
        let mut r = low(bank(), &[(0, -9.0), (18, 11.0), (19, by), (20, by)]);
        r.instrument = Instrument::digital();
        judge(&r).shape
    };
    assert_eq!(whole(10.0), Shape::Battery { battery: "A7".parse().unwrap() });
    assert_ne!(whole(9.9), Shape::Battery { battery: "A7".parse().unwrap() }, "9.9 under the others");
}

#[test]
fn a_battery_with_one_cell_at_the_median_is_not_low_as_a_whole() {
    let told = pattern(bank(), &[(18, 14.0), (20, 26.0)]);
    assert!(!matches!(told, Shape::Battery { .. }), "{told:?}");
}

#[test]
fn a_coarse_instrument_widens_what_counts_as_low_as_a_whole() {
    // marks of 20 points: u = √(20²/12 + 3²) = 6.5, 2u = 13.0
    let mut r = low(bank(), &[(18, 40.0), (19, 12.0), (20, 12.0)]);
    assert_eq!(judge(&r).shape, Shape::Battery { battery: "A7".parse().unwrap() });
    r.instrument =
        Instrument { resolution: rainshadow_core::quantity::Points::new(20.0), ..Instrument::hydrometer() };
    assert_ne!(judge(&r).shape, Shape::Battery { battery: "A7".parse().unwrap() });
}

#[test]
fn of_two_low_batteries_one_is_named_and_the_other_beside_it() {
    let six: Vec<(usize, f64)> = (9..15).map(|i| (i, 20.0)).collect();
    let judged = judge(&low(bank(), &six));
    let battery = |address: &str| Shape::Battery { battery: address.parse().unwrap() };
    let told = [judged.shape, judged.beside.unwrap()];
    assert!(told.contains(&battery("A4")) && told.contains(&battery("A5")), "{told:?}");
    let lead = wording::speak(&judged.findings[0], ReaderUnits::default());
    assert!(lead.seen.ends_with("as a whole would explain the figures nearly as well."), "{}", lead.seen);
}

#[test]
fn a_row_that_falls_steadily_is_a_gradient_named_with_its_ends() {
    // 1.2 points lower from cell to cell of both strings, 27.6 from end to end
    let mut falling: Vec<(usize, f64)> =
        (0..48).zip(0u8..).map(|(i, n)| (i, f64::from(n % 24) * 1.2 - 13.8)).collect();
    let judged = judge(&low(bank(), &falling));
    assert_eq!(judged.shape, Shape::Gradient { low_end: cell("A8-3"), high_end: cell("A1-1") });
    assert!(judged.findings.iter().any(|f| matches!(f.of_round(), Some(RoundFinding::Gradient { .. }))));
    // shuffled, the same values are no gradient
    let values: Vec<f64> = falling.iter().map(|(_, by)| *by).collect();
    for (place, slot) in falling.iter_mut().enumerate() {
        slot.1 = values[place * 7 % 24];
    }
    assert_eq!(pattern(bank(), &falling), Shape::Drift, "shuffled");
}

#[test]
fn a_gradient_needs_ten_points_from_end_to_end() {
    // seven points along both strings, and one high cell that makes the bank uneven
    let mut slight: Vec<(usize, f64)> =
        (1..48).zip(1u8..).map(|(i, n)| (i, f64::from(n % 24) * 0.3)).collect();
    slight.push((0, -25.0));
    let told = pattern(bank(), &slight);
    assert!(!matches!(told, Shape::Gradient { .. }), "{told:?}");
}

#[test]
fn a_string_is_named_only_where_there_are_two_and_only_one_is_low() {
    let cells: Vec<(usize, f64)> = (12..18).map(|i| (i, 22.0)).collect();
    assert_eq!(pattern(shape(3, 2, 3), &cells), Shape::String { letter: 'C' });
    // two of three low: their median is the bank's, and none is "the" low one
    let two: Vec<(usize, f64)> = (6..18).map(|i| (i, 22.0)).collect();
    assert!(!matches!(pattern(shape(3, 2, 3), &two), Shape::String { .. }));
}

#[test]
fn a_low_battery_of_two_volt_cells_is_a_low_cell() {
    // one cell is no group of at least two
    assert_eq!(
        pattern(shape(1, 12, 1), &[(4, 30.0)]),
        Shape::LoneCell { cell: cell("A5-1"), side: Side::Low }
    );
}

#[test]
fn two_cells_are_too_few_for_a_shape_and_are_still_compared() {
    let judged = judge(&low(shape(1, 2, 1), &[(0, 40.0)]));
    assert_eq!(judged.shape, Shape::TooFew);
    assert_eq!(judged.condition, Severity::Act, "40 points between two cells ask for an equalize");
}

fn level_at(gravity: f64) -> Assessment {
    let all = round(shape(3, 4, 1), &[gravity; 12]);
    judge(&all)
}

#[test]
fn the_level_of_a_full_bank_has_its_own_limit_on_either_side() {
    // Full is 1.265 in the general table (BCI, from memory). u_c² = (1.25 · 3.33/√12)² + 1.44², so 2u_c = 3.8
    // points: √(10² + 3.8²) = 10.7 down and √(15² + 3.8²) = 15.5 up (SG-7).
    for (gravity, level) in [
        (1254.5, Level::Full),
        (1254.0, Level::Low),
        (1265.0, Level::Full),
        (1280.0, Level::Full),
        (1281.0, Level::High),
    ] {
        assert_eq!(level_at(gravity).level, Some(level), "{gravity}");
    }
    let low = level_at(1250.0);
    assert_eq!((low.findings[0].rule, low.condition), (RuleId::Rd5, Severity::Watch));
    assert!(matches!(low.findings[0].of_round(), Some(RoundFinding::ShortOfFull { .. })));
}

#[test]
fn a_bank_not_proven_full_has_no_level_and_is_never_steady_far_from_it() {
    let mut r = round(shape(3, 4, 1), &[1180.0; 12]);
    r.conditions.proven_full = None;
    let judged = judge(&r);
    assert_eq!((judged.level, judged.condition), (None, Severity::Watch));
    assert!(matches!(judged.findings[0].of_round(), Some(RoundFinding::FarFromFull { .. })));
    // 1.180 lies between 1.190 at 50 % and 1.155 at 25 % of the general table
    assert!((judged.state_of_charge.unwrap().percent - 42.857).abs() < 0.01);
}
