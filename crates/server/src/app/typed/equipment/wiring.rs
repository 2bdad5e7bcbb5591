//! Links and cables of a bank as typed.

use super::super::cable::TypedCable;
use super::super::faults::Faults;
use rainshadow_core::bank::string_letter;
use rainshadow_core::conductor::Cable;
use rainshadow_core::wiring::{Coupling, Wiring, WiringError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How parallel strings come together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CouplingKind {
    /// Cables from string to string.
    Rails,
    /// Leads of every string to two busbars.
    Busbars,
}

/// Links and cables as typed. A list of one cable stands for all of its kind.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedWiring {
    /// Link from a battery to the next of its string; empty: not told.
    pub link: TypedCable,
    /// How the strings come together; none: not told, or one string.
    pub by: Option<CouplingKind>,
    /// Cables of the plus.
    pub positive: Vec<TypedCable>,
    /// Cables of the minus.
    pub negative: Vec<TypedCable>,
    /// String that the plus is taken off at: "A".
    pub plus_at: String,
    /// String that the minus is taken off at.
    pub minus_at: String,
}

/// A string by its letter or number, counted from 1.
fn string(text: &str, strings: u8) -> Result<u8, String> {
    let text = text.trim();
    let letter = |own: &u8| text.eq_ignore_ascii_case(&string_letter(own - 1).to_string());
    let found = text.parse().ok().or_else(|| (1..=strings).find(letter));
    found.filter(|own| (1..=strings).contains(own)).ok_or_else(|| {
        let last = string_letter(strings.saturating_sub(1));
        format!("\u{201c}{text}\u{201d} is no string of this bank; accepted is A to {last}")
    })
}

fn cables(f: &mut Faults, field: &str, all: &[TypedCable]) -> Vec<Cable> {
    let mut told = Vec::new();
    for (at, own) in all.iter().enumerate() {
        let before = format!("wiring.{field}[{at}].");
        if own.is_empty() {
            f.take::<(), _>(
                &format!("{before}section"),
                Err("this cable is missing; type its section and length, or take the strings\u{2019} joining out"),
            );
        }
        told.extend(own.cable(f, &before));
    }
    told
}

const fn field_of(error: &WiringError) -> &'static str {
    match error {
        WiringError::TakeOff { .. } => "wiring.plus_at",
        WiringError::Rails { .. } | WiringError::Leads { .. } | WiringError::OutOfRange(_) => {
            "wiring.positive[0].section"
        }
        WiringError::OneString => "wiring.by",
    }
}

impl TypedWiring {
    /// The wiring of a bank of so many strings.
    pub(super) fn wiring(&self, f: &mut Faults, strings: u8) -> Wiring {
        let link = self.link.cable(f, "wiring.link.");
        let coupling = self.by.and_then(|by| {
            let positive = cables(f, "positive", &self.positive);
            let negative = cables(f, "negative", &self.negative);
            match by {
                CouplingKind::Busbars => Some(Coupling::Busbars { positive, negative }),
                CouplingKind::Rails => {
                    let plus_at = f.take("wiring.plus_at", string(&self.plus_at, strings));
                    let minus_at = f.take("wiring.minus_at", string(&self.minus_at, strings));
                    Some(Coupling::Rails { positive, negative, plus_at: plus_at?, minus_at: minus_at? })
                }
            }
        });
        if !f.is_empty() {
            return Wiring::default();
        }
        match (Wiring { link, coupling }).checked(strings) {
            Ok(own) => own,
            Err(why) => {
                f.take::<(), _>(field_of(&why), Err(why.to_string()));
                Wiring::default()
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_string_is_typed_by_its_letter_or_its_number() {
        assert_eq!((string("b", 2), string(" 1 ", 2)), (Ok(2), Ok(1)));
        for odd in ["C", "0", "3", "", "AB"] {
            assert!(string(odd, 2).unwrap_err().contains("A to B"), "{odd}");
        }
    }
}
