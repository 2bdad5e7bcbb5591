//! What monitors, controllers and inverters write out: a table with a line for each sample, whatever wrote it. How its
//! columns, times, units and signs are meant is told once for a source, and guessed at where the file itself tells it.

mod field;
mod header;
mod lines;
mod look;
mod moment;
mod read;

pub use lines::LineFault;
pub use look::{HEAD, LookedAt, Question, look};
pub use read::{Against, ReadRecord, Reading, read_record, understood};

use rainshadow_core::quantity::units::TemperatureUnit;
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// What a column holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RecordColumn {
    /// Date and time, or the time alone.
    Time,
    /// The date alone.
    Date,
    /// Volts of the bank.
    Volts,
    /// Current.
    Amperes,
    /// A counter of ampere-hours.
    AmpereHours,
    /// Temperature at the bank.
    Celsius,
    /// What the source says it does.
    State,
    /// Not read.
    Left,
}

/// How the bytes are text.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RecordEncoding {
    /// UTF-8.
    #[default]
    Utf8,
    /// UTF-16, the low byte first.
    Utf16Le,
    /// UTF-16, the high byte first.
    Utf16Be,
    /// One byte a letter, as older programs of western Europe write (Windows-1252).
    Western,
}

/// Whether the day or the month comes first in a date of figures that does not begin with its year.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DateOrder {
    /// 31.12.
    DayFirst,
    /// 12/31.
    MonthFirst,
}

/// Which clock wrote times that do not tell their offset.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RecordClock {
    /// Local time of the site, summer time and all.
    Site,
    /// Universal time.
    Utc,
}

/// What a current over zero means.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PositiveCurrent {
    /// It goes into the bank.
    Charges,
    /// It comes out of the bank.
    Discharges,
    /// It is what a charger gives, part of it to the loads: it says nothing of the bank by itself.
    OfCharger,
}

/// How a source writes its files.
#[expect(clippy::struct_excessive_bools, reason = "each is one thing that a source does or does not")]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RecordSource {
    /// Its name: "monitor".
    pub name: String,
    /// How the bytes are text.
    #[serde(default)]
    pub encoding: RecordEncoding,
    /// The sign between fields: one of tab, semicolon, comma.
    pub delimiter: String,
    /// True where figures have a comma before their decimals.
    #[serde(default)]
    pub decimal_comma: bool,
    /// Lines above the one that names the columns.
    #[serde(default)]
    pub lines_before: usize,
    /// What each column holds, from the first on.
    pub columns: Vec<RecordColumn>,
    /// True where volts are written in mV.
    #[serde(default)]
    pub millivolts: bool,
    /// True where currents are written in mA, and counters in mAh.
    #[serde(default)]
    pub milliamperes: bool,
    /// Unit of temperatures.
    #[serde(default)]
    pub temperature: TemperatureUnit,
    /// Order of a date that does not begin with its year; none: not told yet, or it does.
    #[serde(default)]
    pub date_order: Option<DateOrder>,
    /// The clock; none: not told yet, or times tell their offset.
    #[serde(default)]
    pub clock: Option<RecordClock>,
    /// Year of the first line, where dates have none.
    #[serde(default)]
    pub year: Option<i16>,
    /// What a current over zero means; none: not told yet, or there is none.
    #[serde(default)]
    pub positive: Option<PositiveCurrent>,
    /// True where the counter rises as the bank is drawn from.
    #[serde(default)]
    pub counts_drawn: bool,
    /// True where the newest line stands first.
    #[serde(default)]
    pub newest_first: bool,
}

impl RecordSource {
    /// Place of a column; none: the file has none.
    pub fn place(&self, column: RecordColumn) -> Option<usize> {
        self.columns.iter().position(|own| *own == column)
    }

    /// The delimiter as a byte.
    fn delimiter(&self) -> u8 {
        match self.delimiter.as_str() {
            "\t" | "tab" => b'\t',
            ";" => b';',
            _ => b',',
        }
    }
}

/// Columns of one file: what a source writes has some tens.
pub const MOST_COLUMNS: usize = 200;

/// Why a file is no record.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum RecordCsvError {
    /// Nothing in it.
    #[error("the file is empty; a line that names the columns and a line for each sample are expected")]
    Empty,
    /// Not text.
    #[error("the file is not text; have the program that wrote it write CSV")]
    NotText,
    /// No line names columns.
    #[error(
        "no line of the first {0} has a column of times and one of volts, amperes, ampere-hours or state"
    )]
    NoColumns(usize),
    /// Too wide.
    #[error("the table has {0} columns; up to {MOST_COLUMNS} are read")]
    TooWide(usize),
    /// Something has to be told first.
    #[error("{}", .0.said())]
    NotTold(Question),
    /// A column that is named twice.
    #[error("two columns are told to be {0}; one is accepted")]
    Twice(&'static str),
    /// No time could be read.
    #[error("no line has a time that can be read; the first is \u{201c}{0}\u{201d}")]
    NoTimes(String),
    /// Too many lines go against the order of the others.
    #[error(
        "{backwards} of {of} lines lie before the line above them: two clocks wrote into this file, or two files were joined; write out one source with one clock at a time"
    )]
    TwoClocks {
        /// How many.
        backwards: u64,
        /// Of how many.
        of: u64,
    },
    /// It broke off, or could not be read.
    #[error("the file could not be read to its end: {0}")]
    Broken(String),
    /// Whoever takes the rows does not want more.
    #[error("{0}")]
    Stopped(String),
}

impl RecordCsvError {
    /// The field that it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::NotTold(question) => question.field(),
            Self::NoColumns(_) | Self::TooWide(_) | Self::Twice(_) => "columns",
            _ => "file",
        }
    }
}
