//! What monitors write out, read whatever wrote it.
#![allow(clippy::unwrap_used, clippy::cast_precision_loss, reason = "helpers fail loudly; minutes of days")]

use jiff::Timestamp;
use jiff::tz::TimeZone;
use proptest::prelude::*;
use rainshadow::formats::record_csv::{
    Against, DateOrder, PositiveCurrent, Question, ReadRecord, Reading, RecordClock, RecordColumn,
    RecordCsvError, RecordEncoding, RecordSource, look, read_record,
};
use rainshadow_core::charging_record::MinuteRow;
use rainshadow_core::quantity::units::TemperatureUnit;

#[derive(Default)]
struct Taken(Vec<MinuteRow>);

impl Reading for Taken {
    fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String> {
        self.0.extend(rows);
        Ok(())
    }
    fn told(&mut self, _lines: u64, _at: Timestamp) {}
}

/// As guessed, with what a file cannot tell: charge is over zero, times are universal.
fn source(bytes: &[u8]) -> RecordSource {
    let own = look(bytes, None).unwrap().source;
    RecordSource { positive: Some(PositiveCurrent::Charges), clock: Some(RecordClock::Utc), ..own }
}

fn read_in(
    bytes: &[u8],
    source: &RecordSource,
    zone: &TimeZone,
) -> Result<(ReadRecord, Vec<MinuteRow>), RecordCsvError> {
    let mut taken = Taken::default();
    let now = "2026-11-08T12:00:00Z".parse().unwrap();
    let told = read_record(bytes, source, Against { zone, c20: 100.0, now }, &mut taken)?;
    Ok((told, taken.0))
}

fn read(bytes: &[u8], source: &RecordSource) -> (ReadRecord, Vec<MinuteRow>) {
    read_in(bytes, source, &TimeZone::UTC).unwrap()
}

fn minute(at: &str) -> i64 {
    at.parse::<Timestamp>().unwrap().as_second() / 60
}

#[test]
fn a_plain_table_is_read_by_its_words() {
    use RecordColumn::{Amperes, Celsius, Left, State, Time, Volts};
    let file = b"Time,Battery voltage [mV],Current [mA],Temp (\xc2\xb0F),Charge state,Serial\n\
        2026-03-02 10:00:00,12640,-3200,68,Discharging,7\n\
        2026-03-02 10:00:30,12660,-3400,68,Discharging,7\n\
        2026-03-02 10:01:00,14100,20000,,Absorption,7\n";
    let looked = look(file, None).unwrap();
    assert_eq!(looked.source.columns, [Time, Volts, Amperes, Celsius, State, Left]);
    assert!(looked.source.millivolts && looked.source.milliamperes);
    assert_eq!(looked.source.temperature, TemperatureUnit::Fahrenheit);
    assert_eq!(looked.asks, [Question::Clock, Question::Sign], "what no file tells by itself");
    let (told, rows) = read(file, &source(file));
    assert_eq!((told.brought.samples, told.brought.minutes, rows.len()), (3, 2, 2));
    assert_eq!(rows[0].minute, minute("2026-03-02T10:00:00Z"));
    assert!((rows[0].volts.unwrap() - 12.65).abs() < 1e-9 && (rows[0].amperes.unwrap() + 3.3).abs() < 1e-9);
    assert!((rows[0].celsius.unwrap() - 20.0).abs() < 1e-9 && rows[1].celsius.is_none());
    let flipped = RecordSource { positive: Some(PositiveCurrent::Discharges), ..source(file) };
    assert!((read(file, &flipped).1[1].amperes.unwrap() + 20.0).abs() < 1e-9);
    let of_charger = RecordSource { positive: Some(PositiveCurrent::OfCharger), ..source(file) };
    assert_eq!(read(file, &of_charger).1[1].amperes, None, "what a charger gives is not what the bank takes");
}

