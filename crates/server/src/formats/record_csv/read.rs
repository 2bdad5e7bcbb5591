//! A file read to its end, line by line, and thinned to minutes as it goes.

use super::lines::{LineFault, Lines, short};
use super::look::{HEAD, decoder, look};
use super::{Question, RecordColumn, RecordCsvError, RecordEncoding, RecordSource};
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use rainshadow_core::charging_record::{CurrentWatch, MinuteRow, ReadToEnd, RecordSample, Thinner};
use std::collections::BTreeMap;
use std::io::{BufRead, BufReader, Read};

/// Rows of a first look.
const SHOWN: usize = 5;
/// Rows that are handed over at once.
const AT_ONCE: usize = 20_000;
/// Lines after which whoever waits is told how far it is.
const TOLD_EVERY: u64 = 20_000;
/// A clock that was never set, or stands in the future by more than a day, says nothing.
const CLOCK_SET: i64 = 1_104_537_600;
const AHEAD: SignedDuration = SignedDuration::from_hours(24);
/// Steps after which nothing is known between two lines (CR-1).
const GAP_STEPS: i64 = 5;
/// Lines against the order of the others: a clock that was set back leaves some, two clocks leave many.
const SOME: u64 = 20;
const MANY: u64 = 50;

/// What a file is read against.
#[derive(Debug, Clone, Copy)]
pub struct Against<'a> {
    /// Zone of the site.
    pub zone: &'a TimeZone,
    /// Ah at twenty hours of the bank.
    pub c20: f64,
    /// Now.
    pub now: Timestamp,
}

/// Whoever takes the rows, and is told how far it is.
pub trait Reading {
    /// Takes rows, in the order of the file.
    ///
    /// # Errors
    /// Why no more are wanted.
    fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String>;
    /// So many lines were read, the last of this moment.
    fn told(&mut self, lines: u64, at: Timestamp);
}

/// What was read.
#[derive(Debug, Clone, PartialEq)]
pub struct ReadRecord {
    /// What it brought.
    pub brought: ReadToEnd,
    /// What was not taken, the first two hundred.
    pub faults: Vec<LineFault>,
}

/// How far rows are apart.
#[derive(Default)]
struct Steps {
    last: Option<i64>,
    apart: BTreeMap<i64, u64>,
    span: Option<(i64, i64)>,
    minutes: u64,
}

impl Steps {
    fn push(&mut self, row: &MinuteRow) {
        self.minutes += 1;
        let (low, high) = self.span.unwrap_or((row.minute, row.minute));
        self.span = Some((low.min(row.minute), high.max(row.minute)));
        if let Some(last) = self.last.replace(row.minute) {
            *self.apart.entry((row.minute - last).abs()).or_default() += 1;
        }
    }

    /// Minutes from one row to the next: the median.
    fn step(&self) -> i64 {
        let half = self.apart.values().sum::<u64>() / 2;
        let mut seen = 0;
        let middle = self.apart.iter().find(|(_, count)| {
            seen += *count;
            seen > half
        });
        middle.map_or(1, |(minutes, _)| (*minutes).max(1))
    }

    fn gaps(&self) -> (u64, f64) {
        let long = GAP_STEPS * self.step();
        let gaps = self.apart.range(long + 1..);
        #[expect(clippy::cast_precision_loss, reason = "minutes of years")]
        let sum = |(count, hours): (u64, f64), (minutes, times): (&i64, &u64)| {
            (count + times, hours + (*minutes as f64) * (*times as f64) / 60.0)
        };
        gaps.fold((0, 0.0), sum)
    }
}

