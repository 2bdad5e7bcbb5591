//! What became of something typed: an entry, or a question.

use super::error::{ApiError, ApiResult};
use rainshadow_core::visit::Entry;
use rainshadow_core::wording;

/// What typed text came to.
pub enum Parsed {
    /// An entry to store.
    Entry(Entry),
    /// A question; kept when sent again with `stands`.
    Question(String),
}

pub fn refused<T, E: std::fmt::Display>(field: &str, result: Result<T, E>) -> ApiResult<T> {
    result.map_err(|e| ApiError::field(field, wording::stopped(&e.to_string())))
}
