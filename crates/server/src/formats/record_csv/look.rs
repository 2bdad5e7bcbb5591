//! A first look at a file: how it is text, where its columns begin, what it does not tell by itself.

use super::field::figure;
use super::header::worded;
use super::moment::{Written, written};
use super::{DateOrder, MOST_COLUMNS, RecordColumn, RecordCsvError, RecordEncoding, RecordSource};
use rainshadow_core::quantity::units::TemperatureUnit;

/// Bytes of a file that are looked at before the rest is read.
pub const HEAD: usize = 64 * 1024;
/// Lines within which the columns are named.
const NAMED_WITHIN: usize = 60;
/// Lines that are looked at to tell how figures and times are written.
const LOOKED_AT: usize = 4000;

/// Something that the file does not tell by itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Question {
    /// What a current over zero means.
    Sign,
    /// Which clock wrote it.
    Clock,
    /// Whether the day or the month comes first.
    Order,
    /// The year.
    Year,
    /// Which column holds the time.
    Time,
    /// Which holds the date.
    Date,
    /// Which holds anything of the bank.
    Figures,
}

impl Question {
    /// The field that answers it.
    pub const fn field(self) -> &'static str {
        match self {
            Self::Sign => "positive",
            Self::Clock => "clock",
            Self::Order => "date_order",
            Self::Year => "year",
            Self::Time | Self::Date | Self::Figures => "columns",
        }
    }

    /// As asked.
    pub const fn said(self) -> &'static str {
        match self {
            Self::Sign => {
                "say what a current over zero means: into the bank, out of it, or what a charger gives"
            }
            Self::Clock => "say which clock wrote the times: local time of the site, or universal time (UTC)",
            Self::Order => "say whether the day or the month comes first in its dates",
            Self::Year => "its dates have no year: type the year of the first line",
            Self::Time => "say which column holds the time",
            Self::Date => "its times have no date: say which column holds it",
            Self::Figures => "say which column holds volts, amperes, ampere-hours or state",
        }
    }
}

/// What a first look shows.
#[derive(Debug, Clone, PartialEq)]
pub struct LookedAt {
    /// How it is taken to be written.
    pub source: RecordSource,
    /// The words over its columns; empty where it begins with its first sample.
    pub header: Vec<String>,
    /// Its first lines as they stand there.
    pub lines: Vec<Vec<String>>,
    /// What has to be told.
    pub asks: Vec<Question>,
}

/// How bytes are text, by their mark, by zeros between letters, else by whether they are UTF-8.
fn encoding(head: &[u8]) -> Result<RecordEncoding, RecordCsvError> {
    if head.is_empty() {
        return Err(RecordCsvError::Empty);
    }
    match head {
        [0xFF, 0xFE, ..] => return Ok(RecordEncoding::Utf16Le),
        [0xFE, 0xFF, ..] => return Ok(RecordEncoding::Utf16Be),
        _ => {}
    }
    let zeros = |from: usize| head.iter().skip(from).step_by(2).filter(|byte| **byte == 0).count();
    let (even, odd, half) = (zeros(0), zeros(1), head.len() / 2);
    if odd > half * 9 / 10 && half > 0 {
        return Ok(RecordEncoding::Utf16Le);
    }
    if even > half * 9 / 10 && half > 0 {
        return Ok(RecordEncoding::Utf16Be);
    }
    if even + odd > 0 {
        return Err(RecordCsvError::NotText);
    }
    // A letter may be cut at the end of the piece.
    let whole = match std::str::from_utf8(head) {
        Ok(_) => true,
        Err(error) => error.error_len().is_none(),
    };
    Ok(if whole { RecordEncoding::Utf8 } else { RecordEncoding::Western })
}

pub(super) const fn decoder(own: RecordEncoding) -> &'static encoding_rs::Encoding {
    match own {
        RecordEncoding::Utf8 => encoding_rs::UTF_8,
        RecordEncoding::Utf16Le => encoding_rs::UTF_16LE,
        RecordEncoding::Utf16Be => encoding_rs::UTF_16BE,
        RecordEncoding::Western => encoding_rs::WINDOWS_1252,
    }
}

fn fields(line: &str, delimiter: u8) -> Vec<String> {
    let mut reader = csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .delimiter(delimiter)
        .from_reader(line.as_bytes());
    let record = reader.records().next().and_then(Result::ok).unwrap_or_default();
    record.iter().map(|own| own.trim().to_owned()).collect()
}

