//! RD-6 and RD-1: when a cell counts as sinking, and when a round counts at all.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, past, round, shape};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::round::{Doubt, RoundTemperature, RoundToJudge, Sinking, Unusable, WaterAdded, judge};
use rainshadow_core::severity::Severity;

/// 24 cells; A3-2 falls by `step` points from round to round, `rounds` of them `days` apart before now.
fn falling(step: f64, rounds: u32, days: f64) -> RoundToJudge {
    let mut values = [1262.0; 24];
    values[7] -= 30.0;
    let mut r = round(shape(3, 4, 2), &values);
    r.past = (1..=rounds)
        .map(|i| {
            let mut d = [0.0; 24];
            d[7] = -30.0 + step * f64::from(i);
            past(&r.shape, days * f64::from(i), &d)
        })
        .collect();
    r
}

fn sinking(round: &RoundToJudge) -> Option<Sinking> {
    judge(round).cells.into_iter().find(|c| c.cell == cell("A3-2")).unwrap().sinking
}

#[test]
fn a_trend_needs_five_rounds_over_180_days() {
    assert!(sinking(&falling(5.0, 4, 45.0)).is_some(), "five rounds over 180 days");
    assert_eq!(sinking(&falling(5.0, 3, 90.0)), None, "four rounds are too few");
    assert_eq!(sinking(&falling(5.0, 4, 44.0)), None, "176 days are too short");
}

#[test]
fn the_slope_is_in_points_a_year_with_its_span() {
    let found = sinking(&falling(4.0, 6, 60.0)).unwrap();
    // 4 points in 60 days are 24.35 in a year of 365.25
    assert!((found.points_per_year.value() + 24.35).abs() < 0.01, "{found:?}");
    assert_eq!(found.rounds, 7);
    assert!((found.days - 360.0).abs() < 1e-9);
    assert!(found.at_most <= found.points_per_year && found.points_per_year <= found.at_least);
}

#[test]
fn a_cell_that_stays_low_or_recovers_is_no_laggard() {
    assert_eq!(sinking(&falling(0.0, 6, 60.0)), None, "low and steady");
    assert_eq!(sinking(&falling(-3.0, 6, 60.0)), None, "low and rising");
}

#[test]
fn a_laggard_was_among_the_lowest_tenth_three_times_running() {
    let mut r = falling(4.0, 6, 60.0);
    // in the round before last, three other cells (a tenth of 24, rounded up) stood lower
    for (i, other) in r.past[1].cells.iter_mut().enumerate() {
        if i < 3 {
            other.deviation = rainshadow_core::quantity::Points::new(-60.0);
        }
    }
    assert_eq!(sinking(&r), None);
}

#[test]
fn rounds_of_another_instrument_are_no_part_of_a_trend() {
    let mut r = falling(4.0, 6, 60.0);
    for past in r.past.iter_mut().skip(3) {
        past.instrument = Instrument::digital().kind;
    }
    assert_eq!(sinking(&r), None, "three comparable rounds and today's are four");
}

#[test]
fn a_sinking_cell_acts_at_25_points_where_a_resting_one_is_watched() {
    let condition = |r: &RoundToJudge| judge(r).cells[7].condition;
    assert_eq!(condition(&falling(4.0, 6, 60.0)), Severity::Act);
    assert_eq!(condition(&falling(0.0, 6, 60.0)), Severity::Watch);
}

#[test]
fn a_load_half_an_hour_ago_is_long_enough_and_29_minutes_are_not() {
    let mut r = falling(0.0, 0, 1.0);
    r.conditions.hours_since_load = Some(0.5);
    assert!(judge(&r).usability.judged());
    r.conditions.hours_since_load = Some(29.0 / 60.0);
    assert_eq!(judge(&r).usability.unusable, [Unusable::LoadTooRecent]);
}

#[test]
fn reasons_add_up_and_unknowns_are_doubts_not_reasons() {
    let mut r = falling(0.0, 0, 1.0);
    r.conditions.charging = true;
    r.conditions.water_added = WaterAdded::Yes;
    assert_eq!(judge(&r).usability.unusable, [Unusable::Charging, Unusable::Unmixed]);
    r.conditions = rainshadow_core::round::Conditions::default();
    let usability = judge(&r).usability;
    assert!(usability.judged());
    assert_eq!(
        usability.doubts,
        [Doubt::LoadUnknown, Doubt::MixUnknown, Doubt::TemperatureUnknown, Doubt::FullUnproven]
    );
    // an instrument that corrects by itself needs no temperature
    r.instrument = Instrument::refractometer();
    assert!(!judge(&r).usability.doubts.contains(&Doubt::TemperatureUnknown));
    r.conditions.temperature = RoundTemperature::PerBattery { batteries: Vec::new() };
    r.instrument = Instrument::hydrometer();
    assert!(judge(&r).usability.doubts.contains(&Doubt::TemperatureUnknown), "no battery was measured");
}
