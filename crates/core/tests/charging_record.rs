//! CR-1: what the record of a monitor tells of how a bank is charged.
#![allow(clippy::unwrap_used, clippy::cast_precision_loss, reason = "helpers fail loudly; minutes of weeks")]

use crate::common::shape;
use jiff::Timestamp;
use jiff::tz::{TimeZone, offset};
use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::charging_record::{
    ChargingRecordJudged, MinuteRow, RecordError, RecordSample, RecordedBank, Thinner, charging_record,
};
use rainshadow_core::feed::FeedStage;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;

/// 2026-03-02, midnight UTC, in minutes since 1970.
pub const BEGIN: i64 = 29_540_160;
pub const STEP: i64 = 5;
pub const DAY: i64 = 1440;

/// 24 cells in series, 420 Ah.
pub fn bank() -> RecordedBank {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    RecordedBank::of(&model, &shape(3, 8, 1), false)
}

pub fn row(minute: i64, per_cell: f64, amperes: f64) -> MinuteRow {
    MinuteRow {
        minute: BEGIN + minute,
        volts: Some(24.0 * per_cell),
        amperes: Some(amperes),
        celsius: Some(25.0),
        state: None,
    }
}

/// Days alike: `out` amperes from 18 to 24 h, then from 8 h as many Ah times `factor` over six hours, the last two at
/// absorption and the last of these with the current at the tail. The current of the first four makes up the rest.
pub fn day(at: i64, out: f64, factor: f64) -> Vec<MinuteRow> {
    let own = bank();
    let tail = 0.015 * own.c20;
    let (absorbing, wanted) = (0.06 * own.c20, 6.0 * out * factor);
    let bulk = (wanted - absorbing - tail) / 4.0;
    (0..DAY / STEP)
        .map(|k| {
            let (minute, hour) = (at * DAY + k * STEP, k as f64 * STEP as f64 / 60.0);
            let (volts, amperes) = match hour {
                h if h < 8.0 => (2.09, 0.0),
                h if h < 12.0 => (2.25, bulk),
                h if h < 13.0 => (own.absorption, absorbing),
                h if h < 14.0 => (own.absorption, tail),
                h if h < 18.0 => (2.12, 0.0),
                _ => (2.02, -out),
            };
            row(minute, volts, amperes)
        })
        .collect()
}

pub fn week(days: i64, out: f64, factor: f64) -> Vec<MinuteRow> {
    (0..days).flat_map(|at| day(at, out, factor)).collect()
}

pub fn judged(rows: &[MinuteRow]) -> ChargingRecordJudged {
    charging_record(rows, &bank(), &TimeZone::UTC).unwrap()
}

fn near(own: Option<f64>, want: f64, within: f64) {
    assert!((own.unwrap() - want).abs() <= within, "{own:?}, not {want}");
}

#[test]
fn days_that_are_charged_full_give_back_what_was_drawn_and_a_little_more() {
    let own = judged(&week(10, 21.0, 1.12));
    assert_eq!((own.known_days, own.full_days, own.longest_without_full), (10, 10, 0));
    near(own.charge_factor, 1.12, 0.002);
    assert_eq!(own.intervals, 9);
    // six hours at a twentieth of C20
    near(own.deepest, 0.30, 0.002);
    assert!((own.out - 10.0 * 126.0).abs() < 1e-6 && own.unknown_hours.abs() < 1e-6);
    // Nine whole ways down to 30 % and back; such batteries make 2000 (common practice, no source).
    near(own.wear, 9.0 / 2000.0, 0.6 / 2000.0);
    near(own.gassing_hours, 2.0, 0.1);
    assert_eq!(own.evidence().full_days, Some(1.0));
}

