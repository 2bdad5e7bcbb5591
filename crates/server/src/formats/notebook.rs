//! Notebook years: cells by dated rounds, one column per date, with volts and water of the whole bank. The same table is exported, so what
//! was exported imports again unchanged.

mod dates;
mod figures;
mod write;

use dates::{heading, misplaced, moment};
pub use figures::{Figure, OfBank};
pub use write::write;

use super::text::{delimiter, plain_line_ends};
use jiff::civil::{Date, DateTime, Time};
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::quantity::typed;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use thiserror::Error;

/// Columns of one table: twenty years of monthly rounds.
const MOST_COLUMNS: usize = 240;
/// Faults that are told; the others are counted.
const TOLD: usize = 200;
/// Longest reason why a cell was not read, in characters.
const LONGEST_REASON: usize = 500;

/// Why a whole table cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum NotebookError {
    /// The first line is no header.
    #[error(
        "the first line is “{found}”; a header is expected: `cell`, then one date per column, as cell,2025-03-14,2025-06-20"
    )]
    NoHeader {
        /// The line, shortened.
        found: String,
    },
    /// No column is a date.
    #[error("the header has no date; dates are accepted as 2025-03-14 or 2025-03-14 09:30")]
    NoDates,
    /// Too wide.
    #[error("the table has {found} columns; up to {MOST_COLUMNS} are taken at once")]
    TooWide {
        /// Columns found.
        found: usize,
    },
}

/// A line or field that was not taken, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Refused {
    /// Line in the file, from 1.
    pub line: usize,
    /// The column's date, where one field is meant.
    pub date: Option<String>,
    /// What was found.
    pub found: String,
    /// Why it was refused and what is accepted.
    pub why: String,
}

/// What a field says.
#[derive(Debug, Clone, PartialEq)]
pub enum Field {
    /// A gravity, with what was typed.
    Gravity(SpecificGravity, String),
    /// Float below the scale.
    Below,
    /// Float above the scale.
    Above,
    /// Not read, with the reason, which may be empty.
    NotRead(String),
}

/// A temperature with what was typed.
#[derive(Debug, Clone, PartialEq)]
pub struct TypedTemperature {
    /// Canonical.
    pub temperature: Temperature,
    /// As typed.
    pub typed: String,
    /// Its unit.
    pub unit: TemperatureUnit,
}

/// One dated round.
#[derive(Debug, Clone, PartialEq)]
pub struct Column {
    /// Its day.
    pub date: Date,
    /// When it began at the site, where somebody noted it.
    pub time: Option<Time>,
    /// Its temperature, where known.
    pub temperature: Option<TypedTemperature>,
    /// Volts of the bank at rest, where noted.
    pub volts: Option<Figure>,
    /// Water of the whole fill, where noted.
    pub water: Option<Figure>,
    /// Its cells.
    pub cells: BTreeMap<CellAddress, Field>,
}

impl Column {
    /// Its day, with the hour where it is known: "2025-03-14", "2025-03-14 09:30".
    pub fn heading(&self) -> String {
        heading(self.date, self.time)
    }

    /// True where it tells of the whole bank, which a round does not.
    pub fn is_visit(&self) -> bool {
        self.volts.is_some() || self.water.is_some()
    }
}

/// A table that was read.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Notebook {
    /// Columns with at least one good field, by date.
    pub columns: Vec<Column>,
    /// What was not taken, the first two hundred.
    pub refused: Vec<Refused>,
    /// How many more there are.
    pub more: usize,
}