/// The sign that parts a line into most fields that name columns.
fn named_by(line: &str) -> Option<(u8, Vec<RecordColumn>)> {
    let by = |delimiter: u8| {
        let own: Vec<RecordColumn> = fields(line, delimiter)
            .iter()
            .map(|words| worded(words).map_or(RecordColumn::Left, |own| own.column))
            .collect();
        let distinct = |column: &&RecordColumn| **column != RecordColumn::Left;
        let count = own.iter().filter(distinct).count();
        (count, delimiter, own)
    };
    let best = [b'\t', b';', b','].map(by).into_iter().max_by_key(|own| (own.0, own.2.len()))?;
    let has = |column| best.2.contains(&column);
    let times = has(RecordColumn::Time) || has(RecordColumn::Date);
    let figures =
        [RecordColumn::Volts, RecordColumn::Amperes, RecordColumn::AmpereHours, RecordColumn::State].map(has);
    (times && figures.contains(&true)).then_some((best.1, best.2))
}

/// The same column named twice is read once: the first.
fn once(mut columns: Vec<RecordColumn>) -> Vec<RecordColumn> {
    for at in 1..columns.len() {
        if columns[..at].contains(&columns[at]) {
            columns[at] = RecordColumn::Left;
        }
    }
    columns
}

/// Where no line names columns: a line of the middle tells how many there are, and nothing is read until somebody says
/// which is which.
fn unnamed(lines: &[&str]) -> Option<(usize, u8, Vec<RecordColumn>)> {
    let line = lines.get(lines.len() / 2)?;
    let count = |delimiter: u8| line.bytes().filter(|byte| *byte == delimiter).count();
    let delimiter = [b'\t', b';', b','].into_iter().max_by_key(|own| count(*own))?;
    let width = fields(line, delimiter).len();
    (width > 1).then(|| (0, delimiter, vec![RecordColumn::Left; width]))
}

/// True where figures have commas before their decimals.
fn has_decimal_commas(source: &RecordSource, lines: &[Vec<String>]) -> bool {
    let columns =
        [RecordColumn::Volts, RecordColumn::Amperes, RecordColumn::AmpereHours, RecordColumn::Celsius];
    let told = || {
        let places = columns.iter().filter_map(|column| source.place(*column));
        places.flat_map(|at| lines.iter().filter_map(move |line| line.get(at)))
    };
    let commas = told().filter(|own| own.contains(',') && figure(own, true).is_ok()).count();
    commas > told().filter(|own| own.contains('.')).count()
}

/// Times of lines that can be read.
pub(super) fn times<'a>(
    source: &RecordSource,
    lines: &'a [Vec<String>],
) -> impl Iterator<Item = Written> + 'a {
    let (time, date) = (source.place(RecordColumn::Time), source.place(RecordColumn::Date));
    lines.iter().filter_map(move |line| {
        let day = date.and_then(|at| line.get(at)).map(String::as_str);
        match time {
            Some(at) => written(day, line.get(at)?),
            None => written(None, day?),
        }
    })
}

/// What has to be told before a file can be read.
fn asks(source: &RecordSource, times: &[Written]) -> Vec<Question> {
    let has = |column| source.place(column).is_some();
    let mut all = Vec::new();
    if !has(RecordColumn::Time) && !has(RecordColumn::Date) {
        all.push(Question::Time);
    }
    let figures =
        [RecordColumn::Volts, RecordColumn::Amperes, RecordColumn::AmpereHours, RecordColumn::State].map(has);
    if !figures.contains(&true) {
        all.push(Question::Figures);
    }
    if times.iter().any(Written::wants_date) {
        all.push(Question::Date);
    }
    if source.date_order.is_none() && times.iter().any(Written::wants_order) {
        all.push(Question::Order);
    }
    if source.year.is_none() && times.iter().any(Written::wants_year) {
        all.push(Question::Year);
    }
    if source.clock.is_none() && times.iter().any(Written::wants_clock) {
        all.push(Question::Clock);
    }
    if source.positive.is_none() && has(RecordColumn::Amperes) {
        all.push(Question::Sign);
    }
    all
}

