//! RD-3: when a reading is questioned at the cell, on banks worked out by hand.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, past, round, sg, shape};
use rainshadow_core::bank::CellAddress;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{Points, SpecificGravity};
use rainshadow_core::round::{CellReading, Question, RoundToJudge, RunningRound, confirms};

/// 24 cells, the first `read` of them in at 1.262, none confirmed.
fn under_way(read: usize) -> RoundToJudge {
    let mut round = round(shape(4, 6, 1), &[1262.0; 24]);
    round.readings.truncate(read);
    for record in &mut round.readings {
        record.stands = false;
    }
    round
}

/// The question a reading at this cell would raise.
fn asked(round: &RoundToJudge, at: &str, read: f64) -> Option<Question> {
    let (at, read) = (cell(at), sg(read));
    RunningRound::new(round).question(at, read, round.correct(at, read, None))
}

fn with_history(mut round: RoundToJudge, deviation_of_a4_1: f64) -> RoundToJudge {
    let mut deviations = [0.0; 24];
    deviations[12] = deviation_of_a4_1;
    round.past = vec![past(&round.shape, 40.0, &deviations)];
    round
}

#[test]
fn outside_1050_to_1330_is_questioned_before_any_mate_is_in() {
    let first = under_way(0);
    assert_eq!(asked(&first, "A1-1", 1.050), None);
    assert_eq!(asked(&first, "A1-1", 1.330), None);
    for read in [1.049, 1.331, 0.992] {
        assert_eq!(asked(&first, "A1-1", read), Some(Question::OutsideUsual { read: sg(read) }), "{read}");
    }
}

#[test]
fn without_history_20_points_are_questioned_once_six_mates_are_in() {
    // five in: nobody is asked, however far it stands
    assert_eq!(asked(&under_way(5), "A2-2", 1.200), None);
    let six = under_way(6);
    assert_eq!(asked(&six, "A2-3", 1.241), None, "21 points are within 21.6");
    let Some(Question::FarFromMates { deviation, limit }) = asked(&six, "A2-3", 1.240) else {
        panic!("22 points below the mates are asked about");
    };
    assert!((deviation.value() + 22.0).abs() < 1e-6);
    // 0.6 · 4.13 · 3.33 = 8.3 points of noise for one of seven: √(20² + 8.3²) (SG-7)
    assert!((limit.used.value() - 21.64).abs() < 0.01 && !limit.noise_rules());
    assert!(matches!(asked(&six, "A2-3", 1.288), Some(Question::FarFromMates { .. })), "above as well");
}

#[test]
fn history_takes_the_place_of_the_distance_to_the_mates() {
    // this cell stood 40 below its mates before: 40 below now is its own old story
    let known = with_history(under_way(12), -40.0);
    assert_eq!(asked(&known, "A4-1", 1.222), None);
    // with the mates again it has moved by 40
    let Some(Question::Moved { change, days, limit, neighbours }) = asked(&known, "A4-1", 1.262) else {
        panic!("a rise of 40 points against its mates is asked about");
    };
    assert!((change.value() - 40.0).abs() < 1e-6);
    assert!((days - 40.0).abs() < 1e-9);
    // 3·√2·3.33 = 14.1 points for a hydrometer: the rule's 15 stand
    assert!((limit.used.value() - 15.0).abs() < 1e-9);
    assert_eq!(neighbours.map(|n| n.value().round()), Some(0.0), "A3-4, read before it, has not moved");
}

#[test]
fn fifteen_points_of_change_are_kept_and_sixteen_are_asked_about() {
    let known = with_history(under_way(12), 0.0);
    assert_eq!(asked(&known, "A4-1", 1.247), None);
    assert!(matches!(asked(&known, "A4-1", 1.246), Some(Question::Moved { .. })));
}

