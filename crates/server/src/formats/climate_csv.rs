//! A climate as a table: a line a month, or a line a day that is averaged by month.

use super::text::{delimiter, plain_line_ends};
use jiff::civil::Date;
use rainshadow_core::quantity::typed::mean_temperature;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{MONTHS, MonthlyMeans};
use thiserror::Error;

/// Lines of one table: a day each for a century.
const MOST_LINES: usize = 40_000;

/// Why a table is no climate.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum ClimateCsvError {
    /// The first line is no header.
    #[error(
        "the first line is “{found}”; a header is expected: `month` or `date`, then `celsius` or `fahrenheit`"
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

fn header(record: &csv::StringRecord) -> Option<(When, TemperatureUnit)> {
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
    Some((when, unit))
}

/// Sums and counts by month.
struct Gathered {
    sums: [f64; 12],
    counts: [u32; 12],
}

impl Gathered {
    fn add(
        &mut self,
        (when, unit): (When, TemperatureUnit),
        record: &csv::StringRecord,
    ) -> Result<(), String> {
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
        Ok(())
    }
}

/// Reads a table.
///
/// # Errors
/// [`ClimateCsvError`] for the first line that does not fit, and for months without any.
pub fn parse(text: &str) -> Result<MonthlyMeans, ClimateCsvError> {
    let text = &plain_line_ends(text);
    let first = text.lines().find(|line| !line.trim().is_empty()).unwrap_or_default();
    let reader = csv::ReaderBuilder::new()
        .delimiter(delimiter(first))
        .flexible(true)
        .has_headers(false)
        .trim(csv::Trim::All)
        .from_reader(text.trim_start_matches('\u{feff}').as_bytes());
    let mut told = None;
    let mut gathered = Gathered { sums: [0.0; 12], counts: [0; 12] };
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
    MonthlyMeans::try_from(means)
        .map_err(|error| ClimateCsvError::Line { line: error.month + 2, why: error.to_string() })
}

/// Writes a table that reads back as it was.
pub fn write(means: &MonthlyMeans) -> String {
    let lines = means.celsius();
    let lines = lines.iter().zip(1..).map(|(celsius, month)| format!("{month},{celsius}\n"));
    std::iter::once("month,celsius\n".to_owned()).chain(lines).collect()
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
        assert_eq!(by_number.celsius()[0..3], [1.0, 2.0, 3.0]);
        let by_name = parse(&months(|m| format!("{},{m}", &MONTHS[m - 1][..3]))).unwrap();
        assert_eq!(by_name, by_number);
        // 32 and 50 °F on two days are 0 and 10 °C
        let of_month = |month| format!("2025-{month:02}-01;32\n2025-{month:02}-15 06:00;50\n");
        let days = format!("\u{feff}date;fahrenheit\n{}", (1..=12).map(of_month).collect::<String>());
        assert!(parse(&days).unwrap().celsius().iter().all(|mean| (mean - 5.0).abs() < 1e-9));
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
        fn what_is_written_reads_back_as_it_was(means in prop::array::uniform12(-40.0..50.0f64)) {
            let own = MonthlyMeans::try_from(means).unwrap();
            prop_assert_eq!(parse(&write(&own)).unwrap(), own);
        }

        #[test]
        fn no_text_panics(text in ".{0,200}", head in prop_oneof![Just(""), Just("month,celsius\n"), Just("date\tf\n")]) {
            let _ = parse(&format!("{head}{text}"));
        }
    }
}