#[test]
fn what_is_short_of_absorption_or_of_the_tail_is_not_full() {
    let own = bank();
    let at = |volts: f64, amperes: f64, minutes: i64| {
        let rows: Vec<MinuteRow> = (0..minutes).map(|minute| row(minute, volts, amperes)).collect();
        judged(&rows).days.iter().any(|day| day.full)
    };
    let (absorption, tail) = (own.absorption, 0.02 * own.c20);
    assert!(at(absorption - 0.04, tail, 31) && at(absorption, 0.5 * tail, 31));
    assert!(!at(absorption - 0.06, tail, 600), "held too low");
    assert!(!at(absorption, 1.2 * tail, 45), "the current is still over the tail");
    assert!(!at(absorption, tail, 25), "not for half an hour");
    // An aged bank gasses more than the tail: a current that falls no longer is all it takes.
    assert!(at(absorption, 1.2 * tail, 61));
    let falls: Vec<MinuteRow> = (0..90).map(|m| row(m, absorption, tail * (2.0 - m as f64 / 90.0))).collect();
    assert!(!judged(&falls).days[0].full, "it still falls");
}

#[test]
fn a_source_that_floats_at_the_tail_or_says_so_itself_is_full() {
    let own = bank();
    let tail = 0.02 * own.c20;
    let floats =
        [row(0, own.absorption, 2.0 * tail), row(5, own.absorption, tail), row(10, own.float, 0.4 * tail)];
    assert!(judged(&floats).days[0].full);
    let early =
        [row(0, own.absorption, 2.0 * tail), row(5, own.absorption, 1.5 * tail), row(10, own.float, tail)];
    assert!(!judged(&early).days[0].full, "it went to float before the tail");
    let falls = [row(0, own.absorption, tail), row(5, 2.05, -tail)];
    assert!(!judged(&falls).days[0].full, "a load came on");
    let says = |before, now| {
        let mut rows = [row(0, 2.30, 40.0), row(5, 2.30, 10.0)];
        (rows[0].state, rows[1].state) = (Some(before), Some(now));
        judged(&rows).days[0].full
    };
    assert!(says(FeedStage::Charging, FeedStage::Holding) && says(FeedStage::Charging, FeedStage::Full));
    assert!(!says(FeedStage::Off, FeedStage::Holding) && !says(FeedStage::Charging, FeedStage::Charging));
}

#[test]
fn cycles_within_a_deep_state_wear_by_their_own_depth_and_not_by_the_day_s() {
    // Full once, down to 60 %, then ten points up and down each day.
    let mut rows = day(0, 0.0, 1.0);
    let c20 = bank().c20;
    rows.extend((0..24).map(|k| row(DAY + 60 * k, 2.0, if k < 18 { -0.6 * c20 / 18.0 } else { 0.0 })));
    for d in 2..42 {
        rows.extend((0..24).map(|k| {
            let back = 0.10 * c20 * 1.10 / 6.0;
            row(
                d * DAY + 60 * k,
                2.0,
                if k < 6 {
                    back
                } else if k < 12 {
                    -0.10 * c20 / 6.0
                } else {
                    0.0
                },
            )
        }));
    }
    let own = judged(&rows);
    near(own.deepest, 0.60, 0.01);
    let by_day: f64 =
        own.days.iter().filter(|day| day.depth.is_some_and(|d| d > 0.55)).count() as f64 / 1024.0;
    // Cycling between 50 and 60 % counted by the depth of each day is six times too much (common practice, no source).
    let ratio = by_day / own.wear.unwrap();
    assert!((5.0..7.0).contains(&ratio), "{ratio}");
}

#[test]
fn of_a_gap_nothing_is_known_until_it_is_full_again() {
    let mut rows = week(3, 21.0, 1.12);
    rows.extend((5..9).flat_map(|at| day(at, 21.0, 1.12)));
    let own = judged(&rows);
    assert!((own.unknown_hours - 48.0).abs() < 0.2, "{}", own.unknown_hours);
    assert_eq!((own.known_days, own.full_days), (7, 7));
    assert_eq!(own.intervals, 2 + 3, "the interval with the gap is left out");
    near(own.charge_factor, 1.12, 0.002);
    // Never full: a run of days without, which a day that is not known ends.
    let low = |at| day(at, 21.0, 1.12).into_iter().map(|own| MinuteRow { volts: Some(48.0), ..own });
    let rows: Vec<MinuteRow> = (0..4).chain(6..9).flat_map(low).collect();
    let own = judged(&rows);
    assert_eq!((own.full_days, own.longest_without_full), (0, 4));
    assert_eq!((own.charge_factor, own.deepest, own.wear), (None, None, None));
}