#[test]
fn another_encoding_other_signs_and_lines_above_the_table_are_found_out() {
    let text = "Log of the bank\nwritten; by hand\n\nDatum;Zeit;U (V);I (A);Temp (\u{b0}C)\n\
        14.03.2026;10:00;12,64;-3,2;20,5\n14.03.2026;10:05;12,66;-3,4;20,5\n";
    let western: Vec<u8> = text.chars().map(|c| if c == '\u{b0}' { 0xB0 } else { c as u8 }).collect();
    let wide = |big: bool| -> Vec<u8> {
        std::iter::once(0xFEFF)
            .chain(text.encode_utf16())
            .flat_map(|unit| if big { unit.to_be_bytes() } else { unit.to_le_bytes() })
            .collect()
    };
    for (bytes, encoding) in [
        (text.as_bytes().to_vec(), RecordEncoding::Utf8),
        ([b"\xEF\xBB\xBF", text.as_bytes()].concat(), RecordEncoding::Utf8),
        (western, RecordEncoding::Western),
        (wide(false), RecordEncoding::Utf16Le),
        (wide(true), RecordEncoding::Utf16Be),
        (wide(false)[2..].to_vec(), RecordEncoding::Utf16Le),
    ] {
        let own = source(&bytes);
        assert_eq!(own.encoding, encoding);
        assert_eq!((own.delimiter.as_str(), own.decimal_comma, own.lines_before), (";", true, 3));
        assert_eq!(own.date_order, Some(DateOrder::DayFirst), "there is no month 14");
        let (told, rows) = read(&bytes, &own);
        assert_eq!(told.faults, []);
        assert_eq!(rows.iter().map(|row| row.volts).collect::<Vec<_>>(), [Some(12.64), Some(12.66)]);
        assert_eq!(rows[1].minute, minute("2026-03-14T10:05:00Z"));
    }
}

#[test]
fn times_are_read_as_programs_write_them() {
    let want = minute("2026-03-14T16:05:00Z");
    for (text, order) in [
        ("2026-03-14T16:05:00Z", None),
        ("2026-03-14T18:05:00+02:00", None),
        ("2026-03-14 11:05:00 -0500", None),
        ("2026/03/14 16:05", None),
        ("20260314 16:05:59", None),
        ("1773504300", None),
        ("1773504300250", None),
        ("14.03.2026 16:05", Some(DateOrder::DayFirst)),
        ("03/14/26 4:05 PM", Some(DateOrder::MonthFirst)),
        ("14 Mar 2026 16:05:01.5", None),
        ("14-March-2026 16:05", None),
    ] {
        let file = format!("time\tV\n{text}\t12.6\n");
        let own = source(file.as_bytes());
        assert_eq!(own.date_order, order, "{text}");
        assert_eq!(read(file.as_bytes(), &own).1[0].minute, want, "{text}");
    }
    let midnight = "time\tV\n03/14/26 12:05 AM\t12.6\n";
    assert_eq!(
        read(midnight.as_bytes(), &source(midnight.as_bytes())).1[0].minute,
        minute("2026-03-14T00:05:00Z")
    );
}

#[test]
fn what_the_file_leaves_open_is_asked_for_and_never_assumed() {
    let refused = |file: &str, own: &RecordSource| read_in(file.as_bytes(), own, &TimeZone::UTC).unwrap_err();
    let file = "time,V,A\n03-02 10:00,12.6,1\n04-02 10:00,12.6,1\n";
    let own = source(file.as_bytes());
    let asked = look(file.as_bytes(), None).unwrap().asks;
    assert_eq!(asked, [Question::Order, Question::Year, Question::Clock, Question::Sign]);
    assert_eq!(refused(file, &own), RecordCsvError::NotTold(Question::Order));
    let ordered = RecordSource { date_order: Some(DateOrder::MonthFirst), ..own };
    let why = refused(file, &ordered);
    assert_eq!(
        (why.field(), why.to_string()),
        ("year", "its dates have no year: type the year of the first line".into())
    );
    let told = RecordSource { year: Some(2025), ..ordered };
    assert_eq!(read(file.as_bytes(), &told).1[1].minute, minute("2025-04-02T10:00:00Z"));
    let unsigned = RecordSource { positive: None, ..told };
    assert_eq!(refused(file, &unsigned).field(), "positive");
    // A year goes on over New Year.
    let winter = "time,V\n31 Dec 23:50,12.6\n1 Jan 00:10,12.6\n";
    let own = RecordSource { year: Some(2025), ..source(winter.as_bytes()) };
    assert_eq!(read(winter.as_bytes(), &own).1[1].minute, minute("2026-01-01T00:10:00Z"));
}

