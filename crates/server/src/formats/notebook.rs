//! Notebook years: cells by dated rounds, one column per date. The same table is exported, so what
//! was exported imports again unchanged.

use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::quantity::typed;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use thiserror::Error;

/// Columns of one table: twenty years of monthly rounds.
const MOST_COLUMNS: usize = 240;

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
    #[error("the header has no date; dates are accepted as 2025-03-14")]
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
    /// Its temperature, where known.
    pub temperature: Option<TypedTemperature>,
    /// Its cells.
    pub cells: BTreeMap<CellAddress, Field>,
}

/// A table that was read.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Notebook {
    /// Rounds with at least one good field, by date.
    pub columns: Vec<Column>,
    /// What was not taken.
    pub refused: Vec<Refused>,
}

/// What a table is checked against.
#[derive(Debug, Clone, Copy)]
pub struct Against<'a> {
    /// The bank.
    pub shape: &'a BankShape,
    /// Days that already have a round.
    pub taken: &'a BTreeSet<Date>,
    /// Today.
    pub today: Date,
    /// Unit of temperatures without one.
    pub unit: TemperatureUnit,
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// The sign between fields: the commonest of tab, semicolon and comma in the header.
fn delimiter(header: &str) -> u8 {
    [b'\t', b';', b','].into_iter().max_by_key(|d| header.bytes().filter(|b| b == d).count()).unwrap_or(b',')
}