/// What is told has to be whole before anything is read.
fn told_whole(head: &[u8], source: &RecordSource) -> Result<Vec<String>, RecordCsvError> {
    for (column, name) in [
        (RecordColumn::Time, "time"),
        (RecordColumn::Date, "date"),
        (RecordColumn::Volts, "volts"),
        (RecordColumn::Amperes, "amperes"),
        (RecordColumn::AmpereHours, "ampere-hours"),
        (RecordColumn::Celsius, "temperature"),
        (RecordColumn::State, "state"),
    ] {
        if source.columns.iter().filter(|own| **own == column).count() > 1 {
            return Err(RecordCsvError::Twice(name));
        }
    }
    let looked = look(head, Some(source))?;
    match looked.asks.first() {
        Some(question) => Err(RecordCsvError::NotTold(*question)),
        None => Ok(looked.header),
    }
}

/// Reads a file to its end.
///
/// # Errors
/// [`RecordCsvError`] where something has to be told first, it is no such table, or two clocks wrote it.
pub fn read_record(
    mut file: impl Read,
    source: &RecordSource,
    against: Against<'_>,
    taker: &mut impl Reading,
) -> Result<ReadRecord, RecordCsvError> {
    let broken = |e: &dyn std::fmt::Display| RecordCsvError::Broken(e.to_string());
    let mut head = Vec::new();
    file.by_ref().take(HEAD as u64).read_to_end(&mut head).map_err(|e| broken(&e))?;
    let header = told_whole(&head, source)?;
    let text = encoding_rs_io::DecodeReaderBytesBuilder::new()
        .encoding(Some(decoder(source.encoding)))
        .build(std::io::Cursor::new(head).chain(file));
    let mut text = BufReader::with_capacity(1 << 16, text);
    let mut before = String::new();
    for _ in 0..source.lines_before {
        before.clear();
        text.read_line(&mut before).map_err(|e| broken(&e))?;
    }
    let mut table = csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .delimiter(source.delimiter())
        .from_reader(text);
    let mut reader = Reader {
        lines: Lines::new(source, against.zone),
        thin: if source.newest_first {
            Thinner::new(against.c20).newest_first()
        } else {
            Thinner::new(against.c20)
        },
        current: CurrentWatch::new(against.c20),
        steps: Steps::default(),
        samples: 0,
        clock_not_set: 0,
        restarts: 0,
        waiting: None,
        last: None,
        jumped: 0,
    };
    let mut record = csv::StringRecord::new();
    let mut first = None;
    let first_line = u64::try_from(source.lines_before).unwrap_or(0);
    let mut at = 0;
    while table.read_record(&mut record).map_err(|e| broken(&e))? {
        at += 1;
        let line = first_line + record.position().map_or(at, csv::Position::line);
        if record.iter().map(str::trim).eq(header.iter().map(String::as_str)) {
            reader.restarts += u64::from(reader.samples > 0);
            continue;
        }
        first.get_or_insert_with(|| short(record.iter().next().unwrap_or_default()));
        reader.line(&record, line, against.now, taker)?;
    }
    if reader.samples == 0 {
        return Err(RecordCsvError::NoTimes(first.unwrap_or_default()));
    }
    reader.end(taker)
}

/// The first rows of a file as they are understood.
///
/// # Errors
/// As for [`read_record`].
pub fn understood(
    head: &[u8],
    source: &RecordSource,
    against: Against<'_>,
) -> Result<(Vec<MinuteRow>, Vec<LineFault>), RecordCsvError> {
    struct First(Vec<MinuteRow>);
    impl Reading for First {
        fn rows(&mut self, rows: Vec<MinuteRow>) -> Result<(), String> {
            self.0.extend(rows.into_iter().take(SHOWN.saturating_sub(self.0.len())));
            Ok(())
        }
        fn told(&mut self, _lines: u64, _at: Timestamp) {}
    }
    let (text, _) = decoder(source.encoding).decode_with_bom_removal(head);
    // The last line of a piece may be cut.
    let whole = text.rfind('\n').map_or(&*text, |end| &text[..=end]);
    let plain = RecordSource { encoding: RecordEncoding::Utf8, ..source.clone() };
    let mut first = First(Vec::new());
    let read = read_record(whole.as_bytes(), &plain, against, &mut first)?;
    Ok((first.0, read.faults.into_iter().take(SHOWN).collect()))
}

