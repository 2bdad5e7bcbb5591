//! CR-1: records whose current runs the other way, that several sources tell together, and what they ask for.
#![allow(clippy::unwrap_used, clippy::cast_precision_loss, reason = "helpers fail loudly; minutes of weeks")]

use crate::charging_record::{BEGIN, DAY, STEP, bank, day, judged, row, week};
use jiff::civil::date;
use jiff::tz::{TimeZone, offset};
use rainshadow_core::charging_record::{
    CurrentWatch, MinuteRow, OtherWay, RecordedBank, charging_record, together, turned,
};
use rainshadow_core::finding::{self, Finding};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// Rows of days with a load that comes and goes; the current is written the other way round where `turned` says so.
fn stepping(days: i64, turned: impl Fn(i64) -> bool) -> Vec<MinuteRow> {
    (0..days * DAY / STEP)
        .map(|k| {
            let minute = k * STEP;
            let amperes = if k % 7 < 3 { -21.0 } else { 4.0 };
            let volts = 2.08 + 0.001 * amperes;
            row(minute, volts, if turned(minute) { -amperes } else { amperes })
        })
        .collect()
}

fn other_way(rows: &[MinuteRow]) -> Vec<OtherWay> {
    let mut watch = CurrentWatch::new(bank().c20);
    for row in rows {
        watch.push(row);
    }
    watch.other_way()
}

#[test]
fn volts_that_fall_as_more_goes_in_tell_that_the_current_is_written_the_other_way_round() {
    assert_eq!(other_way(&stepping(6, |_| false)), []);
    let rows = stepping(6, |_| true);
    let whole = OtherWay { from: BEGIN, to: BEGIN + 6 * DAY - STEP + 1 };
    assert_eq!(other_way(&rows), [whole]);
    let mut right = rows;
    turned(&mut right, &[whole]);
    assert_eq!(right, stepping(6, |_| false));
    // A sensor that was turned round on the fourth day at ten, and back on the ninth.
    let flips = |minute: i64| (3 * DAY + 600..8 * DAY + 600).contains(&minute);
    let found = other_way(&stepping(12, flips));
    assert_eq!(found.len(), 1);
    assert!(
        (found[0].from - BEGIN - 3 * DAY - 600).abs() <= 60
            && (found[0].to - BEGIN - 8 * DAY - 600).abs() <= 60
    );
    // The same whichever end of the file is read first.
    let mut back = stepping(12, flips);
    back.reverse();
    assert_eq!(other_way(&back), found);
    // Nothing is made of a current that hardly changes, nor of volts that do not move.
    assert_eq!(
        other_way(
            &stepping(6, |_| true)
                .into_iter()
                .map(|r| MinuteRow { volts: Some(50.0), ..r })
                .collect::<Vec<_>>()
        ),
        []
    );
    assert_eq!(
        other_way(
            &stepping(6, |_| true)
                .into_iter()
                .map(|r| MinuteRow { amperes: Some(1.0), ..r })
                .collect::<Vec<_>>()
        ),
        []
    );
}

#[test]
fn sources_that_tell_different_things_tell_them_together() {
    let monitor =
        week(1, 21.0, 1.12).into_iter().map(|r| MinuteRow { celsius: None, ..r }).collect::<Vec<_>>();
    let sensor: Vec<MinuteRow> = (0..24)
        .map(|k| MinuteRow {
            volts: Some(1.0),
            amperes: None,
            celsius: Some(k as f64),
            ..row(60 * k + 2, 0.0, 0.0)
        })
        .collect();
    let both = together(monitor.clone(), sensor.clone());
    assert_eq!(both.len(), monitor.len(), "a row of the second goes to the row that it falls into");
    assert_eq!(both.iter().filter(|r| r.celsius.is_some()).count(), 24);
    assert!(
        both.iter().zip(&monitor).all(|(a, b)| (a.volts, a.amperes) == (b.volts, b.amperes)),
        "the first counts"
    );
    assert_eq!(both[12].celsius, Some(1.0));
    // Where only one tells, it tells alone.
    let later: Vec<MinuteRow> =
        sensor.iter().map(|r| MinuteRow { minute: r.minute + 3 * DAY, ..*r }).collect();
    assert_eq!(together(monitor.clone(), later.clone()).len(), monitor.len() + later.len());
    assert_eq!(
        (together(Vec::new(), later.clone()), together(later.clone(), Vec::new())),
        (later.clone(), later)
    );
}