/// How the file is written as far as it tells by itself.
fn guessed(encoding: RecordEncoding, lines: &[&str]) -> Result<RecordSource, RecordCsvError> {
    let named = lines.iter().take(NAMED_WITHIN).enumerate().find_map(|(at, line)| {
        let (delimiter, columns) = named_by(line)?;
        Some((at, delimiter, columns))
    });
    let (lines_before, delimiter, columns) =
        named.or_else(|| unnamed(lines)).ok_or(RecordCsvError::NoColumns(NAMED_WITHIN))?;
    if columns.len() > MOST_COLUMNS {
        return Err(RecordCsvError::TooWide(columns.len()));
    }
    let worded: Vec<_> = fields(lines[lines_before], delimiter).iter().map(|words| worded(words)).collect();
    let columns = once(columns);
    let of = |column: RecordColumn| {
        columns.iter().position(|own| *own == column).and_then(|at| worded.get(at).copied().flatten())
    };
    let thousandths = |column| of(column).is_some_and(|own| own.thousandths);
    Ok(RecordSource {
        name: String::new(),
        encoding,
        delimiter: char::from(delimiter).to_string(),
        decimal_comma: false,
        lines_before,
        millivolts: thousandths(RecordColumn::Volts),
        milliamperes: thousandths(RecordColumn::Amperes) || thousandths(RecordColumn::AmpereHours),
        temperature: of(RecordColumn::Celsius).and_then(|own| own.unit).unwrap_or(TemperatureUnit::Celsius),
        date_order: None,
        clock: None,
        year: None,
        positive: None,
        counts_drawn: false,
        newest_first: false,
        columns,
    })
}

/// Looks at the first piece of a file; `told` is what is known of its source already.
///
/// # Errors
/// [`RecordCsvError`] where it is no table with a line for each sample.
pub fn look(head: &[u8], told: Option<&RecordSource>) -> Result<LookedAt, RecordCsvError> {
    let encoding = told.map_or_else(|| encoding(head), |own| Ok(own.encoding))?;
    let (text, _) = decoder(encoding).decode_with_bom_removal(head);
    if text.trim().is_empty() {
        return Err(RecordCsvError::Empty);
    }
    let mut lines: Vec<&str> = text.lines().collect();
    // The last line of a piece may be cut.
    if lines.len() > 2 && !text.ends_with('\n') {
        lines.pop();
    }
    let mut source = match told {
        Some(own) => own.clone(),
        None => guessed(encoding, &lines)?,
    };
    let delimiter = source.delimiter();
    let header = lines.get(source.lines_before).map(|line| fields(line, delimiter)).unwrap_or_default();
    // A file may begin with its first sample.
    let is_sample = |header: &Vec<String>| {
        let numbers = header.iter().filter(|own| matches!(figure(own, true), Ok(Some(_)))).count();
        numbers > 0 && header.iter().all(|words| worded(words).is_none())
    };
    let header = Some(header).filter(|own| !is_sample(own)).unwrap_or_default();
    let from = source.lines_before + usize::from(!header.is_empty());
    let looked: Vec<Vec<String>> = lines
        .iter()
        .skip(from)
        .filter(|line| !line.trim().is_empty())
        .take(LOOKED_AT)
        .map(|line| fields(line, delimiter))
        .collect();
    let times: Vec<Written> = times(&source, &looked).collect();
    if told.is_none() {
        source.decimal_comma = has_decimal_commas(&source, &looked);
        source.date_order = times.iter().find_map(Written::order);
        source.newest_first = newest_first(&source, &times);
    }
    let asks = asks(&source, &times);
    let lines = looked.into_iter().take(5).collect();
    Ok(LookedAt { source, header, lines, asks })
}

/// True where most lines are older than the one above them.
fn newest_first(source: &RecordSource, times: &[Written]) -> bool {
    let site = jiff::tz::TimeZone::UTC;
    let known = RecordSource {
        date_order: source.date_order.or(Some(DateOrder::DayFirst)),
        year: source.year.or(Some(2024)),
        ..source.clone()
    };
    let mut clock = super::moment::Clockwork::new(&known, &site);
    let all: Vec<jiff::Timestamp> = times.iter().filter_map(|own| clock.instant(own)).collect();
    let (mut up, mut down) = (0, 0);
    for pair in all.windows(2) {
        match pair[1].cmp(&pair[0]) {
            std::cmp::Ordering::Greater => up += 1,
            std::cmp::Ordering::Less => down += 1,
            std::cmp::Ordering::Equal => {}
        }
    }
    down > up
}
