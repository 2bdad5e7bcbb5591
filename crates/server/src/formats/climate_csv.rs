//! A climate as a table: a line a month, or a line a day that is averaged by month; a third column tells the lowest.

use super::text::{delimiter, plain_line_ends};
use jiff::civil::Date;
use rainshadow_core::quantity::typed::{mean_temperature, record_low};
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{ClimateRefused, MONTHS, MonthlyMeans, RecordLows};
use thiserror::Error;

/// Lines of one table: a day each for a century.
const MOST_LINES: usize = 40_000;

/// Why a table is no climate.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum ClimateCsvError {
    /// The first line is no header.
    #[error(
        "the first line is “{found}”; a header is expected: `month` or `date`, then `celsius` or `fahrenheit`, then `lowest` where it is known"
    )]
    NoHeader {
        /// The line, shortened.
        found: String,
    },
    /// A line that cannot be read.
    #[error("line {line}: {why}")]
    Line {
        /// From 1.
        line: usize,
        /// What was wrong and what is accepted.
        why: String,
    },
    /// Months without a line.
    #[error("{} no line; a climate needs all twelve months", missing(.months))]
    Missing {
        /// Which, 0 is January.
        months: Vec<usize>,
    },
    /// Months without a lowest where others have one.
    #[error("{} no lowest; it is told for all twelve months or for none", missing(.months))]
    MissingLows {
        /// Which, 0 is January.
        months: Vec<usize>,
    },
    /// Too long.
    #[error("the table is longer than {MOST_LINES} lines")]
    TooLong,
}

fn missing(months: &[usize]) -> String {
    let names: Vec<&str> = months.iter().map(|month| MONTHS[*month]).collect();
    format!("{} {}", names.join(", "), if names.len() == 1 { "has" } else { "have" })
}

/// What the first column holds.
#[derive(Clone, Copy, PartialEq)]
enum When {
    Month,
    Day,
}

/// "3", "03", "March", "mar".
fn month(text: &str) -> Option<usize> {
    if let Ok(number) = text.parse::<usize>() {
        return (1..=12).contains(&number).then(|| number - 1);
    }
    let text = text.to_lowercase();
    let named = |name: &str| text.len() >= 3 && name.to_lowercase().starts_with(&text);
    MONTHS.iter().position(|name| named(name))
}

/// What a table tells.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ClimateTable {
    /// Mean of each month.
    pub means: MonthlyMeans,
    /// Lowest of each month; none: it has no such column.
    pub lows: Option<RecordLows>,
}

/// What its columns hold.
#[derive(Clone, Copy)]
struct Header {
    when: When,
    unit: TemperatureUnit,
    /// True where a third column tells the lowest.
    lowest: bool,
}

fn header(record: &csv::StringRecord) -> Option<Header> {
    let field = |at| record.get(at).map(str::to_lowercase);
    let when = match field(0)?.as_str() {
        "month" => When::Month,
        "date" | "day" => When::Day,
        _ => return None,
    };
    let unit = match field(1)?.as_str() {
        "celsius" | "°c" | "c" => TemperatureUnit::Celsius,
        "fahrenheit" | "°f" | "f" => TemperatureUnit::Fahrenheit,
        _ => return None,
    };
    let lowest = field(2).is_some_and(|word| matches!(word.as_str(), "lowest" | "low" | "min" | "minimum"));
    Some(Header { when, unit, lowest })
}

/// Sums and counts by month.
struct Gathered {
    sums: [f64; 12],
    counts: [u32; 12],
    lows: [Option<f64>; 12],
}

