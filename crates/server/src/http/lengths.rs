//! The length of everything typed: each text of a body is looked at under the name of its field, each
//! number by whether it can be of anything, before anybody else reads it.

use super::error::FieldError;
use rainshadow_core::quantity::bounds::{ANY_NUMBER, check_text};
use rainshadow_core::wording::stopped;
use serde::de::{DeserializeSeed, Deserializer, Error, MapAccess, SeqAccess, Visitor};
use std::borrow::Cow;
use std::fmt;

/// Faults that are told at once.
const TOLD: usize = 20;

/// Pictures and rows of monitors in a file of a bank: looked at as what they are.
const LOOKED_AT_BY_THEMSELVES: [&str; 2] = ["pictures", "packed_days"];

/// Every text of a JSON document that does not fit, by its path.
pub fn faults_of(bytes: &[u8]) -> Vec<FieldError> {
    looked_at(&mut serde_json::Deserializer::from_slice(bytes))
}

/// Texts and numbers that are too long, of a file too large to be held.
pub fn faults_in(file: impl std::io::Read) -> Vec<FieldError> {
    looked_at(&mut serde_json::Deserializer::from_reader(file))
}

fn looked_at<'de, R: serde_json::de::Read<'de>>(json: &mut serde_json::Deserializer<R>) -> Vec<FieldError> {
    let mut found = Found::default();
    // What is no JSON is told by whoever reads it as what it should be.
    let _ = Look { found: &mut found }.deserialize(json);
    found.faults
}

/// One text outside a body.
///
/// # Errors
/// The fault, as of a field.
pub fn fits(field: &str, text: &str) -> Result<(), FieldError> {
    check_text(field, text)
        .map_err(|e| FieldError { field: field.into(), message: stopped(&format!("{field}: {e}")) })
}

/// One step of a path: a field or a place in a list.
enum Step {
    Field(String),
    Place(usize),
}

#[derive(Default)]
struct Found {
    path: Vec<Step>,
    faults: Vec<FieldError>,
}

impl Found {
    fn field(&self) -> &str {
        let last = self.path.iter().rev().find_map(|step| match step {
            Step::Field(name) => Some(name.as_str()),
            Step::Place(_) => None,
        });
        last.unwrap_or_default()
    }

    fn path(&self) -> String {
        self.path.iter().fold(String::new(), |path, step| match step {
            Step::Place(place) => format!("{path}[{place}]"),
            Step::Field(name) if path.is_empty() => name.clone(),
            Step::Field(name) => format!("{path}.{name}"),
        })
    }

    fn keep<E: fmt::Display>(&mut self, looked: Result<(), E>) {
        if let Err(fault) = looked {
            let field = self.path();
            let message = stopped(&format!("{field}: {fault}"));
            self.faults.push(FieldError { field, message });
        }
    }

    /// Ends the look when enough is found to be told.
    fn enough<E: Error>(&self) -> Result<(), E> {
        if self.faults.len() >= TOLD { Err(E::custom("enough")) } else { Ok(()) }
    }
}

struct Look<'a> {
    found: &'a mut Found,
}

impl<'de> DeserializeSeed<'de> for Look<'_> {
    type Value = ();
    fn deserialize<D: Deserializer<'de>>(self, deserializer: D) -> Result<(), D::Error> {
        deserializer.deserialize_any(self)
    }
}

impl<'de> Visitor<'de> for Look<'_> {
    type Value = ();

    fn expecting(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.write_str("JSON")
    }
    fn visit_bool<E>(self, _value: bool) -> Result<(), E> {
        Ok(())
    }
    fn visit_i64<E: Error>(self, value: i64) -> Result<(), E> {
        #[expect(clippy::cast_precision_loss, reason = "only whether it is huge counts")]
        self.visit_f64(value as f64)
    }
    fn visit_u64<E: Error>(self, value: u64) -> Result<(), E> {
        #[expect(clippy::cast_precision_loss, reason = "only whether it is huge counts")]
        self.visit_f64(value as f64)
    }
    fn visit_f64<E: Error>(self, value: f64) -> Result<(), E> {
        self.found.keep(ANY_NUMBER.check(value).map(drop));
        self.found.enough()
    }
    fn visit_unit<E>(self) -> Result<(), E> {
        Ok(())
    }
    fn visit_str<E: Error>(self, text: &str) -> Result<(), E> {
        self.found.keep(check_text(self.found.field(), text));
        self.found.enough()
    }
    fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<(), A::Error> {
        self.found.path.push(Step::Place(0));
        let mut place = 0;
        while list.next_element_seed(Look { found: self.found })?.is_some() {
            place += 1;
            if let Some(last) = self.found.path.last_mut() {
                *last = Step::Place(place);
            }
        }
        self.found.path.pop();
        Ok(())
    }
    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        while let Some(key) = map.next_key::<Cow<'_, str>>()? {
            if LOOKED_AT_BY_THEMSELVES.contains(&&*key) {
                map.next_value::<serde::de::IgnoredAny>()?;
                continue;
            }
            self.found.path.push(Step::Field(key.chars().take(80).collect()));
            map.next_value_seed(Look { found: self.found })?;
            self.found.path.pop();
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn every_long_text_is_named_by_its_path_however_deep_it_stands() {
        let body = json!({
            "person": "TA", "notes": {"cover": "x".repeat(4001)}, "choices": {},
            "rows": [{"note": "fine"}, {"name": "y".repeat(121)}], "list": ["z".repeat(4001)],
            "pictures": {"a": "q".repeat(9000)},
        });
        let faults = faults_of(body.to_string().as_bytes());
        let fields: Vec<&str> = faults.iter().map(|f| f.field.as_str()).collect();
        assert_eq!(fields, ["list[0]", "notes.cover", "rows[1].name"]);
        assert_eq!(faults[1].message, "Notes.cover: the text has 4001 characters; up to 4000 are taken.");
        assert!(faults_of(b"{\"person\": \"TA\"").is_empty(), "what is no JSON is told elsewhere");
    }
}
