//! Where on a bank something was seen or done: the bank, a string, a battery, a cell.

use crate::bank::{BankShape, BatteryAddress, CellAddress, string_letter};
use serde::{Deserialize, Serialize};
use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// A place, written as the empty text, `A`, `A3` or `A3-2`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub enum Place {
    /// The whole bank.
    #[default]
    Bank,
    /// One string, 0 is A.
    String(u8),
    /// One battery.
    Battery(BatteryAddress),
    /// One cell.
    Cell(CellAddress),
}

/// Text that is no place.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error(
    "“{found}” is no place on a bank; accepted is nothing for the whole bank, a string as A, a battery as A3, or a cell as A3-2"
)]
pub struct PlaceError {
    /// What was given, shortened.
    pub found: String,
}

impl Place {
    /// The more, the fewer cells it names: 0 for the bank, 3 for one cell.
    pub(crate) const fn narrowness(self) -> u8 {
        match self {
            Self::Bank => 0,
            Self::String(_) => 1,
            Self::Battery(_) => 2,
            Self::Cell(_) => 3,
        }
    }

    /// True when the bank has this place.
    pub fn on(self, shape: &BankShape) -> bool {
        match self {
            Self::Bank => true,
            Self::String(string) => string < shape.parallel,
            Self::Battery(battery) => shape.contains(CellAddress { battery, cell: 1 }),
            Self::Cell(cell) => shape.contains(cell),
        }
    }

    /// The cells it covers, in electrical order.
    pub fn cells(self, shape: &BankShape) -> Vec<CellAddress> {
        shape
            .cells()
            .filter(|cell| match self {
                Self::Bank => true,
                Self::String(string) => cell.battery.string == string,
                Self::Battery(battery) => cell.battery == battery,
                Self::Cell(own) => *cell == own,
            })
            .collect()
    }

    /// Cells in series between the posts where its volts are read.
    pub fn cells_in_series(self, shape: &BankShape) -> u16 {
        match self {
            Self::Bank | Self::String(_) => shape.cells_in_series(),
            Self::Battery(_) => u16::from(shape.cells_per_battery),
            Self::Cell(_) => 1,
        }
    }

    /// True when it has a part in common with another: a battery with its string and with its cells.
    pub fn overlaps(self, other: Self) -> bool {
        let parts = |place: Self| match place {
            Self::Bank => (None, None, None),
            Self::String(string) => (Some(string), None, None),
            Self::Battery(own) => (Some(own.string), Some(own.battery), None),
            Self::Cell(own) => (Some(own.battery.string), Some(own.battery.battery), Some(own.cell)),
        };
        let ((string, battery, cell), others) = (parts(self), parts(other));
        let alike = |own: Option<u8>, other: Option<u8>| own.is_none() || other.is_none() || own == other;
        alike(string, others.0) && alike(battery, others.1) && alike(cell, others.2)
    }

    /// Its battery, where it lies in one.
    pub fn battery(self) -> Option<BatteryAddress> {
        match self {
            Self::Battery(battery) => Some(battery),
            Self::Cell(cell) => Some(cell.battery),
            _ => None,
        }
    }

    /// In words: "the bank", "string A", "A3", "A3-2".
    pub fn said(self) -> String {
        match self {
            Self::Bank => "the bank".into(),
            Self::String(string) => format!("string {}", string_letter(string)),
            other => other.to_string(),
        }
    }
}

impl fmt::Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Bank => Ok(()),
            Self::String(string) => write!(f, "{}", string_letter(*string)),
            Self::Battery(battery) => battery.fmt(f),
            Self::Cell(cell) => cell.fmt(f),
        }
    }
}

impl FromStr for Place {
    type Err = PlaceError;
    fn from_str(text: &str) -> Result<Self, PlaceError> {
        let text = text.trim();
        let mut letters = text.bytes();
        match (letters.next(), letters.next()) {
            (None, _) => Ok(Self::Bank),
            (Some(letter), None) if letter.is_ascii_alphabetic() => {
                Ok(Self::String(letter.to_ascii_uppercase() - b'A'))
            }
            _ => text
                .parse()
                .map(Self::Cell)
                .or_else(|_cell| text.parse().map(Self::Battery))
                .map_err(|_battery| PlaceError { found: text.chars().take(24).collect() }),
        }
    }
}

impl TryFrom<String> for Place {
    type Error = PlaceError;
    fn try_from(text: String) -> Result<Self, PlaceError> {
        text.parse()
    }
}

impl From<Place> for String {
    fn from(place: Place) -> Self {
        place.to_string()
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Place {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        utoipa::openapi::ObjectBuilder::new()
            .schema_type(utoipa::openapi::schema::Type::String)
            .description(Some("Place on a bank: empty, A, A3 or A3-2"))
            .into()
    }
}
#[cfg(feature = "schema")]
impl utoipa::ToSchema for Place {}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn parse_of_display_is_identity(string in 0u8..12, battery in 1u8..=60, cell in 1u8..=6) {
            let battery = BatteryAddress { string, battery };
            for place in [Place::Bank, Place::String(string), Place::Battery(battery), Place::Cell(CellAddress { battery, cell })] {
                prop_assert_eq!(place.to_string().parse::<Place>().unwrap(), place);
            }
        }
    }

    #[test]
    fn a_place_overlaps_what_it_lies_in_and_what_lies_in_it() {
        let at = |text: &str| text.parse::<Place>().unwrap();
        for (one, other) in [("", "B2-1"), ("B", "B2"), ("B2", "B2-1"), ("B2-1", "B2-1"), ("", "")] {
            assert!(at(one).overlaps(at(other)) && at(other).overlaps(at(one)), "{one} {other}");
        }
        for (one, other) in [("A", "B"), ("A", "B2-1"), ("B1", "B2"), ("B2-1", "B2-2"), ("A2-1", "B2-1")] {
            assert!(!at(one).overlaps(at(other)) && !at(other).overlaps(at(one)), "{one} {other}");
        }
    }

    #[test]
    fn text_that_is_no_place_is_refused_with_the_forms() {
        for bad in ["AA", "7", "A0", "A3-", "the bank"] {
            let said = bad.parse::<Place>().unwrap_err().to_string();
            assert!(said.contains("a battery as A3"), "{bad}: {said}");
        }
    }
}