impl Gathered {
    fn add(&mut self, head: Header, record: &csv::StringRecord) -> Result<(), String> {
        let Header { when, unit, lowest } = head;
        let (at, temperature) = (record.get(0).unwrap_or_default(), record.get(1).unwrap_or_default());
        let month = match when {
            When::Month => month(at)
                .ok_or_else(|| format!("“{at}” is no month; accepted is 1 to 12 or a name, as March"))?,
            When::Day => at
                .get(..10)
                .and_then(|day| day.parse::<Date>().ok())
                .and_then(|day| usize::try_from(day.month() - 1).ok())
                .ok_or_else(|| format!("“{at}” is no date; accepted is 2025-03-14"))?,
        };
        if when == When::Month && self.counts[month] > 0 {
            return Err(format!("{} stands twice", MONTHS[month]));
        }
        let mean = mean_temperature(temperature, unit).map_err(|error| error.to_string())?;
        self.sums[month] += mean.celsius();
        self.counts[month] += 1;
        if let Some(text) = record.get(2).filter(|text| lowest && !text.is_empty()) {
            let low = record_low(text, unit).map_err(|error| error.to_string())?;
            self.lows[month] = Some(self.lows[month].map_or(low, |own| own.min(low)));
        }
        Ok(())
    }
}

impl Gathered {
    /// Lowest by month: of all of them or of none.
    fn lows(
        &self,
        means: &MonthlyMeans,
        refused: impl Fn(ClimateRefused) -> ClimateCsvError,
    ) -> Result<Option<RecordLows>, ClimateCsvError> {
        let months: Vec<usize> = (0..12).filter(|month| self.lows[*month].is_none()).collect();
        match months.len() {
            12 => Ok(None),
            0 => {
                let lows = RecordLows::try_from(self.lows.map(Option::unwrap_or_default));
                lows.and_then(|lows| lows.beside(means)).map(Some).map_err(refused)
            }
            _ => Err(ClimateCsvError::MissingLows { months }),
        }
    }
}

/// Reads a table.
///
/// # Errors
/// [`ClimateCsvError`] for the first line that does not fit, and for months without any.
pub fn parse(text: &str) -> Result<ClimateTable, ClimateCsvError> {
    let text = &plain_line_ends(text);
    let first = text.lines().find(|line| !line.trim().is_empty()).unwrap_or_default();
    let reader = csv::ReaderBuilder::new()
        .delimiter(delimiter(first))
        .flexible(true)
        .has_headers(false)
        .trim(csv::Trim::All)
        .from_reader(text.trim_start_matches('\u{feff}').as_bytes());
    let mut told = None;
    let mut gathered = Gathered { sums: [0.0; 12], counts: [0; 12], lows: [None; 12] };
    for (at, record) in reader.into_records().enumerate() {
        if at > MOST_LINES {
            return Err(ClimateCsvError::TooLong);
        }
        let record =
            record.map_err(|error| ClimateCsvError::Line { line: at + 1, why: error.to_string() })?;
        if record.iter().all(str::is_empty) {
            continue;
        }
        let Some(kind) = told else {
            let found = || ClimateCsvError::NoHeader { found: first.chars().take(40).collect() };
            told = Some(header(&record).ok_or_else(found)?);
            continue;
        };
        let line = record.position().map_or(at + 1, |own| usize::try_from(own.line()).unwrap_or(at + 1));
        gathered.add(kind, &record).map_err(|why| ClimateCsvError::Line { line, why })?;
    }
    if told.is_none() {
        return Err(ClimateCsvError::NoHeader { found: String::new() });
    }
    let months: Vec<usize> = (0..12).filter(|month| gathered.counts[*month] == 0).collect();
    if !months.is_empty() {
        return Err(ClimateCsvError::Missing { months });
    }
    let means: [f64; 12] =
        std::array::from_fn(|month| gathered.sums[month] / f64::from(gathered.counts[month]));
    let refused =
        |error: ClimateRefused| ClimateCsvError::Line { line: error.month + 2, why: error.to_string() };
    let means = MonthlyMeans::try_from(means).map_err(refused)?;
    Ok(ClimateTable { lows: gathered.lows(&means, refused)?, means })
}