/// What a table is checked against.
#[derive(Debug, Clone, Copy)]
pub struct Against<'a> {
    /// The bank.
    pub shape: &'a BankShape,
    /// When the bank's rounds began, local time to the minute.
    pub taken: &'a BTreeSet<DateTime>,
    /// Today.
    pub today: Date,
    /// Unit of temperatures without one.
    pub unit: TemperatureUnit,
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Reads a table.
///
/// # Errors
/// [`NotebookError`] when it has no header of dates; single faults are listed in the result.
pub fn parse(text: &str, against: Against<'_>) -> Result<Notebook, NotebookError> {
    let text = &plain_line_ends(text);
    let header = text.lines().find(|l| !l.trim().is_empty()).unwrap_or_default();
    let mut reader = csv::ReaderBuilder::new()
        .delimiter(delimiter(header))
        .flexible(true)
        .has_headers(false)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let mut notebook = Notebook::default();
    let mut columns: Option<Vec<Option<Column>>> = None;
    let mut first_seen: HashMap<CellAddress, usize> = HashMap::new();
    for record in reader.records() {
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                let line = error.position().map_or(0, |p| usize::try_from(p.line()).unwrap_or(0));
                notebook.refuse(line, None, "", format!("this line cannot be read: {error}"));
                continue;
            }
        };
        let line = record.position().map_or(0, |p| usize::try_from(p.line()).unwrap_or(0));
        if record.iter().all(str::is_empty) {
            continue;
        }
        let Some(columns) = columns.as_mut() else {
            columns = Some(notebook.header(&record, line, against)?);
            continue;
        };
        let label = record.get(0).unwrap_or_default();
        let fields = || record.iter().skip(1).zip(columns.iter().flatten_dates());
        if label.eq_ignore_ascii_case("temperature") {
            let read: Vec<_> = fields().map(|(text, date)| (text.to_owned(), date)).collect();
            notebook.temperatures(columns, &read, line, against.unit);
            continue;
        }
        if let Some(what) = OfBank::of_label(label) {
            let read: Vec<String> = record.iter().skip(1).map(ToOwned::to_owned).collect();
            notebook.of_bank(columns, what, &read, line);
            continue;
        }
        let cell: CellAddress = match label.parse() {
            Ok(cell) => cell,
            Err(error) => {
                notebook.refuse(line, None, label, format!("{error}"));
                continue;
            }
        };
        if !against.shape.contains(cell) {
            notebook.refuse(line, None, label, format!("this bank has no cell {cell}"));
            continue;
        }
        if let Some(before) = first_seen.insert(cell, line) {
            notebook.refuse(
                line,
                None,
                label,
                format!("{cell} stands in line {before} already; one line per cell"),
            );
            first_seen.insert(cell, before);
            continue;
        }
        let read: Vec<String> = record.iter().skip(1).map(ToOwned::to_owned).collect();
        notebook.cell_line(columns, cell, &read, line);
    }
    let columns = columns.ok_or(NotebookError::NoDates)?;
    notebook.columns = columns.into_iter().flatten().collect();
    notebook.drop_empty();
    notebook.columns.sort_by_key(|c| (c.date, c.time));
    Ok(notebook)
}

/// Dates of the columns, none for a refused one.
trait FlattenDates<'a> {
    fn flatten_dates(self) -> impl Iterator<Item = Option<Date>>;
}

impl<'a, I: Iterator<Item = &'a Option<Column>>> FlattenDates<'a> for I {
    fn flatten_dates(self) -> impl Iterator<Item = Option<Date>> {
        self.map(|c| c.as_ref().map(|c| c.date))
    }
}

/// The reason in "not read: vent cap seized".
fn not_read(text: &str) -> Option<String> {
    let rest = text.get(..8).filter(|head| head.eq_ignore_ascii_case("not read")).map(|_| &text[8..])?;
    let reason = rest.trim_start();
    (reason.is_empty() || reason.starts_with(':')).then(|| reason.trim_start_matches(':').trim().to_owned())
}

impl Notebook {
    /// Leaves out what says nothing.
    fn drop_empty(&mut self) {
        self.columns.retain(|c| !c.cells.is_empty() || c.is_visit());
    }

    /// Refuses the volts or the water of a column, with the line they stand in.
    pub fn refuse_of_bank(&mut self, heading: &str, what: OfBank, why: String) {
        let Some(column) = self.columns.iter_mut().find(|c| c.heading() == heading) else { return };
        let taken = match what {
            OfBank::Volts => column.volts.take(),
            OfBank::Water => column.water.take(),
        };
        let date = column.date;
        if let Some(figure) = taken {
            self.refuse(figure.line, Some(date), &figure.said(), why);
        }
        self.drop_empty();
    }

