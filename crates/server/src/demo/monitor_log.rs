//! The log of a monitor that hung on a demo bank: ten-minute means of what the simulator lived through, as such a thing
//! writes them.

use super::lived_bank::LivedBank;
use super::{at, bad};
use crate::app::records::take_record;
use crate::db::{DbError, NewRecord, Transaction};
use crate::formats::record_csv::{
    Against, PositiveCurrent, Reading, RecordClock, RecordSource, look, read_record,
};
use flate2::read::GzDecoder;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ToSpan};
use rainshadow_core::actor::Actor;
use rainshadow_core::charging_record::MinuteRow;
use std::fmt::Write as _;
use std::io::Read as _;

/// Minutes of a line.
const LINE: f64 = 10.0;
/// Lines of a day.
const DAY: usize = 144;
/// Days that the monitor hung there, and those on which it was unplugged.
const HUNG: i64 = 365;
const UNPLUGGED: std::ops::RangeInclusive<i64> = 98..=100;
/// The day that the log which ships ends with.
pub(super) const SHIPPED_UNTIL: Date = jiff::civil::date(2026, 10, 7);
/// What stands over its columns.
const HEADER: &str = "Time,Battery voltage (V),Battery current (A),Battery temp (\u{b0}C),Charge state";

/// Volts, amperes and °C of a line, and what the source says.
type Line = ([f64; 3], &'static str);

/// Writes down what a bank lives through.
#[derive(Debug, Default)]
pub(super) struct MonitorLog {
    /// What the source says it does; empty: none gives anything.
    pub state: &'static str,
    /// Volts, amperes, °C times minutes, and the minutes, of the line that is not whole yet.
    open: [f64; 4],
    today: Vec<Line>,
    /// Days ago, with their lines.
    days: Vec<(i64, Vec<Line>)>,
}

impl MonitorLog {
    /// So many hours pass as the bank stands now.
    pub fn pass(&mut self, bank: &LivedBank, hours: f64) {
        let now = [bank.volts, bank.amperes, bank.celsius()];
        let mut left = 60.0 * hours;
        while left > 1e-6 {
            let part = left.min(LINE - self.open[3]);
            for (sum, own) in self.open.iter_mut().zip(now) {
                *sum += part * own;
            }
            self.open[3] += part;
            left -= part;
            if self.open[3] > LINE - 1e-6 {
                let [volts, amperes, celsius, minutes] = std::mem::take(&mut self.open);
                let told = [volts, amperes, celsius].map(|own| own / minutes);
                self.today.push((told, self.state));
            }
        }
    }

    /// A day is over; a visit may have taken more of it or less.
    pub fn ends(&mut self, days_ago: i64) {
        let mut lines = std::mem::take(&mut self.today);
        self.open = [0.0; 4];
        if let Some(last) = lines.last().copied() {
            lines.resize(DAY, last);
        }
        if days_ago <= HUNG && !UNPLUGGED.contains(&days_ago) {
            self.days.push((days_ago, lines));
        }
    }

    /// As the monitor writes it, so that its last day is that one.
    pub fn written(&self, until: Date) -> Result<String, DbError> {
        let mut text = format!("{HEADER}\n");
        for (days_ago, lines) in &self.days {
            let day = until.checked_sub((days_ago - 1).days()).map_err(|e| bad(&e))?;
            for (at, ([volts, amperes, celsius], state)) in lines.iter().enumerate() {
                let (hour, minute) = (at / 6, 10 * (at % 6));
                // A line without a sign where nothing flows.
                let amperes = (amperes * 10.0).round() / 10.0 + 0.0;
                writeln!(text, "{day} {hour:02}:{minute:02},{volts:.2},{amperes:.1},{celsius:.1},{state}")
                    .map_err(|e| bad(&e))?;
            }
        }
        Ok(text)
    }
}

/// The log that ships, moved so that it ends the day before `today`.
pub(super) fn shipped(packed: &[u8], today: Date) -> Result<String, DbError> {
    let mut text = String::new();
    GzDecoder::new(packed).read_to_string(&mut text).map_err(|e| bad(&e))?;
    let ends = today.yesterday().map_err(|e| bad(&e))?;
    let moved = SHIPPED_UNTIL.until(ends).map_err(|e| bad(&e))?;
    let (mut out, mut last) = (String::with_capacity(text.len()), (String::new(), String::new()));
    for line in text.lines() {
        let Some((day, rest)) = line.split_once(' ').filter(|(day, _)| day.len() == 10) else {
            out.push_str(line);
            out.push('\n');
            continue;
        };
        if last.0 != day {
            let own: Date = day.parse().map_err(|e| bad(&e))?;
            last = (day.to_owned(), own.checked_add(moved).map_err(|e| bad(&e))?.to_string());
        }
        out.push_str(&last.1);
        out.push(' ');
        out.push_str(rest);
        out.push('\n');
    }
    Ok(out)
}

#[derive(Default)]
struct Rows(Vec<MinuteRow>);

impl Reading for Rows {
    fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String> {
        self.0.extend(rows);
        Ok(())
    }
    fn told(&mut self, _lines: u64, _at: Timestamp) {}
}

/// The bank that a log is read into, under an id, by somebody.
pub(super) struct LogOf<'a> {
    pub id: String,
    pub bank: &'a str,
    /// Ah at twenty hours, all strings.
    pub c20: f64,
    pub by: Actor,
}

/// Reads the log that ships into its bank, as anybody reads a file.
pub(super) fn read_in(tx: &Transaction<'_>, log: &str, told: LogOf<'_>, today: Date) -> Result<(), DbError> {
    let looked = look(log.as_bytes(), None).map_err(|e| bad(&e))?;
    let source = RecordSource {
        name: "battery monitor".into(),
        clock: Some(RecordClock::Site),
        positive: Some(PositiveCurrent::Charges),
        ..looked.source
    };
    let now = at(today, 6, 0)?;
    let mut rows = Rows::default();
    let against = Against { zone: &TimeZone::UTC, c20: told.c20, now };
    let read = read_record(log.as_bytes(), &source, against, &mut rows).map_err(|e| bad(&e))?;
    let new = NewRecord {
        id: told.id,
        bank: told.bank.to_owned(),
        source: serde_json::to_string(&source).map_err(|e| bad(&e))?,
        header: looked.header.join(" | "),
        file: "marginalia-monitor.csv".into(),
        net: true,
        made_at: now,
        by: told.by,
    };
    take_record(tx, &new, (&rows.0, &read.brought))
}
