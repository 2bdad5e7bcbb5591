//! One error type, as RFC 9457 problem details: the field, what was wrong, what is accepted.

use crate::app::refusal_words::said;
use crate::app::refused::AppError;
use crate::db::DbError;
use axum::Json;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rainshadow_core::wording::stopped;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One field that was not accepted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct FieldError {
    /// The field, as in the request: "conditions.temperature".
    pub field: String,
    /// What was wrong and what is accepted.
    pub message: String,
}

/// RFC 9457 problem details.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Problem {
    /// Kind of problem, stable.
    #[serde(rename = "type")]
    pub kind: String,
    /// Short title.
    pub title: String,
    /// HTTP status.
    pub status: u16,
    /// What was wrong and what to do.
    pub detail: String,
    /// The fields that were not accepted.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub errors: Vec<FieldError>,
    /// For a change by two people: the state that stands, to show beside one's own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub theirs: Option<serde_json::Value>,
}

/// The error of every handler.
#[derive(Debug)]
pub struct ApiError(Box<Problem>);

impl ApiError {
    /// A problem of a kind.
    pub fn new(status: StatusCode, kind: &str, title: &str, detail: impl Into<String>) -> Self {
        Self(Box::new(Problem {
            kind: format!("/problems/{kind}"),
            title: title.into(),
            status: status.as_u16(),
            detail: detail.into(),
            errors: Vec::new(),
            theirs: None,
        }))
    }

    /// One field was not accepted.
    pub fn field(field: &str, message: impl Into<String>) -> Self {
        Self::fields(vec![FieldError { field: field.into(), message: message.into() }])
    }

    /// Several fields were not accepted.
    pub fn fields(errors: Vec<FieldError>) -> Self {
        let detail = errors.iter().map(|e| e.message.clone()).collect::<Vec<_>>().join(" ");
        let mut error = Self::new(StatusCode::UNPROCESSABLE_ENTITY, "not-accepted", "Not accepted", detail);
        error.0.errors = errors;
        error
    }

    /// This error, summed up in one sentence.
    #[must_use]
    pub fn saying(mut self, detail: impl Into<String>) -> Self {
        self.0.detail = detail.into();
        self
    }

    /// What is said.
    #[cfg(test)]
    pub(super) fn problem(&self) -> &Problem {
        &self.0
    }

    /// Somebody else changed it since.
    pub fn changed_since(detail: impl Into<String>, theirs: serde_json::Value) -> Self {
        let mut error =
            Self::new(StatusCode::PRECONDITION_FAILED, "changed-since", "Changed since you looked", detail);
        error.0.theirs = Some(theirs);
        error
    }
}

impl From<DbError> for ApiError {
    fn from(error: DbError) -> Self {
        let said = stopped(&said(&error));
        match error {
            DbError::NotFound { .. } => Self::new(StatusCode::NOT_FOUND, "not-found", "Not found", said),
            DbError::OtherBody { .. } => {
                Self::new(StatusCode::CONFLICT, "other-body", "Already stored differently", said)
            }
            DbError::ChangedSince { theirs, .. } => {
                Self::changed_since(rainshadow_core::wording::sentence(&said), *theirs)
            }
            DbError::VersionNeeded { .. } => {
                Self::new(StatusCode::PRECONDITION_REQUIRED, "if-match-needed", "Version needed", said)
            }
            DbError::Archived => Self::new(StatusCode::CONFLICT, "archived", "Archived", said),
            DbError::VisitClosed { .. } => {
                Self::new(StatusCode::CONFLICT, "visit-closed", "The visit is closed", said)
            }
            DbError::RoundOpen { round, .. } => {
                let mut error = Self::new(StatusCode::CONFLICT, "round-open", "A round is open", said);
                error.0.theirs = Some(serde_json::json!({ "round": round }));
                error
            }
            DbError::DischargeOn { .. } => {
                Self::new(StatusCode::CONFLICT, "discharge-on", "A discharge is on", said)
            }
            DbError::WrittenDown { .. } => {
                Self::new(StatusCode::CONFLICT, "written-down", "Something is written down", said)
            }
            DbError::VisitOpen { visit, .. } => {
                let mut error = Self::new(StatusCode::CONFLICT, "visit-open", "A visit is open", said);
                error.0.theirs = Some(serde_json::json!({ "visit": visit }));
                error
            }
            DbError::RunOpen { run, .. } => {
                let mut error = Self::new(StatusCode::CONFLICT, "run-open", "A run is under way", said);
                error.0.theirs = Some(serde_json::json!({ "run": run }));
                error
            }
            DbError::VisitHolds { .. } => {
                Self::new(StatusCode::CONFLICT, "visit-holds", "Something is written down", said)
            }
            DbError::TooManyPhotos { .. } => {
                Self::new(StatusCode::CONFLICT, "too-many-photos", "Too many photographs", said)
            }
            DbError::ChangeTooEarly { .. } | DbError::StoodElsewhere { .. } | DbError::ReadSince { .. } => {
                Self::field("day", said)
            }
            DbError::NotOnShelf | DbError::OtherCells { .. } => Self::field("used", said),
            DbError::NotTheLastChange
            | DbError::BlockHasReadings { .. }
            | DbError::StandsElsewhere { .. } => {
                Self::new(StatusCode::CONFLICT, "not-undone", "Not undone", said)
            }
            DbError::ReadOnly { .. } => Self::new(StatusCode::CONFLICT, "read-only", "Read-only", said),
            DbError::NoSuchPlace { .. } => Self::field("cell", said),
            DbError::DiskFull => Self::new(StatusCode::INSUFFICIENT_STORAGE, "disk-full", "Not saved", said),
            DbError::Busy => Self::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Busy", said),
            DbError::Files(_) => {
                tracing::error!(%said, "internal error");
                let shown =
                    "Something failed in the data folder. What you typed is still on screen; try again.";
                Self::new(StatusCode::INSUFFICIENT_STORAGE, "not-stored", "Not saved", shown)
            }
            DbError::BadRow { .. } | DbError::BadDerived { .. } | DbError::Sqlite(_) | DbError::Crashed => {
                tracing::error!(%said, "internal error");
                let shown = "Something failed in the database. What you typed is still on screen; try again.";
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, "internal", "Not saved", shown)
            }
        }
    }
}

impl From<AppError> for ApiError {
    fn from(error: AppError) -> Self {
        match error {
            AppError::Db(error) => error.into(),
            AppError::Fields { faults, said } => {
                let errors = faults.into_iter().map(|(field, message)| FieldError { field, message });
                let refused = Self::fields(errors.collect());
                match said {
                    Some(said) => refused.saying(said),
                    None => refused,
                }
            }
        }
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.0.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let mut response = (status, Json(self.0)).into_response();
        let kind = HeaderValue::from_static("application/problem+json");
        response.headers_mut().insert(header::CONTENT_TYPE, kind);
        if status == StatusCode::SERVICE_UNAVAILABLE {
            response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from_static("1"));
        }
        response
    }
}

/// What every handler answers.
pub type ApiResult<T> = Result<T, ApiError>;