#[test]
fn columns_without_names_are_told_by_hand() {
    let file = b"2026-03-02 10:00,12.6,1.5\n2026-03-02 10:05,12.7,1.5\n2026-03-02 10:10,12.8,1.5\n";
    let looked = look(file, None).unwrap();
    assert_eq!((looked.header.len(), &looked.asks[..]), (0, &[Question::Time, Question::Figures][..]));
    let by_hand = RecordSource {
        columns: vec![RecordColumn::Time, RecordColumn::Volts, RecordColumn::Left],
        ..source(file)
    };
    assert_eq!(read(file, &by_hand).1.len(), 3, "the first line is a sample");
    let twice = RecordSource {
        columns: vec![RecordColumn::Time, RecordColumn::Volts, RecordColumn::Volts],
        ..source(file)
    };
    assert!(matches!(read_in(file, &twice, &TimeZone::UTC), Err(RecordCsvError::Twice("volts"))));
}

#[test]
fn summer_time_comes_and_goes_without_losing_an_hour() {
    // In this zone clocks go from 2 to 3 on 29 March and from 3 to 2 on 25 October 2026.
    let zone = TimeZone::posix("XST-1XDT,M3.5.0,M10.5.0/3").unwrap();
    let now = "2026-11-08T12:00:00Z".parse().unwrap();
    let at = |file: &str, newest_first| {
        let own = RecordSource { clock: Some(RecordClock::Site), newest_first, ..source(file.as_bytes()) };
        let mut taken = Taken::default();
        let told =
            read_record(file.as_bytes(), &own, Against { zone: &zone, c20: 100.0, now }, &mut taken).unwrap();
        assert_eq!(told.brought.backwards, 0);
        taken.0.iter().map(|row| row.minute - minute("2026-10-24T22:00:00Z")).collect::<Vec<_>>()
    };
    let times = ["01:30", "02:00", "02:30", "02:00", "02:30", "03:00"];
    let file = |times: &[&str]| {
        let lines: Vec<String> = times.iter().map(|t| format!("2026-10-25 {t},12.6")).collect();
        format!("time,V\n{}\n", lines.join("\n"))
    };
    assert_eq!(at(&file(&times), false), [90, 120, 150, 180, 210, 240]);
    let back: Vec<&str> = times.iter().rev().copied().collect();
    assert_eq!(at(&file(&back), true), [240, 210, 180, 150, 120, 90]);
    let utc = RecordSource { clock: Some(RecordClock::Utc), ..source(file(&times).as_bytes()) };
    assert_eq!(
        read_in(file(&times).as_bytes(), &utc, &zone).unwrap().0.brought.backwards,
        1,
        "it was not UTC"
    );
}

/// Five-minute lines from a moment on.
fn lines(from: &str, count: i64) -> Vec<String> {
    let from: Timestamp = from.parse().unwrap();
    (0..count).map(|k| format!("{},12.6", from + jiff::SignedDuration::from_mins(5 * k))).collect()
}

fn file(lines: &[String]) -> String {
    format!("time,V\n{}\n", lines.join("\n"))
}

#[test]
fn restarts_gaps_and_clocks_that_were_not_set_are_counted_and_said() {
    let mut all = lines("2026-03-02T00:00:00Z", 40);
    all.push("time,V".into());
    all.push("2000-01-01T00:00:10Z,12.6".into());
    all.push("2099-01-01T00:00:10Z,12.6".into());
    all.push("2026-03-02T05:00:00Z,12.6".into());
    all.push("yesterday,12.6".into());
    all.push("2026-03-02T05:05:00Z,twelve".into());
    all.push("2026-03-02T05:10:00Z,5000".into());
    all.extend(lines("2026-03-02T05:15:00Z", 10));
    let text = file(&all);
    let (told, rows) = read(text.as_bytes(), &source(text.as_bytes()));
    assert_eq!(
        (told.brought.restarts, told.brought.clock_not_set, told.brought.backwards, told.brought.step),
        (1, 2, 0, 5)
    );
    assert_eq!((told.brought.gaps, told.brought.gap_hours.round()), (1, 2.0), "from 3:15 to 5:00");
    let said: Vec<(u64, &str)> = told.faults.iter().map(|own| (own.line, own.found.as_str())).collect();
    assert_eq!(said, [(46, "yesterday"), (47, "twelve"), (48, "volts")]);
    assert!(told.faults[2].why.contains("800"), "{}", told.faults[2].why);
    assert_eq!(rows.len(), 40 + 1 + 2 + 10);
}

