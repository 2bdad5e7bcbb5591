//! Why a use case is refused, in the caller's terms.

use crate::db::DbError;
use rainshadow_core::wording;
use std::fmt::Display;
use thiserror::Error;

/// A field that was not accepted, with what was wrong and what is accepted.
pub type Fault = (String, String);

/// Why something is not done.
#[derive(Debug, Error)]
pub enum AppError {
    /// The database says no, or fails.
    #[error("{}", super::refusal_words::said(.0))]
    Db(#[from] DbError),
    /// Something that was sent does not fit, field by field, summed up in one sentence where that says
    /// more.
    #[error("{} fields do not fit", .faults.len())]
    Fields {
        /// The fields.
        faults: Vec<Fault>,
        /// All of them in one sentence; none: each is said.
        said: Option<String>,
    },
}

impl AppError {
    /// The fields that do not fit.
    pub fn faults(&self) -> &[Fault] {
        if let Self::Fields { faults, .. } = self { faults } else { &[] }
    }

    /// One field does not fit.
    pub fn field(field: &str, said: impl Into<String>) -> Self {
        Self::Fields { faults: vec![(field.to_owned(), said.into())], said: None }
    }

    /// One field does not fit, as the core says it.
    pub fn refused(field: &str, why: &impl Display) -> Self {
        Self::field(field, wording::sentence(&wording::stopped(&why.to_string())))
    }
}

/// What a use case answers.
pub type AppResult<T> = Result<T, AppError>;