    fn refuse(&mut self, line: usize, date: Option<Date>, found: &str, why: String) {
        if self.refused.len() >= TOLD {
            self.more += 1;
            return;
        }
        self.refused.push(Refused { line, date: date.map(|d| d.to_string()), found: short(found), why });
    }

    fn header(
        &mut self,
        record: &csv::StringRecord,
        line: usize,
        against: Against<'_>,
    ) -> Result<Vec<Option<Column>>, NotebookError> {
        let first = record.get(0).unwrap_or_default();
        if !["cell", "address", ""].iter().any(|h| first.eq_ignore_ascii_case(h)) {
            return Err(NotebookError::NoHeader {
                found: short(&record.iter().collect::<Vec<_>>().join(",")),
            });
        }
        if record.len() > MOST_COLUMNS + 1 {
            return Err(NotebookError::TooWide { found: record.len() - 1 });
        }
        let mut seen: Vec<(Date, Option<Time>)> = Vec::new();
        let mut any = false;
        let columns = record
            .iter()
            .skip(1)
            .map(|text| {
                let Some((date, time)) = moment(text) else {
                    if !text.is_empty() {
                        let why = "this is no date; accepted is 2025-03-14 or 2025-03-14 09:30";
                        self.refuse(line, None, text, why.into());
                    }
                    return None;
                };
                any = true;
                if let Some(why) = misplaced(date, time, &seen, against) {
                    self.refuse(line, Some(date), text, why.to_owned());
                    return None;
                }
                seen.push((date, time));
                Some(Column {
                    date,
                    time,
                    temperature: None,
                    volts: None,
                    water: None,
                    cells: BTreeMap::new(),
                })
            })
            .collect();
        if any { Ok(columns) } else { Err(NotebookError::NoDates) }
    }

    fn temperatures(
        &mut self,
        columns: &mut [Option<Column>],
        read: &[(String, Option<Date>)],
        line: usize,
        default: TemperatureUnit,
    ) {
        for (column, (text, date)) in columns.iter_mut().zip(read) {
            let Some(column) = column else { continue };
            if text.is_empty() || text.eq_ignore_ascii_case("unknown") {
                continue;
            }
            let bare = text.trim_end_matches(['C', 'F', 'c', 'f', '°', ' ']);
            let unit = match text.to_ascii_uppercase().chars().last() {
                Some('F') => TemperatureUnit::Fahrenheit,
                Some('C') => TemperatureUnit::Celsius,
                _ => default,
            };
            match typed::temperature(bare, unit) {
                Ok(temperature) => {
                    column.temperature = Some(TypedTemperature { temperature, typed: bare.to_owned(), unit });
                }
                Err(error) => self.refuse(line, *date, text, error.to_string()),
            }
        }
    }

    fn cell_line(&mut self, columns: &mut [Option<Column>], cell: CellAddress, read: &[String], line: usize) {
        for (column, text) in columns.iter_mut().zip(read) {
            let Some(column) = column else { continue };
            let field = match text.to_lowercase().as_str() {
                "" | "-" | "–" => continue,
                "below" => Field::Below,
                "above" => Field::Above,
                _ if not_read(text).is_some() => {
                    Field::NotRead(not_read(text).unwrap_or_default().chars().take(LONGEST_REASON).collect())
                }
                _ => match typed::gravity(text) {
                    Ok(gravity) => Field::Gravity(gravity, text.clone()),
                    Err(error) => {
                        self.refuse(line, Some(column.date), text, error.to_string());
                        continue;
                    }
                },
            };
            column.cells.insert(cell, field);
        }
        if read.len() > columns.len() && read[columns.len()..].iter().any(|t| !t.is_empty()) {
            let why = format!("this line has {} fields for {} dates", read.len(), columns.len());
            self.refuse(line, None, &cell.to_string(), why);
        }
    }
}

#[cfg(test)]
mod tests;
