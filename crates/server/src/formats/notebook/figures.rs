//! Volts and water of a whole bank beside its cells: "52.1", "4.2 L", "1 gal".

use super::{Column, Notebook};

/// Measures of water as they are written, each under the name it goes by here.
const WATER: [(&str, &str); 22] = [
    ("l", "L"),
    ("litre", "L"),
    ("litres", "L"),
    ("liter", "L"),
    ("liters", "L"),
    ("ml", "mL"),
    ("gal", "US gal"),
    ("us gal", "US gal"),
    ("gallon", "US gal"),
    ("gallons", "US gal"),
    ("qt", "US qt"),
    ("us qt", "US qt"),
    ("quart", "US qt"),
    ("quarts", "US qt"),
    ("pt", "US pt"),
    ("us pt", "US pt"),
    ("pint", "US pt"),
    ("pints", "US pt"),
    ("cups", "US cups"),
    ("us cups", "US cups"),
    ("fl oz", "US fl oz"),
    ("us fl oz", "US fl oz"),
];

/// What of the bank as a whole a line tells.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum OfBank {
    /// Volts at rest.
    Volts,
    /// Water of a whole fill.
    Water,
}

impl OfBank {
    /// The line that tells it, by its first field.
    pub(super) fn of_label(label: &str) -> Option<Self> {
        match label.to_lowercase().as_str() {
            "volts" => Some(Self::Volts),
            "water" => Some(Self::Water),
            _ => None,
        }
    }
}

/// A figure as it is written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// Line in the file, from 1.
    pub line: usize,
    /// What was written, without its unit.
    pub typed: String,
    /// Its unit; empty: none was written.
    pub unit: &'static str,
}

impl Figure {
    /// As it is written: "4.2 L".
    pub fn said(&self) -> String {
        format!("{} {}", self.typed, self.unit).trim_end().to_owned()
    }
}

/// The number of a field and what stands after it.
fn parted(text: &str) -> (&str, String) {
    let end = text.rfind(|c: char| c.is_ascii_digit()).map_or(0, |at| at + 1);
    (text[..end].trim(), text[end..].trim().trim_end_matches('.').to_lowercase())
}

fn unit(what: OfBank, written: &str) -> Option<&'static str> {
    match what {
        _ if written.is_empty() => Some(""),
        OfBank::Volts => (written == "v").then_some(""),
        OfBank::Water => WATER.iter().find(|(own, _)| *own == written).map(|(_, name)| *name),
    }
}

impl Notebook {
    pub(super) fn of_bank(
        &mut self,
        columns: &mut [Option<Column>],
        what: OfBank,
        read: &[String],
        line: usize,
    ) {
        for (column, text) in columns.iter_mut().zip(read) {
            let Some(column) = column else { continue };
            if ["", "-", "–"].contains(&text.as_str()) {
                continue;
            }
            let (typed, written) = parted(text);
            let Some(unit) = unit(what, &written) else {
                let why = match what {
                    OfBank::Volts => "this is no figure of volts; accepted is 52.1 or 52.1 V",
                    OfBank::Water => {
                        "this is no amount of water; accepted is a figure, alone or with L, mL, gal, qt, pt, cups or fl oz"
                    }
                };
                self.refuse(line, Some(column.date), text, why.to_owned());
                continue;
            };
            let figure = Some(Figure { line, typed: typed.to_owned(), unit });
            match what {
                OfBank::Volts => column.volts = figure,
                OfBank::Water => column.water = figure,
            }
        }
    }
}
