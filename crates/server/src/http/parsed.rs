//! What the core refuses, by the field it was typed in.

use super::error::{ApiError, ApiResult};
use rainshadow_core::wording;

/// The value, or the refusal of its field.
pub fn refused<T, E: std::fmt::Display>(field: &str, result: Result<T, E>) -> ApiResult<T> {
    result.map_err(|e| ApiError::field(field, wording::stopped(&e.to_string())))
}