#[test]
fn the_standing_draw_is_that_of_quiet_nights() {
    let night = |at: i64| {
        (0..DAY / STEP).map(move |k| {
            let hour = k as f64 / 12.0;
            // a refrigerator that runs ten minutes in forty, lamps until eleven, the sun by day
            let fridge = if k % 8 < 2 { -6.0 } else { 0.0 };
            let lamps = if (19.0..23.0).contains(&hour) { -8.0 } else { 0.0 };
            let sun = if (9.0..16.0).contains(&hour) { 40.0 } else { 0.0 };
            row(at * DAY + k * STEP, 2.10, fridge + lamps + sun - 0.7)
        })
    };
    let rows: Vec<MinuteRow> = (0..6).flat_map(night).collect();
    let own = judged(&rows);
    near(own.standing_draw, 0.7, 0.05);
    near(own.standing_share, 24.0 * 0.7 / 420.0, 0.003);
    // Charged at night there is no quiet night.
    let charged: Vec<MinuteRow> =
        rows.iter().map(|r| MinuteRow { amperes: r.amperes.map(|a| a + 9.0), ..*r }).collect();
    assert_eq!(judged(&charged).standing_draw, None);
}

#[test]
fn volts_that_were_held_are_told_against_what_the_temperature_asks_for() {
    let held = |off: f64, coefficient: f64| {
        let rows: Vec<MinuteRow> = (0..12)
            .flat_map(|at| day(at, 21.0, 1.12).into_iter().map(move |own| (at, own)))
            .map(|(at, own)| {
                let celsius = 10.0 + 2.0 * at as f64;
                let shift = 24.0 * (off + coefficient * (celsius - 25.0));
                let lifted = own.volts.filter(|v| *v > 24.0 * 2.3).map(|v| v + shift);
                MinuteRow { volts: lifted.or(own.volts), celsius: Some(celsius), ..own }
            })
            .collect();
        judged(&rows)
    };
    let right = held(0.0, -0.005);
    near(right.held_off, 0.0, 0.002);
    assert_eq!(right.held_follow, Some(true));
    near(held(-0.08, -0.005).held_off, -0.08, 0.002);
    assert_eq!(held(0.0, 0.0).held_follow, Some(false));
    let alike = judged(&week(12, 21.0, 1.12));
    assert_eq!(alike.held_follow, None, "the temperature hardly changed");
    near(held(0.0, -0.005).warmest_hour, 32.0, 1e-9);
    // A record that begins with a minute in the sun has no hour of it.
    let mut sunny = week(1, 21.0, 1.12);
    sunny[0].celsius = Some(49.0);
    near(judged(&sunny).warmest_hour, 27.0, 1e-9);
}

#[test]
fn what_is_full_is_held_at_float_and_that_is_no_absorption_held_too_low() {
    let own = bank();
    let mut rows = day(0, 21.0, 1.12);
    // A week on float after it: full, day after day.
    rows.extend((0..7 * DAY / STEP).map(|k| row(DAY + k * STEP, own.float, 0.002 * own.c20)));
    // Its first day ends with an evening that draws from it, so it is charged full once more before it floats.
    for own in &mut rows[288..312] {
        (own.volts, own.amperes) = (Some(24.0 * bank().absorption), Some(0.01 * bank().c20));
    }
    let filled = judged(&rows);
    assert_eq!((filled.held_days, filled.full_days), (2, 8));
    near(filled.held_off, 0.0, 0.002);
}

#[test]
fn a_source_that_gives_all_it_has_holds_nothing() {
    // Ten hours of slow charge with volts that hardly rise, below what is asked for.
    let slow = |amperes: f64| -> Vec<MinuteRow> {
        (0..120).map(|k| row(k * STEP, 2.30 + 0.0001 * k as f64, amperes)).collect()
    };
    assert_eq!(judged(&slow(40.0)).held_off, None);
    near(judged(&slow(3.0)).held_off, 2.306 - bank().absorption, 0.005);
}

