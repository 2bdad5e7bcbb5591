//! Addresses: string letter, battery number, cell number: `A3-2`. Cell 1 is next to the positive
//! post.

use serde::{Deserialize, Serialize};
use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// The place of one battery: string (0 is A) and number from the positive post.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct BatteryAddress {
    /// String, 0 is A.
    pub string: u8,
    /// Number in the string, from 1.
    pub battery: u8,
}

/// The place of one cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct CellAddress {
    /// Its battery.
    pub battery: BatteryAddress,
    /// Number in the case, from 1 at the positive post.
    pub cell: u8,
}

/// Text that is no address.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("\u{201c}{found}\u{201d} is not an address; accepted is {form}")]
pub struct AddressError {
    /// What was given, shortened.
    pub found: String,
    /// The accepted form.
    pub form: &'static str,
}

/// The letter of a string: 0 is A.
pub fn string_letter(string: u8) -> char {
    char::from(b'A' + string.min(25))
}

impl fmt::Display for BatteryAddress {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}{}", string_letter(self.string), self.battery)
    }
}

impl fmt::Display for CellAddress {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}-{}", self.battery, self.cell)
    }
}

fn number(digits: &str) -> Option<u8> {
    let all_digits = !digits.is_empty() && digits.bytes().all(|b| b.is_ascii_digit());
    digits.parse().ok().filter(|n: &u8| *n > 0 && all_digits)
}

impl FromStr for BatteryAddress {
    type Err = AddressError;
    fn from_str(text: &str) -> Result<Self, AddressError> {
        let trimmed = text.trim().to_ascii_uppercase();
        let parsed = || {
            let letter = trimmed.bytes().next().filter(u8::is_ascii_uppercase)?;
            Some(Self { string: letter - b'A', battery: number(&trimmed[1..])? })
        };
        parsed().ok_or_else(|| AddressError {
            found: text.chars().take(24).collect(),
            form: "string letter and battery number, as A3",
        })
    }
}

impl FromStr for CellAddress {
    type Err = AddressError;
    fn from_str(text: &str) -> Result<Self, AddressError> {
        let parsed = || {
            let (battery, cell) = text.trim().split_once('-')?;
            Some(Self { battery: battery.parse().ok()?, cell: number(cell)? })
        };
        parsed().ok_or_else(|| AddressError {
            found: text.chars().take(24).collect(),
            form: "string letter, battery number, cell number, as A3-2",
        })
    }
}

macro_rules! as_text {
    ($name:ident, $example:literal) => {
        impl TryFrom<String> for $name {
            type Error = AddressError;
            fn try_from(text: String) -> Result<Self, AddressError> {
                text.parse()
            }
        }
        impl From<$name> for String {
            fn from(address: $name) -> String {
                address.to_string()
            }
        }
        #[cfg(feature = "schema")]
        impl utoipa::PartialSchema for $name {
            fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
                utoipa::openapi::ObjectBuilder::new()
                    .schema_type(utoipa::openapi::schema::Type::String)
                    .description(Some(concat!("Address, as ", $example)))
                    .into()
            }
        }
        #[cfg(feature = "schema")]
        impl utoipa::ToSchema for $name {}
    };
}

as_text!(BatteryAddress, "A3");
as_text!(CellAddress, "A3-2");

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn text_that_is_no_address_is_refused_with_the_form() {
        for bad in ["", "A3", "3-2", "A0-1", "A3-0", "A3-2-1", "A+3-2", "AA3-2", "A999-1", "é3-2"] {
            let said = bad.parse::<CellAddress>().unwrap_err().to_string();
            assert!(said.contains("as A3-2"), "{bad}: {said}");
        }
    }

    proptest! {
        #[test]
        fn parse_of_display_is_identity(string in 0u8..26, battery in 1u8..=60, cell in 1u8..=6) {
            let address = CellAddress { battery: BatteryAddress { string, battery }, cell };
            prop_assert_eq!(address.to_string().parse::<CellAddress>().unwrap(), address);
            prop_assert_eq!(address.to_string().to_lowercase().parse::<CellAddress>().unwrap(), address);
        }
    }
}
