//! What the words over a column say of it.

use super::RecordColumn;
use rainshadow_core::quantity::units::TemperatureUnit;

/// A column by its words, with the unit that they name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Worded {
    pub column: RecordColumn,
    /// Thousandths of its unit.
    pub thousandths: bool,
    /// Of a temperature.
    pub unit: Option<TemperatureUnit>,
}

/// The unit within brackets, or the last word.
fn unit(words: &str) -> &str {
    let open = words.rfind(['(', '[', '/']);
    let within = open.map_or(words, |at| &words[at + 1..]);
    within.trim_end_matches([')', ']', ' ']).rsplit([' ', '_']).next().unwrap_or_default().trim()
}

/// Words that name a column; units alone count too.
const NAMED: [(RecordColumn, &[&str]); 7] = [
    (
        RecordColumn::AmpereHours,
        &["ampere-hour", "ampere hour", "amp hour", "amp-hour", "amphour", "consumed", "counter"],
    ),
    (RecordColumn::Volts, &["volt", "spannung", "tension"]),
    (RecordColumn::Amperes, &["current", "ampere", "amps", "strom", "courant"]),
    (RecordColumn::Celsius, &["temp", "celsius", "fahrenheit"]),
    (RecordColumn::State, &["state", "stage", "status", "mode", "phase"]),
    (RecordColumn::Time, &["time", "zeit", "clock", "heure"]),
    (RecordColumn::Date, &["date", "datum", "day"]),
];

/// What these words say; none: nothing that is read.
pub(super) fn worded(words: &str) -> Option<Worded> {
    let words = words.trim().trim_matches('"').to_lowercase();
    let unit = unit(&words).to_owned();
    let of_unit = match unit.as_str() {
        "ah" | "mah" => Some(RecordColumn::AmpereHours),
        "v" | "mv" => Some(RecordColumn::Volts),
        "a" | "ma" => Some(RecordColumn::Amperes),
        "\u{b0}c" | "\u{b0}f" | "degc" | "degf" => Some(RecordColumn::Celsius),
        _ => None,
    };
    let named =
        || NAMED.iter().find(|(_, all)| all.iter().any(|own| words.contains(own))).map(|(column, _)| *column);
    // "u" and "i" are what a schoolbook calls them.
    let letter = match words.as_str() {
        "u" => Some(RecordColumn::Volts),
        "i" => Some(RecordColumn::Amperes),
        "t" | "timestamp" | "datetime" | "date time" => Some(RecordColumn::Time),
        _ => None,
    };
    let column = letter.or(of_unit).or_else(named)?;
    // A date with a time in one column is a time.
    let column =
        if column == RecordColumn::Date && words.contains("time") { RecordColumn::Time } else { column };
    let fahrenheit =
        unit.ends_with("\u{b0}f") || unit == "degf" || unit == "f" || words.contains("fahrenheit");
    Some(Worded {
        column,
        thousandths: matches!(unit.as_str(), "mv" | "ma" | "mah"),
        unit: (column == RecordColumn::Celsius).then_some(if fahrenheit {
            TemperatureUnit::Fahrenheit
        } else {
            TemperatureUnit::Celsius
        }),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use RecordColumn::{AmpereHours, Amperes, Celsius, Date, State, Time, Volts};

    #[test]
    fn columns_are_known_by_their_words_and_units() {
        for (words, column, thousandths) in [
            ("Time", Time, false),
            ("timestamp", Time, false),
            ("Date/Time (local)", Time, false),
            ("Date", Date, false),
            ("Battery voltage [mV]", Volts, true),
            ("U (V)", Volts, false),
            ("Bank current / A", Amperes, false),
            ("I", Amperes, false),
            ("battery_current_ma", Amperes, true),
            ("Consumed amp hours", AmpereHours, false),
            ("Ah", AmpereHours, false),
            ("Battery temp. (\u{b0}F)", Celsius, false),
            ("Charge state", State, false),
        ] {
            let own = worded(words).unwrap_or_else(|| panic!("{words} is not known"));
            assert_eq!((own.column, own.thousandths), (column, thousandths), "{words}");
        }
        assert_eq!(worded("Battery temp. (\u{b0}F)").unwrap().unit, Some(TemperatureUnit::Fahrenheit));
        for words in ["", "Serial", "Yield (kWh)", "Power"] {
            assert_eq!(worded(words), None, "{words}");
        }
    }
}