/// Writes a table that reads back as it was.
pub fn write(table: &ClimateTable) -> String {
    let lows = table.lows.map(|lows| lows.celsius());
    let head = if lows.is_some() { "month,celsius,lowest\n" } else { "month,celsius\n" };
    let line = |(month, celsius): (usize, f64)| match lows {
        Some(lows) => format!("{},{celsius},{}\n", month + 1, lows[month]),
        None => format!("{},{celsius}\n", month + 1),
    };
    std::iter::once(head.to_owned()).chain(table.means.celsius().into_iter().enumerate().map(line)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn months(line: impl Fn(usize) -> String) -> String {
        std::iter::once("month,celsius".to_owned()).chain((1..=12).map(line)).collect::<Vec<_>>().join("\n")
    }

    #[test]
    fn months_come_by_number_or_name_and_days_are_averaged() {
        let by_number = parse(&months(|m| format!("{m},{m}"))).unwrap();
        assert_eq!(by_number.means.celsius()[0..3], [1.0, 2.0, 3.0]);
        let by_name = parse(&months(|m| format!("{},{m}", &MONTHS[m - 1][..3]))).unwrap();
        assert_eq!(by_name, by_number);
        // 32 and 50 °F on two days are 0 and 10 °C
        let of_month = |month| format!("2025-{month:02}-01;32\n2025-{month:02}-15 06:00;50\n");
        let days = format!("\u{feff}date;fahrenheit\n{}", (1..=12).map(of_month).collect::<String>());
        assert!(parse(&days).unwrap().means.celsius().iter().all(|mean| (mean - 5.0).abs() < 1e-9));
    }

    #[test]
    fn the_lowest_of_a_month_is_the_lowest_of_its_days_and_stands_in_all_months_or_in_none() {
        let of_month = |month| format!("2025-{month:02}-01,50,14\n2025-{month:02}-15,50,23\n");
        let days = format!("date,fahrenheit,lowest\n{}", (1..=12).map(of_month).collect::<String>());
        let lows = parse(&days).unwrap().lows.unwrap().celsius();
        assert!(lows.iter().all(|low| (low + 10.0).abs() < 1e-9), "14 °F are −10 °C: {lows:?}");
        let table = |line: &dyn Fn(usize) -> String| {
            let lines = (1..=12).map(|month| format!("{month},5,{}\n", line(month)));
            parse(&format!("month,celsius,lowest\n{}", lines.collect::<String>()))
        };
        assert_eq!(table(&|_| String::new()).unwrap().lows, None);
        let said = table(&|month| if month == 3 { String::new() } else { "-9".into() }).unwrap_err();
        assert_eq!(said.to_string(), "March has no lowest; it is told for all twelve months or for none");
        let said = table(&|month| if month == 3 { "6".into() } else { "-9".into() }).unwrap_err().to_string();
        assert!(said.starts_with("line 4: March: record low 6 is not possible here"), "{said}");
    }

    #[test]
    fn what_does_not_fit_is_named_by_its_line() {
        let said = |text: &str| parse(text).unwrap_err().to_string();
        assert!(said("January,3").starts_with("the first line is “January,3”; a header is expected"));
        assert!(said("").starts_with("the first line is “”"));
        assert_eq!(
            said("month,celsius\n13,3"),
            "line 2: “13” is no month; accepted is 1 to 12 or a name, as March"
        );
        assert_eq!(said("month,celsius\n1,3\nJan,4"), "line 3: January stands twice");
        assert_eq!(said("month,celsius\r\n1,3\r\nJan,4\r\n"), "line 3: January stands twice");
        assert!(said("month,celsius\n1,77").contains("77 °F"), "{}", said("month,celsius\n1,77"));
        assert!(said("date,celsius\n1 May,3").contains("is no date; accepted is 2025-03-14"));
        assert_eq!(
            said(&months(|m| if m == 7 { String::new() } else { format!("{m},5") })),
            "July has no line; a climate needs all twelve months"
        );
    }

    proptest! {
        #[test]
        fn what_is_written_reads_back_as_it_was(
            means in prop::array::uniform12(-40.0..50.0f64), under in prop::option::of(0.0..40.0f64),
        ) {
            let means = MonthlyMeans::try_from(means).unwrap();
            let own = ClimateTable { means, lows: under.map(|own| RecordLows::under(&means, own)) };
            prop_assert_eq!(parse(&write(&own)).unwrap(), own);
        }

        #[test]
        fn no_text_panics(text in ".{0,200}", head in prop_oneof![Just(""), Just("month,celsius\n"), Just("date\tf\n")]) {
            let _ = parse(&format!("{head}{text}"));
        }
    }
}