/// Reads a table.
///
/// # Errors
/// [`NotebookError`] when it has no header of dates; single faults are listed in the result.
pub fn parse(text: &str, against: Against<'_>) -> Result<Notebook, NotebookError> {
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
    notebook.columns = columns.into_iter().flatten().filter(|c| !c.cells.is_empty()).collect();
    notebook.columns.sort_by_key(|c| c.date);
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

impl Notebook {
    fn refuse(&mut self, line: usize, date: Option<Date>, found: &str, why: String) {
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
        let mut seen: BTreeSet<Date> = BTreeSet::new();
        let mut any = false;
        let columns = record
            .iter()
            .skip(1)
            .map(|text| {
                let Ok(date) = text.parse::<Date>() else {
                    if !text.is_empty() {
                        self.refuse(line, None, text, "this is no date; accepted is 2025-03-14".into());
                    }
                    return None;
                };
                any = true;
                let why = if date > against.today {
                    Some("this day lies in the future".to_owned())
                } else if date.year() < 1950 {
                    Some("no bank in service is that old; accepted is 1950 or later".to_owned())
                } else if !seen.insert(date) {
                    Some("this day stands in an earlier column already".to_owned())
                } else if against.taken.contains(&date) {
                    Some("this bank has a round on that day already".to_owned())
                } else {
                    None
                };
                if let Some(why) = why {
                    self.refuse(line, Some(date), text, why);
                    return None;
                }
                Some(Column { date, temperature: None, cells: BTreeMap::new() })
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

/// Writes a table: as read, with the temperatures in °C.
pub fn write(shape: &BankShape, columns: &[Column]) -> String {
    let mut lines = Vec::new();
    let row = |label: String, fields: Vec<String>| {
        std::iter::once(label).chain(fields).collect::<Vec<_>>().join(",")
    };
    lines.push(row("cell".into(), columns.iter().map(|c| c.date.to_string()).collect()));
    if columns.iter().any(|c| c.temperature.is_some()) {
        let said = |t: &TypedTemperature| {
            let unit = if t.unit == TemperatureUnit::Celsius { "C" } else { "F" };
            format!("{} {unit}", t.typed.replace(',', "."))
        };
        let fields = columns.iter().map(|c| c.temperature.as_ref().map(said).unwrap_or_default()).collect();
        lines.push(row("temperature".into(), fields));
    }
    for cell in shape.cells() {
        let said = |field: &Field| match field {
            Field::Gravity(sg, _) => sg.to_string(),
            Field::Below => "below".into(),
            Field::Above => "above".into(),
        };
        let fields = columns.iter().map(|c| c.cells.get(&cell).map(said).unwrap_or_default()).collect();
        lines.push(row(cell.to_string(), fields));
    }
    lines.join("\r\n") + "\r\n"
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;
    use proptest::prelude::*;
    use rainshadow_core::bank::Layout;

    fn shape() -> BankShape {
        BankShape {
            system_voltage: 12,
            cells_per_battery: 3,
            series: 2,
            parallel: 1,
            layout: Layout::default(),
        }
    }

    fn read(text: &str) -> Result<Notebook, NotebookError> {
        let taken = BTreeSet::from([date(2024, 1, 1)]);
        let shape = shape();
        let against = Against {
            shape: &shape,
            taken: &taken,
            today: date(2026, 10, 8),
            unit: TemperatureUnit::Fahrenheit,
        };
        parse(text, against)
    }

    #[test]
    fn good_fields_are_taken_and_each_fault_is_named_with_its_line() {
        let text = "cell;2025-03-14;2025-06-20;2030-01-01;2024-01-01;2025-03-14;soon\n\
            temperature;18 C;64;;;;\n\
            A1-1;265;1,263;;;;\n\
            A1-2;12.65;below;;;;\n\
            A1-2;260;;;;;\n\
            A9-1;260;;;;;\n\
            wrong;1;;;;;\n\
            A2-3;;-;;;;\n";
        let n = read(text).unwrap();
        assert_eq!(n.columns.len(), 2);
        assert_eq!(n.columns[0].cells.len(), 1);
        assert_eq!(n.columns[1].cells["A1-2".parse::<CellAddress>().as_ref().unwrap()], Field::Below);
        assert!((n.columns[0].temperature.as_ref().unwrap().temperature.celsius() - 18.0).abs() < 1e-9);
        assert_eq!(n.columns[1].temperature.as_ref().unwrap().unit, TemperatureUnit::Fahrenheit);
        let said: Vec<(usize, &str)> = n.refused.iter().map(|r| (r.line, r.why.as_str())).collect();
        let expect = |line: usize, part: &str| {
            assert!(said.iter().any(|(l, w)| *l == line && w.contains(part)), "{line} {part}: {said:?}");
        };
        expect(1, "in the future");
        expect(1, "has a round on that day already");
        expect(1, "earlier column");
        expect(1, "this is no date");
        expect(4, "looks like volts");
        expect(5, "stands in line 4 already");
        expect(6, "no cell A9-1");
        expect(7, "is not an address");
        assert_eq!(said.len(), 8, "{said:?}");
    }

    #[test]
    fn a_table_without_a_header_of_dates_is_refused_whole() {
        assert!(matches!(read("A1-1,265\n"), Err(NotebookError::NoHeader { .. })));
        assert_eq!(read("cell,soon\nA1-1,265\n"), Err(NotebookError::NoDates));
        assert!(matches!(
            read(&format!("cell{}\n", ",2025-01-01".repeat(300))),
            Err(NotebookError::TooWide { .. })
        ));
    }

    #[test]
    fn a_paste_with_tabs_and_windows_line_ends_is_read() {
        let n = read("cell\t2025-03-14\r\nA1-1\t265\r\nA1-2\t262\r\n").unwrap();
        assert_eq!((n.columns[0].cells.len(), n.refused.len()), (2, 0));
    }

    proptest! {
        #[test]
        fn what_is_written_reads_back_the_same(
            values in prop::collection::vec(prop::option::of(prop_oneof![
                (980u32..=1400).prop_map(|v| Some(f64::from(v) / 1000.0)), Just(None)
            ]), 12),
            t in prop::option::of(-40i32..=80),
        ) {
            let shape = shape();
            let cells: Vec<CellAddress> = shape.cells().collect();
            let columns: Vec<Column> = [date(2025, 3, 14), date(2025, 6, 20)]
                .into_iter()
                .zip(values.chunks(6))
                .map(|(date, values)| Column {
                    date,
                    temperature: t.map(|t| TypedTemperature {
                        temperature: Temperature::from_celsius(f64::from(t)).unwrap(),
                        typed: t.to_string(),
                        unit: TemperatureUnit::Celsius,
                    }),
                    cells: cells
                        .iter()
                        .zip(values)
                        .filter_map(|(cell, v)| {
                            let field = match (*v)? {
                                Some(v) => {
                                    let sg = SpecificGravity::new(v).unwrap();
                                    Field::Gravity(sg, sg.to_string())
                                }
                                None => Field::Below,
                            };
                            Some((*cell, field))
                        })
                        .collect(),
                })
                .filter(|c| !c.cells.is_empty())
                .collect();
            prop_assume!(!columns.is_empty());
            let back = read(&write(&shape, &columns)).unwrap();
            prop_assert_eq!(back.columns, columns);
            prop_assert!(back.refused.is_empty());
        }

        #[test]
        fn no_text_makes_it_panic(text in "(cell)?[-0-9A-Za-z,;\t\"\n. ]{0,200}") {
            let _ = read(&text);
        }
    }
}