#[test]
fn days_without_a_full_charge_ask_and_what_is_answered_does_not() {
    let low = |days: i64| {
        week(days, 21.0, 1.12)
            .into_iter()
            .map(|r| MinuteRow { volts: r.volts.map(|v| v.min(52.0)), ..r })
            .collect::<Vec<_>>()
    };
    let found = |rows: &[MinuteRow], own: &RecordedBank| {
        let judged = charging_record(rows, own, &TimeZone::UTC).unwrap();
        finding::charging_record::findings(&judged, own)
    };
    let codes = |all: &[Finding]| all.iter().map(|own| (own.kind.code(), own.severity)).collect::<Vec<_>>();
    assert_eq!(codes(&found(&week(30, 21.0, 1.12), &bank())), []);
    assert_eq!(
        codes(&found(&low(10), &bank())),
        [],
        "a full charge every 7 to 10 days (common practice, no source)"
    );
    let all = found(&low(11), &bank());
    assert_eq!(codes(&all), [("long_without_full", Severity::Watch)]);
    let said = wording::speak(&all[0], ReaderUnits::default());
    assert_eq!(said.headline, "11 days without a full charge");
    assert!(said.rule.starts_with("CR-1") && said.seen.contains("0 of 11 days"), "{said:?}");
    // Full again at the end: nothing is left to ask.
    let mut mended = low(20);
    mended.extend(day(20, 21.0, 1.12));
    assert_eq!(codes(&found(&mended, &bank())), []);
    assert_eq!(codes(&found(&week(10, 21.0, 1.40), &bank())), [("odd_charge_factor", Severity::Watch)]);
    let held = |off: f64| {
        let own = RecordedBank { absorption: bank().absorption - off, ..bank() };
        codes(&found(&week(10, 21.0, 1.12), &own))
    };
    assert_eq!((held(0.02), held(-0.02)), (vec![], vec![]));
    assert_eq!(held(0.05), [("held_off", Severity::Watch)]);
    assert_eq!(held(0.10), [("held_off", Severity::Act)]);
    let (end, before, after) = (date(2026, 3, 12), Some(date(2026, 3, 1)), Some(date(2026, 4, 1)));
    let answered = |proven, told| finding::charging_record::is_answered(&all[0], end, proven, told);
    assert_eq!((answered(before, before), answered(after, None), answered(None, after)), (false, true, true));
}

#[test]
fn what_is_drawn_hour_by_hour_is_told_in_local_time() {
    let own = judged(&week(7, 21.0, 1.12));
    let near =
        |own: Option<f64>, want: f64| assert!((own.unwrap() - want).abs() < 1e-9, "{own:?}, not {want}");
    near(own.drawn_by_hour[18], 21.0);
    near(own.drawn_by_hour[17], 0.0);
    assert_eq!(own.drawn_by_hour[9], None, "it is always charged then");
    let east = charging_record(&week(7, 21.0, 1.12), &bank(), &TimeZone::fixed(offset(2))).unwrap();
    near(east.drawn_by_hour[20], 21.0);
    near(east.drawn_by_hour[18], 0.0);
    // 47 A for four hours and 25.2 A for one; what is at the tail is not counted, nor are days that reach full.
    assert_eq!(own.charged, None);
    let short: Vec<MinuteRow> = week(7, 21.0, 1.12)
        .into_iter()
        .map(|r| MinuteRow { volts: r.volts.map(|v| v.min(52.0)), ..r })
        .collect();
    let [hours, amperes] = judged(&short).charged.unwrap();
    near(Some(hours), 5.0);
    assert!((amperes * hours - (6.0 * 21.0 * 1.12 - 0.015 * 420.0)).abs() < 1e-6, "{amperes}");
    assert_eq!(own.last_full, Some(own.days[6].day));
    assert_eq!((own.days[3].depth, own.days[3].fullest).1, Some(0.0));
}
