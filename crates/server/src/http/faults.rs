//! Every field that does not fit, collected, so that a person mends all at once.

use super::error::{ApiError, FieldError};

/// Faults found so far.
#[derive(Default)]
pub struct Faults(Vec<FieldError>);

impl Faults {
    /// The value, or none with the fault kept under its field.
    pub fn take<T, E: std::fmt::Display>(&mut self, field: &str, result: Result<T, E>) -> Option<T> {
        result.map_err(|e| self.0.push(FieldError { field: field.into(), message: format!("{e}.") })).ok()
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