#[test]
fn the_record_of_another_bank_or_of_nothing_is_refused() {
    let own = charging_record(&[row(0, 2.1, 0.0)], &bank(), &TimeZone::UTC);
    assert_eq!(own, Err(RecordError::TooShort(1)));
    let other: Vec<MinuteRow> =
        week(1, 21.0, 1.12).into_iter().map(|r| MinuteRow { volts: Some(12.7), ..r }).collect();
    let why = charging_record(&other, &bank(), &TimeZone::UTC).unwrap_err();
    assert!(why.to_string().contains("is it the record of another bank?"), "{why}");
}

#[test]
fn days_are_those_of_the_site() {
    let rows = week(2, 21.0, 1.12);
    let east = charging_record(&rows, &bank(), &TimeZone::fixed(offset(10))).unwrap();
    assert_eq!((judged(&rows).days.len(), east.days.len()), (2, 3));
    assert!((east.days[0].known_hours - 14.0).abs() < 0.1 && !east.days[2].counts());
}

fn sample(second: i64) -> RecordSample {
    RecordSample {
        at: Timestamp::from_second(BEGIN * 60 + second).unwrap(),
        volts: None,
        amperes: None,
        ampere_hours: None,
        celsius: None,
        state: None,
    }
}

#[test]
fn samples_are_thinned_to_minutes_and_a_counter_tells_the_current() {
    let mut own = Thinner::new(420.0);
    for (second, amperes) in [(0, 10.0), (20, 20.0), (40, 30.0), (60, -4.0)] {
        own.push(&RecordSample { amperes: Some(amperes), volts: Some(50.0), ..sample(second) });
    }
    own.push(&RecordSample { amperes: Some(99.0), ..sample(30) });
    assert_eq!(own.backwards, 1, "a clock that was set back");
    let amperes: Vec<Option<f64>> = own.rows().iter().map(|row| row.amperes).collect();
    assert_eq!(amperes, [Some(20.0), Some(-4.0)]);
    let mut counted = Thinner::new(420.0);
    for (second, ah) in [(0, -40.0), (360, -38.0), (720, -36.0), (1080, 0.0), (1440, -1.0)] {
        counted.push(&RecordSample { ampere_hours: Some(ah), ..sample(second) });
    }
    assert_eq!(counted.counter_set, 0, "360 A is what such a bank may take");
    let amperes: Vec<Option<f64>> = counted.rows().iter().map(|row| row.amperes.map(f64::round)).collect();
    assert_eq!(amperes, [None, Some(20.0), Some(20.0), Some(360.0), Some(-10.0)]);
    let mut set = Thinner::new(40.0);
    for (second, ah) in [(0, -36.0), (360, 0.0)] {
        set.push(&RecordSample { ampere_hours: Some(ah), ..sample(second) });
    }
    assert_eq!((set.counter_set, set.rows()[1].amperes), (1, None));
}

#[test]
fn what_stands_by_is_full_on_float() {
    let stands_by = RecordedBank { standby: true, ..bank() };
    let held = |per_cell: f64, amperes: f64| {
        let rows: Vec<MinuteRow> = (0..120).map(|minute| row(minute, per_cell, amperes)).collect();
        charging_record(&rows, &stands_by, &TimeZone::UTC).unwrap()
    };
    let (float, tail) = (stands_by.float, 0.02 * stands_by.c20);
    assert!(held(float, 0.1 * tail).days[0].full);
    assert!(!held(float - 0.06, 0.1 * tail).days[0].full && !held(2.08, -1.0).days[0].full);
    near(held(float - 0.03, 0.1 * tail).held_off, -0.03, 1e-9);
    // Held there it stays full, day after day; what is drawn from it ends that.
    let rows: Vec<MinuteRow> = (0..5 * DAY / STEP).map(|k| row(k * STEP, float, 0.1 * tail)).collect();
    let own = charging_record(&rows, &stands_by, &TimeZone::UTC).unwrap();
    assert_eq!((own.full_days, own.longest_without_full), (5, 0));
    let rows: Vec<MinuteRow> = rows
        .iter()
        .chain(&(0..3 * DAY / STEP).map(|k| row(5 * DAY + k * STEP, 2.05, -2.0)).collect::<Vec<_>>())
        .copied()
        .collect();
    assert_eq!(
        charging_record(&rows, &stands_by, &TimeZone::UTC).unwrap().full_days,
        6,
        "for two hours of the sixth"
    );
}

