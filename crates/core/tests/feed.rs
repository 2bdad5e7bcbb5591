//! A feed from a charger: what counts, what is marked. Limits are common practice, no source.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::feed::{FeedStage, FeedWatch, Mark, Sample};

fn sample(at: f64, volts: f64, amperes: f64) -> Sample {
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "seconds of a test")]
    let heartbeat = Some(at as u16);
    Sample { at, volts, amperes, celsius: Some(24.0), stage: Some(FeedStage::Charging), heartbeat }
}

fn watch() -> FeedWatch {
    FeedWatch::new(24, 840.0)
}

#[test]
fn figures_that_no_such_bank_shows_are_nonsense_and_the_next_good_one_counts() {
    let mut feed = watch();
    assert_eq!(feed.judge(&sample(0.0, 61.0, 40.0)), Mark::Good);
    for odd in [
        sample(1.0, 6553.5, 40.0),
        sample(1.0, 12.6, 40.0),
        sample(1.0, f64::NAN, 40.0),
        sample(1.0, 61.0, -900.0),
    ] {
        assert_eq!(feed.judge(&odd), Mark::Nonsense);
    }
    let hot = Sample { celsius: Some(327.0), ..sample(2.0, 61.0, 40.0) };
    assert_eq!(feed.judge(&hot), Mark::Nonsense);
    assert_eq!(feed.judge(&sample(3.0, 61.0, 40.0)), Mark::Good);
}

#[test]
fn a_jump_counts_once_three_samples_stand_there() {
    let mut feed = watch();
    feed.judge(&sample(0.0, 58.0, 40.0));
    // 4 V over 24 cells is 0.17 V a cell in a second
    assert_eq!(feed.judge(&sample(1.0, 62.0, 40.0)), Mark::Jumps);
    assert_eq!(feed.judge(&sample(2.0, 58.0, 40.0)), Mark::Good);
    let marks: Vec<Mark> = (3..7).map(|t| feed.judge(&sample(f64::from(t), 62.0, 40.0))).collect();
    assert_eq!(marks, [Mark::Jumps, Mark::Jumps, Mark::Good, Mark::Good]);
    // after a silence nobody knows what happened in between
    assert_eq!(feed.judge(&sample(60.0, 52.0, 0.0)), Mark::Good);
}

#[test]
fn the_same_figures_with_a_heartbeat_that_stands_repeat() {
    let mut feed = watch();
    let stuck = |at: f64| Sample { heartbeat: Some(7), ..sample(at, 61.0, 40.0) };
    let marks: Vec<Mark> = [0.0, 10.0, 29.0, 30.0, 40.0].map(|t| feed.judge(&stuck(t))).to_vec();
    assert_eq!(marks, [Mark::Good, Mark::Good, Mark::Good, Mark::Repeats, Mark::Repeats]);
    // the heart beats again
    assert_eq!(feed.judge(&Sample { heartbeat: Some(8), ..stuck(41.0) }), Mark::Good);
    // a charger without one may well show the same for a while
    let mut quiet = watch();
    let silent = |at: f64| Sample { heartbeat: None, ..sample(at, 61.0, 40.0) };
    assert!([0.0, 30.0, 90.0].into_iter().all(|t| quiet.judge(&silent(t)) == Mark::Good));
}

proptest! {
    #[test]
    fn what_counts_is_always_possible(volts in prop::collection::vec((-1.0f64..100.0, -2000.0f64..2000.0), 1..60)) {
        let mut feed = watch();
        for (t, (v, a)) in (0..).zip(volts) {
            if feed.judge(&sample(f64::from(t), v, a)) == Mark::Good {
                prop_assert!((24.0..=72.0).contains(&v) && a.abs() <= 840.0);
            }
        }
    }
}