#[test]
fn two_clocks_in_one_file_are_refused_and_one_set_back_is_not() {
    let day = lines("2026-03-02T00:00:00Z", 288);
    let other = lines("2026-03-02T02:00:00Z", 288);
    let both: Vec<String> = day.iter().zip(&other).flat_map(|(a, b)| [a.clone(), b.clone()]).collect();
    let text = file(&both);
    let why = read_in(text.as_bytes(), &source(text.as_bytes()), &TimeZone::UTC).unwrap_err();
    assert!(matches!(why, RecordCsvError::TwoClocks { of: 576, .. }), "{why}");
    // One line of a clock that jumped takes nothing of the others with it.
    let mut jumps = day.clone();
    jumps.insert(100, "2026-03-09T00:00:00Z,12.6".into());
    let text = file(&jumps);
    let (told, rows) = read(text.as_bytes(), &source(text.as_bytes()));
    assert_eq!((told.brought.backwards, rows.len()), (1, 288));
    let mut set_back = day;
    set_back.extend(lines("2026-03-02T23:00:00Z", 100));
    let text = file(&set_back);
    assert_eq!(read(text.as_bytes(), &source(text.as_bytes())).0.brought.backwards, 11);
}

#[test]
fn what_is_no_table_of_samples_is_refused_in_words() {
    assert_eq!(look(b"", None), Err(RecordCsvError::Empty));
    assert_eq!(look(b"\n \n", None), Err(RecordCsvError::Empty));
    assert_eq!(look(b"\x89PNG\r\n\x1a\n\x00\x00\x01", None), Err(RecordCsvError::NotText));
    assert!(matches!(look(b"hello\nworld\n", None), Err(RecordCsvError::NoColumns(_))));
    let text = "time,V\nnever,12.6\n";
    let own = RecordSource { clock: Some(RecordClock::Utc), ..source(text.as_bytes()) };
    assert_eq!(
        read_in(text.as_bytes(), &own, &TimeZone::UTC).unwrap_err(),
        RecordCsvError::NoTimes("never".into())
    );
}

proptest! {
    /// Whatever stands in a file, reading it ends with rows in order or with a reason.
    #[test]
    fn nothing_that_is_written_breaks_it(cells in proptest::collection::vec("[ -~\u{b0}]{0,18}", 0..60), good in any::<bool>()) {
        let lines: Vec<String> = cells.chunks(3).map(|own| own.join(",")).collect();
        let text = format!("{}\n{}\n", if good { "time,V,A" } else { "a,b" }, lines.join("\n"));
        if let Ok(looked) = look(text.as_bytes(), None) {
            let own = RecordSource {
                positive: Some(PositiveCurrent::Charges), clock: Some(RecordClock::Utc), year: Some(2025),
                date_order: Some(DateOrder::DayFirst), ..looked.source
            };
            if let Ok((told, rows)) = read_in(text.as_bytes(), &own, &TimeZone::UTC) {
                prop_assert_eq!(told.brought.minutes, rows.len() as u64);
                let up = |pair: &[MinuteRow]| if own.newest_first { pair[0].minute > pair[1].minute } else { pair[0].minute < pair[1].minute };
                prop_assert!(rows.windows(2).all(up));
            }
        }
    }

    /// A file turned round tells the same rows, the other way round.
    #[test]
    fn newest_first_is_the_same_record(volts in proptest::collection::vec(11.0..15.0f64, 3..60)) {
        let from: Timestamp = "2026-03-02T00:00:00Z".parse().unwrap();
        let mut all: Vec<String> = (0..).zip(&volts)
            .map(|(k, v)| format!("{},{v:.2}", from + jiff::SignedDuration::from_mins(k))).collect();
        let forwards = file(&all);
        all.reverse();
        let backwards = file(&all);
        let own = source(backwards.as_bytes());
        prop_assert!(own.newest_first);
        let mut rows = read(backwards.as_bytes(), &own).1;
        rows.reverse();
        prop_assert_eq!(rows, read(forwards.as_bytes(), &source(forwards.as_bytes())).1);
    }
}