#[test]
fn sealed_banks_are_full_at_half_the_tail() {
    let agm = RecordedBank { construction: Construction::Agm, ..bank() };
    let rows: Vec<MinuteRow> =
        (0..60).map(|m| row(m, agm.absorption, 0.015 * agm.c20 * (1.0 + m as f64 / 100.0))).collect();
    assert!(!charging_record(&rows, &agm, &TimeZone::UTC).unwrap().days[0].full);
    assert!(judged(&rows).days[0].full);
}

#[test]
fn it_is_told_in_words_with_what_is_usual_beside_it() {
    let said = |own: &ChargingRecordJudged| {
        wording::charging_record_lines(own, &bank(), ReaderUnits::default()).join(" ")
    };
    let own = judged(&week(10, 21.0, 1.12));
    assert_eq!(wording::charging_record_verdict(&own), "It reached full on every one of 10 days.");
    let lines = said(&own);
    for told in [
        "126 Ah came out and 141 Ah went in a day.",
        "1.12 Ah went in for each that came out, in 9 intervals from full to full; usual is 1.05 to 1.20: as usual.",
        "30 % was out at the deepest.",
        "Held at absorption as is asked for.",
        "The warmest hour stood at 25 °C.",
    ] {
        assert!(lines.contains(told), "{told}: {lines}");
    }
    assert!(!lines.contains("nothing is known"), "{lines}");
    assert!(said(&judged(&week(10, 21.0, 1.40))).contains("overcharge, or a shunt that misses a load"));
    assert!(said(&judged(&week(10, 21.0, 1.01))).contains("the charge is short, or the counter"));
    let low: Vec<MinuteRow> =
        week(3, 21.0, 1.1).into_iter().map(|r| MinuteRow { volts: Some(49.0), ..r }).collect();
    assert_eq!(wording::charging_record_verdict(&judged(&low)), "It never reached full in 3 days.");
}

proptest! {
    /// What goes in and comes out is that of the rows, whatever the days.
    #[test]
    fn ampere_hours_are_conserved(currents in proptest::collection::vec(-80.0..80.0f64, 2..400), hours in -12i8..13) {
        let rows: Vec<MinuteRow> = currents.iter().zip(0..).map(|(a, k)| row(STEP * k, 2.1, *a)).collect();
        let own = charging_record(&rows, &bank(), &TimeZone::fixed(offset(hours))).unwrap();
        let net: f64 = currents.iter().sum::<f64>() * STEP as f64 / 60.0;
        prop_assert!((own.back - own.out - net).abs() < 1e-6);
        let known: f64 = own.days.iter().map(|day| day.known_hours).sum();
        prop_assert!((known - currents.len() as f64 * STEP as f64 / 60.0).abs() < 1e-6);
        prop_assert!(own.days.iter().all(|day| day.depth.is_none_or(|d| d >= 0.0)));
    }

    /// Thinning keeps the charge of samples that come evenly, however many a minute.
    #[test]
    fn thinning_conserves_the_charge(a_minute in 1i64..7, currents in proptest::collection::vec(-80.0..80.0f64, 60..200)) {
        let every = 60 / a_minute;
        let mut thin = Thinner::new(420.0);
        let size = usize::try_from(a_minute).unwrap();
        let whole = currents.len() / size * size;
        for (k, amperes) in (0..).zip(&currents[..whole]) {
            let second = k / a_minute * 60 + k % a_minute * every;
            thin.push(&RecordSample { amperes: Some(*amperes), ..sample(second) });
        }
        let rows = thin.rows();
        prop_assert_eq!(rows.len(), whole / size);
        let thinned: f64 = rows.iter().filter_map(|row| row.amperes).sum();
        let all: f64 = currents[..whole].iter().sum::<f64>() / a_minute as f64;
        prop_assert!((thinned - all).abs() < 1e-6);
    }
}
