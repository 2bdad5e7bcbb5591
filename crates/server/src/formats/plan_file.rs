//! A plan as a file: JSON, or a table that a spreadsheet opens; either reads back as it was.

use super::text::{delimiter, plain_line_ends};
use crate::app::planners::Planner;
use crate::app::plans::PrintedPlan;
use rainshadow_core::quantity::units::TemperatureUnit;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use thiserror::Error;
use utoipa::ToSchema;

/// Names the kind of file.
const KIND: &str = "rainshadow plan";
/// Lines of a table at most.
const MOST_LINES: usize = 2000;

/// A plan in a file, without its bank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct PlanFile {
    /// Always "rainshadow plan".
    pub kind: String,
    /// Which planner.
    pub planner: Planner,
    /// Its name.
    pub name: String,
    /// Unit of its temperatures.
    #[serde(default)]
    pub unit: TemperatureUnit,
    /// What was set, by the key of its control.
    pub values: BTreeMap<String, String>,
    /// What it came to, in words; not read back.
    #[serde(default)]
    pub said: String,
    /// Its figures; not read back.
    #[serde(default)]
    pub figures: Vec<[String; 2]>,
}

/// Why a file is no plan.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum PlanFileError {
    /// Neither JSON nor such a table.
    #[error(
        "this is no plan: a file of JSON or a table is expected whose first line is `part,what,value`, as this program writes them"
    )]
    NoPlan,
    /// A field of it.
    #[error("{field}: {why}")]
    Field {
        /// Which.
        field: String,
        /// What was wrong.
        why: String,
    },
    /// Too long.
    #[error("the table is longer than {MOST_LINES} lines")]
    TooLong,
}

/// A kept plan as a file.
pub fn plan_file(own: &PrintedPlan) -> PlanFile {
    PlanFile {
        kind: KIND.into(),
        planner: own.planner,
        name: own.row.name.clone(),
        unit: own.form.unit,
        values: own.row.values.clone(),
        said: own.answer.said.clone(),
        figures: own.figures(),
    }
}

/// The same as a table.
pub fn to_csv(own: &PlanFile) -> String {
    let mut out = csv::Writer::from_writer(Vec::new());
    let mut line = |part: &str, what: &str, value: &str| {
        // Into memory nothing fails.
        let _ = out.write_record([part, what, value]);
    };
    let unit = if own.unit == TemperatureUnit::Fahrenheit { "F" } else { "C" };
    line("part", "what", "value");
    line("plan", "planner", own.planner.word());
    line("plan", "name", &own.name);
    line("plan", "unit", unit);
    for (key, value) in &own.values {
        line("set", key, value);
    }
    line("said", "said", &own.said);
    for [what, value] in &own.figures {
        line("figure", what, value);
    }
    String::from_utf8(out.into_inner().unwrap_or_default()).unwrap_or_default()
}

/// Reads either back.
///
/// # Errors
/// [`PlanFileError`].
pub fn parse(text: &str) -> Result<PlanFile, PlanFileError> {
    let text = text.trim_start_matches('\u{feff}').trim();
    if text.starts_with('{') {
        let field = |e: serde_json::Error| PlanFileError::Field { field: "file".into(), why: e.to_string() };
        let whole: serde_json::Value = serde_json::from_str(text).map_err(|_e| PlanFileError::NoPlan)?;
        if whole["kind"] != KIND {
            return Err(PlanFileError::NoPlan);
        }
        return serde_json::from_value(whole).map_err(field);
    }
    from_csv(text)
}

fn from_csv(text: &str) -> Result<PlanFile, PlanFileError> {
    let text = plain_line_ends(text);
    let first = text.lines().next().unwrap_or_default();
    if !first.to_lowercase().starts_with("part") {
        return Err(PlanFileError::NoPlan);
    }
    let mut reader =
        csv::ReaderBuilder::new().delimiter(delimiter(first)).flexible(true).from_reader(text.as_bytes());
    let (mut planner, mut name, mut unit, mut values) =
        (None, String::new(), TemperatureUnit::Celsius, BTreeMap::new());
    for (at, row) in reader.records().enumerate() {
        if at > MOST_LINES {
            return Err(PlanFileError::TooLong);
        }
        let row =
            row.map_err(|e| PlanFileError::Field { field: format!("line {}", at + 2), why: e.to_string() })?;
        let cell = |i: usize| row.get(i).unwrap_or_default().trim().to_owned();
        match (cell(0).as_str(), cell(1).as_str()) {
            ("plan", "planner") => {
                let word = cell(2);
                let why = format!("there is no planner \u{201c}{word}\u{201d}");
                let known = Planner::of(&word);
                planner = Some(known.ok_or(PlanFileError::Field { field: "planner".into(), why })?);
            }
            ("plan", "name") => name = cell(2),
            ("plan", "unit") if cell(2) == "F" => unit = TemperatureUnit::Fahrenheit,
            ("set", key) => {
                values.insert(key.to_owned(), cell(2));
            }
            _ => {}
        }
    }
    let planner = planner.ok_or(PlanFileError::NoPlan)?;
    Ok(PlanFile { kind: KIND.into(), planner, name, unit, values, said: String::new(), figures: Vec::new() })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn own() -> PlanFile {
        PlanFile {
            kind: KIND.into(),
            planner: Planner::Storage,
            name: "Winter, \"as ever\"; snow".into(),
            unit: TemperatureUnit::Fahrenheit,
            values: [("means".to_owned(), "1 2 3".to_owned()), ("from".to_owned(), String::new())].into(),
            said: "It holds.".into(),
            figures: vec![["charge, %".into(), "85".into()]],
        }
    }

    #[test]
    fn a_plan_reads_back_from_either_file() {
        let own = own();
        assert_eq!(parse(&serde_json::to_string(&own).unwrap()), Ok(own.clone()));
        let back = parse(&to_csv(&own)).unwrap();
        assert_eq!(
            (back.planner, &back.name, back.unit, &back.values),
            (own.planner, &own.name, own.unit, &own.values)
        );
        // A spreadsheet of another country writes it with semicolons.
        let semicolons = "part;what;value\r\nplan;planner;runtime\r\nplan;name;A\r\nset;amount;3,2\r\n";
        let back = parse(semicolons).unwrap();
        assert_eq!(
            (back.planner, back.values.get("amount").map(String::as_str)),
            (Planner::Runtime, Some("3,2"))
        );
    }

    #[test]
    fn a_stranger_is_told_what_is_expected() {
        for text in
            ["", "hello", "{\"kind\":\"other\"}", "month,celsius\n1,2\n", "part,what,value\nset,a,b\n"]
        {
            assert!(parse(text).unwrap_err().to_string().starts_with("this is no plan"), "{text}");
        }
        let said = parse("part,what,value\nplan,planner,dance\n").unwrap_err().to_string();
        assert!(said.contains("no planner \u{201c}dance\u{201d}"), "{said}");
    }
}
