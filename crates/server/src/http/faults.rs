//! Every field that does not fit, collected, so that a person mends all at once.

use super::error::{ApiError, FieldError};

/// Faults found so far.
#[derive(Default)]
pub struct Faults(Vec<FieldError>);

impl Faults {
    /// The value, or none with the fault kept under its field.
    pub fn take<T, E: std::fmt::Display>(&mut self, field: &str, result: Result<T, E>) -> Option<T> {
        result.map_err(|e| self.0.push(FieldError { field: field.into(), message: sentence(&e) })).ok()
    }

    /// Nothing, or all faults as one refusal.
    pub fn none(self) -> Result<(), ApiError> {
        if self.0.is_empty() { Ok(()) } else { Err(ApiError::fields(self.0)) }
    }
}

/// Text that is not empty.
pub fn filled(text: Option<&String>) -> Option<&str> {
    text.map(|t| t.trim()).filter(|t| !t.is_empty())
}

/// An error as a sentence: a capital at its head, a stop at its end.
fn sentence(error: &impl std::fmt::Display) -> String {
    let text = error.to_string();
    let mut chars = text.chars();
    let head: String = chars.next().map(|c| c.to_uppercase().collect()).unwrap_or_default();
    format!("{head}{}.", chars.as_str())
}