struct Reader<'a> {
    lines: Lines<'a>,
    thin: Thinner,
    current: CurrentWatch,
    steps: Steps,
    samples: u64,
    clock_not_set: u64,
    restarts: u64,
    /// The sample before, which the next one tells whether it counts, and the last that does.
    waiting: Option<RecordSample>,
    last: Option<Timestamp>,
    /// Lines of a clock that jumped.
    jumped: u64,
}

impl Reader<'_> {
    fn line(
        &mut self,
        record: &csv::StringRecord,
        line: u64,
        now: Timestamp,
        taker: &mut impl Reading,
    ) -> Result<(), RecordCsvError> {
        let Some(sample) = self.lines.sample(record, line) else { return Ok(()) };
        if sample.at.as_second() < CLOCK_SET || sample.at > now + AHEAD {
            self.clock_not_set += 1;
            return Ok(());
        }
        self.samples += 1;
        self.next(sample);
        if self.samples.is_multiple_of(TOLD_EVERY) {
            taker.told(self.samples, sample.at);
        }
        if self.samples.is_multiple_of(AT_ONCE as u64) {
            let rows = self.thin.whole_rows();
            self.hand_over(rows, taker)?;
        }
        Ok(())
    }

    /// A sample waits for the next one: where that goes on before it, as after one line of a clock that jumped, it is left
    /// out.
    fn next(&mut self, sample: RecordSample) {
        let Some(waiting) = self.waiting.replace(sample) else { return };
        let newest_first = self.lines.source.newest_first;
        let before = |a: Timestamp, b: Timestamp| if newest_first { a > b } else { a < b };
        let goes_on = self.last.is_some_and(|last| !before(sample.at, last));
        if before(sample.at, waiting.at) && goes_on {
            self.jumped += 1;
            return;
        }
        self.push(&waiting);
    }

    fn push(&mut self, sample: &RecordSample) {
        self.last = Some(sample.at);
        self.thin.push(sample);
    }

    fn hand_over(&mut self, rows: Vec<MinuteRow>, taker: &mut impl Reading) -> Result<(), RecordCsvError> {
        for row in &rows {
            self.current.push(row);
            self.steps.push(row);
        }
        taker.rows(rows).map_err(RecordCsvError::Stopped)
    }

    fn end(mut self, taker: &mut impl Reading) -> Result<ReadRecord, RecordCsvError> {
        if let Some(waiting) = self.waiting.take() {
            self.push(&waiting);
        }
        let thin = std::mem::replace(&mut self.thin, Thinner::new(1.0));
        let (backwards, counter_set) = (thin.backwards + self.jumped, thin.counter_set);
        let rows = thin.rows();
        self.hand_over(rows, taker)?;
        if backwards > SOME && backwards > self.samples / MANY {
            return Err(RecordCsvError::TwoClocks { backwards, of: self.samples });
        }
        let (gaps, gap_hours) = self.steps.gaps();
        let told = u64::try_from(self.lines.faults.len()).unwrap_or(0);
        let brought = ReadToEnd {
            samples: self.samples,
            minutes: self.steps.minutes,
            step: self.steps.step(),
            not_taken: told + self.lines.more,
            clock_not_set: self.clock_not_set,
            backwards,
            counter_set,
            restarts: self.restarts,
            gaps,
            gap_hours,
            unknown_states: self.lines.unknown_states.into_iter().collect(),
            other_way: self.current.other_way(),
            span: self.steps.span.unwrap_or_default(),
        };
        Ok(ReadRecord { brought, faults: self.lines.faults })
    }
}

impl From<Question> for RecordCsvError {
    fn from(own: Question) -> Self {
        Self::NotTold(own)
    }
}