#[test]
fn a_coarse_instrument_is_given_its_own_noise() {
    let mut known = with_history(under_way(12), 0.0);
    // marks ten points apart: u = √(10²/12 + 3²) = 4.16, 3·√2·u = 17.7 points
    known.instrument.resolution = Points::new(10.0);
    assert_eq!(asked(&known, "A4-1", 1.246), None, "16 points are within what it can tell");
    let Some(Question::Moved { limit, .. }) = asked(&known, "A4-1", 1.244) else { panic!("18 are not") };
    assert!(limit.noise_rules() && (limit.used.value() - 17.66).abs() < 0.01, "{limit:?}");
}

#[test]
fn history_of_another_instrument_or_before_an_equalize_does_not_speak() {
    for spoil in [
        (|r: &mut RoundToJudge| r.past[0].instrument = Instrument::digital().kind) as fn(&mut RoundToJudge),
        |r| r.past[0].before_equalize = true,
    ] {
        let mut known = with_history(under_way(12), -40.0);
        spoil(&mut known);
        assert!(matches!(asked(&known, "A4-1", 1.222), Some(Question::FarFromMates { .. })));
    }
}

#[test]
fn before_six_mates_are_in_the_shift_of_those_that_are_speaks() {
    // last time all stood at 1.260; the two that are in stand 2 points higher now
    let known = with_history(under_way(2), 0.0);
    assert_eq!(asked(&known, "A4-1", 1.262), None, "it moved as its mates did");
    assert!(
        matches!(asked(&known, "A4-1", 1.240), Some(Question::Moved { .. })),
        "it fell by 22 against them"
    );
    // one mate is no company
    assert_eq!(asked(&with_history(under_way(1), 0.0), "A4-1", 1.240), None);
}

#[test]
fn a_bank_of_six_is_asked_at_the_end_of_the_round_against_the_others() {
    let mut six = round(shape(3, 2, 1), &[1262.0, 1262.0, 1222.0, 1262.0, 1262.0, 1262.0]);
    for record in &mut six.readings {
        record.stands = false;
    }
    let last = six.readings.pop().unwrap();
    assert!(RunningRound::new(&six).open_questions().is_empty(), "one cell is still missing");
    six.readings.push(last);
    let open: Vec<CellAddress> =
        RunningRound::new(&six).open_questions().into_iter().map(|(c, _)| c).collect();
    assert_eq!(open, [cell("A1-3")]);
}

#[test]
fn a_single_cell_has_no_mates_to_be_far_from() {
    let one = round(shape(1, 1, 1), &[1180.0]);
    assert!(RunningRound::new(&one).open_questions().is_empty());
}

#[test]
fn what_the_technician_lets_stand_is_not_asked_about_again() {
    let mut kept = under_way(12);
    kept.readings[4].reading = CellReading::Gravity { read: sg(1.220) };
    assert_eq!(RunningRound::new(&kept).open_questions().len(), 1);
    kept.readings[4].stands = true;
    assert!(RunningRound::new(&kept).open_questions().is_empty());
}

#[test]
fn a_second_reading_confirms_the_first_within_what_two_readings_scatter() {
    // 2·√2·3.33 = 9.42 points for a hydrometer
    let u = Points::new(3.3292);
    let read = |points: f64| SpecificGravity::new(points / 1000.0).unwrap();
    assert!(confirms(read(1224.0), read(1233.0), u));
    assert!(!confirms(read(1224.0), read(1234.0), u));
    assert!(confirms(read(1233.0), read(1224.0), u), "whichever came first");
}

#[test]
fn the_temperature_at_one_cell_corrects_that_cell_alone() {
    let six = under_way(6);
    let warm = rainshadow_core::quantity::Temperature::from_celsius(45.0).unwrap();
    let preview = RunningRound::new(&six).preview(cell("A2-3"), sg(1.248), Some(warm));
    // 0.00072 · (45 − 25) = 14.4 points (SG-1, BCI from memory)
    assert!((preview.correction.value() - 14.4).abs() < 1e-6);
    assert_eq!(preview.corrected.to_string(), "1.262");
    assert!(preview.deviation.unwrap().abs() < Points::new(0.5));
}
